"""The long-section as geometry: everything connected, to scale, and whole for every job and lens."""

import re
from xml.etree import ElementTree

import pytest

from squall.demo import demo_jobs
from squall.drawing import draw, draw_file, draw_thumbnail
from squall.job.document.fields import edit
from squall.job.edit.kits import remove_option
from squall.job.stages import MAIN
from squall.job.worked.assess import assess
from squall.words import Voice, speaking

SVG = "{http://www.w3.org/2000/svg}"


def tree(job, stage: str = "survey", narrow: bool = False, units: str = "metric") -> ElementTree.Element:
    with speaking(Voice(units)):
        return ElementTree.fromstring(str(draw(1, "Goats", assess(job), stage, narrow=narrow)))


def points_of(path: ElementTree.Element) -> list[tuple[float, float]]:
    numbers = [float(n) for n in re.findall(r"-?\d+\.?\d*", path.get("d"))]
    return list(zip(numbers[::2], numbers[1::2], strict=True))


def with_class(root: ElementTree.Element, name: str) -> list[ElementTree.Element]:
    return [element for element in root.iter() if name in (element.get("class") or "").split()]


@pytest.fixture(scope="module")
def goats():
    return demo_jobs()[0]


@pytest.mark.parametrize("number", range(5))
@pytest.mark.parametrize("stage", [stage.key for stage in MAIN])
@pytest.mark.parametrize("narrow", [False, True])
def test_every_job_draws_in_every_lens(number: int, stage: str, narrow: bool) -> None:
    with speaking(Voice("us")):
        text = str(draw(1, "Goats", assess(demo_jobs()[number]), stage, narrow=narrow))
    assert "nan" not in text
    assert "None" not in text
    root = ElementTree.fromstring(text)
    _, _, width, height = (float(x) for x in root.get("viewBox").split())
    for element in root.iter():
        for name in ("x", "x1", "x2", "cx"):
            if element.get(name) is not None:
                assert -60 <= float(element.get(name)) <= width + 60
        for name in ("y", "y1", "y2", "cy"):
            if element.get(name) is not None:
                assert -40 <= float(element.get(name)) <= height + 40


def test_pieces_of_the_run_join_and_reach_the_outlet(goats) -> None:
    first, second = with_class(tree(goats), "hose")
    assert points_of(first)[-1] == pytest.approx(points_of(second)[0], abs=0.11)
    root = tree(goats)
    pump = with_class(root, "pump")[0]
    begin = points_of(first)[0]
    assert float(pump.get("y")) < begin[1] < float(pump.get("y")) + float(pump.get("height"))


def test_the_pump_hangs_under_water_and_deeper_when_told(goats, parts) -> None:
    def depth(job) -> float:
        root = tree(job)
        level = float(with_class(root, "water-level")[0].get("y1"))
        pump = with_class(root, "pump")[0]
        return float(pump.get("y")) + float(pump.get("height")) / 2 - level

    assert depth(goats) > 0
    assert depth(edit(goats, "pump_depth", "1.5 m", parts)) > depth(goats)


def test_a_higher_bank_draws_higher(goats, parts) -> None:
    def bank(job) -> float:
        earth = with_class(tree(job), "earth")[0]
        return points_of(earth)[0][1]

    assert bank(edit(goats, "rim", "4 m", parts)) < bank(goats)


def test_the_grade_line_falls_from_pump_to_outlet(goats) -> None:
    grade = points_of(with_class(tree(goats, "lift"), "grade")[0])
    heights = [y for _, y in grade]
    assert heights == sorted(heights)
    measure = with_class(tree(goats, "lift"), "hose")[-1]
    assert heights[-1] == pytest.approx(points_of(measure)[-1][1], abs=1.0)


def test_the_costliest_piece_is_marked_on_the_lift_lens_only(goats) -> None:
    assert len(with_class(tree(goats, "lift"), "costly")) == 1
    assert not with_class(tree(goats, "survey"), "costly")


def test_the_wire_lens_names_size_drop_and_fuse(goats) -> None:
    words = " ".join("".join(element.itertext()) for element in with_class(tree(goats, "wire"), "cable-words"))
    assert "6 mm²" in words
    assert "%" in words
    assert "fuse 10" in words.replace("\u00a0", " ")


def test_too_thin_a_cable_is_drawn_another_way(goats, parts) -> None:
    thin = edit(goats, f"options.{goats.chosen}.pump_cable", "mm2:0.5", parts)
    assert with_class(tree(thin, "wire"), "over")
    assert not with_class(tree(goats, "wire"), "over")


def test_a_job_without_a_kit_draws_no_panel_and_no_cable(goats) -> None:
    bare = goats
    for option in goats.options:
        bare, _ = remove_option(bare, option.id)
    root = tree(bare)
    assert not with_class(root, "panel")
    assert not with_class(root, "cable")
    assert "not chosen" in with_class(root, "part-pump")[0].get("aria-label")


@pytest.mark.parametrize(("outlet", "mark"), [("open", 1), ("tank-above", 1), ("tank-below", 1), ("loop", 1)])
def test_every_kind_of_outlet(goats, parts, outlet: str, mark: int) -> None:
    root = tree(edit(goats, "outlet", outlet, parts))
    assert len(with_class(root, "outlet")) >= mark


@pytest.mark.parametrize("lift", ["0 m", "0.3 m", "2 m", "240 m"])
def test_any_lift_can_be_drawn(goats, parts, lift: str) -> None:
    root = tree(edit(goats, "lift", lift, parts))
    ticks = ["".join(t.itertext()).replace("\u2212", "-") for t in with_class(root, "staff-words")][:-1]
    assert 3 <= len(ticks) <= 14
    assert ticks == sorted(ticks, key=float)


def test_the_staff_is_in_the_persons_units(goats) -> None:
    assert "".join(with_class(tree(goats, units="us"), "staff-words")[-1].itertext()) == "ft"
    assert "".join(with_class(tree(goats), "staff-words")[-1].itertext()) == "m"


def test_thumbnails_need_nothing_worked_out_and_have_no_words(goats) -> None:
    lost = goats.model_copy(update={"climate": "gone"})
    root = ElementTree.fromstring(str(draw_thumbnail(3, lost)))
    assert not list(root.iter(f"{SVG}text"))
    assert not list(root.iter(f"{SVG}a"))
    assert with_class(root, "panel")


def test_names_of_people_are_escaped(goats, parts) -> None:
    odd = edit(goats, "run.p1.name", "<b>&'\"", parts)
    ElementTree.fromstring(str(draw(1, "Goats", assess(odd), "survey", narrow=False)))


def test_the_file_stands_alone(goats) -> None:
    text = draw_file(1, "Goats", assess(goats), "lift")
    root = ElementTree.fromstring(text.split("?>", 1)[1])
    style = next(root.iter(f"{SVG}style")).text
    assert ".hose" in style
    assert "url(http" not in text


@pytest.mark.parametrize("narrow", [False, True])
def test_touch_targets_are_large_enough(goats, narrow: bool) -> None:
    """WCAG 2.2, success criterion 2.5.8: 24 by 24 CSS px; both sheets are shown at about 1:1 or larger."""
    for target in with_class(tree(goats, narrow=narrow), "touch"):
        assert float(target.get("width")) >= 24
        assert float(target.get("height")) >= 14


def test_a_surface_pump_stands_on_the_bank(goats, parts) -> None:
    options = [goats.options[1].model_copy(update={"pump": "heron-s", "panel": "ridge-215", "in_parallel": 1})]
    root = tree(goats.model_copy(update={"options": options, "chosen": options[0].id}))
    pump, level = with_class(root, "pump")[0], with_class(root, "water-level")[0]
    assert float(pump.get("y")) + float(pump.get("height")) < float(level.get("y1"))
    assert points_of(with_class(root, "hose")[0])[0][1] > float(level.get("y1"))
