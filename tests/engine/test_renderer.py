"""Rendering: nothing cut, nothing stale, the same bytes, and what is refused."""

import numba
import numpy as np
import pytest

from mabrel import Cancel, Cancelled, Renderer, RenderError, Window, new_title, parse_title, render
from mabrel.render import TAPS, Cache
from mabrel.steps import kinds
from mabrel.title import Title


def titled(build=(), *, word="Rg", size=60, frame=(240, 160), **changes) -> Title:
    lettering = {
        "kind": "lettering",
        "id": "word",
        "source": {"text": word, "size": size},
        "build": list(build),
    }
    layers = [*changes.pop("beneath", []), lettering | changes.pop("lettering", {})]
    frame_ = {"width": frame[0], "height": frame[1]}
    return parse_title({"mabrel": 1, "frame": frame_, "layers": layers} | changes)


def step(kind: str, **settings) -> dict:
    return {"step": kind, "settings": settings}


ALL = [step("relief.inflate"), step("relief.bevel"), step("light.shade", gloss=0.4),
       step("tone.gradient_map"), step("depth.extrude", length=30), step("ground.drop_shadow"),
       step("lens.grain")]  # fmt: skip


def test_the_same_title_gives_the_same_bytes_with_one_thread_and_with_two() -> None:
    title = titled(ALL, beneath=[{"kind": "backdrop", "build": [step("surface.gradient")]}])
    pictures = []
    for threads in (1, min(2, numba.config.NUMBA_NUM_THREADS)):
        numba.set_num_threads(threads)
        pictures.append(Renderer().render(title).to_uint16().tobytes())
    numba.set_num_threads(numba.config.NUMBA_NUM_THREADS)
    assert pictures[0] == pictures[1]


def test_what_is_in_the_cache_changes_nothing() -> None:
    renderer = Renderer()
    for settings in ({}, {"length": 12}, {}):
        title = titled([*ALL[:4], step("depth.extrude", **settings), ALL[5]])
        assert np.array_equal(renderer.render(title).pixels, render(title).pixels)


def test_a_changed_last_step_does_not_run_the_others_again() -> None:
    renderer = Renderer()
    renderer.render(titled(ALL))
    kept = len(renderer.cache)
    changed = [*ALL[:-1], step("lens.grain", amount=0.2)]
    renderer.render(titled(changed))
    assert len(renderer.cache) == kept + 1


def test_the_cache_stays_within_its_bytes() -> None:
    cache = Cache(limit=2_000_000)
    renderer = Renderer(cache)
    for angle in range(6):
        renderer.render(titled([step("depth.extrude", angle=angle * 50)]))
        assert cache.nbytes <= 2_000_000


@pytest.mark.parametrize(
    "last",
    [
        step("ground.drop_shadow", offset=40, blur=20, opacity=1, light="own", angle=200),
        step("ground.drop_shadow", spread=25, blur=0, opacity=1),
        step("depth.extrude", length=70, angle=250, fade=0),
        step("depth.extrude", towards="point", point=[-300, -200], length=400, fade=0),
    ],
)
def test_nothing_is_cut_at_a_box(last: dict) -> None:
    """Whatever a step puts around the letters is gone before the piece ends."""
    renderer = Renderer()
    renderer.render(titled([last], frame=(900, 700)))
    piece = list(renderer.cache._kept.values())[-1][0]
    border = np.concatenate(
        [
            piece.behind[0, :, 3],
            piece.behind[-1, :, 3],
            piece.behind[:, 0, 3],
            piece.behind[:, -1, 3],
        ]
    )
    assert piece.behind[..., 3].max() > 0.4
    assert border.max() < 1 / 255


def test_a_shadow_from_beyond_the_frame_falls_into_it() -> None:
    shadow = step("ground.drop_shadow", light="own", angle=180, offset=150, blur=2, opacity=1)
    outside = {"lettering": {"placement": {"x": 220}}}
    pixels = render(titled([shadow], **outside)).pixels
    assert pixels[..., 3].max() > 0.9


@pytest.mark.parametrize("scale", [0.5, 2])
def test_a_render_at_another_scale_is_the_same_picture(scale: float) -> None:
    title = titled(ALL[:-1], size=90)
    whole, other = render(title).pixels, render(title, scale=scale).pixels
    assert other.shape == (round(160 * scale), round(240 * scale), 4)
    small, large = (other, whole) if scale < 1 else (whole, other)
    mean = large.reshape(small.shape[0], 2, small.shape[1], 2, 4).mean(axis=(1, 3))
    assert np.abs(mean - small).mean() < 0.02


def test_a_window_is_a_part_of_the_whole() -> None:
    title = titled(ALL, beneath=[{"kind": "backdrop", "build": [step("surface.gradient")]}])
    whole = render(title).pixels
    part = render(title, window=Window(60, 40, 100, 70)).pixels
    assert np.array_equal(part, whole[40:110, 60:160])


def test_light_sides_and_shadow_follow_the_key_light() -> None:
    def shadow_place(azimuth: float) -> np.ndarray:
        title = titled(
            [step("ground.drop_shadow", blur=0, offset=20)], lights=[{"azimuth": azimuth}]
        )

        def middle(tap: str, channel: int) -> np.ndarray:
            y, x = np.nonzero(render(title, tap=tap).pixels[..., channel] > 0.3)
            return np.array([x.mean(), y.mean()])

        return middle("behind", 3) - middle("matte", 0)

    assert shadow_place(180) == pytest.approx([20, 0], abs=0.7)
    assert shadow_place(270) == pytest.approx([0, 20], abs=0.7)

    def side_tone(azimuth: float) -> float:
        title = titled([step("depth.extrude", angle=90, fade=0)], lights=[{"azimuth": azimuth}])
        pixels = render(title, tap="behind").pixels
        return float(pixels[..., :3].sum() / pixels[..., 3].sum())

    assert side_tone(90) > 1.5 * side_tone(270)  # the side faces down


def test_strength_mixes_a_step_with_its_input() -> None:
    def face(strength: float) -> np.ndarray:
        paint = step("surface.flat", colour="#ffffff") | {"strength": strength}
        return render(titled([paint]), tap="face").pixels

    half = (face(0) + face(1)) / 2
    assert face(0.5) == pytest.approx(half, abs=1e-5)


def test_face_opacity_fades_the_fill_and_keeps_what_steps_added() -> None:
    build = [step("relief.inflate"), step("light.shade")]
    faded = render(titled(build, lettering={"face_opacity": 0})).pixels
    plain = render(titled([], lettering={"face_opacity": 0})).pixels
    assert plain[..., 3].max() == 0
    assert faded[..., 3].max() > 0.5


def test_two_bevels_with_their_own_lights_on_one_layer() -> None:
    twice = [
        step("relief.bevel", width=4),
        step("light.shade", light="own", azimuth=0),
        step("relief.bevel", width=12),
        step("light.shade", light="own", azimuth=180),
    ]
    once = render(titled(twice[:2])).pixels
    both = render(titled(twice)).pixels
    assert np.abs(both - once).max() > 0.2


def test_a_wash_treats_what_lies_beneath_and_a_matte_limits_it() -> None:
    wash = {"kind": "wash", "build": [step("surface.flat", colour="#ff0000")]}
    base = titled().model_dump(mode="json")
    everywhere = parse_title(base | {"layers": [{"kind": "backdrop"}, *base["layers"], wash]})
    assert render(everywhere).pixels[..., 0].min() == pytest.approx(1)
    limited = wash | {"matte_from": "word"}
    only = parse_title(base | {"layers": [{"kind": "backdrop"}, *base["layers"], limited]})
    pixels = render(only).pixels
    matte = render(titled(), tap="matte").pixels[..., 0]
    assert pixels[..., 1][matte == 1].max() == pytest.approx(0, abs=1e-6)
    assert pixels[..., 1][matte == 0].min() > 0.5


def test_a_card_that_is_turned_and_turned_back_stays_where_it_is() -> None:
    straight = render(titled(ALL[:4])).pixels
    nearly = render(titled(ALL[:4], lettering={"placement": {"turn_z": 360}})).pixels
    assert np.abs(nearly - straight).max() < 0.02
    tilted = render(titled(ALL[:4], lettering={"placement": {"turn_y": 50}})).pixels
    ink = lambda p: np.ptp(np.nonzero(p[..., 3].max(axis=0) > 0.5)[0])  # noqa: E731
    assert ink(tilted) == pytest.approx(ink(straight) * np.cos(np.radians(50)), rel=0.06)


def test_nearer_cards_are_larger_and_stay_sharp() -> None:
    near = render(titled(size=40, lettering={"placement": {"z": 1000}})).pixels
    large = render(titled(size=80)).pixels
    assert np.abs(near - large).mean() < 1e-3


def test_a_slow_gradient_does_not_band_in_eight_bits() -> None:
    stops = [{"place": 0, "colour": "#202428"}, {"place": 1, "colour": "#2a2e33"}]
    ground = {"kind": "backdrop", "build": [step("surface.gradient", angle=0, stops=stops)]}
    title = parse_title({"mabrel": 1, "frame": {"width": 900, "height": 60}, "layers": [ground]})
    picture = render(title)
    levels = picture.to_uint8()[..., 0].astype(float)
    error = levels - picture.pixels[..., 0] * 255
    # Averaged over a small patch nothing of the steps is left.
    patches = error.reshape(3, 20, 45, 20).mean(axis=(1, 3))
    assert np.abs(patches).max() < 0.12
    assert np.abs(error).max() < 1.01


def test_a_flat_colour_is_not_dithered() -> None:
    title = parse_title(
        {"mabrel": 1, "frame": {"width": 40, "height": 30},
         "layers": [{"kind": "backdrop", "source": {"colour": "#7b3f21"}}]}
    )  # fmt: skip
    assert np.unique(render(title).to_uint8().reshape(-1, 4), axis=0).tolist() == [
        [123, 63, 33, 255]
    ]


def test_colour_codes_of_a_face_come_out_as_typed() -> None:
    pixels = render(titled([step("surface.flat", colour="#b4471f")])).to_uint8()
    solid = pixels[pixels[..., 3] == 255]
    assert np.unique(solid, axis=0).tolist() == [[0xB4, 0x47, 0x1F, 255]]


def test_edges_have_the_colour_of_the_face_and_no_fringe() -> None:
    pixels = render(titled([step("surface.flat", colour="#ffcc00")])).pixels
    edge = (pixels[..., 3] > 0.02) & (pixels[..., 3] < 0.98)
    straight = pixels[..., :3][edge] / pixels[..., 3:][edge]
    assert straight == pytest.approx(np.tile([1, 0.8, 0], (edge.sum(), 1)), abs=1e-3)


@pytest.mark.parametrize("tap", TAPS)
def test_every_tap_shows_the_frame(tap: str) -> None:
    pixels = render(titled(ALL), tap=tap).pixels
    assert pixels.shape == (160, 240, 4)
    assert np.isfinite(pixels).all()


def test_the_work_after_a_step_leaves_out_the_later_ones() -> None:
    title = titled([step("surface.flat", colour="#ff0000"), step("surface.flat", colour="#0000ff")])
    first = title.layers[0].build[0].id
    pixels = render(title, until=first).to_uint8()
    assert pixels[pixels[..., 3] == 255][:, :3].tolist()[0] == [255, 0, 0]


def test_a_render_can_be_given_up() -> None:
    cancel = Cancel()
    cancel.cancel()
    with pytest.raises(Cancelled):
        Renderer().render(titled(ALL), cancel=cancel)


@pytest.mark.parametrize(
    ("how", "said"),
    [
        ({"scale": 0}, "scale"),
        ({"scale": float("nan")}, "scale"),
        ({"scale": 16, "frame": (3000, 2000)}, "million"),
        ({"tap": "smell"}, "tap"),
        ({"tap": "matte", "layer": "nobody"}, "'nobody'"),
        ({"until": "nothing"}, "'nothing'"),
    ],
)
def test_what_cannot_be_rendered_is_refused_in_words(how: dict, said: str) -> None:
    title = titled(ALL, frame=how.pop("frame", (240, 160)))
    with pytest.raises(RenderError, match=said):
        render(title, **how)


def test_more_memory_than_there_may_be_is_refused_before_it_is_taken() -> None:
    with pytest.raises(RenderError, match="smaller"):
        render(titled(size=8000, word="WWWWWWWW"))
    with pytest.raises(RenderError, match="GB"):
        render(titled([step("ground.drop_shadow", blur=1000)], size=300), scale=4)


def test_a_title_without_letters_or_layers_is_no_error() -> None:
    assert render(titled(ALL, word="")).pixels[..., 3].max() == 0
    assert render(titled(word="")).to_uint8().shape == (160, 240, 4)
    empty = parse_title({"mabrel": 1, "frame": {"width": 9, "height": 9}})
    assert render(empty).pixels.max() == 0


def extremes() -> list[tuple[str, str, object]]:
    found = []
    for kind in kinds().values():
        properties = kind.settings.model_json_schema()["properties"]
        for name, schema in properties.items():
            found += [
                (kind.name, name, schema[end]) for end in ("minimum", "maximum") if end in schema
            ]
            found += [(kind.name, name, choice) for choice in schema.get("enum", [])]
    return found


@pytest.mark.parametrize(("kind", "name", "value"), extremes())
def test_extremes_of_every_setting_neither_crash_nor_give_nan(kind, name, value) -> None:
    build = [step("relief.inflate"), step(kind, **{name: value})]
    pixels = render(titled(build, size=24, word="i", frame=(60, 40)), scale=0.5).pixels
    assert np.isfinite(pixels).all()


def test_the_defaults_of_every_step_change_the_demo_word() -> None:
    copper = step("surface.flat", colour="#b87333")
    relief, light = step("relief.inflate"), step("light.shade")
    before = render(titled([copper, relief, light], size=80)).pixels
    for kind in kinds():
        early = kind.split(".")[0] in ("shape", "relief")
        build = (
            [copper, relief, step(kind), light] if early else [copper, relief, light, step(kind)]
        )
        assert np.abs(render(titled(build, size=80)).pixels - before).mean() > 4e-4, kind


def test_a_new_title_renders_in_every_finish() -> None:
    for finish in ("ship-brass", "enamel"):
        pixels = render(new_title("Kelp", finish=finish, frame=(320, 180))).pixels
        assert pixels[..., 3].min() == pytest.approx(1)
