"""What Kits tells: prices, worst months, and how sure the choice is."""

from squall.core.advice.doubt import REMEDIES, ChoiceRange
from squall.core.explain import Figure, Input
from squall.core.kit.carried import mass_lines, shared_out
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Setup, kit_price, price_lines
from squall.job.told.finding import DRIVE, SUN
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.words import Message, later, say
from squall.words.units import text


def choice_words(choice: ChoiceRange, a: Assessment) -> str:
    """Whether the kit hangs on a doubtful measurement, in a sentence or two."""
    best = choice.picks[0].best
    if best is None:
        return say("No kit of this catalogue holds, so there is no choice to doubt.")
    said = ""
    lifts = sorted(pick.lift_m for pick in choice.picks[:-1])
    if len(lifts) > 1:
        low, high = text(lifts[0], "head"), text(lifts[-1], "head")
        if choice.same_at_any_lift:
            said = say(
                "Any level that makes the lift between {low} and {high} gives the same kit: no need to measure it better.",
                low=low,
                high=high,
            )
        else:
            said = say(
                "Between a lift of {low} and of {high} the cheapest kit changes: {REMEDIES} before you buy.",
                low=low,
                high=high,
                REMEDIES=REMEDIES["lift"],
            )
    if choice.same_at_worst:
        said += say(" Even if every doubt goes badly it is the same kit.")
    else:
        said += say(" If every doubt goes badly another kit is wanted: the table says which.")
    if choice.holds_to_m is not None:
        said += say(" It holds up to a lift of {holds_to:head}.", holds_to=choice.holds_to_m)
    return said.strip()


def taken_words(was: KitAssessment | None, now: KitAssessment) -> Message:
    """What taking a kit changed: litres of its worst month and price, against those of the kit before."""
    litres, month = now.worst_litres / 1000.0, now.worst_month
    if was is None or was.refusal is not None:
        return later("Taken: {name:sizes}. It makes {litres:litres} on an average {month:month} day, at a price of {price:.0f}.", name=now.option.name, litres=litres, month=month, price=now.price)  # fmt: skip
    return later(
        "Taken: {name:sizes}. It makes {litres:litres} on an average {month:month} day where the one before made {before:litres} in {month2:month}; price {price:.0f} in place of {price2:.0f}. The one before stays among the options.",
        name=now.option.name, litres=litres, month=month, before=was.worst_litres / 1000.0, month2=was.worst_month,
        price=now.price, price2=was.price,
    )  # fmt: skip


def price_figure(key: str, setup: Setup) -> Figure:
    """Price of a kit, part by part."""
    lines = price_lines(setup)
    return Figure(
        key, say("Price"), kit_price(setup), "money",
        tuple(Input(name, price, "money") for name, price in lines), say("sum of the parts"),
        say("the catalogue's prices; cable and sundries: a guess of the demo catalogue"),
    )  # fmt: skip


def mass_figure(key: str, setup: Setup) -> Figure:
    """What a kit weighs to carry, piece by piece."""
    lines = mass_lines(setup)
    return Figure(
        key, say("Weight to carry"), sum(mass for _, mass in lines), "mass",
        tuple(Input(name, mass, "mass") for name, mass in lines), say("sum of the parts; small parts and a tank's water are not counted"),
        say("the parts' own; cable: its copper and a third more, a guess"),
    )  # fmt: skip


def bags_figures(key: str, setup: Setup, bags: int) -> list[Figure]:
    """What each bag weighs, heaviest first, and what goes into it; nothing where there is one."""
    if bags < 2:
        return []
    return [
        Figure(
            f"{key}{number}", say("Bag {number}", number=number), bag.mass_kg, "mass",
            tuple(Input(say("in it"), name, "text") for name in bag.pieces),
            say("the heaviest piece first, each into the bag that is lightest so far"), say("the parts' own weights"),
        )
        for number, bag in enumerate(shared_out(setup, bags), start=1)
    ]  # fmt: skip


def worst_figure(key: str, kit: Kit, month: int, litres: float, need_l: tuple[float, ...]) -> Figure:
    """Litres on the average day of a kit's worst month."""
    return Figure(
        key, say("Average {month:month} day", month=month), litres / 1000.0, "litres",
        (Input(say("pump"), kit.pump.title, "text"), Input(say("array"), kit.array_w, "watts"), Input(say("joined"), kit.joining, "text"),
         Input(say("need then"), need_l[month] / 1000.0, "litres")),
        say("the month in which least of the need is covered; flow at every half hour of ten years of made weather, summed, over that month's days"),
        f"{DRIVE}. {SUN}",
    )  # fmt: skip
