"""Circuit: the kit as one diagram, live; its terminals, the order of joining, what gives way first."""

from collections.abc import Callable, Sequence
from sqlite3 import Connection
from typing import Annotated, Any
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Request, Response
from markupsafe import Markup

from squall.core.circuit.laid import OTHER_POLE, KitCircuit
from squall.core.errors import BadCircuit, NotFound
from squall.core.faults.causes import Part
from squall.core.prove.expect import Now, unknown_light
from squall.core.reason import Spoken
from squall.drawing.circuit import draw_circuit
from squall.drawing.circuit_words import Marks, act_words, part_says
from squall.formats.build_lists import terminals_csv
from squall.formats.spice import netlist
from squall.job.told.prove import now_from
from squall.job.told.wire import contact_findings
from squall.job.trouble.chain import on_circuit
from squall.job.wired.gives_way import weak_parts
from squall.job.wired.live import PART_OF, LiveCircuit, LivePart, kit_circuit, live_circuit
from squall.job.wired.not_yet import not_yet, too_much_now
from squall.job.wired.order import order_of_joining
from squall.job.wired.terminals import Wire, input_lines, terminal_map
from squall.job.worked.assess import Assessment, assess
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored, one_job
from squall.web.frame.pages import Prefs, database, file_name
from squall.words import later
from squall.words.units import text

router = APIRouter()
Db = Annotated[Connection, Depends(database)]
ASKED = ("light", "short", "air")


def panel(request: Request, stored: Stored, prefs: Prefs) -> dict[str, Any]:
    """The diagram and all that is told from it; nothing without a kit."""
    a = assess(stored.job)
    if a.chosen is None or a.wiring is None:
        return {"live": None}
    typed = {name: request.query_params.get(name, "")[:60] for name in ASKED}
    now, problems = now_from(a.chosen, {**typed, "bank": ""}, prefs.units)
    opened = [ident[:40] for ident in request.query_params.getlist("open")[:40]]
    live = live_circuit(a, a.chosen, now, opened)
    wires = wires_of(a, live)
    href = href_of(stored.id, typed, live)
    plus_first = request.query_params.get("school") == "plus"
    shown: dict[str, Any] = {
        "plus_first": plus_first,
        "not_yet": not_yet(a, a.chosen),
        "contacts_found": contact_findings(a, a.chosen),
        "live": live,
        "typed": typed,
        "problems": problems,
        "now": now,
        "wires": wires,
        "inputs": input_lines(a.chosen.kit),
    }
    try:
        diagrams = draw_circuit(live, wires, href), draw_circuit(live, wires, href, down=True)
        steps = order_of_joining(
            a.chosen.setup, kit_circuit(a, a.chosen, now), wires, now, a.rules.splice, plus_first=plus_first
        )
    except BadCircuit as error:
        return {**shown, "wrong": str(error)}
    return {
        **shown,
        "wrong": "",
        "diagrams": diagrams,
        "state": state_words(live),
        "rows": [(part, href(part), part_says(part), act_words(part)) for part in live.parts],
        "anchors": anchors(live),
        "steps": steps,
        "weak": weak_parts(live, a.wiring),
        "hot": [part for part in live.parts if part.would_open],
        "too_much": too_much_now(live, a.chosen),
    }


def wires_of(a: Assessment, live: LiveCircuit) -> tuple[Wire, ...]:
    """The terminal map of the chosen kit."""
    return terminal_map(live.kit, a.rules.splice)


def marked_diagrams(
    stored: Stored, a: Assessment, chosen: KitAssessment, now: Now, marks: Callable[[KitCircuit], Marks]
) -> tuple[Markup, ...]:
    """The circuit with something laid over its parts, along the page and down it; none where it has no answer."""
    if a.wiring is None:
        return ()
    try:
        live = live_circuit(a, chosen, now)
        over, wires = marks(live.kit), wires_of(a, live)

        def href(part: LivePart) -> str:
            return f"/jobs/{stored.id}/circuit#row-{part.placed.id}"

        return tuple(draw_circuit(live, wires, href, down=down, marks=over) for down in (False, True))
    except BadCircuit:
        return ()


def readings_on(readings: Sequence[tuple[Part, str]], circuit: KitCircuit) -> Marks:
    """Readings at the parts of a circuit that they were taken at; what has no place there is left out."""
    words: dict[str, list[str]] = {}
    for part, said in readings:
        if ident := on_circuit(part, circuit):
            words.setdefault(ident, []).append(said)
    return Marks(readings=words)


def href_of(job_id: int, typed: dict[str, str], live: LiveCircuit) -> Callable[[LivePart], str]:
    """Where a click on a part leads: a switch opens or closes, anything else shows its row."""

    def href(part: LivePart) -> str:
        opened = [ident for ident in live.opened if not ident.endswith(OTHER_POLE)]
        if not part.can_open:
            return f"#row-{part.placed.id}"
        moved = part.placed.id.removesuffix(OTHER_POLE)
        if part.open:
            opened.remove(moved)
        else:
            opened.append(moved)
        query = [(name, value) for name, value in typed.items() if value] + [("open", ident) for ident in opened]
        return f"/jobs/{job_id}/circuit?{urlencode(query)}" if query else f"/jobs/{job_id}/circuit"

    return href


def anchors(live: LiveCircuit) -> dict[str, str]:
    """Part of the long-section by the first row that is it."""
    found: dict[str, str] = {}
    for part in live.parts:
        found.setdefault(PART_OF[part.placed.where], part.placed.id)
    return {row: part for part, row in found.items()}


def state_words(live: LiveCircuit) -> Spoken:
    """What the pump does as the circuit stands."""
    state, motor = live.motor, live.part("motor")
    if live.answer.backwards:
        return later("The pump turns backwards and gives no water.")
    if state is None or state.flow_m3_s <= 0.0:
        amps = abs(motor.amps_a)
        if state is None:
            return later("The pump stands still; {amps:amps} flow.", amps=amps)
        return later(
            "The pump turns, at {volts:volts} and {amps:amps}, and gives no water.", volts=state.volts_v, amps=amps
        )
    return later(
        "The pump runs at {volts:volts} and {amps:amps} and gives {flow}.",
        volts=state.volts_v, amps=state.current_a, flow=text(state.flow_m3_s, "flow"),
    )  # fmt: skip


def _chosen(conn: Connection, job_id: int) -> tuple[Stored, Assessment, KitAssessment]:
    stored = one_job(conn, job_id)
    a = assess(stored.job)
    if a.chosen is None or a.wiring is None:
        raise NotFound(later("This job has no kit yet, and so no circuit."))
    return stored, a, a.chosen


@router.get("/jobs/{job_id}/circuit/terminals.csv")
def terminals_file(job_id: int, conn: Db) -> Response:
    """The terminal map as CSV."""
    stored, a, chosen = _chosen(conn, job_id)
    wires = wires_of(a, live_circuit(a, chosen, unknown_light(20.0)))
    return _file(terminals_csv(wires), "text/csv; charset=utf-8", file_name(f"{stored.job.name} terminals", "csv"))


@router.get("/jobs/{job_id}/circuit/netlist.cir")
def netlist_file(job_id: int, conn: Db) -> Response:
    """The circuit as a netlist for a SPICE program, in 800 W/m2."""
    stored, a, chosen = _chosen(conn, job_id)
    kit = kit_circuit(a, chosen, unknown_light(20.0))
    return _file(netlist(kit.circuit()), "text/plain; charset=utf-8", file_name(f"{stored.job.name} circuit", "cir"))


def _file(made: str, media_type: str, name: str) -> Response:
    return Response(made, media_type=media_type, headers={"content-disposition": f'attachment; filename="{name}"'})
