"""What the survey and the lift show: good, to be minded, or wrong, each in a sentence in a person's units."""

from dataclasses import dataclass
from typing import Literal

from squall.core.reason import Spoken
from squall.words import later

Grade = Literal["good", "care", "bad"]


@dataclass(frozen=True)
class Finding:
    """One thing seen: its grade, the sentence, and what could be done."""

    grade: Grade
    text: Spoken
    answers: tuple[Spoken, ...] = ()


DARCY = later(
    "Darcy-Weisbach with Colebrook's factor (J. Inst. Civil Eng. 11, 1939) in turbulent, 64/Re in laminar flow"
)


DRIVE = later("The drive model of docs/method.md: affinity laws, speed counted in volts of back-EMF")
SUN = later(
    "NREL SPA sun position; Ineichen clear sky; Collares-Pereira and Rabl (1979) hours of the average day; Erbs (1982) diffuse; Hay and Davies (1980) onto the plane"
)
