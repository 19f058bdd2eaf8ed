"""What a review found 0.3.0 answering wrongly, asked of today's Squall by the same words: docs/since-0.3.0.md has both answers."""

import sys
from pathlib import Path

import pytest

sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))
from before import CASES, Asked, ask


@pytest.mark.parametrize("number", range(len(CASES)), ids=[f"{point} {asked[:40]}" for point, asked, _ in CASES])
def test_what_030_got_wrong_is_right(client, number: int) -> None:
    good, said = ask(Asked(client), CASES[number][2])
    assert good, said
