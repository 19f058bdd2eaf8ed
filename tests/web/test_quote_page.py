"""The quote's page and paper tell the same; what was for now is told on every page once its day is over."""

from io import BytesIO

from bs4 import BeautifulSoup
from pypdf import PdfReader


def plain(words: str) -> str:
    return " ".join(words.replace("\u202f", "").replace("\u00a0", " ").split())


def test_page_and_paper_name_the_same_price(client) -> None:
    for field, text in (("labour", "6 h"), ("rate", "20"), ("tax", "15 %"), ("customer", "Tamsin Ferro")):
        client.type(f"quote.{field}", text, stage="quote")
    page = BeautifulSoup(client.get("/jobs/1/quote").text, "html.parser")
    row = next(div for div in page.select("#price .figures > div") if div.dt.text == "To pay")
    price = plain(row.select_one(".why").text)
    paper = plain(
        BeautifulSoup(client.get("/jobs/1/sheet/quote").text, "html.parser").select_one(".paper").get_text(" ")
    )
    assert f"to pay {price}" in paper
    assert "For Tamsin Ferro" in paper
    assert "Not in this price: travel;" in paper
    assert "Y-leads" in paper, "what no list has a price of is named"
    assert "float switch" in paper, "and what is paid for"
    made = client.get("/jobs/1/sheet/quote.pdf")
    told = plain(" ".join(page.extract_text() for page in PdfReader(BytesIO(made.content)).pages))
    assert price in told
    assert "What it won't" in told


def test_without_a_kit_there_is_nothing_to_quote(client) -> None:
    assert "No kit is chosen yet" in client.get("/jobs/5/quote").text
    assert "nothing to quote" in client.get("/jobs/5/sheet/quote").text


def test_a_paper_without_a_kit_says_what_is_missing(client) -> None:
    """Every paper said that no kit was chosen, whatever it was that nobody had said."""
    told = client.change("/jobs", {"name": "Reeds", "kind": "bilge-in-pond"}, htmx=False)
    number = told.headers["location"].split("/jobs/")[1].split("/")[0]
    for kind in ("quote", "labels", "cards", "handover", "fault", "booklet", "build", "test", "job"):
        paper = client.get(f"/jobs/{number}/sheet/{kind}").text
        assert "place" in BeautifulSoup(paper, "html.parser").select_one(".paper").text, kind
        assert "No kit is chosen" not in paper, kind


def test_a_refused_kit_is_quoted_with_its_reason(client) -> None:
    client.type("options.o2.in_series", "3", stage="kits")
    for path in ("/jobs/1/quote", "/jobs/1/sheet/quote"):
        told = plain(BeautifulSoup(client.get(path).text, "html.parser").text)
        assert "This kit won't do" in told, path
    assert "nothing to quote" in client.get("/jobs/1/sheet/quote").text


def test_a_wrong_price_is_told_and_nothing_lost(client) -> None:
    answer = client.type("quote.rate", "a goat", stage="quote")
    assert answer.status_code == 422
    assert 'value="a goat"' in answer.text


def test_what_is_late_is_told_on_every_page(client) -> None:
    row = {"stage": "fit", "list": "fit.for_now", "what": "25 A fuse", "until": "2026-03-01"}
    assert client.change("/jobs/1/row", row).status_code == 200
    for page in ("survey", "power", "fit"):
        assert "25 A fuse was fitted for now" in client.get(f"/jobs/1/{page}").text
    assert "to be put right by 2026-03-01" in client.get("/jobs/1/sheet/build").text
    wrong = client.change("/jobs/1/row", {**row, "until": "soon"})
    assert wrong.status_code == 422
    assert 'value="soon"' in wrong.text
    gone = client.change("/jobs/1/do/remove-row", {"stage": "fit", "item": "fit.for_now.f1"})
    assert "was fitted for now" not in gone.text
