"""Without scripts, without a network, on paper, by keys, and with long names."""

from collections.abc import Iterator
from io import BytesIO

import pytest
from axe import faults
from hand import retype
from playwright.sync_api import Browser, Page, expect
from pypdf import PdfReader

STAGES = ["survey", "need", "lift", "power", "kits", "wire", "prove"]


@pytest.fixture
def plain(browser: Browser, address: str) -> Iterator[Page]:
    """A browser that runs no scripts."""
    context = browser.new_context(java_script_enabled=False, base_url=address, viewport={"width": 1280, "height": 800})
    yield context.new_page()
    context.close()


def test_the_walk_without_scripts(plain: Page) -> None:
    plain.goto("/jobs/1/survey")
    plain.locator("#f-lift").fill("8 m")
    plain.locator("#f-lift").press("Enter")
    expect(plain.locator("#f-lift")).to_have_value("8 m")
    plain.locator("#f-lift").fill("3 gpm")
    plain.locator("#f-lift").press("Enter")
    expect(plain.locator("#f-lift-problem")).to_contain_text("that is a flow")
    plain.goto("/jobs/1/prove")
    plain.locator("#m-open-volts").fill("20.1")
    plain.get_by_role("button", name="Judge and keep").click()
    expect(plain.locator(".visit")).to_have_count(2)
    plain.get_by_role("button", name="Undo").click()
    expect(plain.locator(".visit")).to_have_count(1)


def test_nothing_is_asked_of_any_other_machine(laptop: Page) -> None:
    asked: list[str] = []
    laptop.on("request", lambda request: asked.append(request.url))
    for stage in STAGES:
        laptop.goto(f"/jobs/1/{stage}")
        laptop.wait_for_timeout(300)
    own = laptop.url.split("/jobs")[0]
    assert len(asked) > 20
    assert all(url.startswith((own, "data:")) for url in asked)


def test_charts_follow_an_edit(laptop: Page) -> None:
    laptop.goto("/jobs/1/lift")
    chart = laptop.locator("#chart-curves")
    expect(chart.locator("svg")).to_be_visible()
    before = chart.get_attribute("data-chart")
    drawn = chart.inner_html()
    laptop.locator(".lever").first.click()
    expect(chart).not_to_have_attribute("data-chart", before or "")
    expect(chart.locator("svg")).to_be_visible()
    laptop.wait_for_timeout(200)
    assert chart.inner_html() != drawn


def test_units_and_theme_are_kept(laptop: Page) -> None:
    laptop.goto("/jobs/1/power")
    laptop.get_by_role("button", name="ft, gal").click()
    expect(laptop.locator("#verdict")).to_contain_text("gal")
    assert laptop.url.endswith("/jobs/1/power")
    laptop.get_by_role("button", name="sun", exact=True).click()
    laptop.goto("/")
    expect(laptop.locator("html")).to_have_attribute("data-theme", "sun")
    expect(laptop.locator(".job-verdict").first).to_contain_text("gal")


def test_u_undoes(laptop: Page) -> None:
    laptop.goto("/jobs/1/power")
    before = laptop.locator("#verdict").inner_text()
    laptop.locator(".lever").first.click()
    expect(laptop.locator("#verdict")).not_to_have_text(before)
    laptop.locator("h1").click()
    laptop.keyboard.press("u")
    expect(laptop.locator("#verdict")).to_have_text(before)


def test_a_month_can_be_looked_at(laptop: Page) -> None:
    laptop.goto("/jobs/1/power")
    laptop.locator(".month-pick").get_by_text("Dec").click()
    expect(laptop.locator(".month-pick a[aria-current]")).to_have_text("Dec")
    expect(laptop.locator(".strip h3")).to_have_text("An average day in December")


def test_drawing_can_be_taken_away(laptop: Page, tmp_path) -> None:
    laptop.goto("/jobs/1/lift")
    with laptop.expect_download() as download:
        laptop.get_by_role("link", name="Drawing", exact=True).click()
    file = tmp_path / "drawing.svg"
    download.value.save_as(file)
    laptop.goto(file.as_uri())
    assert laptop.evaluate("document.documentElement.tagName") == "svg"


def test_the_sheet_fits_on_paper(laptop: Page) -> None:
    """On A4 and Letter, whatever the theme: one page for the sheet, black on white, the caution with the table that it is about."""
    for theme in ("dark", "sun"):
        laptop.goto("/")
        laptop.get_by_role("button", name=theme, exact=True).click()
        laptop.goto("/jobs/1/sheet/test")
        for size in ("A4", "Letter"):
            made = PdfReader(BytesIO(laptop.pdf(format=size, prefer_css_page_size=False)))
            assert len(made.pages) == 1, (theme, size)
            words = " ".join(made.pages[0].extract_text().split())
            assert "Never open anything" in words
            assert "seconds" in words
        laptop.emulate_media(media="print")
        colours = laptop.evaluate(
            "[getComputedStyle(document.body).backgroundColor, getComputedStyle(document.querySelector('.paper .caution')).color]"
        )
        assert colours == ["rgb(255, 255, 255)", "rgb(0, 0, 0)"], theme
        laptop.emulate_media(media="null")


def test_no_page_scrolls_sideways_on_a_phone(phone: Page) -> None:
    phone.goto("/jobs/1/survey")
    retype(phone, "#f-name", "Antelope-brush hillside reservoir with an unusually long name for anyone's trough")
    expect(phone.locator("h1")).to_contain_text("unusually long")
    for stage in STAGES:
        phone.goto(f"/jobs/1/{stage}")
        if stage == "kits":
            expect(phone.locator(".kits tbody tr").first).to_be_visible(timeout=60_000)
        assert phone.evaluate("document.documentElement.scrollWidth") <= 390, stage


def test_what_a_thumb_must_hit_is_large_enough(phone: Page) -> None:
    """WCAG 2.2, success criterion 2.5.8: 24 CSS px; buttons and fields of the field view are held to 32."""
    for stage in STAGES:
        phone.goto(f"/jobs/1/{stage}")
        phone.evaluate("document.querySelectorAll('details').forEach(d => { d.open = true; })")
        small = phone.evaluate(
            """() => [...document.querySelectorAll('main button, main input:not([type=hidden]):not([type=checkbox]), main select')]
                .filter(e => e.offsetParent && e.getBoundingClientRect().height < 32)
                .map(e => e.outerHTML.slice(0, 80))"""
        )
        assert small == [], stage


def test_two_phones_merge_on_different_fields(phone: Page) -> None:
    phone.goto("/jobs/1/survey")
    other = phone.context.new_page()
    other.goto(phone.url)
    for page, field, text in ((phone, "#f-lift", "8 m"), (other, "#f-rim", "0.9 m")):
        retype(page, field, text)
    expect(other.locator("#f-lift")).to_have_value("8 m")
    expect(other.locator("#f-rim")).to_have_value("0.9 m")
    expect(other.locator(".conflict")).to_have_count(0)
    other.close()


def test_a_piece_and_a_device_come_and_go(laptop: Page) -> None:
    laptop.goto("/jobs/1/survey")
    laptop.get_by_role("button", name="Add a piece").click()
    expect(laptop.locator("#part-run details.row-opens")).to_have_count(3)
    laptop.get_by_role("button", name="Take this piece out").last.click()
    expect(laptop.locator("#part-run details.row-opens")).to_have_count(2)
    laptop.goto("/jobs/1/wire")
    laptop.locator("#add-device").select_option("radio-10")
    laptop.get_by_role("button", name="Put in", exact=True).click()
    expect(laptop.locator(".devices li")).to_have_count(2)
    laptop.get_by_role("button", name="Take out radio switch 10 A").click()
    expect(laptop.locator(".devices li")).to_have_count(1)


def test_a_new_job_goes_from_name_to_kit(laptop: Page) -> None:
    laptop.goto("/")
    laptop.locator("#new-name").fill("Sheep dip at Far Gate")
    laptop.get_by_role("button", name="Draw it").click()
    expect(laptop.locator("h1")).to_have_text("Sheep dip at Far Gate")
    expect(laptop.locator("#verdict")).to_contain_text("where this job is")
    laptop.locator("#place-at").fill("30.4 S 24.6 E")
    laptop.get_by_role("button", name="Put the job there").click()
    expect(laptop.locator("#verdict")).to_contain_text("Nobody has said yet")
    laptop.locator(".tape").get_by_text("Kits").click()
    unsaid = laptop.locator("#unsaid")
    expect(unsaid.get_by_label("Water comes from")).to_have_value("")
    unsaid.get_by_label("Water comes from").select_option("stream")
    expect(laptop.locator("#verdict")).not_to_contain_text("Water comes from")
    for label, typed in (
        ("Lift: pumping water level to outlet", "6 m"),
        ("Length of the hose", "20 m"),
        ("Water a day", "500 L"),
    ):
        expect(unsaid.get_by_label(label)).to_have_value("")
        unsaid.get_by_label(label).fill(typed)
        unsaid.get_by_label(label).press("Enter")
        expect(laptop.locator("#verdict")).not_to_contain_text(label)
    expect(laptop.locator("#verdict")).to_contain_text("No kit is chosen yet")
    for stage in ("Lift", "Power", "Wire", "Prove"):
        laptop.locator(".tape").get_by_text(stage).click()
        expect(laptop.locator("#work")).to_contain_text("No kit is chosen yet")
    laptop.locator(".tape").get_by_text("Kits").click()
    laptop.locator(".kits tbody tr").first.get_by_role("button", name="Take").click(timeout=60_000)
    expect(laptop.locator(".stamp")).to_contain_text("holds")


SHELF = [
    "/parts",
    "/parts?family=pumps&whose=mine",
    "/parts/new?family=panels",
    "/parts/new?copy=stairwell-8",
    "/parts/kite-50",
]


@pytest.mark.parametrize(
    ("screen", "theme", "rules"),
    [("laptop", "light", "all"), ("phone", "dark", "all"), ("phone", "sun", "colours")],
)
def test_axe_finds_nothing_on_the_shelf(request: pytest.FixtureRequest, screen: str, theme: str, rules: str) -> None:
    page: Page = request.getfixturevalue(screen)
    page.goto("/")
    page.get_by_role("button", name=theme, exact=True).click()
    for address in SHELF:
        page.goto(address)
        assert not faults(page, rules), address
    # A form with faults in it.
    page.goto("/parts/new?family=panels")
    page.locator("#part-voc_v").fill("many")
    page.get_by_role("button", name="Put it on the shelf").click()
    expect(page.locator("#part-voc_v-p")).to_contain_text("can't be read")
    assert not faults(page, rules)


def test_from_a_label_to_a_test_sheet_with_no_part_of_the_catalogue(laptop: Page) -> None:
    """A pump by one bucket, a panel by its label, a kit as it stands, its sheet."""
    laptop.goto("/parts/new?family=pumps")
    laptop.get_by_label("Name").fill("Old Faithless")
    laptop.get_by_label("Kind of end").select_option("centrifugal")
    laptop.get_by_label("Stands").select_option("submersible")
    laptop.get_by_label("Volts on its label").fill("12")
    laptop.get_by_label("Points").fill("12 L/min at 8 m, 4 A")
    laptop.get_by_label("Price").fill("55")
    laptop.get_by_role("button", name="Put it on the shelf").click()
    expect(laptop.locator("h1")).to_contain_text("Old Faithless")
    laptop.goto("/parts/new?family=panels")
    laptop.get_by_label("Name").fill("Barn roof 80")
    laptop.get_by_label("Watts").fill("80 W")
    laptop.get_by_label("Open volts").first.fill("22.1")
    laptop.get_by_role("button", name="Put it on the shelf").click()
    laptop.goto("/jobs/1/kits")
    laptop.locator("#enter-kit summary").click()
    laptop.locator("#enter-pump").select_option(label="Old Faithless")
    laptop.locator("#enter-panel").select_option(label="Barn roof 80")
    laptop.locator("#enter-source").select_option("panel")
    laptop.get_by_role("button", name="Enter it").click()
    expect(laptop.locator("#part-kit")).to_contain_text("slot by slot")
    expect(laptop.locator("table.options")).to_contain_text("Old Faithless as it stands (chosen)")
    laptop.locator("#part-kit [id$='-in_parallel']").fill("2")
    laptop.locator("#part-kit [id$='-in_parallel']").press("Enter")
    expect(laptop.locator("table.options")).to_contain_text("2 × Barn roof 80")
    laptop.goto("/jobs/1/sheet/test")
    expect(laptop.locator("body")).to_contain_text("Old Faithless")


def test_a_price_list_is_looked_at_and_taken(phone: Page, tmp_path) -> None:
    file = tmp_path / "mine.csv"
    file.write_text("Name,Watts [W],Open volts [V],Price\nGood 60,60,22,40\nBad,x,22,40\n")
    phone.goto("/parts?family=panels")
    phone.locator("details.lists summary").click()
    phone.locator("input.list-file").set_input_files(file)
    phone.get_by_role("button", name="Look at it first").click()
    expect(phone.locator("main")).to_contain_text("1 new")
    expect(phone.locator("main")).to_contain_text("can't be read")
    phone.get_by_role("button", name="Put the good rows on the shelf").click()
    expect(phone.locator("#panels")).to_contain_text("Good 60")
    phone.get_by_role("button", name="Undo").click()
    expect(phone.locator("main")).to_contain_text("Undone")


@pytest.mark.parametrize("screen", ["laptop", "phone"])
def test_axe_finds_nothing_where_places_lots_and_switches_stand(request: pytest.FixtureRequest, screen: str) -> None:
    """Two places typed by hand, an odd lot, a pressure switch; no page scrolls sideways for them."""
    page: Page = request.getfixturevalue(screen)
    page.goto("/jobs/1/survey")
    page.locator("#part-places > summary").click()
    for name, lift in (("upper trough", "7 m"), ("pen", "3 m")):
        for field, typed in (("name", name), ("lift", lift), ("length", "20 m"), ("share", "20 %")):
            page.locator(f"#new-place-{field}").fill(typed)
        page.get_by_role("button", name="Serve it too").click()
        expect(page.locator("#served")).to_contain_text(name)
    assert not faults(page)
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    page.goto("/jobs/1/kits")
    page.locator("#odd-lot summary").click()
    page.get_by_role("button", name="Put it in the lot").click()
    expect(page.locator("#odd-lot")).to_contain_text("Together like one panel")
    page.goto("/jobs/1/store")
    page.locator("#f-store-cut_in").fill("11 m")
    page.locator("#f-store-cut_in").press("Enter")
    expect(page.locator("#f-store-buffer")).to_be_visible()
    assert not faults(page)
