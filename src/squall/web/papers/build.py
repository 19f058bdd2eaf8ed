"""What stands on the build sheet: the circuit, its terminals, what to cut, the order of joining, the steps with a box for each."""

from typing import Any

from squall.core.prove.expect import unknown_light
from squall.drawing.circuit import draw_circuit
from squall.drawing.small.steps import step_picture
from squall.job.fitted.cutlist import cut_list, lowering_of
from squall.job.fitted.steps import fit_steps, tools_of
from squall.job.wired.live import kit_circuit, live_circuit
from squall.job.wired.not_yet import not_yet
from squall.job.wired.order import order_of_joining
from squall.job.wired.terminals import input_lines
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment
from squall.store.jobs import Stored
from squall.web.stages.circuit import wires_of
from squall.web.stages.fit import first_water


def build_sheet(stored: Stored, a: Assessment, chosen: KitAssessment) -> dict[str, Any]:
    """Everything of the build sheet that the other papers don't have."""
    now = unknown_light(20.0)
    live = live_circuit(a, chosen, now)
    wires = wires_of(a, live)
    steps = fit_steps(stored.job, a, chosen, first_water(a, chosen))
    circuit = draw_circuit(live, wires, lambda part: f"#{part.placed.id}")
    return {
        "circuit": circuit,
        "circuit_wide": ' wide"' in circuit.partition(">")[0],
        "circuit_down": draw_circuit(live, wires, lambda part: f"#{part.placed.id}", down=True),
        "light": now.irradiance_w_m2,
        "not_yet": not_yet(a, chosen),
        "wires": wires,
        "inputs": input_lines(chosen.kit),
        "joining": order_of_joining(chosen.setup, kit_circuit(a, chosen, now), wires, now, a.rules.splice),
        "cuts": cut_list(stored.job, a, chosen),
        "lowering": lowering_of(stored.job, a, chosen),
        "steps": steps,
        "picture": step_picture,
        "tools": tools_of(steps),
    }
