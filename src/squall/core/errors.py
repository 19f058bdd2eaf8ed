"""Every error that Squall raises on purpose, in one tree.

::

    SquallError                 anything below; its sentence may be shown to a person
    ├── OutOfRange              a value outside what is possible or covered: field, given, allowed
    ├── BadQuantity             typed text that is not the quantity wanted
    ├── BadCurve                a pump curve that no pump can have
    ├── BadNameplate            panel figures that no panel can have
    ├── Unsolvable              no working point between the bounds in which it must lie
    ├── UnknownPart             a part that the catalogue does not hold
    ├── NotFound                a job, option or reading that is not there
    ├── StaleEdit               an edit of a field that someone else has changed since
    ├── BadFile                 a file that is not what it should be; nothing was changed
    └── Stopped                 long work that the user stopped

Pages, the sums and the command all print ``str(error)``: one plain sentence that says
what was given and what would be right.
"""


class SquallError(Exception):
    """Base of all; ``str()`` is a sentence for a person."""


class OutOfRange(SquallError):
    """A value that is impossible, or outside the range that a formula covers.

    Parameters
    ----------
    field : str
        Plain name of the field.
    given : object
        What was given.
    allowed : str
        What is allowed, in words, e.g. ``"0 to 200 m"``.
    """

    def __init__(self, field: str, given: object, allowed: str) -> None:
        self.field = field
        self.given = given
        self.allowed = allowed
        super().__init__(f"{field} is {given}; allowed is {allowed}.")


class BadQuantity(SquallError):
    """Typed text that can't be read as the quantity that is wanted."""


class BadCurve(SquallError):
    """Pump points that no pump can have, such as head that rises with flow."""


class BadNameplate(SquallError):
    """Panel figures that contradict one another."""


class Unsolvable(SquallError):
    """No working point lies between the bounds in which it must lie: the figures contradict one another."""


class UnknownPart(SquallError):
    """A part identifier that is not in the catalogue."""


class NotFound(SquallError):
    """Something asked for that does not exist (any more)."""


class BadFile(SquallError):
    """A file that can't be taken in; nothing was changed."""


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
        super().__init__(f"Someone else changed this meanwhile: it now says {theirs!r}, you typed {mine!r}.")


def require(field: str, given: float, low: float, high: float, unit: str) -> float:
    """Return `given` if it is within `low` to `high`.

    Parameters
    ----------
    field : str
        Plain name of the field.
    given : float
        The value. [unit]
    low, high : float
        Inclusive bounds. [unit]
    unit : str
        Unit as printed.

    Returns
    -------
    float
        The value, unchanged. [unit]

    Raises
    ------
    OutOfRange
        If it is outside, or not a number.
    """
    if not low <= given <= high:
        raise OutOfRange(field, f"{given:g} {unit}".strip(), f"{low:g} to {high:g} {unit}".strip())
    return given
