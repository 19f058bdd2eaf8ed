"""The long-section as geometry: everything connected, to scale, and whole for every job and lens."""

import re
from xml.etree import ElementTree

import pytest

from squall.demo import demo_jobs
from squall.drawing import draw, draw_file, draw_thumbnail
from squall.drawing.labels import Room, Word
from squall.job.document.fields import edit
from squall.job.edit.kits import remove_option
from squall.job.stages import MAIN
from squall.job.worked.assess import assess
from squall.words import Voice, speaking

SVG = "{http://www.w3.org/2000/svg}"


def tree(job, stage: str = "survey", size: str = "wide", units: str = "metric") -> ElementTree.Element:
    with speaking(Voice(units)):
        return ElementTree.fromstring(str(draw(1, "Goats", assess(job), stage, size=size)))


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
@pytest.mark.parametrize("size", ["wide", "beside", "narrow"])
def test_every_job_draws_in_every_lens(number: int, stage: str, size: str) -> None:
    with speaking(Voice("us")):
        text = str(draw(1, "Goats", assess(demo_jobs()[number]), stage, size=size))
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
    assert "fuse 7.5 A" in words.replace("\u00a0", " ")


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
    ElementTree.fromstring(str(draw(1, "Goats", assess(odd), "survey", size="wide")))


def test_the_file_stands_alone(goats) -> None:
    text = draw_file(1, "Goats", assess(goats), "lift")
    root = ElementTree.fromstring(text.split("?>", 1)[1])
    style = next(root.iter(f"{SVG}style")).text
    assert ".hose" in style
    assert "url(http" not in text


@pytest.mark.parametrize("size", ["beside", "narrow"])
def test_touch_targets_are_large_enough(goats, size: str) -> None:
    """WCAG 2.2, success criterion 2.5.8: 24 by 24 CSS px; both sheets are shown at about 1:1 or larger."""
    for target in with_class(tree(goats, size=size), "touch"):
        assert float(target.get("width")) >= 24
        assert float(target.get("height")) >= 14


def test_a_surface_pump_stands_on_the_bank(goats, parts) -> None:
    options = [goats.options[1].model_copy(update={"pump": "heron-s", "panel": "ridge-215", "in_parallel": 1})]
    root = tree(goats.model_copy(update={"options": options, "chosen": options[0].id}))
    pump, level = with_class(root, "pump")[0], with_class(root, "water-level")[0]
    assert float(pump.get("y")) + float(pump.get("height")) < float(level.get("y1"))
    assert points_of(with_class(root, "hose")[0])[0][1] > float(level.get("y1"))


def test_a_surface_pumps_cable_ends_at_the_pump_and_the_pools_bed_is_no_box(goats) -> None:
    options = [goats.options[1].model_copy(update={"pump": "heron-s", "panel": "ridge-215", "in_parallel": 1})]
    root = tree(goats.model_copy(update={"options": options, "chosen": options[0].id}))
    pump, cable = with_class(root, "pump")[0], points_of(with_class(root, "cable")[0])
    x, y = float(pump.get("x")), float(pump.get("y"))
    assert x - 1 <= cable[-1][0] <= x + float(pump.get("width")) + 1
    assert y - 1 <= cable[-1][1] <= y + float(pump.get("height")) + 1
    wet = points_of(next(w for w in with_class(root, "water") if w.tag == f"{SVG}path"))
    assert len({round(px) for px, _ in wet}) > 8, "a bed that falls away has more than four corners"


def test_a_hose_has_one_name_on_the_drawing(goats) -> None:
    """The trade size of the kit's hose, not its true bore beside it."""
    for units, name, bore in (("metric", "13 mm", "12.7 mm"), ("us", "1/2 in", "0.5 in")):
        said = "".join(tree(goats, units=units).itertext())
        assert name in said
        assert bore not in said


def test_words_find_free_places() -> None:
    """A word stands where it wants to if that is free, beside a line that crosses it if not, and inside the sheet always."""
    room = Room(300.0, 200.0)
    word = Word(100.0, 100.0, "lift 9.4 m", "start")
    assert room.place(word) == (100.0, 100.0, "start")
    crossed = Room(300.0, 200.0)
    crossed.line([(90.0, 98.0), (220.0, 98.0)])
    x, y, _ = crossed.place(word)
    assert (x, y) != (100.0, 100.0)
    assert y - 0.8 * word.size > 98.0 or y + 0.3 * word.size < 98.0 or x > 220.0
    both = Room(300.0, 200.0)
    first, second = both.place(word), both.place(word)
    assert abs(first[1] - second[1]) > word.size or abs(first[0] - second[0]) > word.width
    edge = Room(300.0, 200.0)
    x, y, _ = edge.place(Word(290.0, 199.0, "lift 9.4 m", "start"))
    assert x + word.width < 300.0
    assert y < 200.0
