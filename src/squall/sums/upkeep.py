"""Sum of what wears: ``wear``."""

from datetime import date
from typing import Annotated

from pydantic import Field

from squall.core.errors import BadEvidence
from squall.core.faults.chain import Chain
from squall.core.faults.checks import CHECKS, checks_of
from squall.core.reason import Reason
from squall.core.upkeep.states import Done, State
from squall.core.upkeep.wear import Alarm, Ask, Level, Visit, wear
from squall.sums.faults import KitIn, in_si
from squall.sums.fields import Finite, Irradiance, Strict
from squall.sums.hydraulics import LITRES_PER_MIN

Air = Annotated[float, Field(ge=-40.0, le=60.0, allow_inf_nan=False)]
Day = Annotated[date, Field(strict=False)]


class VisitIn(Strict):
    """A visit: its day, air, light as well as it was known, readings by check, what was done then."""

    date: Day
    air_c: Air
    irradiance_w_per_m2: Irradiance | None = None
    readings: Annotated[
        dict[str, Finite | Annotated[list[Finite], Field(min_length=1, max_length=10_000)] | str], Field(max_length=60)
    ]
    done: Annotated[list[Done], Field(max_length=20, default_factory=list)]

    def visit(self, chain: Chain) -> Visit:
        """The core's visit; looks are kept out of it: they tell of faults, not of wear."""
        own = {check.code for check in checks_of(chain)}
        readings: dict[str, float | tuple[float, ...]] = {}
        for code, value in self.readings.items():
            if code not in CHECKS:
                raise BadEvidence(Reason("no-such-check", check=code))
            if code not in own:
                raise BadEvidence(Reason("kit-has-no-such-check", check=code))
            if not isinstance(value, str):
                readings[code] = in_si(code, value)
        return Visit(self.date, self.air_c, self.irradiance_w_per_m2, readings, tuple(self.done))


class AskIn(Strict):
    """The day that is asked about, its light and air."""

    date: Day
    irradiance_w_per_m2: Irradiance
    air_c: Air


class WearIn(Strict):
    """A kit as stated, its visits, and the day that is asked about."""

    kit: KitIn
    visits: Annotated[list[VisitIn], Field(max_length=2000)]
    ask: AskIn


class StateOut(Strict):
    """A state at the day asked about, with its band of 90 %."""

    state: State
    value: float
    low: float
    high: float


class AlarmOut(Strict):
    """What has worn beyond doubt, since which visit, in words."""

    state: State
    since: date
    words: str


class WearOut(Strict):
    """What has worn; the outlet's flow then with its band of 90 %; the stated kit's; alarms."""

    states: list[StateOut]
    flow_l_per_min: float
    flow_low: float
    flow_high: float
    label_flow_l_per_min: float
    alarms: list[AlarmOut]


def _state_out(level: Level) -> StateOut:
    return StateOut(state=level.state, value=level.value, low=level.low, high=level.high)


def _alarm_out(alarm: Alarm) -> AlarmOut:
    return AlarmOut(state=alarm.state, since=alarm.since, words=str(alarm.words))


def sum_wear(given: WearIn) -> WearOut:
    """What has worn on a kit by its visits, and what its outlet gives on some day."""
    chain = given.kit.chain()
    ask = Ask(given.ask.date, given.ask.irradiance_w_per_m2, given.ask.air_c)
    found = wear(chain, [visit.visit(chain) for visit in given.visits], ask)
    return WearOut(
        states=[_state_out(level) for level in found.levels],
        flow_l_per_min=found.flow_m3_s / LITRES_PER_MIN,
        flow_low=found.flow_low_m3_s / LITRES_PER_MIN,
        flow_high=found.flow_high_m3_s / LITRES_PER_MIN,
        label_flow_l_per_min=found.label_flow_m3_s / LITRES_PER_MIN,
        alarms=[_alarm_out(alarm) for alarm in found.alarms],
    )
