"""Every error that Squall raises on purpose, in one tree.

::

    SquallError                 anything below; its sentence may be shown to a person
    ├── OutOfRange              a value outside what is possible or covered: field, given, allowed
    ├── BadQuantity             typed text that is not the quantity wanted
    ├── BadCurve                a pump curve that no pump can have
    ├── BadNameplate            panel figures that no panel can have
    ├── BadEvidence             what a check can't have shown, or a check that this kit doesn't have
    ├── BadCircuit              parts joined as they can't be, or a circuit without an answer
    ├── Unsolvable              no working point between the bounds in which it must lie
    ├── UnknownPart             a part that the catalogue does not hold
    ├── NotFound                a job, option or reading that is not there
    │   └── Deleted             a job that was there and can be brought back: its number
    ├── StaleEdit               an edit of a field that someone else has changed since
    ├── BadFile                 a file that is not what it should be; nothing was changed
    ├── CantWrite               a full disk, or one that may only be read; nothing was changed
    ├── Busy                    someone else writes for longer than one may wait; nothing was changed
    └── Stopped                 long work that the user stopped

Pages, the sums and the command all print ``str(error)``: one plain sentence that says what was given and what would be
right, in the reader's language and units (see ``squall.words``). An error from the core carries a :class:`Reason`.
"""

from squall.core.reason import Between, Quantity, Reason, Told


class SquallError(Exception):
    """Base of all; ``str()`` is a sentence for a person.

    Parameters
    ----------
    said : Told or str
        What there is to say.
    """

    def __init__(self, said: Told | str) -> None:
        self.said = said
        super().__init__(said)

    def __str__(self) -> str:
        return str(self.said)


class OutOfRange(SquallError):
    """A value that is impossible, or outside the range that a formula covers.

    Parameters
    ----------
    field : str or Told
        What it is: a code of ``squall.words.reasons``, or words.
    given : Told, str or int
        What was given.
    allowed : Told or str
        What is allowed, e.g. ``Between(0.0, 200.0, "length")``.
    """

    def __init__(self, field: str | Told, given: Told | str | float, allowed: Told | str) -> None:
        self.field = Reason(field) if isinstance(field, str) else field
        self.given = given
        self.allowed = allowed
        super().__init__(Reason("out-of-range", field=self.field, given=given, allowed=allowed))


class BadQuantity(SquallError):
    """Typed text that can't be read as the quantity that is wanted."""


class BadCurve(SquallError):
    """Pump points that no pump can have, such as head that rises with flow."""


class BadNameplate(SquallError):
    """Panel figures that contradict one another."""


class BadCircuit(SquallError):
    """Parts joined as they can't be, or a circuit that has no answer; names the part."""


class BadEvidence(SquallError):
    """What no check of this kit can have shown; names the check."""


class Unsolvable(SquallError):
    """No working point lies between the bounds in which it must lie: the figures contradict one another."""


class UnknownPart(SquallError):
    """A part identifier that is not in the catalogue."""


class NotFound(SquallError):
    """Something asked for that does not exist (any more)."""


class Deleted(NotFound):
    """A job that was taken off the list and waits there to be brought back.

    Parameters
    ----------
    said : Told or str
        What there is to say.
    job_id : int
        Its number. [-]
    """

    def __init__(self, said: Told | str, job_id: int) -> None:
        self.job_id = job_id
        super().__init__(said)


class BadFile(SquallError):
    """A file that can't be taken in; nothing was changed."""


class CantWrite(SquallError):
    """The data can't be written: the disk is full, or it may only be read. Nothing was changed."""


class Busy(SquallError):
    """The database is being written by someone else for longer than a person should wait; nothing was changed."""


class Stopped(SquallError):
    """Long work that was stopped by the user."""


class StaleEdit(SquallError):
    """An edit made on an older revision of the same field.

    Parameters
    ----------
    field : str
        Path of the field in the job.
    mine, theirs : str
        What this edit says, and what now stands there.
    """

    def __init__(self, field: str, mine: str, theirs: str) -> None:
        self.field = field
        self.mine = mine
        self.theirs = theirs
        super().__init__(Reason("someone-else-changed-it", theirs=theirs, mine=mine))


class NoPlace(SquallError):
    """Nobody has said yet where the job is, so nothing can be said of its light."""

    def __init__(self) -> None:
        super().__init__(Reason("no-place-yet"))


def require(field: str | Told, given: float, low: float, high: float, kind: str) -> float:
    """Return `given` if it is within `low` to `high`.

    Parameters
    ----------
    field : str or Told
        Code of the field in ``squall.words.reasons``.
    given : float
        The value. [SI unit of its kind]
    low, high : float
        Inclusive bounds. [the same]
    kind : str
        Kind of quantity, see ``squall.words.units.KINDS``.

    Returns
    -------
    float
        The value, unchanged. [the same]

    Raises
    ------
    OutOfRange
        If it is outside, or not a number.

    Examples
    --------
    >>> require("cable-length", 12.0, 0.0, 5000.0, "length")
    12.0
    """
    if not low <= given <= high:
        raise OutOfRange(field, Quantity(given, kind), Between(low, high, kind))
    return given
