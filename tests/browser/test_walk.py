"""The whole walk in a browser: from a list of jobs to a judged reading, on a laptop and on a phone."""

import re

import pytest
from axe import faults
from hand import retype, unfold
from playwright.sync_api import Page, expect

# What is seen of a control must stand in what is read out of it: off by default, since it is new.
# A theme changes colours and nothing else: the other rules are asked once a screen.
STAGES = ["survey", "need", "lift", "power", "kits", "wire", "prove"]


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_the_walk(request: pytest.FixtureRequest, screen: str) -> None:
    page: Page = request.getfixturevalue(screen)
    page.goto("/")
    expect(page.locator(".job-row")).to_have_count(5)
    page.get_by_text("Goat trough on Kestrel Ridge").click()
    verdict = page.locator("#verdict")
    first = verdict.inner_text()

    # survey: typed in feet, with a decimal comma, wrong, and right again
    retype(page, "#f-lift", "25 ft")
    expect(verdict).not_to_have_text(first)
    expect(page.locator("#f-lift")).to_have_value("25 ft")
    retype(page, "#f-lift", "3 gpm")
    expect(page.locator("#f-lift-problem")).to_contain_text("that is a flow")
    expect(page.locator("#f-lift")).to_have_value("3 gpm")
    retype(page, "#f-lift", "7,6 m")
    expect(page.locator("#f-lift-problem")).to_be_empty()
    retype(page, "#f-run-p1-length", "60 m")
    expect(page.locator("#f-run-p1-length")).to_have_value("60 m")

    # need
    page.locator(".tape").get_by_text("Need").click()
    retype(page, "#f-herd-h1-count", "90")
    expect(page.locator("#verdict")).to_contain_text(re.compile("needs 930|needs 520"))

    # lift and power: charts are drawn
    for stage, chart in (("Lift", "#chart-curves"), ("Power", ".strip")):
        page.locator(".tape").get_by_text(stage).click()
        expect(page.locator(f"{chart} svg")).to_be_visible()

    # why?
    page.locator("button.why").first.click()
    expect(page.locator("[popover]:popover-open")).to_contain_text("Source")
    page.keyboard.press("Escape")
    expect(page.locator("[popover]:popover-open")).to_have_count(0)

    # kits: the catalogue is ranked; one click takes a kit, two stand side by side
    page.locator(".tape").get_by_text("Kits").click()
    expect(page.locator(".kits tbody tr").first).to_contain_text("cheapest that holds", timeout=60_000)
    page.locator(".kits tbody tr").filter(has_text="Heron S").first.get_by_role("button", name="Take").click()
    expect(page.locator(".options thead th")).to_have_count(4)

    # a lever and its undo
    before = verdict.inner_text()
    if screen == "phone":
        page.locator("#side-more > summary").click()
    page.locator(".lever").first.click()
    expect(verdict).not_to_have_text(before)
    page.locator("#undo").click()
    expect(verdict).to_have_text(before)

    # wire
    page.locator(".tape").get_by_text("Wire").click()
    expect(page.locator("#part-fuse")).to_contain_text("A stalled pump draws")
    size = page.locator("#part-cable-pump input[list]")
    size.fill("20 awg")
    size.press("Tab")
    expect(page.locator("#part-cable-pump")).to_contain_text("thicker size")
    page.locator("#undo").click()

    # prove: light from short-circuit amps, readings judged and kept
    page.locator(".tape").get_by_text("Prove").click()
    retype(page, "#short", "1,5")
    expect(page.locator("#light-now .note")).to_contain_text("short-circuit amps")
    expect(page.locator("#short")).to_have_value("1,5")
    page.locator("#m-open-volts").fill("19,8 V")
    page.locator("#m-pump-amps").fill("0.01")
    page.get_by_role("button", name="Judge and keep").click()
    expect(page.locator(".visit").first.locator(".judge")).to_have_count(2)
    expect(page.locator(".visit").first).to_contain_text("low")
    expect(page.locator("#m-open-volts")).to_have_value("")
    expect(page.locator("#short")).to_have_value("1,5")
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), "the page scrolls sideways"


def test_every_part_is_reached_by_tab_and_opens_its_panel(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    seen: set[str] = set()
    for _ in range(40):
        laptop.keyboard.press("Tab")
        name = laptop.evaluate("document.activeElement.getAttribute('class') || ''")
        seen |= {word for word in name.split() if word.startswith("part-")}
    assert seen >= {"part-water", "part-lift", "part-run", "part-pump", "part-panel", "part-outlet", "part-cable-pump"}
    laptop.locator("svg.beside a.part-panel").focus()
    laptop.keyboard.press("Enter")
    laptop.wait_for_url("**/power#part-panel")


def test_letters_move_between_stages_but_not_while_typing(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    laptop.keyboard.press("l")
    laptop.wait_for_url("**/lift")
    laptop.keyboard.press("?")
    expect(laptop.locator("#keys")).to_be_visible()
    laptop.keyboard.press("Escape")
    laptop.keyboard.press("s")
    laptop.wait_for_url("**/survey")
    laptop.keyboard.press("/")
    laptop.keyboard.type("drop allowed")
    expect(laptop.locator("#find-hits a").first).to_contain_text("Drop allowed", timeout=15_000)
    assert laptop.url.endswith("/survey")
    laptop.keyboard.press("Enter")
    laptop.wait_for_url("**/wire#f-max_drop-form")
    expect(laptop.locator("#f-max_drop")).to_be_focused()
    laptop.keyboard.press("Escape")
    laptop.keyboard.press("s")
    laptop.wait_for_url("**/survey")
    laptop.keyboard.press("/")
    laptop.keyboard.type("rim above")
    expect(laptop.locator("#find-hits a").first).to_contain_text("rim above", timeout=15_000)
    laptop.keyboard.press("Enter")
    expect(laptop.locator("#f-rim")).to_be_focused()
    laptop.locator("h1").click()
    laptop.keyboard.press("n")
    expect(laptop.locator("#new-value")).to_be_focused()
    laptop.locator("h1").click()
    laptop.keyboard.press("d")
    laptop.wait_for_url("**/need")
    laptop.keyboard.press("n")
    laptop.wait_for_url("**/prove")


def test_what_is_being_typed_survives_an_answer(laptop: Page) -> None:
    """The answer to one field arrives while the next is half typed: focus and text stay."""
    laptop.goto("/jobs/1/survey")
    laptop.locator("#f-lift").fill("8 m")
    laptop.locator("#f-lift").press("Tab")
    laptop.locator("#f-pump_depth").focus()
    laptop.keyboard.press("Control+A")
    laptop.keyboard.type("0.8")
    expect(laptop.locator("svg.beside")).to_contain_text("lift 8")
    assert laptop.evaluate("document.activeElement.id") == "f-pump_depth"
    laptop.keyboard.type(" m")
    laptop.keyboard.press("Tab")
    expect(laptop.locator("#f-pump_depth")).to_have_value("0.8 m")


def test_two_tabs_on_one_field_ask(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    other = laptop.context.new_page()
    other.goto(laptop.url)
    retype(laptop, "#f-lift", "8 m")
    expect(laptop.locator("svg.beside")).to_contain_text("lift 8")
    retype(other, "#f-lift", "7 m")
    expect(other.locator(".conflict")).to_contain_text("8 m")
    other.get_by_role("button", name="Keep mine").click()
    expect(other.locator(".conflict")).to_have_count(0)
    expect(other.locator("#f-lift")).to_have_value("7 m")
    other.close()


def test_bucket_timer_fills_the_sheet(phone: Page) -> None:
    phone.goto("/jobs/1/prove")
    button = phone.locator(".thumb-button")
    button.click()
    expect(button).to_have_text("Stop")
    phone.wait_for_timeout(900)
    button.click()
    phone.get_by_role("button", name="Put it in the sheet").click()
    expect(phone.locator("#m-outlet-flow")).to_have_value(re.compile(r"^\d+\.\d+ L/min$"))


def test_a_job_deleted_while_a_fresh_board_is_on_its_way_stays_deleted(laptop: Page) -> None:
    held = []
    laptop.route("**/board*", lambda route: held.append((route, route.fetch())))
    laptop.goto("/")
    delete = laptop.get_by_role("button", name="Delete Duck nursery channel")
    expect(delete).to_be_visible()
    for _ in range(600):
        if held:
            break
        laptop.wait_for_timeout(100)
    assert held, "no fresh board was asked for"
    delete.click()
    expect(laptop.get_by_role("button", name="Bring it back")).to_be_visible()
    for route, response in held:
        route.fulfill(response=response)
    expect(laptop.locator("#hands")).to_be_visible()
    expect(laptop.get_by_role("button", name="Bring it back")).to_be_visible()
    expect(delete).to_have_count(0)


def test_job_is_exported_deleted_and_imported(laptop: Page, tmp_path) -> None:
    laptop.goto("/")
    # The board comes anew once all jobs are worked out; what is done to a row waits for that.
    expect(laptop.locator("#hands")).to_be_visible(timeout=60_000)
    with laptop.expect_download() as download:
        laptop.get_by_role("link", name="Export Duck nursery channel").click()
    file = tmp_path / "ducks.json"
    download.value.save_as(file)
    laptop.get_by_role("button", name="Delete Duck nursery channel").click()
    expect(laptop.locator(".job-link")).to_have_count(4)
    expect(laptop.get_by_role("button", name="Bring it back")).to_be_visible()
    unfold(laptop, "#import-file")
    laptop.locator("#import-file").set_input_files(file)
    laptop.get_by_role("button", name="Import", exact=True).click()
    expect(laptop.locator("h1")).to_have_text("Duck nursery channel")
    broken = tmp_path / "broken.json"
    broken.write_text(file.read_text()[:400])
    laptop.goto("/")
    unfold(laptop, "#import-file")
    laptop.locator("#import-file").set_input_files(broken)
    laptop.get_by_role("button", name="Import", exact=True).click()
    expect(laptop.locator(".banner.bad")).to_contain_text("cut off or damaged")


# Every theme and every screen, each theme on one: colours don't hang on the width.
@pytest.mark.parametrize(
    ("theme", "screen", "rules"),
    [
        ("light", "laptop", "all"),
        ("dark", "phone", "colours"),
        ("sun", "laptop", "colours"),
        ("light", "phone", "but colours"),
    ],
)
def test_axe_finds_nothing(request: pytest.FixtureRequest, screen: str, theme: str, rules: str) -> None:
    page: Page = request.getfixturevalue(screen)
    page.goto("/")
    page.get_by_role("button", name=theme, exact=True).click()
    expect(page.locator("html")).to_have_attribute("data-theme", theme)
    every = [
        "/",
        *(f"/jobs/1/{stage}" for stage in STAGES),
        "/jobs/1/sheet/test",
        "/jobs/1/sheet/job",
        "/jobs/1/sheet/cards",
        "/jobs/1/sheet/booklet",
        "/yard",
        "/jobs/1/live?standin=none",
        "/practise",
        "/practise/lesson?kit=four+panels&red=lead-plus&black=lead-minus&acts=turns,off",
        "/practise/course/outlet?step=1&said=half",
        "/find?q=hose&job=1",
        "/sums",
        "/parts",
        "/nope",
    ]
    some = ["/", "/jobs/1/survey", "/jobs/1/power", "/jobs/1/kits", "/jobs/1/prove", "/parts"]
    for address in every if theme == "light" else some:
        page.goto(address)
        if address.endswith("kits"):
            expect(page.locator(".kits tbody tr").first).to_be_visible(timeout=60_000)
        assert not faults(page, rules), address


def test_print_hides_what_paper_does_not_need(laptop: Page) -> None:
    laptop.goto("/jobs/1/sheet/test")
    laptop.emulate_media(media="print")
    expect(laptop.locator(".masthead")).to_be_hidden()
    expect(laptop.locator("svg.wide")).to_be_visible()
    expect(laptop.get_by_role("button", name="Print")).to_be_hidden()


def test_ranking_progress_is_shown_and_ends(laptop: Page) -> None:
    laptop.goto("/jobs/4/kits")
    expect(laptop.locator(".kits tbody tr").first).to_contain_text("cheapest that holds", timeout=60_000)
    laptop.get_by_text("Refused kits, and why").click()
    expect(laptop.locator("#kit-search .refused-kits tbody tr").first).to_be_visible()
