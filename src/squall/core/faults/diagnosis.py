"""Beliefs and advice as one answer: what is likely wrong, what to look at next, whether to act."""

from collections.abc import Sequence
from dataclasses import dataclass

from squall.core.faults.causes import CAUSES, NOTHING_KNOWN, Frequencies, Part, Story
from squall.core.faults.chain import Chain
from squall.core.faults.next_check import Advice, advise, likeliest
from squall.core.faults.pairs import Pair, pairs_of
from squall.core.faults.suspicion import Beliefs, Evidence, believe
from squall.core.faults.sweep import Lit
from squall.core.reason import Reason


@dataclass(frozen=True)
class Belief:
    """One cause and how likely it is. [-]"""

    cause: str
    part: Part
    share: float

    @property
    def words(self) -> Reason:
        """What it is."""
        return Reason(f"fault-{self.cause}")

    @property
    def remedy(self) -> Reason:
        """What mends it."""
        return Reason(f"remedy-{self.cause}")


@dataclass(frozen=True)
class Diagnosis:
    """Beliefs likeliest first, what to look at, what it comes to, and pairs where no cause alone explains it."""

    beliefs: tuple[Belief, ...]
    advice: Advice
    verdict: Reason
    together: tuple[Pair, ...] = ()


def part_of(cause: str) -> Part:
    """Where a cause sits; of nothing and of none of these: the kit. [code]"""
    return CAUSES[cause].part if cause in CAUSES else "kit"


def _listed(beliefs: Beliefs) -> tuple[Belief, ...]:
    ordered = sorted(beliefs.shares, key=lambda code: -beliefs.shares[code])
    return tuple(Belief(code, part_of(code), beliefs.shares[code]) for code in ordered)


def _verdict(beliefs: Beliefs, advice: Advice) -> Reason:
    cause, exact = likeliest(beliefs)
    # Nobody should read more into it than whole percents.
    share = round(exact, 2)
    said, remedy = Reason(f"fault-{cause}"), Reason(f"remedy-{cause}")
    if not advice.done:
        return Reason("verdict-not-yet", cause=said, share=share)
    return Reason("verdict-done" if advice.checks else "verdict-open", cause=said, share=share, remedy=remedy)


def diagnose(
    chain: Chain, story: Story, lit: Lit, evidence: Sequence[Evidence], known: Frequencies = NOTHING_KNOWN
) -> Diagnosis:
    """What is likely wrong with a kit and what to look at next.

    Parameters
    ----------
    chain : Chain
        The kit as stated.
    story : str
        What happened before.
    lit : Lit
        What is known of the light and the air.
    evidence : Sequence[Evidence]
        What was looked at, in its order, skipped or not.
    known : Frequencies
        What this yard knows of its faults.

    Returns
    -------
    Diagnosis
        Beliefs that add up to 1, checks best first, a verdict.

    Raises
    ------
    BadEvidence
        For evidence that this kit can't give.
    """
    beliefs = believe(chain, story, lit, evidence, known)
    advice = advise(chain, beliefs, evidence)
    together = pairs_of(chain, story, lit, evidence, beliefs, known)
    return Diagnosis(_listed(beliefs), advice, _verdict(beliefs, advice), together)
