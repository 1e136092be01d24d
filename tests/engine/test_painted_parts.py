"""Parts painted one by one: in their place, found again by letter and facing, in the light."""

import numpy as np
import pytest
import shapely

from mabrel import Renderer, parse_title
from mabrel.colour import brightness, straight
from mabrel.export.parts import index_of
from mabrel.render import Shard
from mabrel.steps.parts.matching import owners_of
from mabrel.title import TitleError
from mabrel.title.part_paints import PartPaint

RENDERER = Renderer()
GREEN = [0, 1, 0]


def document(
    paints: list[dict] = [],  # noqa: B006
    word: str = "HE",
    font: str = "Archivo Black",
    lit: float = 0.0,
    place: dict | None = None,
    **settings,
) -> dict:
    build = [
        {"step": "surface.flat", "settings": {"colour": "#808080"}},
        {"step": "relief.bevel", "settings": {"width": 12, "height": 9, "corners": "mitred"}},
        {"step": "depth.extrude", "settings": {
            "towards": "direction", "angle": 62, "length": 46, "lit": lit, "fade": 0,
            "colour": "#606060"}},
        {"step": "surface.parts", "id": "parts", "settings":
            {"paints": {"parts": paints}, "by": "none", **settings}},
    ]  # fmt: skip
    source = {"text": word, "font": font, "size": 190}
    layer = {"kind": "lettering", "id": "word", "source": source, "build": build}
    layer["placement"] = place or {}
    lights = [{"azimuth": 225, "elevation": 45}]
    return {
        "mabrel": 1, "frame": {"width": 620, "height": 360}, "layers": [layer], "lights": lights,
    }  # fmt: skip


def shown(doc: dict, scale: float = 1.0) -> np.ndarray:
    return RENDERER.render(parse_title(doc), scale=scale).pixels


def paint_of(shard: Shard, **brush) -> dict:
    own = {"kind": shard.kind, "letter": shard.letter, "facing": shard.facing}
    return {**own, "place": list(shard.place), "colour": "#00ff00", "shading": 0, **brush}


def parts_of(doc: dict) -> list[Shard]:
    return [
        each
        for each in RENDERER.parts(parse_title(doc), layer="word", before="parts")
        if each.kind in ("front", "facet", "side")
    ]


def green(picture: np.ndarray) -> np.ndarray:
    return picture[..., 1] - np.maximum(picture[..., 0], picture[..., 2])


@pytest.mark.parametrize("place", [{}, {"turn_y": 24, "turn_x": -10}], ids=["level", "tilted"])
def test_each_part_is_painted_where_it_lies_and_nowhere_else(place: dict) -> None:
    """Of every part of two letters: what turns green is what the geometry says, to a pixel."""
    doc = document(place=place)
    parts = RENDERER.parts(parse_title(doc), layer="word", before="parts")
    index = index_of(parts, 620, 360)
    checked = set()
    for number, part in enumerate(parts, 1):
        if part.kind not in ("front", "facet", "side") or part.area.area < 60:
            continue
        picture = shown(document([paint_of(part)], place=place))
        seen = green(picture) > 0.5
        own = index == number
        assert (seen ^ own).sum() < 0.35 * part.area.length, part.name
        assert (seen & own).sum() > 0.7 * own.sum(), part.name
        checked.add(part.kind)
    assert checked == {"front", "facet", "side"}


def test_all_parts_painted_leave_no_seam_between_them() -> None:
    doc = document()
    parts = parts_of(doc)
    picture = shown(document([paint_of(each) for each in parts]))
    inside = picture[..., 3] > 0.999
    assert green(picture)[inside].min() > 0.98
    plain = shown(doc)
    assert np.array_equal(plain[..., 3], picture[..., 3])  # nothing outside, nothing gone


def test_paint_follows_letter_and_facing_when_the_word_is_swapped() -> None:
    doc = document()
    right = next(
        each for each in parts_of(doc)
        if each.letter == "E1" and each.kind == "side" and each.facing == pytest.approx(0, abs=1)
        and each.place[1] > 0.6
    )  # fmt: skip
    paints = [PartPaint(**paint_of(right))]
    there = parts_of(document(word="THERE"))
    owners, lost = owners_of(paints, there)
    painted = [part for part, owner in zip(there, owners, strict=True) if owner is not None]
    assert [(each.letter, each.kind) for each in painted] == [("E1", "side")]
    assert painted[0].facing == pytest.approx(right.facing, abs=1)
    assert painted[0].place == pytest.approx(right.place, abs=0.05)
    assert lost == []
    owners, lost = owners_of(paints, parts_of(document(word="HOT")))
    assert lost == [0]
    assert not any(owner is not None for owner in owners)


def test_pieces_of_one_side_are_painted_as_one() -> None:
    """Where another cuts a side in two, whichever piece was picked, both get its paint."""
    parts = parts_of(document())
    side = next(each for each in parts if each.kind == "side")
    pieces = [*parts, side._replace(number=99)]
    owners, lost = owners_of([PartPaint(**paint_of(side))], pieces)
    assert [n for n, each in enumerate(owners) if each == 0] == [parts.index(side), len(parts)]
    assert lost == []


def test_another_font_keeps_what_faces_the_same_way() -> None:
    paints = [PartPaint(**paint_of(each)) for each in parts_of(document(word="H"))]
    other = parts_of(document(word="H", font="Alfa Slab One"))
    owners, _ = owners_of(paints, other)
    for part, owner in zip(other, owners, strict=True):
        if owner is not None and part.facing is not None:
            assert abs((part.facing - paints[owner].facing + 180) % 360 - 180) < 60
    assert sum(owner is not None for owner in owners) > 0.5 * len(paints)


def test_wide_paints_fall_on_all_that_they_fit_and_single_ones_over_them() -> None:
    wide = {"kind": "side", "facing": 0.0, "colour": "#ff0000", "shading": 0}
    parts = parts_of(document(word="HEH"))
    one = next(each for each in parts if each.kind == "side" and each.letter == "H2")
    owners, lost = owners_of([PartPaint(**wide), PartPaint(**paint_of(one))], parts)
    assert lost == []
    by_letter = {part.letter for part, owner in zip(parts, owners, strict=True) if owner == 0}
    assert by_letter == {"H1", "E1", "H2"}
    facing = [p.facing for p, owner in zip(parts, owners, strict=True) if owner == 0]
    assert all(way is not None and min(way, 360 - way) <= 30 for way in facing)
    assert owners[parts.index(one)] == 1
    assert owners_of([PartPaint(**{**wide, "letter": "X1"})], parts)[1] == [0]


def test_letters_along_a_circle_keep_their_own_facing() -> None:
    doc = document(word="HHHH")
    doc["layers"][0]["source"]["along"] = {"radius": 300}
    parts = [each for each in parts_of(doc) if each.kind == "facet"]
    ways = {}
    for part in parts:
        ways.setdefault(part.letter, []).append(round((part.facing or 0) / 10) % 36)
    assert len(ways) == 4
    assert len({tuple(sorted(each)) for each in ways.values()}) == 1


def test_facets_tile_the_rim_also_of_letters_that_are_turned() -> None:
    doc = document(word="HAND")
    doc["layers"][0]["source"]["along"] = {"radius": 300}
    found = parts_of(doc)
    facets = [each.area for each in found if each.kind == "facet"]
    fronts = [each.area for each in found if each.kind == "front"]
    whole = shapely.union_all([*facets, *fronts])
    total = sum(each.area for each in facets) + sum(each.area for each in fronts)
    assert total == pytest.approx(whole.area, rel=1e-3)
    outer = shapely.union_all(fronts).buffer(12, join_style="mitre", mitre_limit=8)
    assert whole.area == pytest.approx(outer.area, rel=0.03)


def test_what_faces_the_light_stays_lighter() -> None:
    """Two facets in one colour, one towards the light and one away, with the shading kept."""
    doc = document(word="H")
    doc["layers"][0]["build"].insert(2, {"step": "light.shade", "settings": {}})
    paints = [{"kind": "facet", "colour": "#00a000", "shading": 1}]

    def tones(azimuth: float, shading: float) -> dict[str, float]:
        doc["lights"][0]["azimuth"] = azimuth
        doc["layers"][0]["build"][-1]["settings"]["paints"] = {
            "parts": [{**paints[0], "shading": shading}]
        }
        picture = shown(doc)
        parts = RENDERER.parts(parse_title(doc), layer="word", before="parts")
        index = index_of(parts, 620, 360)
        found = {}
        for way, name in ((180.0, "left"), (0.0, "right")):
            own = [n for n, each in enumerate(parts, 1)
                   if each.kind == "facet" and each.facing is not None
                   and abs((each.facing - way + 180) % 360 - 180) < 5]  # fmt: skip
            found[name] = float(brightness(straight(picture))[np.isin(index, own)].mean())
        return found

    from_left, from_right = tones(180, 1), tones(0, 1)
    assert from_left["left"] > from_left["right"] + 0.1
    assert from_right["right"] > from_right["left"] + 0.1
    flat = tones(180, 0)
    assert flat["left"] == pytest.approx(flat["right"], abs=0.02)


def test_gradients_run_from_end_to_end_of_a_part() -> None:
    brush = {"kind": "front", "fill": "gradient", "colour": "#ff0000", "second": "#0000ff",
             "angle": 90, "shading": 0}  # fmt: skip
    picture = shown(document([brush], word="I"))
    part = next(each for each in parts_of(document(word="I")) if each.kind == "front")
    left, top, right, bottom = part.area.bounds
    column = picture[:, round((left + right) / 2), :3]
    middle = column[round((top + bottom) / 2)]
    assert column[round(top) + 2] == pytest.approx([1, 0, 0], abs=0.05)
    assert column[round(bottom) - 3] == pytest.approx([0, 0, 1], abs=0.05)
    assert middle == pytest.approx([0.5, 0, 0.5], abs=0.05)


@pytest.mark.parametrize(
    "brush",
    [
        {"fill": "pattern", "pattern": name, "size": 200}
        for name in ("brushed", "clouds", "veins", "wood", "marble", "plaster", "stripes")
    ]
    + [{"fill": "picture", "size": 80}],
    ids=str,
)
def test_a_part_can_have_a_surface_of_its_own(brush: dict) -> None:
    """It varies within the part, and the other letter stays plain."""
    paint = {"kind": "front", "letter": "H1", "shading": 0, **brush}
    doc = document([paint], picture="shipped/planks.jpg")
    picture = shown(doc)
    parts = RENDERER.parts(parse_title(doc), layer="word", before="parts")
    index = index_of(parts, 620, 360)
    tones = brightness(straight(picture))

    def spread(letter: str) -> float:
        own = [n for n, p in enumerate(parts, 1) if p.kind == "front" and p.letter == letter]
        return float(tones[np.isin(index, own)].std())

    assert spread("H1") > 0.01
    assert spread("E1") < 0.001


@pytest.mark.parametrize("by", ["drawn", "facing", "letters"])
def test_by_itself_it_takes_the_colours_that_it_is_given(by: str) -> None:
    stops = [{"place": 0, "colour": "#ff0000"}, {"place": 1, "colour": "#0000ff"}]
    plain = shown(document(lit=0.6))
    once = shown(document(lit=0.6, by=by, colours=stops, shading=0))
    assert np.abs(once - plain).mean() > 0.02
    assert np.array_equal(once, shown(document(lit=0.6, by=by, colours=stops, shading=0)))
    if by != "facing":  # no colour lies between the two
        solid = once[once[..., 3] > 0.999]
        colours = solid[np.abs(solid[:, 0] - solid[:, 2]) > 0.95]
        assert len(colours) > 0.7 * len(solid)


def test_a_draw_is_the_same_at_every_size() -> None:
    small = shown(document(by="drawn"), 1.0)
    large = shown(document(by="drawn"), 2.0)
    coarse = large.reshape(360, 2, 620, 2, 4).mean(axis=(1, 3))
    inside = np.abs(coarse - small)[small[..., 3] > 0.999]
    assert np.median(inside) < 0.01
    assert (inside.max(axis=-1) > 0.25).mean() < 0.02


def test_a_draw_stays_while_the_card_turns() -> None:
    """Each facet and side has the colour that it had, whatever is seen of it."""

    def colours(turn: float) -> dict[tuple, list[float]]:
        doc = document(by="drawn", shading=0, word="HR")
        doc["layers"][0]["build"][2]["settings"] |= {"towards": "back", "length": 90}
        doc["layers"][0]["placement"] = {"turn_y": turn}
        parts, picture = parts_of(doc), straight(shown(doc))
        found = {}
        for part in parts:
            inside = part.area.buffer(-2)
            if not inside.is_empty:
                place = inside.representative_point()
                key = (part.letter, part.kind, part.place)
                found[key] = picture[int(place.y), int(place.x)].tolist()
        return found

    before, after = colours(20), colours(31)
    shared = before.keys() & after.keys()
    assert {kind for _, kind, _ in shared} == {"front", "facet", "side"}
    for key in shared:
        assert after[key] == pytest.approx(before[key], abs=0.02), key


def test_an_outline_is_a_part_too() -> None:
    doc = document([{"kind": "outline", "colour": "#00ff00", "shading": 0}])
    line = {"step": "depth.outline", "settings": {"width": 10, "colour": "#ffffff"}}
    doc["layers"][0]["build"].insert(3, line)
    picture = shown(doc)
    seen = (green(picture) > 0.9).sum()
    assert seen > 2000
    assert green(shown(document()))[green(picture) > 0.9].max() < 0.1


def test_nothing_breaks_without_anything_to_paint() -> None:
    everything = [{"kind": kind} for kind in ("front", "facet", "side", "outline")]
    bare = document(everything)
    bare["layers"][0]["build"] = bare["layers"][0]["build"][-1:]
    assert np.isfinite(shown(bare)).all()
    assert shown(document(everything, word=" ")).max() == 0
    behind = shown(document(everything, place={"turn_y": 180}))
    assert np.isfinite(behind).all()
    assert np.isfinite(shown(document(everything, place={"turn_y": 89}))).all()


@pytest.mark.parametrize(
    ("paint", "where"),
    [
        ({"kind": "roof"}, "kind"),
        ({"colour": "green"}, "colour"),
        ({"size": 0}, "size"),
        ({"facing": float("nan")}, "facing"),
        ({"place": [99, 0]}, "place"),
        ({"letter": "x" * 41}, "letter"),
        ({"shading": 2}, "shading"),
        ({"more": 1}, "more"),
    ],
)
def test_broken_paints_are_refused_with_their_place(paint: dict, where: str) -> None:
    with pytest.raises(TitleError) as told:
        RENDERER.render(parse_title(document([paint])))
    assert "settings.paints.parts[0]" in str(told.value)
    assert where in str(told.value)


def test_a_paint_on_a_side_that_is_not_seen_falls_on_no_other() -> None:
    doc = document()
    every = RENDERER.parts(parse_title(doc), layer="word", before="parts", unseen=True)
    unseen = [each for each in every if each.kind == "side" and each.area.is_empty]
    assert len(unseen) > 3
    painted_ = document([paint_of(each) for each in unseen])
    assert np.array_equal(shown(painted_), shown(doc))
    assert len(parts_of(doc)) == len(parts_of(painted_))


@pytest.mark.parametrize(
    ("step", "changes", "again"),
    [
        (0, {"colour": "#ff0000"}, False),
        (1, {"width": 10}, True),
        (2, {"length": 50}, True),
        (2, {"edge": 4}, True),
        ("light", {"azimuth": 100}, False),
    ],
)
def test_it_is_broken_apart_again_only_where_shapes_change(
    step: int | str, changes: dict, again: bool
) -> None:
    doc = document(lit=0.4)
    renderer = Renderer()
    renderer.render(parse_title(doc), scale=0.5)
    changed = document(lit=0.4)
    if step == "light":
        changed["lights"][0] |= changes
    else:
        changed["layers"][0]["build"][step]["settings"] |= changes
    renderer.render(parse_title(changed), scale=0.5)
    assert any(node.kind == "parts" for node in renderer.made) is again


def test_sides_that_bulge_are_traced_from_what_the_step_made() -> None:
    plain, bulging = document(), document()
    bulging["layers"][0]["build"][2]["settings"]["swell"] = 9
    inputs = []
    for doc in (plain, bulging):
        renderer = Renderer()
        renderer.render(parse_title(doc), scale=0.5)
        (node,) = (each for each in renderer.made if each.kind == "parts")
        inputs.append([each.name for each in node.inputs])
    assert inputs == [["word"], ["word", "depth.extrude"]]
