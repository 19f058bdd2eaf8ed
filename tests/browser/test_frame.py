"""The frame: the work in sight on a laptop, on a phone and at twice the size; drawing and verdict in sight while the hand works."""

import pytest
from hand import retype
from playwright.sync_api import Browser, Page, expect

from squall.job.stages import STAGES

PAGES = [f"/jobs/{number}/{key}" for number in (1, 4) for key in STAGES]
ONE_JOB = PAGES[: len(STAGES)]
BEGINS, FILLS, FIRST_CONTROL, TALLEST, MOST_TABS = 330, 0.45, 700, 4000, 6

SEEN = """() => {
  const seen = (s) => { const b = document.querySelector(s).getBoundingClientRect();
    return b.bottom > 0 && b.top < innerHeight && b.height > 20 ? Math.min(b.bottom, innerHeight) - Math.max(b.top, 0) : 0; };
  const w = document.getElementById("work").getBoundingClientRect();
  return {top: w.top, share: (Math.min(w.bottom, innerHeight) - w.top) * w.width / (innerWidth * innerHeight),
          drawing: seen(".drawing"), verdict: seen("#verdict"), stampIn: !!document.querySelector("#work .stamp"),
          wide: document.documentElement.scrollWidth > innerWidth};
}"""

# Samples every line of a drawing and counts those that run through the words that could have stood elsewhere.
CROSSED = """() => {
  const svg = [...document.querySelectorAll("svg.section")].find((s) => s.getBoundingClientRect().height > 0);
  const bad = [];
  const lines = [...svg.querySelectorAll("path.hose, path.cable, path.grade, line.measure, line.datum")].map((line) => {
    const all = line.getTotalLength(), points = [];
    for (let n = 0; n <= 300; n++) { const p = line.getPointAtLength(all * n / 300); points.push([p.x, p.y]); }
    return [line.getAttribute("class"), points];
  });
  for (const text of svg.querySelectorAll("text:not(.staff-words):not(.sun-words):not(.test-words)")) {
    const box = text.getBBox();
    if (!box.width) continue;
    for (const [called, points] of lines)
      if (points.some(([x, y]) => x > box.x && x < box.x + box.width && y > box.y + 2 && y < box.y + box.height - 2)) bad.push(`${text.textContent} x ${called}`);
    for (const other of svg.querySelectorAll("text")) {
      if (other === text) continue;
      const b = other.getBBox();
      if (b.width && Math.min(b.x + b.width, box.x + box.width) - Math.max(b.x, box.x) > 1 && Math.min(b.y + b.height, box.y + box.height) - Math.max(b.y, box.y) > 3) bad.push(`${text.textContent} on ${other.textContent}`);
    }
    const view = svg.viewBox.baseVal;
    if (box.x < 0 || box.x + box.width > view.width + 1) bad.push(`${text.textContent} out of the sheet`);
  }
  return bad;
}"""


# On Fit the step's tick is what is filled in.
IN_A_FIELD = "!!document.activeElement.closest('#work') && document.activeElement.matches('input, select, textarea, .tick-button')"


def test_the_work_begins_high_and_fills_the_screen_and_no_word_is_crossed(laptop: Page) -> None:
    for path in PAGES:
        laptop.goto(path)
        seen = laptop.evaluate(SEEN)
        assert seen["top"] <= BEGINS, path
        assert seen["share"] >= FILLS, path
        assert not seen["stampIn"], path
        assert not seen["wide"], path
        laptop.mouse.wheel(0, 100_000)
        seen = laptop.evaluate(SEEN)
        assert seen["drawing"] > 150, f"{path}: the drawing is out of sight at the bottom"
        assert seen["verdict"] > 15, f"{path}: the verdict is out of sight at the bottom"
        assert laptop.evaluate(CROSSED) == [], path


def test_on_a_phone_the_first_control_is_near_and_no_page_is_endless(phone: Page) -> None:
    for path in PAGES[len(STAGES) :]:
        phone.goto(path)
        if path.endswith("kits"):
            expect(phone.locator("#trial-words")).to_be_visible(timeout=60_000)
            phone.locator(".kits tbody tr").first.wait_for()
        first = phone.evaluate(
            "[...document.querySelectorAll('#work :is(input:not([type=hidden]),select,textarea,button,summary)')].concat([...document.querySelectorAll('#work .block a')]).find(e => e.checkVisibility() && e.getBoundingClientRect().height > 0).getBoundingClientRect().top + scrollY"
        )
        assert first <= FIRST_CONTROL, path
        assert phone.evaluate("document.documentElement.scrollHeight") <= TALLEST, path
        assert not phone.evaluate(SEEN)["wide"], path
        phone.evaluate("window.scrollTo(0, 100000)")
        seen = phone.evaluate(SEEN)
        assert seen["drawing"] > 60, path
        assert seen["verdict"] > 15, path


def test_the_drawing_on_a_phone_is_pulled_open_and_a_part_leads_to_its_place(phone: Page) -> None:
    phone.goto("/jobs/4/survey")
    expect(phone.locator("#levers")).to_be_hidden()
    phone.locator("#side-more > summary").click()
    expect(phone.locator("#levers")).to_be_visible()
    assert phone.evaluate(CROSSED) == []
    phone.locator("svg.narrow a.part-run").first.dispatch_event("click")
    expect(phone.locator("#part-run-p1")).to_have_attribute("open", "")
    expect(phone.locator("#f-run-p1-length")).to_be_visible()
    expect(phone.locator("#levers")).to_be_hidden()


def test_the_keyboard_reaches_the_first_field_soon(laptop: Page) -> None:
    for path in ONE_JOB:
        if path.endswith("/learned"):  # it tells and asks nothing
            continue
        laptop.goto(path)
        asked, there = 0, False
        while not there and asked < 30:
            laptop.keyboard.press("Tab")
            asked += 1
            there = laptop.evaluate(IN_A_FIELD)
        assert asked <= MOST_TABS, f"{path}: {asked}"
    laptop.goto("/jobs/1/need")
    laptop.keyboard.press("Tab")
    laptop.keyboard.press("Enter")
    assert laptop.evaluate("document.activeElement.id") == "work"


def test_twice_the_size_keeps_the_work_on_the_first_screen(browser: Browser, address: str) -> None:
    page = browser.new_context(viewport={"width": 640, "height": 400}, base_url=address).new_page()
    page.set_default_navigation_timeout(90_000)
    for path in ONE_JOB:
        page.goto(path)
        assert page.evaluate(SEEN)["top"] < 300, path
        assert not page.evaluate(SEEN)["wide"], path
    page.context.close()


def test_arrows_move_along_the_stages_which_are_one_stop_of_the_tab_key(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    laptop.locator(".tape a[aria-current]").focus()
    laptop.keyboard.press("ArrowRight")
    assert laptop.evaluate("document.activeElement.textContent") == "Need"
    laptop.keyboard.press("Enter")
    laptop.wait_for_url("**/need")


def test_folds_stay_as_they_were_left_and_open_where_something_is_wrong(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    laptop.locator("#doubts > summary").click()
    laptop.locator("#f-lift").fill("8 m")
    laptop.locator("#f-lift").press("Tab")
    expect(laptop.locator("svg.beside")).to_contain_text("lift 8")
    expect(laptop.locator("#f-doubt-lengths")).to_be_visible()
    laptop.locator("#f-doubt-lengths").fill("many")
    laptop.locator("#f-doubt-lengths").press("Tab")
    expect(laptop.locator("#f-doubt-lengths-problem")).not_to_be_empty()
    laptop.locator("#doubts > summary").click()
    laptop.locator("#part-run-p1 > summary").click()
    laptop.locator("#f-run-p1-length").fill("60 m")
    laptop.locator("#f-run-p1-length").press("Tab")
    expect(laptop.locator("#saved")).to_have_text("saved")
    expect(laptop.locator("#doubts")).not_to_have_attribute("open", "")
    laptop.goto("/jobs/1/survey#part-run-p2")
    expect(laptop.locator("#f-run-p2-length")).to_be_visible()


def test_a_part_of_the_drawing_opens_its_place_and_the_rest_steps_back(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    laptop.locator("#doubts > summary").click()
    laptop.locator("svg.beside a.part-run").nth(1).click(force=True)
    expect(laptop.locator("#f-run-p2-length")).to_be_focused()
    expect(laptop.locator("#doubts")).not_to_have_attribute("open", "")


def test_a_fitting_is_added_from_the_list_and_taken_off_by_nothing(laptop: Page) -> None:
    laptop.goto("/jobs/5/survey#part-run-p1")
    laptop.locator("#fit-p1").select_option("p1:elbow")
    laptop.locator("#part-run-p1").get_by_role("button", name="Add it").click()
    expect(laptop.locator("#f-run-p1-fittings-elbow")).to_have_value("1")
    laptop.locator("#f-run-p1-fittings-elbow").fill("0")
    laptop.locator("#f-run-p1-fittings-elbow").press("Tab")
    expect(laptop.locator("#f-run-p1-fittings-elbow")).to_have_count(0)


def test_letters_can_be_switched_off(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    laptop.keyboard.press("?")
    laptop.locator("#letters-on").uncheck()
    laptop.keyboard.press("Escape")
    laptop.locator("h1").click()
    laptop.keyboard.press("l")
    laptop.wait_for_timeout(300)
    assert laptop.url.endswith("/survey")


# How far the page is moved on the way, in screens: over all pages of the walk.
ROLLED = """
let last = 0;
addEventListener("scroll", () => {
  sessionStorage.setItem("rolled", Number(sessionStorage.getItem("rolled") || 0) + Math.abs(scrollY - last) / innerHeight);
  last = scrollY;
}, { capture: true });
"""
MOST_ACTS, MOST_SCREENS = 14, 3.0


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_from_the_list_to_the_sheet_is_a_short_walk(request: pytest.FixtureRequest, screen: str) -> None:
    """A creek, 31 ft up, 240 ft of 3/4 in, 400 gal a day."""
    page: Page = request.getfixturevalue(screen)
    page.add_init_script(ROLLED)
    page.goto("/")
    page.get_by_role("button", name="ft, gal").click()
    acts = 0

    def act(do) -> None:
        nonlocal acts
        do()
        acts += 1

    act(lambda: page.locator("#new-name").fill("Creek to the tank"))
    act(lambda: page.get_by_label("What water").select_option(label="stream"))
    act(lambda: page.get_by_label("How far up").fill("31 ft"))
    act(lambda: page.get_by_label("How much a day").fill("400 gal"))
    act(lambda: page.get_by_role("button", name="Draw it").click())
    act(lambda: page.locator("#f-run-p1-hose").select_option("hose-19"))
    expect(page.locator("#saved")).to_have_text("saved")
    act(lambda: retype(page, "#f-run-p1-length", "240 ft"))
    act(lambda: page.locator("#place-at").fill("30.4 S 24.6 E"))
    act(lambda: page.get_by_role("button", name="Put the job there").click())
    act(lambda: page.locator(".tape").get_by_text("Kits").click())
    page.locator("#trial-words").wait_for(timeout=60_000)
    act(lambda: page.locator(".kits tbody tr").first.get_by_role("button", name="Take").click())
    expect(page.locator(".stamp").first).to_contain_text("holds")
    if screen == "phone":
        act(lambda: page.locator("#side-more > summary").click())
    act(lambda: page.get_by_role("link", name="Test sheet").click())
    expect(page.locator(".lights tbody tr")).to_have_count(6)
    assert acts <= MOST_ACTS
    assert page.evaluate("Number(sessionStorage.getItem('rolled') || 0)") <= MOST_SCREENS
