"""New steps and layers in a title."""

import pytest

from mabrel import new_title, render
from mabrel.compose import with_layer, with_step
from mabrel.steps import kind_of
from mabrel.title import Lettering, TitleError


def word_of(title):
    return next(layer for layer in title.layers if isinstance(layer, Lettering))


@pytest.fixture
def title():
    return new_title("KELP", frame=(960, 540))


def test_a_fresh_step_has_lengths_that_fit_the_letters(title) -> None:
    word = word_of(title)
    usual = kind_of("relief.bevel").settings().width
    (added,) = [
        step for step in word_of(with_step(title, word.id, "relief.bevel", 1)).build
        if step.step == "relief.bevel"
    ]  # fmt: skip
    assert added.id
    assert added.settings["width"] == pytest.approx(usual * word.source.size / 300, rel=0.05)
    ground = title.layers[0].id
    on_ground = with_step(title, ground, "relief.bevel", 0).layers[0].build[0]
    assert "width" not in on_ground.settings


def test_it_stands_where_it_was_asked_for(title) -> None:
    word = word_of(title)
    for at, place in ((0, 0), (2, 2), (99, len(word.build))):
        kinds = [step.step for step in word_of(with_step(title, word.id, "lens.grain", at)).build]
        assert kinds.index("lens.grain") == place


def test_layers_lie_where_their_kind_belongs(title) -> None:
    kinds = [layer.kind for layer in with_layer(title, "floor").layers]
    assert kinds == ["backdrop", "floor", "lettering"]
    assert with_layer(title, "backdrop").layers[0].kind == "backdrop"
    assert with_layer(title, "wash").layers[-1].kind == "wash"
    assert with_layer(title, "lettering").layers[-1].source.text == "WORD"
    assert with_layer(title, "picture").layers[-1].source.picture == "shipped/chart.png"


def test_groups_and_copies_are_of_layers_that_are_there(title) -> None:
    word = word_of(title).id
    group = with_layer(title, "group", of=[word]).layers[-1]
    assert group.source.layers == [word]
    assert with_layer(title, "copy", of=[word]).layers[-1].source.layer == word
    with pytest.raises(TitleError, match="no layer"):
        with_layer(title, "group", of=["nowhere"])
    with pytest.raises(TitleError):
        with_layer(title, "copy")
    with pytest.raises(TitleError):
        with_layer(title, "group")


def test_what_is_not_there_is_said(title) -> None:
    with pytest.raises(TitleError, match="no step"):
        with_step(title, word_of(title).id, "no.such", 0)
    with pytest.raises(TitleError, match="no layer"):
        with_step(title, "nowhere", "relief.bevel", 0)


def test_a_backing_lies_right_behind_what_it_follows_with_a_build_of_its_own(title) -> None:
    word = word_of(title)
    moved = word.model_copy(
        update={"placement": word.placement.model_copy(update={"x": 40.0, "turn_y": -12.0})}
    )
    title = title.model_copy(
        update={"layers": [moved if each.id == word.id else each for each in title.layers]}
    )
    backed = with_layer(title, "backing", of=[word.id])
    at = [each.id for each in backed.layers].index(word.id)
    backing = backed.layers[at - 1]
    assert backing.kind == "copy"
    assert backing.source.layer == word.id
    assert backing.source.take == "outline"
    assert (backing.placement.x, backing.placement.turn_y) == (40, -12)
    assert [step.step.split(".")[0] for step in backing.build] == [
        "shape", "surface", "relief", "light", "ground",
    ]  # fmt: skip
    grown = backing.build[0].settings["grow"]
    assert grown == pytest.approx(36 * word.source.size / 300, rel=0.05)
    cover = render(backed.model_copy(update={"layers": [backing, moved]})).pixels[..., 3]
    alone = render(backed.model_copy(update={"layers": [moved]})).pixels[..., 3]
    assert (cover > 0.99).sum() > 1.3 * (alone > 0.99).sum()
