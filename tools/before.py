"""Ask two running Squalls the same questions, those that a review found 0.3.0 answering wrongly, and print what each says.

``python tools/before.py http://127.0.0.1:8030 http://127.0.0.1:8017`` asks the first and then the second, over nothing but job files of
version 2, the sums and the pages, which both know. Give the old one its own data folder (`--data`) and check it out beside this tree
(``git worktree add ../old 789c34f``). docs/since-0.3.0.md keeps what it printed.
"""

import copy
import json
import re
import sys
from collections.abc import Callable
from html import unescape
from pathlib import Path
from typing import Any

import httpx2

Doc = dict[str, Any]
JOBS = Path(__file__).parents[1] / "tests" / "formats" / "files"


class Asked:
    """A Squall that is asked."""

    def __init__(self, client: httpx2.Client) -> None:
        self.client = client
        client.follow_redirects = False
        found = re.search(r'name="squall-key" content="([^"]+)"', client.get("/").text)
        client.headers["x-squall-key"] = found[1] if found else ""

    def sum(self, name: str, given: Doc) -> Doc:
        """What a sum answers; its refusal under `refused`."""
        answer = self.client.post(f"/api/sums/{name}", json=given)
        return dict(answer.json()) if answer.status_code == 200 else {"refused": answer.text[:300]}

    def job(self, document: Doc) -> str:
        """Take a job in; its address."""
        files = {"file": ("job.json", json.dumps(document).encode(), "application/json")}
        answer = self.client.post("/import", files=files)
        if answer.status_code != 303:
            raise LookupError(text_of(answer.text)[:400])
        return "/".join(answer.headers["location"].split("/")[:3])

    def page(self, where: str) -> str:
        """A page's words."""
        answer = self.client.get(where)
        return f"{answer.status_code} " + text_of(answer.text)

    def verdict(self, document: Doc) -> tuple[str, str]:
        """Stamp and words of a job's verdict."""
        answer = self.client.get(self.job(document) + "/power").text
        stamp = re.search(r'class="stamp[^"]*">([^<]+)', answer)
        words = re.search(r'id="verdict"[^>]*>(.*?)</(?:p|div)>', answer, re.DOTALL)
        return (unescape(stamp[1]).strip() if stamp else "none"), (text_of(words[1]) if words else "")

    def type(self, job: str, path: str, value: str) -> tuple[int, Doc]:
        """Type one field; the status, and the job as it is then."""
        form = {"path": path, "value": value, "stage": "survey", "revision": str(self._revision(job))}
        answer = self.client.post(f"{job}/field", data=form)
        return answer.status_code, self.client.get(f"{job}/export.json").json()

    def _revision(self, job: str) -> int:
        found = re.search(r'name="revision" value="(\d+)"', self.client.get(f"{job}/survey").text)
        return int(found[1]) if found else 1


def text_of(page: str) -> str:
    """Words without tags, script and doubled space."""
    page = re.sub(r"<(script|style)\b.*?</\1>", " ", page, flags=re.DOTALL)
    return " ".join(unescape(re.sub(r"<[^>]+>", " ", page)).split())


Answer = tuple[bool, str]
CASES: list[tuple[str, str, Callable[[Asked], Answer]]] = []


def case(point: str, asked: str) -> Callable[[Callable[[Asked], Answer]], Callable[[Asked], Answer]]:
    """Note a question under its point."""

    def noted(function: Callable[[Asked], Answer]) -> Callable[[Asked], Answer]:
        CASES.append((point, asked, function))
        return function

    return noted


def typed(text: str, si: float) -> Doc:
    """A quantity of a job file."""
    return {"typed": text, "si": si}


def base(**changed: Any) -> Doc:
    """A job of version 2 on the ridge, 9.4 m of lift, with some of its fields changed."""
    document: Doc = json.loads((JOBS / "job-version-2.json").read_text())
    return {**document, **changed}


def kit(document: Doc, **changed: Any) -> Doc:
    """The same with one kit alone."""
    option = {**copy.deepcopy(document["options"][0]), **changed}
    return {**document, "options": [option], "chosen": option["id"]}


def on_panels(document: Doc, **changed: Any) -> Doc:
    """The same with a kit straight on panels."""
    return kit(document, **{"source": "panel", "controller": None, "battery": None, "array_cable": None, **changed})


def said(words: str, pattern: str) -> Answer:
    """Whether a page says something like it."""
    found = re.search(pattern, words)
    return bool(found), found[0].strip()[-200:] if found else "nothing said"


def refused(verdict: tuple[str, str]) -> Answer:
    """Whether a kit isn't said to hold."""
    return verdict[0] not in ("holds", "just holds"), f"{verdict[0]}: {verdict[1][:160]}"


@case("10.1", "four panels, 1.25 x 11.9 A, on a switching charger for 10 A")
def _charger(q: Asked) -> Answer:
    return refused(q.verdict(kit(base(), in_parallel=4)))


@case("10.1", "a lead battery of 35 Ah charged with 12.8 A")
def _charge_rate(q: Asked) -> Answer:
    return refused(q.verdict(kit(base(), panel="kite-110", in_parallel=2, controller="till-20")))


@case("10.2", "a switch for 30 V DC in a string of 82 V open")
def _switch_volts(q: Asked) -> Answer:
    job = q.job(on_panels(base(devices=["toggle-20"]), pump="heron-m", panel="ridge-330", in_series=2))
    return said(
        q.page(f"{job}/wire"), r"made for 30 V|30 V DC[^.]*(?:arc|too|parts)|[^.]*toggle switch 20 A[^.]*30 V[^.]*\."
    )


@case("10.3", "a hose rated for 40 m on a pump that pushes 46 m against a shut end")
def _hose(q: Asked) -> Answer:
    document = base()
    for piece in document["run"]:
        piece["hose"] = "layflat-38"
    return refused(
        q.verdict(
            kit(
                document,
                pump="stairwell-30",
                source="controller",
                controller="warden-48",
                battery=None,
                panel="ridge-330",
                in_series=2,
                hose="layflat-38",
            )
        )
    )


@case("10.4", "a pump's cable of 0.75 mm2 outdoors")
def _thin(q: Asked) -> Answer:
    job = q.job(on_panels(base(), in_parallel=2, pump_cable="mm2:0.75"))
    return said(q.page(f"{job}/wire"), r"[^.:]*at least 1.5 mm²[^.]*\.?|wants at least 1.5 mm²")


@case("10.5", "a 24 V pump, 32 V at most, straight on two panels of 22.6 V")
def _overvolts(q: Asked) -> Answer:
    return refused(
        q.verdict(on_panels(base(lift=typed("1.5 m", 1.5)), pump="stairwell-14", panel="kite-110", in_series=2))
    )


@case("10.7", "15 A in 55 °C: 10 AWG of 60 °C insulation carries 30 x 0.41 A, so it takes 8")
def _derating(q: Asked) -> Answer:
    given = {
        "system_v": 12,
        "current_a": 15,
        "one_way_m": 0.5,
        "max_drop_fraction": 0.5,
        "standard": "awg",
        "ambient_c": 55,
    }
    found = q.sum("choose-wire", given)
    return found.get("size") == "8" and abs(found["ampacity_a"] - 40 * 0.41) < 0.05, str(found)[:160]


@case("10.7", "cable in 85 °C has no ampacity")
def _too_hot(q: Asked) -> Answer:
    given = {
        "system_v": 12,
        "current_a": 1,
        "one_way_m": 1,
        "max_drop_fraction": 0.05,
        "standard": "metric",
        "ambient_c": 85,
    }
    found = q.sum("choose-wire", given)
    return "refused" in found or found.get("ampacity_a") == 0, str(found)[:160]


@case("10.9", "a helical pump past its last head still gives, and says so")
def _displaced(q: Asked) -> Answer:
    flows: list[float | None] = []
    for parallel in (1, 2, 4):
        source = {
            "type": "pv",
            "module": MODULE,
            "modules_in_series": 2,
            "strings_in_parallel": parallel,
            "irradiance_w_per_m2": 900,
            "cell_temperature_c": 40,
        }
        found = q.sum(
            "drive",
            {
                "source": source,
                "cable_resistance_ohm": 0.2,
                "motor": HELICAL,
                "static_head_m": 59.0,
                "pipes": [{"length_m": 60, "inner_diameter_mm": 16, "roughness_mm": 0.007}],
            },
        )
        flows.append(found.get("flow_l_per_min"))
    known = [flow for flow in flows if flow is not None]
    good = len(known) == len(flows) and known[1] > 0.0 and known == sorted(known)
    return good, f"{flows} L/min with 1, 2, 4 strings"


MODULE = {
    "voc_v": 22.6,
    "isc_a": 6.42,
    "vmp_v": 18.6,
    "imp_a": 5.93,
    "cells": 36,
    "isc_percent_per_k": 0.05,
    "voc_percent_per_k": -0.31,
}
OWN: Doc = json.loads(
    """{"id": "w1", "name": "bench pump", "by": "label", "end": "centrifugal", "placement": "submersible", "brushed": true, "volts": {"typed": "12 V", "si": 12.0}, "most_volts": null, "watts": {"typed": "45 W", "si": 45.0}, "label_flow": {"typed": "20 L/min", "si": 0.0003333333333333333}, "label_height": {"typed": "10 m", "si": 10.0}, "points": [], "life": {"typed": "750 h", "si": 750.0}, "price": {"typed": "0", "si": 0.0}, "barb": {"typed": "19 mm", "si": 0.019}, "fuse": null}"""
)
HELICAL = {
    "kind": "displacement", "rated_v": 24, "resistance_ohm": 0.42, "no_load_a": 0.5, "max_v": 57.1,
    "points": [[11.47, 0, 0.65], [10.19, 15, 3.17], [8.98, 30, 5.69], [7.85, 45, 8.22], [6.78, 60, 10.74]],
}  # fmt: skip


@case("10.10", "a battery kit on a timer of one minute a day")
def _timer(q: Asked) -> Answer:
    document = base()
    document["bank"]["timer"] = [{"id": "t1", "at": typed("12:00", 12.0), "minutes": typed("1 min", 60.0)}]
    return refused(q.verdict(kit(document)))


@case("10.10", "a well that gives 0.2 L/min")
def _well(q: Asked) -> Answer:
    document = base(water="well")
    document["well"]["gives"] = typed("0.2 L/min", 0.2 / 60000)
    return refused(q.verdict(on_panels(document, in_parallel=2)))


@case("10.6", "a jammed pump on panels: heat of standing over running")
def _stall(q: Asked) -> Answer:
    return said(q.page(q.job(on_panels(base(), in_parallel=2)) + "/wire"), r"Heat of standing over running")


@case("10.8", "what parts a string under load is made for its volts")
def _isolator(q: Asked) -> Answer:
    return said(q.page(q.job(on_panels(base(), in_parallel=2)) + "/wire"), r"[^.]*must be made for at least[^.]*\.")


@case("10.11", "a kit straight on two panels: how many days run short")
def _short_days(q: Asked) -> Answer:
    return said(q.verdict(on_panels(base(), in_parallel=2))[1], r"\d+ days? in 100 run short")


@case("10.15", "at the bad end of every doubt, how many days run short")
def _doubt(q: Asked) -> Answer:
    return said(q.page(q.job(on_panels(base(), in_parallel=2)) + "/power"), r"If every doubt goes badly[^.]*\.")


def measured(q: Asked, document: Doc, point: str, **form: str) -> Doc:
    """A reading kept, as the job's file has it."""
    job = q.job(document)
    q.client.post(f"{job}/readings", data=form)
    values = q.client.get(f"{job}/export.json").json()["visits"][-1]["values"]
    return next(value for value in values if value["point"] == point)


@case("10.18", "short-circuit amps that are the only light meter are judged by themselves")
def _own_light(q: Asked) -> Answer:
    value = measured(
        q, on_panels(base(), in_parallel=2), "short-amps", **{"short": "5.2", "short-amps": "5.2", "air": "20"}
    )
    return value["verdict"] is None, f"verdict: {value['verdict']}"


@case("10.19", "12.9 V at a pump on a bank at 13.8 V")
def _bank_volts(q: Asked) -> Answer:
    value = measured(q, kit(base()), "pump-volts", light="700", air="20", bank="13.8", **{"pump-volts": "12.9"})
    return value["verdict"] == "good", f"{value['verdict']}, {value['low']:.2f} to {value['high']:.2f} V wanted"


@case("10.20", "a flow's band is wider in weak light than in strong")
def _bands(q: Asked) -> Answer:
    wide = []
    for light in ("1000", "500"):
        value = measured(
            q, on_panels(base(), in_parallel=2), "outlet-flow", light=light, air="20", **{"outlet-flow": "5"}
        )
        if value["low"] is None or not value["expected"]:
            return True, f"in {light} W/m2: not judged, wait"
        wide.append((value["high"] - value["low"]) / value["expected"])
    return wide[1] > 1.2 * wide[0], f"{wide[0]:.0%} wide in 1000 W/m2, {wide[1]:.0%} in 500"


@case("10.14", "an outlet 3 m under the water")
def _siphon(q: Asked) -> Answer:
    job = q.job(on_panels(base(lift=typed("-3 m", -3.0)), in_parallel=2))
    pages = " ".join(q.page(f"{job}/{stage}") for stage in ("survey", "lift", "power"))
    found = re.search(r"[^.]*(siphon|runs by itself|gravity)[^.]*\.", pages)
    return "siphon" in pages.lower(), found[0][:160] if found else "no word of a siphon"


@case("10.17", "a southern climate at 45 degrees north")
def _north(q: Asked) -> Answer:
    try:
        job = q.job(on_panels(base(latitude=typed("45°", 45.0)), in_parallel=2))
    except LookupError as error:
        return True, str(error)
    pages = q.page(f"{job}/power") + q.page(f"{job}/survey")
    found = re.search(r"[^.]*(half a year|hemisphere|six months|other half)[^.]*\.", pages)
    return bool(found), found[0][-160:] if found else "nothing said"


def _label(q: Asked, end: str) -> Answer:
    document = base()
    document["own_pumps"] = [OWN | {"end": end}]
    status = q.client.get(q.job({**document, "options": [], "chosen": None}) + "/lift").status_code
    return status == 200, f"{end}: status {status}"


for _end in ("diaphragm", "piston", "helical"):
    case("10, found on the way", f"a {_end} pump known by its label only")(lambda q, end=_end: _label(q, end))  # type: ignore[misc]

SPELLINGS = {"25'8\"": 7.8232, "25' 8 in": 7.8232, "25 ft 8 in": 7.8232, "31ft6in": 9.6012}


def _spelled(q: Asked, text: str, si: float) -> Answer:
    status, job = q.type(q.job(base()), "lift", text)
    got = job["lift"]["si"]
    return abs(got - si) < 0.001, f"{status}: {got} m"


for _text, _si in SPELLINGS.items():
    case("10, found on the way", f"a lift of {_text}")(lambda q, t=_text, s=_si: _spelled(q, t, s))  # type: ignore[misc]


@case("16.1", "a deleted job's number isn't given again")
def _number(q: Asked) -> Answer:
    first = q.job(base())
    q.client.post(f"{first}/delete", data={"revision": "1"})
    second = q.job(base())
    return first != second, f"{first}, then {second}"


@case("16.1", "an old tab of a deleted job")
def _deleted(q: Asked) -> Answer:
    job = q.job(base())
    q.client.post(f"{job}/delete", data={"revision": "1"})
    return said(q.page(f"{job}/power"), r"[^.]*(?:was|is) deleted[^.]*")


@case("16.3", "headers of safety on an answer that finds nothing")
def _headers(q: Asked) -> Answer:
    headers = q.client.get("/jobs/99999/power").headers
    wanted = ("content-security-policy", "cross-origin-resource-policy", "x-content-type-options", "cache-control")
    missing = [name for name in wanted if name not in headers]
    return not missing, f"missing: {', '.join(missing) or 'none'}"


@case("16.2", "a body of 20 MB for one field")
def _large(q: Asked) -> Answer:
    job = q.job(base())
    answer = q.client.post(
        f"{job}/field", data={"path": "notes", "value": "x" * 20_000_000, "stage": "survey", "revision": "1"}
    )
    return answer.status_code == 413, f"status {answer.status_code}"


def _number_of(q: Asked, where: str) -> Answer:
    status = q.client.get(where).status_code
    return status in (404, 422), f"status {status}"


for _where in (f"/jobs/{2**63}", f"/jobs/{'9' * 5000}"):
    case("16.4", f"{_where[:30]}{'…' if len(_where) > 30 else ''}")(lambda q, w=_where: _number_of(q, w))  # type: ignore[misc]


def _figure(q: Asked, name: str, given: Doc) -> Answer:
    answer = q.client.post(f"/api/sums/{name}", content=json.dumps(given), headers={"content-type": "application/json"})
    return answer.status_code < 500, f"status {answer.status_code}"


for _name, _given in (
    ("autonomy", {"battery_ah": 1e308, "usable_fraction": 1, "load_a": 5e-324}),
    ("energy", {"voltage_v": 1e308, "current_a": 1e308, "minutes_per_day": 1e300}),
    ("pipe-loss", {"flow_l_per_min": 1e308, "length_m": 1e308, "inner_diameter_mm": 5e-324, "roughness_mm": 0}),
):
    case("16.4", f"{_name} with figures past all use")(lambda q, n=_name, g=_given: _figure(q, n, g))  # type: ignore[misc]


@case("16.4", "openapi.json resolves")
def _openapi(q: Asked) -> Answer:
    document = q.client.get("/openapi.json").json()
    known = document.get("components", {}).get("schemas", {})
    refs = set(re.findall(r'"#/([^"]+)"', json.dumps(document)))
    lost = [ref for ref in refs if ref.split("/")[-1] not in known]
    return not lost and "$defs" not in json.dumps(refs and list(refs)), f"{len(lost)} references to nothing"


def ask(q: Asked, function: Callable[[Asked], Answer]) -> Answer:
    """An answer, or how it failed."""
    try:
        return function(q)
    except (LookupError, KeyError, TypeError, ValueError, httpx2.HTTPError) as error:
        return False, f"{type(error).__name__}: {str(error)[:140]}"


def main(addresses: list[str]) -> None:
    """Print a table."""
    asked = [Asked(httpx2.Client(base_url=address, timeout=120.0)) for address in addresses]
    print("| point | asked | " + " | ".join(addresses) + " |")
    print("|---|---|" + "---|" * len(asked))
    for point, question, function in CASES:
        cells = []
        for q in asked:
            good, said = ask(q, function)
            cells.append(("right: " if good else "**wrong**: ") + said.replace("|", "/"))
        print(f"| {point} | {question} | " + " | ".join(cells) + " |")


if __name__ == "__main__":
    main(sys.argv[1:])
