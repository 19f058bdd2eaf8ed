"""Cards of upkeep: each kit gets those of its own parts, begun dead and ended in the bucket; every word and picture is there."""

import pytest

from squall.catalogue import catalogue
from squall.core.reason import Reason
from squall.core.upkeep.cards import CARDS, Parts, cards_for
from squall.drawing.small.cards import PICTURES, card_picture


def families(**more: bool | str) -> list[str]:
    return [card.family for card in cards_for(Parts(**({"end": "centrifugal"} | more)))]  # type: ignore[arg-type]


@pytest.mark.parametrize("pump", catalogue().stock.pumps, ids=lambda pump: pump.id)
def test_every_pump_of_the_catalogue_has_a_card_for_its_end_and_no_other(pump) -> None:
    ends = {"centrifugal", "helical", "diaphragm", "piston"}
    assert ends & set(families(end=pump.end)) == {pump.end}


def test_what_a_kit_has_not_gets_no_card() -> None:
    assert not {"brushes", "lead", "float", "box"} & set(families())
    assert {"brushes", "lead", "float", "box"} <= set(families(brushed=True, lead=True, floats=True, boxed=True))
    assert not {"screen", "panels"} & set(families(screened=False, panels=False))


def test_whatever_is_opened_is_dead_first_and_every_end_comes_back_through_the_bucket() -> None:
    for card in CARDS:
        codes = [step.code for step in card.steps]
        assert len(set(codes)) == len(codes)
        if card.family in ("screen", "centrifugal", "helical", "diaphragm", "piston", "brushes", "plugs", "box"):
            assert codes[0].endswith("dead")
            assert card.steps[0].holds
        if card.family in ("centrifugal", "helical", "diaphragm", "piston"):
            assert codes[-1] == "bucket"
            assert codes.index("mark") < codes.index("open") < codes.index("lay-out") < codes.index("snug")
            assert next(step for step in card.steps if step.code == "mark").photo


def test_every_card_has_its_words_and_a_picture() -> None:
    for card in CARDS:
        for code in (
            f"card-{card.family}",
            f"card-{card.family}-when",
            *(f"card-step-{step.code}" for step in card.steps),
        ):
            assert str(Reason(code)) != code
        assert "<svg" in card_picture(card.family)
    assert set(PICTURES) == {card.family for card in CARDS}
