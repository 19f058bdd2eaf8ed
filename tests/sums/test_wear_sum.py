"""``wear``: slow states of kits that wear in a yard, by six visits; no alarm for a sound one; resets; odd readings; what is refused."""

import datetime as dt
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from squall.core.errors import SquallError
from squall.core.upkeep.states import DONE, STATES
from squall.standins.kits import KITS
from squall.standins.worn import readings_of, true_kit, worn
from squall.standins.yard import Yard
from squall.sums.registry import SUMS, run

READ = ("short-circuit-amps", "box-volts-on", "pump-volts-on", "pump-amps-on", "outlet-flow", "cable-loop-ohms")
FIRST = dt.date(2026, 1, 5)
RATES = {"panel-light-lost": 0.3, "joint-ohm": 0.6, "drag": 0.8, "head-lost": 0.2, "flow-lost": 0.25}


def checks_of(name: str) -> dict[str, dict]:
    own = {row["check"]: row for row in run("checks", {"kit": KITS[name]}).model_dump()}
    return {code: own[code] for code in READ if code in own}


def shown(levels: dict[str, float]) -> dict[str, float]:
    """As the sum tells them: drag as times the stated no-load amps."""
    return {state: level + (state == "drag") for state, level in levels.items()}


class Life:
    """A kit through a year: six visits, states that grow, a day that is asked about."""

    def __init__(self, name: str, seed: int, share: float, done: dict[int, list[str]] | None = None) -> None:
        self.name, self.throw = name, random.Random(seed)
        self.new = true_kit(KITS[name], self.throw)
        rates = {state: self.throw.uniform(0.3, 1.0) * rate * share for state, rate in RATES.items()}
        if "module" not in KITS[name]["source"]:
            rates["panel-light-lost"] = 0.0
        if KITS[name]["motor"]["kind"] != "centrifugal":
            rates["head-lost"] = 0.0
        self.levels = dict.fromkeys(rates, 0.0)
        self.visits = []
        checks, day = checks_of(name), FIRST
        for number in range(6):
            if number:
                self._wear(rates, 73)
                day += dt.timedelta(days=73)
            light, air = self.throw.uniform(450.0, 1000.0), self.throw.uniform(8.0, 30.0)
            readings = readings_of(self.new, shown(self.levels), light, air, checks, self.throw)
            doing = (done or {}).get(number, [])
            if "panels-cleaned" in doing:
                self.levels["panel-light-lost"] = 0.0
            self.visits.append({
                "date": day.isoformat(), "air_c": air, "irradiance_w_per_m2": light * (1.0 + self.throw.gauss(0.0, 0.05)),
                "readings": readings, "done": doing,
            })  # fmt: skip
        self._wear(rates, 60)
        self.day = day + dt.timedelta(days=60)

    def _wear(self, rates: dict[str, float], days: int) -> None:
        for state, rate in rates.items():
            self.levels[state] += rate * days / 365.25

    def asked(self) -> dict:
        ask = {"date": self.day.isoformat(), "irradiance_w_per_m2": 800.0, "air_c": 20.0}
        return run("wear", {"kit": KITS[self.name], "visits": self.visits, "ask": ask}).model_dump()

    def flow(self) -> float:
        return float(Yard.of(worn(self.new, shown(self.levels)), 800.0, 20.0, self.throw).exactly("outlet-flow"))


def test_six_visits_hold_the_truth_within_their_bands_and_foretell_the_water() -> None:
    """18 kits of six kinds. The goal, on many more (docs/method.md): bands of 90 % that hold 85 to 95 of 100, water within 7 %."""
    names = list(KITS)
    held, whole, close, stated, covered = 0, 0, [], [], 0
    for game in range(18):
        life = Life(names[game % 6], 100 + game, 1.0)
        told, true = life.asked(), shown(life.levels)
        for state in told["states"]:
            held += state["low"] - 1e-9 <= true[state["state"]] <= state["high"] + 1e-9
            whole += 1
        flow = life.flow()
        covered += told["flow_low"] <= flow <= told["flow_high"]
        if flow > 1.0:
            close.append(abs(told["flow_l_per_min"] / flow - 1.0))
            stated.append(abs(told["label_flow_l_per_min"] / flow - 1.0))
    assert held / whole >= 0.88
    assert covered >= 14
    assert sorted(close)[len(close) // 2] < 0.08
    assert sum(close) < 0.4 * sum(stated)


def test_a_sound_kit_raises_no_alarm() -> None:
    assert [life.asked()["alarms"] for life in (Life(name, 7, 0.0) for name in KITS)] == [[]] * 6


def test_a_joint_that_grows_bad_is_told_with_its_day_and_its_words() -> None:
    life = Life("battery", 3, 1.0)
    alarms = {alarm["state"]: alarm for alarm in life.asked()["alarms"]}
    assert "joint-ohm" in alarms
    assert FIRST.isoformat() < str(alarms["joint-ohm"]["since"]) <= life.visits[-1]["date"]
    assert "joint" in alarms["joint-ohm"]["words"]


def test_cleaning_sets_the_light_back_and_the_alarm_with_it() -> None:
    def light_lost(life: Life) -> dict:
        return next(state for state in life.asked()["states"] if state["state"] == "panel-light-lost")

    dirty, cleaned = (Life("panels", 11, 1.0, done) for done in (None, {5: ["panels-cleaned"]}))
    assert light_lost(dirty)["value"] > 1.8 * light_lost(cleaned)["value"]
    assert "panel-light-lost" not in {alarm["state"] for alarm in cleaned.asked()["alarms"]}


def test_nothing_is_claimed_from_one_odd_reading() -> None:
    life = Life("battery", 21, 0.0)
    before = life.asked()
    life.visits[3]["readings"]["outlet-flow"] *= 0.1
    life.visits[4]["readings"]["pump-amps-on"] *= 1000.0
    after = life.asked()
    assert after["alarms"] == []
    assert after["flow_l_per_min"] == pytest.approx(before["flow_l_per_min"], rel=0.1)


def test_with_no_visit_it_is_the_stated_kit_with_a_wide_band() -> None:
    ask = {"date": "2026-06-01", "irradiance_w_per_m2": 800.0, "air_c": 20.0}
    told = run("wear", {"kit": KITS["panels"], "visits": [], "ask": ask}).model_dump()
    assert told["flow_low"] < told["label_flow_l_per_min"] < told["flow_high"]
    assert told["alarms"] == []
    assert [state["state"] for state in told["states"]] == list(STATES)


def test_more_visits_narrow_the_band() -> None:
    life = Life("panels", 31, 0.5)
    widths = []
    for count in (1, 3, 6):
        ask = {"date": life.day.isoformat(), "irradiance_w_per_m2": 800.0, "air_c": 20.0}
        told = run("wear", {"kit": KITS["panels"], "visits": life.visits[:count], "ask": ask}).model_dump()
        widths.append(told["flow_high"] - told["flow_low"])
    assert widths[0] > widths[1] > widths[2]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"readings": {"zorks": 1.0}}, "no check called zorks"),
        ({"readings": {"battery-rest-volts": 12.0}}, "the part for it isn't there"),
        ({"date": "someday"}, "date"),
        ({"date": "2030-01-01"}, "lies before the last visit"),
        ({"done": ["painted"]}, "done"),
        ({"air_c": 900.0}, "air_c"),
    ],
)
def test_what_cannot_be_is_refused_in_words(change: dict, says: str) -> None:
    example = SUMS["wear"].example
    visits = [dict(example["visits"][0]) | change]
    with pytest.raises(SquallError) as refused:
        run("wear", {**example, "visits": visits})
    assert says in str(refused.value)


_VISIT = st.fixed_dictionaries({
    "date": st.dates(dt.date(2020, 1, 1), dt.date(2026, 12, 31)).map(str), "air_c": st.floats(-40.0, 60.0),
    "readings": st.dictionaries(
        st.sampled_from(["source-open-volts", "short-circuit-amps", "box-volts-on", "pump-volts-on", "pump-amps-on", "outlet-flow",
                         "cable-loop-ohms", "pumping-water-level-drop"]), st.floats(0.0, 1e6), max_size=4),
    "done": st.lists(st.sampled_from(DONE), max_size=2),
})  # fmt: skip


@settings(max_examples=25)
@given(visits=st.lists(_VISIT, max_size=4), light=st.floats(0.0, 1500.0), name=st.sampled_from(sorted(KITS)))
def test_whatever_was_written_down_there_is_an_answer(visits, light: float, name: str) -> None:
    own = checks_of(name).keys() | {"source-open-volts", "pumping-water-level-drop"}
    kept = [visit | {"readings": {c: v for c, v in visit["readings"].items() if c in own}} for visit in visits]
    ask = {"date": "2027-01-01", "irradiance_w_per_m2": light, "air_c": 20.0}
    told = run("wear", {"kit": KITS[name], "visits": kept, "ask": ask}).model_dump()
    assert 0.0 <= told["flow_low"] <= told["flow_l_per_min"] <= told["flow_high"]
    assert all(state["low"] <= state["value"] <= state["high"] for state in told["states"])
