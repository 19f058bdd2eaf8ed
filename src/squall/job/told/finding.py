"""What the survey and the lift show: good, to be minded, or wrong, each in a sentence in a person's units."""

from dataclasses import dataclass
from typing import Literal

from squall.core.reason import Spoken

Grade = Literal["good", "care", "bad"]


@dataclass(frozen=True)
class Finding:
    """One thing seen: its grade, the sentence, and what could be done."""

    grade: Grade
    text: Spoken
    answers: tuple[Spoken, ...] = ()
