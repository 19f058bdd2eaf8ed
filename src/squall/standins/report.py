"""What `squall bench` prints."""

from collections.abc import Iterator

from squall.standins.play import Score, calibration, play_many, score
from squall.words import say


def _line(name: str, s: Score) -> str:
    return f"{name:<12} {s.right:7.1%} {s.checks:8.2f} {s.minutes:9.1f} {s.unsafe:7d} {s.brier:7.3f} {s.said:9.1%} {s.bits:6.2f}"


def report(cases: int, seed: int, *, chart: bool) -> Iterator[str]:
    """The table, line by line as it is worked."""
    yield say(
        "{cases} kits with a hidden fault, seed {seed}; looks wrong one time in 25, no story told",
        cases=cases,
        seed=seed,
    )
    yield f"{'':<12} {'right':>7} {'checks':>8} {'minutes':>9} {'unsafe':>7} {'Brier':>7} {'said':>9} {'bits':>6}"
    games = play_many(cases, seed)
    own = score(games)
    yield _line("advice", own)
    if chart:
        yield _line("chart", score(play_many(cases, seed, advised=False)))
    yield ""
    for low, high, count, right in calibration(games):
        yield f"said {low:4.0%} to {high:4.0%}: {count:5d} games, right in {right:6.1%}"
    yield ""
    for fault, (count, right, checks) in own.by_fault.items():
        yield f"{fault:<24} {count:5d} {right:7.1%} {checks:7.2f}"
