"""Names of months and days."""

from squall.core.errors import OutOfRange
from squall.core.reason import Between, Quantity
from squall.core.sky.outside import DAYS_IN_MONTH
from squall.words.message import Message, later, say

MONTHS: tuple[Message, ...] = (
    later("January"), later("February"), later("March"), later("April"), later("May"), later("June"), later("July"),
    later("August"), later("September"), later("October"), later("November"), later("December"),
)  # fmt: skip
WEEK_DAYS: tuple[Message, ...] = (
    later("Monday"), later("Tuesday"), later("Wednesday"), later("Thursday"), later("Friday"), later("Saturday"),
    later("Sunday"),
)  # fmt: skip
# Three letters, for the heads of narrow columns.
SHORT_MONTHS: tuple[Message, ...] = (
    later("Jan"), later("Feb"), later("Mar"), later("Apr"), later("May "), later("Jun"), later("Jul"), later("Aug"),
    later("Sep"), later("Oct"), later("Nov"), later("Dec"),
)  # fmt: skip


def month_name(index: int) -> str:
    """Name of a month, January 0, in the voice of this request."""
    return str(MONTHS[index])


def day_name(day: int) -> str:
    """A day of the year from 0 as people write it, such as 14 July.

    Raises
    ------
    OutOfRange
        Outside a year.
    """
    left = day
    for month, length in enumerate(DAYS_IN_MONTH):
        if left < length:
            return say("{day} {month:month}", day=left + 1, month=month)
        left -= length
    raise OutOfRange("day-year", Quantity(day + 1, "number"), Between(1, 365, "number"))
