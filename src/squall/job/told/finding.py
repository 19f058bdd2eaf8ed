"""What the survey and the lift show: good, to be minded, or wrong, each in a sentence in a person's units."""

from dataclasses import dataclass
from typing import Literal

Grade = Literal["good", "care", "bad"]


@dataclass(frozen=True)
class Finding:
    """One thing seen: its grade, the sentence, and what could be done."""

    grade: Grade
    text: str
    answers: tuple[str, ...] = ()
