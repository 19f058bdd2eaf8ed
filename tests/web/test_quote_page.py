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
    assert "Not in this price: travel." in paper
    made = client.get("/jobs/1/sheet/quote.pdf")
    told = plain(" ".join(page.extract_text() for page in PdfReader(BytesIO(made.content)).pages))
    assert price in told
    assert "What it won't" in told


def test_without_a_kit_there_is_nothing_to_quote(client) -> None:
    assert "nothing to quote" in client.get("/jobs/5/quote").text
    assert "nothing to quote" in client.get("/jobs/5/sheet/quote").text


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
