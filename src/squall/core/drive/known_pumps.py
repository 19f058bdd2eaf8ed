"""A pump known from bucket tests, or only from its label: points of a curve, and how far to trust them.

Both ways answer points at the volts of the test or the label, with the amps that a motor of that
power would draw; the drive model takes them from there.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from squall.core.drive.motors import Kind, Motor
from squall.core.errors import BadCurve, OutOfRange, require
from squall.core.reason import Quantity, Reason

_STEPS = 6
WORST_MISFIT = 0.25
# What a label's open flow and height come to on a good day: a guess, kept on the low side.
LABEL_SHARE_CENTRIFUGAL, LABEL_SHARE_DISPLACEMENT = 0.85, 0.7
LABEL_BAND_CENTRIFUGAL, LABEL_BAND_DISPLACEMENT = 0.3, 0.4
LEAST_BUCKET_BAND = 0.05
# One measured point with the label's height beside it; with nothing beside it. A displacement end is nearly flat: its flow
# at no height over that at the point, and how far above the point it still gives. Guesses, common practice, no source.
ONE_POINT_BAND, LONE_POINT_BAND, ONE_DISPLACEMENT_BAND = 0.25, 0.4, 0.2
LONE_POINT_SHARE = 0.6
FLAT_RISE, FLAT_REACH = 1.08, 1.25
# Winding and friction of a small motor as shares of its nominal amps and volts: a guess.
_WINDING_SHARE, _FREE_SHARE = 0.10, 0.20


@dataclass(frozen=True)
class BucketTest:
    """Flow at a height, and amps if they were read. [m3/s], [m], [A]"""

    flow_m3_s: float
    height_m: float
    amps: float | None = None


@dataclass(frozen=True)
class KnownPump:
    """Points made of what is known of a pump.

    Attributes
    ----------
    points : tuple
        (flow [m3/s], head [m]).
    misfit : float
        Root mean square distance of the tests from the curve, as a share of the largest flow. [-]
    band : float
        How far a flow read from it may be off, each way. [-]
    """

    points: tuple[tuple[float, float], ...]
    misfit: float
    band: float


def bucket_flow(litres: float, seconds: float) -> float:
    """Flow that fills a bucket in a time, both above 0. [m3/s]

    Examples
    --------
    >>> round(bucket_flow(10.0, 60.0) * 60_000, 3)
    10.0
    """
    require("bucket", litres / 1000.0, 5e-05, 1.0, "litres")
    require("time-fill", seconds, 0.5, 36_000.0, "seconds")
    return litres / 1000.0 / seconds


def curve_from_tests(tests: Sequence[BucketTest], kind: Kind) -> KnownPump:
    """A curve that passes near bucket tests at two or more heights.

    Parameters
    ----------
    tests : sequence of BucketTest
        Through a hose short and wide enough that its loss doesn't count.
    kind : str
        ``centrifugal``: H = A - B Q^2. ``displacement``: Q = a - b H.

    Returns
    -------
    KnownPump
        Through both tests if there are two; nearest to all in least squares if there are more.
        A centrifugal curve reaches from shut-off, which is a guess, to the greatest flow tested;
        a displacement one from no height, which is a guess, to the greatest height tested.

    Raises
    ------
    BadCurve
        For fewer than two heights, flow that grows with height, or tests that contradict one
        another by more than a quarter of the greatest flow.
    """
    heights = {round(test.height_m, 3) for test in tests}
    if len(heights) < 2:
        raise BadCurve(Reason("curve-needs-bucket-tests-two-heights"))
    for test in tests:
        if test.flow_m3_s < 0.0 or test.height_m < 0.0:
            raise BadCurve(Reason("flow-height-every-test-must-or"))
    flows, lifts = np.array([t.flow_m3_s for t in tests]), np.array([t.height_m for t in tests])
    x, y = (flows**2, lifts) if kind == "centrifugal" else (lifts, flows)
    if float(np.ptp(x)) <= 0.0:
        raise BadCurve(Reason("all-tests-have-same-flow-so"))
    slope, start = (float(v) for v in np.polyfit(x, y, 1))
    if slope > 0.0 or (kind == "centrifugal" and slope == 0.0) or start <= 0.0:
        raise BadCurve(Reason("these-tests-pump-gives-more-higher"))
    most, top = float(flows.max()), float(lifts.max())
    points: tuple[tuple[float, float], ...]
    if kind == "centrifugal":
        fitted = np.sqrt(np.maximum(start - lifts, 0.0) / -slope)
        points = tuple((q, max(start + slope * q**2, 0.0)) for q in _places(most, fitted.tolist()))
    else:
        fitted = start + slope * lifts
        points = tuple((max(start + slope * h, 0.0), h) for h in _places(top, lifts.tolist()))
    misfit = float(np.sqrt(np.mean((fitted - flows) ** 2))) / most
    if misfit > WORST_MISFIT:
        raise BadCurve(Reason("tests-lie-greatest-flow-off-any", misfit=misfit))
    return KnownPump(points, misfit, max(2.0 * misfit, LEAST_BUCKET_BAND))


def _places(most: float, tested: Sequence[float]) -> list[float]:
    """Even steps from nil to the most, with the tested places put in; steps too near a tested one are left out."""
    kept = sorted({round(x, 15) for x in tested if 0.0 <= x <= most * (1.0 + 1e-9)})
    near = 0.04 * most
    found: list[float] = []
    for place in kept:
        if not found or place - found[-1] > near:
            found.append(place)
    steps = [most * n / _STEPS for n in range(_STEPS + 1)]
    return sorted([*found, *(x for x in steps if all(abs(x - y) > near for y in found))])


def curve_from_label(open_flow_m3_s: float, most_height_m: float, kind: Kind) -> KnownPump:
    """A guess at the curve behind a label.

    Parameters
    ----------
    open_flow_m3_s : float
        The label's flow: at no height and full volts, above 0. [m3/s]
    most_height_m : float
        The label's height: where flow stops, above 0. [m]
    kind : str
        ``centrifugal``: H = Hm (1 - (Q/Qo)^2). ``displacement``: Q falls straight to nil at Hm.

    Returns
    -------
    KnownPump
        Flows taken at 0.85 (displacement 0.7) of that curve, with a band of 30 % (40 %).
    """
    require("labels-flow", open_flow_m3_s, 0.05 / 60_000.0, 5000.0 / 60_000.0, "flow")
    require("labels-height", most_height_m, 0.1, 300.0, "length")
    shares = [n / _STEPS for n in range(_STEPS + 1)]
    if kind == "centrifugal":
        top, flow = most_height_m, open_flow_m3_s * LABEL_SHARE_CENTRIFUGAL
        points = tuple((flow * x, top * (1.0 - x**2)) for x in shares)
        return KnownPump(points, 0.0, LABEL_BAND_CENTRIFUGAL)
    flow = open_flow_m3_s * LABEL_SHARE_DISPLACEMENT
    points = tuple((flow * max(1.0 - x, 0.0), most_height_m * x) for x in shares)
    return KnownPump(points, 0.0, LABEL_BAND_DISPLACEMENT)


def curve_from_one(test: BucketTest, kind: Kind, most_height_m: float | None = None) -> KnownPump:
    """A guess at the curve through one bucket at the real outlet.

    Parameters
    ----------
    test : BucketTest
        Flow above 0 at a height; at no height only with `most_height_m`.
    kind : str
        ``centrifugal``: H = Hm (1 - (Q/Qo)^2) through the point. ``displacement``: nearly flat through it.
    most_height_m : float or None
        The label's height, where flow stops; else the point is taken to stand at 0.6 of a centrifugal end's. [m]

    Returns
    -------
    KnownPump
        Its band is 25 % with the label's height, 40 % without; 20 % for a displacement end.

    Raises
    ------
    BadCurve
        If the point stands at the label's height or above, or at no height with no label beside it.
    """
    require("labels-flow", test.flow_m3_s, 0.05 / 60_000.0, 5000.0 / 60_000.0, "flow")
    height = test.height_m
    if most_height_m is not None and height >= most_height_m:
        raise BadCurve(Reason("one-point-at-labels-height", height=height, most=most_height_m))
    if height <= 0.0 and most_height_m is None:
        raise BadCurve(Reason("one-point-at-no-height"))
    if kind == "displacement":
        top = most_height_m if most_height_m is not None else FLAT_REACH * height
        slope = (FLAT_RISE - 1.0) / height if height > 0.0 else (FLAT_RISE - 1.0) / top
        at_nil = test.flow_m3_s * (FLAT_RISE if height > 0.0 else 1.0)
        heads = sorted({0.0, height, *(top * n / _STEPS for n in range(_STEPS + 1))})
        points = tuple((max(at_nil - test.flow_m3_s * slope * h, 0.5 * test.flow_m3_s), h) for h in heads)
        return KnownPump(points, 0.0, ONE_DISPLACEMENT_BAND)
    top = most_height_m if most_height_m is not None else height / LONE_POINT_SHARE
    open_flow = test.flow_m3_s / (1.0 - height / top) ** 0.5
    flows = sorted({round(test.flow_m3_s, 15), *(round(0.98 * open_flow * n / _STEPS, 15) for n in range(_STEPS + 1))})
    band = ONE_POINT_BAND if most_height_m is not None else LONE_POINT_BAND
    return KnownPump(tuple((q, top * (1.0 - (q / open_flow) ** 2)) for q in flows), 0.0, band)


def half_of_label(open_flow_m3_s: float, most_height_m: float, lift_m: float) -> float | None:
    """Half the label's flow, the field's safe first guess, up to half the label's height; None above it. [m3/s]

    Common practice, no source.

    Examples
    --------
    >>> round(half_of_label(20.0 / 60_000, 10.0, 5.0) * 60_000, 3)
    10.0
    """
    return 0.5 * open_flow_m3_s if lift_m <= 0.5 * most_height_m else None


def motor_of(
    pump: KnownPump,
    kind: Kind,
    volts: float,
    watts: float,
    tests: Sequence[BucketTest] = (),
    max_v: float | None = None,
) -> Motor:
    """A motor behind known points.

    Parameters
    ----------
    pump : KnownPump
        The points, at `volts`.
    kind : str
        ``centrifugal`` or ``displacement``.
    volts, watts : float
        At the test, or on the label. [V], [W]
    tests : sequence of BucketTest
        Their amps, where two or more were read, take the place of the guess from watts.
    max_v : float or None
        Most volts that the maker allows. [V]

    Returns
    -------
    Motor
        Winding taken as a tenth of volts over amps, free running as a fifth of the amps: a guess.

    Raises
    ------
    OutOfRange
        For impossible volts or watts.
    """
    require("volts", volts, 1.0, 400.0, "volts")
    require("watts", watts, 0.5, 5000.0, "watts")
    nominal = watts / volts
    flows, heads = [q for q, _ in pump.points], [h for _, h in pump.points]
    # Over the flow squared, as the head falls: so that head over speed squared falls from shut-off on.
    along = [q**2 for q in flows] if kind == "centrifugal" else heads
    span = max(along) or 1.0
    read = [(t.flow_m3_s**2 if kind == "centrifugal" else t.height_m, t.amps) for t in tests if t.amps is not None]
    if len({x for x, _ in read}) >= 2:
        slope, start = (float(v) for v in np.polyfit([x for x, _ in read], [a for _, a in read], 1))
        slope = max(slope, 0.0)
        start = float(np.mean([a - slope * x for x, a in read if a is not None]))
        amps = [start + slope * x for x in along]
    elif read and read[0][1] is not None:
        at, amps_there = read[0]
        amps = [amps_there * (0.7 + 0.3 * x / span) / (0.7 + 0.3 * at / span) for x in along]
    else:
        rise = 0.4 if kind == "centrifugal" else 0.75
        amps = [nominal * (1.0 - rise + rise * x / span) for x in along]
    if min(amps) <= 0.0:
        raise OutOfRange("amps-tests", Quantity(min(amps), "amps"), Reason("more-than-all-along-curve-read"))
    mean = sum(amps) / len(amps)
    free = min(_FREE_SHARE * mean, 0.9 * min(amps))
    points = tuple((q, h, a) for (q, h), a in zip(pump.points, amps, strict=True))
    return Motor(kind, volts, points, _WINDING_SHARE * volts / mean, free, max_v)
