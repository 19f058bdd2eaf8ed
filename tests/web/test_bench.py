"""The workplace of a lesson: two leads on any terminals read what the circuit has there; what would bite is stopped, told and counted."""

import random
from dataclasses import replace
from urllib.parse import parse_qs, urlparse

import pytest
from bs4 import BeautifulSoup

from squall.standins.kits import KITS
from squall.standins.meter import DIALS, FUSE_A, SOCKETS
from squall.standins.play import faults_of
from squall.standins.practice import Lesson, bench_of, leads_code, lesson_of, play, worth_of
from squall.standins.yard import Yard


def lesson(kit: str, fault: str = "none", number: int = 3) -> Lesson:
    return replace(lesson_of(kit, "usual", number), fault=fault)


def yard(one: Lesson) -> Yard:
    return Yard(one.stated, one.fault, one.light_w_m2, 22.0, random.Random(f"{one.kit} {one.number} yard"))


def last(one: Lesson, *acts: str):
    return play(one, acts).acts[-1]


def on(dial: str, red: str, black: str) -> str:
    return leads_code(dial, "a" if dial == "a10" else "v", red, black)


# Leads that are a check, and what is done before.
READ = {
    "source-open-volts": (["off"], "source-plus", "source-minus", "v200"), "pump-volts-on": ([], "motor-plus", "motor-minus", "v200"),
    "motor-ohms": (["off", "unplug"], "motor-plus", "motor-minus", "r200"), "fuse-volts": ([], "kit-plus", "fuse-out", "v200"),
    "fuse-ohms": (["off"], "kit-plus", "fuse-out", "r200"), "box-volts-on": ([], "in-plus", "in-minus", "v200"),
    "short-circuit-amps": (["off"], "lead-plus", "lead-minus", "a10"),
}  # fmt: skip
CASES = [(kit, fault) for kit in KITS for fault in faults_of(KITS[kit])]


@pytest.mark.parametrize("kit", KITS)
def test_two_leads_read_what_the_check_of_that_name_shows(kit: str) -> None:
    """By another way than the yard's own reading of a check: node by node, whatever is wrong."""
    compared = 0
    for fault in faults_of(KITS[kit]):
        one = lesson(kit, fault)
        own = {terminal.id for terminal in bench_of(one).terminals()}
        true = yard(one)
        for check, (before, red, black, dial) in READ.items():
            if not {red, black} <= own or (check == "pump-volts-on" and one.stated["motor_wires"] == 3):
                continue
            if check == "motor-ohms" and not (one.stated["brushed"] or one.stated["motor_wires"] == 3):
                continue
            act = last(one, *before, on(dial, red, black))
            exact = true.exactly(check)
            if act.reading.shows == "blew":
                assert exact > 0.9 * FUSE_A or "module" not in one.stated["source"], (fault, check)
            elif act.reading.shows == "open":
                assert exact >= 1e6, (fault, check)
            else:
                assert act.reading.value == pytest.approx(exact, rel=0.04, abs=0.35), (fault, check)
                compared += 1
    assert compared > 40


def test_swapped_leads_turn_the_sign_and_a_reversed_pump_shows_at_its_own_leads() -> None:
    one = lesson("battery", "polarity-reversed")
    assert last(one, on("v20", "motor-plus", "motor-minus")).reading.value < -9.0
    assert last(one, on("v20", "cable-plus", "cable-minus")).reading.value > 9.0
    assert last(one, on("v20", "cable-minus", "cable-plus")).reading.value < -9.0
    three = lesson("three wires", "polarity-reversed")
    assert last(three, on("v200", "in-plus", "in-minus")).reading.value < -20.0
    assert last(three, on("v200", "lead-plus", "lead-minus")).reading.value > 20.0


def test_amps_across_a_battery_blow_the_meters_fuse_until_it_has_a_new_one() -> None:
    one = lesson("battery")
    short = on("a10", "lead-plus", "lead-minus")
    blown = play(one, ["off", short])
    assert (blown.acts[-1].reading.shows, blown.unsafe, blown.fuse_whole) == ("blew", 1, False)
    assert blown.minutes >= 6.0, "it is taken in"
    assert last(one, "off", short, short).reading.shows == "nothing"
    again = play(one, ["off", short, "meter-fuse", short])
    assert again.acts[-1].reading.shows == "blew"
    assert again.unsafe == 2
    wrong = play(one, [leads_code("v20", "a", "lead-plus", "lead-minus")])
    assert wrong.acts[-1].reading.shows == "blew", (
        "volts on the dial, the lead in the amps' socket: a short all the same"
    )
    assert last(one, leads_code("a10", "v", "lead-plus", "lead-minus")).reading.shows == "nothing"


def test_an_ammeter_over_a_blown_fuse_lets_the_pump_run() -> None:
    one = lesson("battery", "fuse-blown")
    through = last(one, on("a10", "kit-plus", "fuse-out")).reading.value
    assert through == pytest.approx(yard(lesson("battery")).exactly("pump-amps-on"), rel=0.05)
    assert last(one, on("v20", "motor-plus", "motor-minus")).reading.value == 0.0


def test_ohms_on_a_live_part_are_stopped_and_on_a_dead_one_are_read() -> None:
    one = lesson("panels", "switch-open")
    assert last(one, on("r200", "fuse-out", "switch-out")).stopped
    assert last(one, "off", on("r200", "fuse-out", "switch-out")).reading.shows == "open"
    live = play(one, ["off", on("r200", "source-plus", "source-minus")])
    assert live.unsafe == 1, "panels are live with the switch off"
    assert last(one, "off", "unplug", on("r200", "source-plus", "motor-plus")).stopped


def test_no_plug_is_parted_under_load_and_a_covered_panel_gives_little() -> None:
    one = lesson("panels")
    assert play(one, ["unplug"]).unsafe == 1
    assert play(one, ["unplug"]).stand.plugged
    assert not play(one, ["off", "unplug"]).stand.plugged
    assert last(one, "off", "unplug", "on", on("v200", "motor-plus", "motor-minus")).reading.value == 0.0
    bright = last(one, "off", on("v200", "lead-plus", "lead-minus")).reading.value
    dim = last(one, "off", "cover", on("v200", "lead-plus", "lead-minus"))
    assert 0.5 * bright < dim.reading.value < bright
    assert dim.check is None, "of another light"
    assert last(one, "cover", "pump-volts-on").idle
    assert play(lesson("battery"), ["cover"]).acts == (), "there is nothing to cover"


def test_ranges_and_the_lamp() -> None:
    one = lesson("three wires")
    assert last(one, "off", on("v20", "lead-plus", "lead-minus")).reading.shows == "over"
    assert last(one, "off", on("v200", "lead-plus", "lead-plus")).reading.value == 0.0
    battery = lesson("battery")
    assert last(battery, on("lamp", "lead-plus", "lead-minus")).reading.shows == "bright"
    assert last(battery, on("lamp", "kit-plus", "fuse-out")).reading.shows == "dark"
    weak = replace(battery, fault="battery-weak")
    sags = last(weak, on("lamp", "motor-plus", "motor-minus")).reading.shows
    assert sags in ("bright", "dim")
    assert last(lesson("three wires"), "off", on("lamp", "lead-plus", "lead-minus")).reading.shows == "burnt-out"
    coarse = last(battery, on("v200", "kit-plus", "fuse-out"))
    assert coarse.check is None, "tenths of a volt tell nothing of a fuse's drop"
    assert last(battery, on("v2", "kit-plus", "fuse-out")).check.code == "fuse-volts"


def test_what_the_leads_read_is_evidence_like_any_check() -> None:
    one = lesson("panels", "fuse-blown")
    told = worth_of(one, play(one, [on("v200", "kit-plus", "fuse-out"), on("v200", "source-plus", "fuse-out")]))
    assert [row.act.check.code for row in told] == ["fuse-volts"], "the second is no check of a name"
    assert told[0].truth_share > 0.5


def test_leads_thrown_on_by_chance_read_something_on_every_kit() -> None:
    throw = random.Random(11)
    shown = set()
    for kit, fault in throw.sample(CASES, 60):
        one = lesson(kit, fault)
        ids = [terminal.id for terminal in bench_of(one).terminals()]
        acts = throw.choice(([], ["off"], ["off", "unplug"], ["off", "unplug", "on", "cover"]))
        leads = [leads_code(throw.choice(DIALS), throw.choice(SOCKETS), throw.choice(ids), throw.choice(ids)) for _ in range(4)]  # fmt: skip
        played = play(one, [*acts, *leads])
        assert len(played.acts) >= len(leads)
        shown |= {act.reading.shows for act in played.acts if act.reading}
    assert {"value", "over", "open", "nothing", "blew", "stopped", "dark"} <= shown


@pytest.mark.parametrize("act", ["leads", "leads.v20.v.lead-plus", "leads.v20.v.moon.lead-minus", "leads.v9.v.lead-plus.lead-minus", "leads.v20.x.lead-plus.lead-minus", "leads.v20.v.lead-plus.between-9"])  # fmt: skip
def test_an_act_that_is_none_is_left_out(act: str) -> None:
    assert play(lesson("battery"), [act]).acts == ()


WHERE = "/practise/lesson?kit=panels&level=usual&number=3"


def test_a_terminal_takes_the_red_lead_the_next_the_black_one_and_the_meter_is_read(client) -> None:
    page = BeautifulSoup(client.get(WHERE).text, "html.parser")
    dots = page.select(".bench.along .terminal")
    assert len(dots) == len(page.select(".bench.down .terminal")) == len(page.select("#lead-red option")) - 1
    one = BeautifulSoup(client.get(dots[2]["href"]).text, "html.parser")
    assert len(one.select(".bench.along .terminal.red")) == 1
    two = BeautifulSoup(client.get(one.select(".bench.along .terminal")[3]["href"]).text, "html.parser")
    assert two.select_one("#lead-red option[selected]")["value"] == "lead-plus"
    assert two.select_one("#lead-black option[selected]")["value"] == "lead-minus"
    form = {field["name"]: field["value"] for field in two.select(".bench-form input")}
    answer = client.get("/practise/lesson", params={**form, "dial": "v200", "socket": "v", "red": "lead-plus", "black": "lead-minus", "read": "yes"}, follow_redirects=True)  # fmt: skip
    assert parse_qs(urlparse(str(answer.url)).query)["acts"] == ["leads.v200.v.lead-plus.lead-minus"]
    read = BeautifulSoup(answer.text, "html.parser")
    assert read.select_one(".bench-shows b").text.replace("\xa0", " ").endswith(" V")
    assert "volts, to 200: red on 3, black on 4" in read.select_one("#seen").text
    assert read.select_one("#lead-red option[selected]")["value"] == "lead-plus", "the leads stay"


def test_the_drawing_gives_nothing_away(client) -> None:
    """Whatever is hidden, it looks the same."""

    hidden = {lesson_of("panels", "usual", number).fault: number for number in range(8)}
    assert len(hidden) > 3

    def drawn(number: int) -> str:
        page = client.get(f"/practise/lesson?kit=panels&level=usual&number={number}").text
        bench = BeautifulSoup(page, "html.parser").select_one(".bench.along")
        for one in bench.select("a"):
            del one["href"]
        return str(bench)

    assert len({drawn(number) for number in hidden.values()}) == 1, hidden


def test_leads_without_a_place_and_odd_settings_are_no_error(client) -> None:
    for more in ("red=lead-plus&read=yes", "red=moon&black=lead-minus&read=yes", "dial=zebra&red=lead-plus&black=lead-minus&read=yes", "red=lead-plus&black=lead-plus&read=yes"):  # fmt: skip
        answer = client.get(f"{WHERE}&{more}", follow_redirects=True)
        assert answer.status_code == 200
    assert client.get(f"{WHERE}&red={'x' * 60}").status_code == 422
