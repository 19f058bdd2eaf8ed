"""Circuits against ngspice (Debian's package), which solves the netlist that we write of them.

The panel's diode, the batteries, cables and switches are ngspice's own models; a pump goes over as points of its amps against
its volts, so its curve is ours and only where the circuit meets it is checked (the curve is checked against others elsewhere).
"""

import random
import re
import shutil
import subprocess
from pathlib import Path

import pytest
from circuits import (
    DISPLACEMENT,
    Part,
    battery,
    by_chance,
    controller,
    fuse,
    ohms,
    pump,
    pv,
    relay,
    supply,
    switch,
)

from squall.core.errors import BadCircuit
from squall.sums import run

# Of the volts, and at least of half a volt: pumps go over in straight pieces.
NEAR, NEAR_PUMPS = 0.01, 0.015
VOLTS = re.compile(r"^\s*([a-z0-9_.]+)\s+(-?\d\.\d+e[+-]\d+)\s*$", re.MULTILINE)

KITS: dict[str, list[Part]] = {
    "a pump straight on a panel": [pv("sun", "a", "0"), ohms("core", "a", "m", 0.2), pump("p", "m", "0")],
    "two panels in series": [
        pv("one", "a", "j"), pv("two", "j", "0"), ohms("core", "a", "m", 0.4), pump("p", "m", "0", 30.0, DISPLACEMENT),
    ],
    "two panels side by side, one dim": [
        pv("one", "a", "0", 900.0), pv("two", "b", "0", 200.0), ohms("y1", "a", "c", 0.02), ohms("y2", "b", "c", 0.02),
        pump("p", "c", "0"),
    ],
    "a shaded panel with its bypass diode": [
        pv("one", "a", "j"), pv("two", "j", "0", 60.0), pump("p", "a", "0", 2.0),
        {"id": "by", "type": "diode", "anode": "0", "cathode": "j", "saturation_a": 1e-7, "slope_v": 0.03},
    ],
    "a bilge pump on a battery by a float": [
        battery("b", "post", "0"), fuse("f", "post", "x"), switch("float", "x", "m"), pump("p", "m", "0", 1.0),
    ],
    "the float open": [
        battery("b", "post", "0"), fuse("f", "post", "x"), switch("float", "x", "m", closed=False), pump("p", "m", "0"),
    ],
    "leads swapped": [battery("b", "post", "0"), ohms("r", "post", "m", 0.1), pump("p", "0", "m")],
    "a rotor held": [battery("b", "post", "0"), fuse("f", "post", "m", 7.5), pump("p", "m", "0", locked=True)],
    "too little light to turn": [pv("sun", "a", "0", 3.0), pump("p", "a", "0")],
    "dark": [pv("sun", "a", "0", 0.0), ohms("r", "a", "0", 1000.0), battery("b", "c", "0")],
    "a charging bank and a pump": [
        pv("sun", "a", "0"), ohms("lead", "a", "post", 0.05), battery("b", "post", "0", 12.9), pump("p", "post", "0", 8.0),
    ],
    "two batteries, one low": [battery("b", "x", "0"), battery("c", "y", "0", 11.4, 0.2), ohms("r", "x", "y", 0.01)],
    "a plug-in supply at its limit": [supply("s", "a", "0", 12.0, 2.0), pump("p", "a", "0")],
    "a plug-in supply with room": [supply("s", "a", "0", 12.0, 10.0), ohms("r", "a", "m", 0.3), pump("p", "m", "0")],
    "a pilot and its relay": [
        battery("b", "post", "0"), fuse("f", "post", "x"), switch("pilot", "x", "c"), relay("k", ("c", "0"), ("x", "m")),
        pump("p", "m", "0"),
    ],
    "a relay too weak to pull in": [
        battery("b", "post", "0", 7.0), relay("k", ("post", "0"), ("post", "m")), pump("p", "m", "0"),
    ],
    "two pumps and a lamp on bus bars": [
        battery("b", "post", "0", 12.6, 0.02), fuse("main", "post", "bus", 30.0), fuse("f1", "bus", "m1"),
        fuse("f2", "bus", "m2"), ohms("lamp", "bus", "0", 14.0), pump("p", "m1", "0"), pump("q", "m2", "0", 2.0),
    ],
    "a controller tracking": [
        pv("sun", "array", "back", 500.0), controller(), ohms("core", "out", "m", 0.2), pump("p", "m", "back", 9.0),
    ],
    "a controller at its most volts": [
        pv("sun", "array", "back", 1000.0, strings_in_parallel=2), controller(), pump("p", "out", "back", 2.0),
    ],
    "a controller stopped": [
        pv("sun", "array", "back"), controller(runs=False), ohms("r", "array", "back", 500.0), pump("p", "out", "back"),
    ],
    "a controller over its limit": [
        pv("sun", "array", "back", modules_in_series=3), controller(), ohms("r", "array", "back", 5000.0), pump("p", "out", "back"),
    ],
    "a bad joint in one core": [
        battery("b", "post", "0"), ohms("out", "post", "m", 0.05), pump("p", "m", "n"), ohms("joint", "n", "0", 0.8),
    ],
    "a bridge of lamps": [
        battery("b", "a", "0"), ohms("r1", "a", "x", 5.0), ohms("r2", "a", "y", 8.0), ohms("r3", "x", "0", 7.0),
        ohms("r4", "y", "0", 3.0), ohms("r5", "x", "y", 2.0),
    ],
    "an island that nothing joins": [
        battery("b", "a", "0"), ohms("r", "a", "0", 6.0), pv("sun", "x", "y"), ohms("s", "x", "y", 9.0),
    ],
}  # fmt: skip


def spice(netlist: str, folder: Path) -> dict[str, float]:
    """Volts of each node, by ngspice."""
    program = shutil.which("ngspice")
    assert program is not None, "ngspice is part of what the tests need; `make test` installs it"
    file = folder / "kit.cir"
    file.write_text(netlist)
    done = subprocess.run([program, "-b", str(file)], capture_output=True, text=True, timeout=60, check=False)
    found: dict[str, float] = {}
    for name, volts in VOLTS.findall(done.stdout.partition("No. of Data Rows")[2]):
        found.setdefault(name, float(volts))
    assert found, done.stdout[-2000:] + done.stderr[-2000:]
    return found


def check(parts: list[Part], folder: Path) -> None:
    given = {"components": parts}
    ours, theirs = run("circuit", given), spice(run("netlist", given).spice, folder)
    near = NEAR_PUMPS if any(part["type"] == "pump" for part in parts) else NEAR
    for node, volts in ours.node_v.items():
        if node != ours.reference:
            assert theirs[node] == pytest.approx(volts, rel=near, abs=0.5 * near), node


@pytest.mark.parametrize("name", KITS)
def test_kits_agree_with_ngspice(name: str, tmp_path: Path) -> None:
    check(KITS[name], tmp_path)


@pytest.mark.parametrize("begin", [0, 20, 40])
def test_circuits_by_chance_agree_with_ngspice(begin: int, tmp_path: Path) -> None:
    agreed = 0
    for seed in range(begin, begin + 20):
        try:
            check(by_chance(seed), tmp_path)
        except BadCircuit as error:
            # Only a relay that chatters may be refused.
            if "settles" not in str(error):
                raise
            continue
        agreed += 1
    assert agreed >= 16


def test_a_netlist_says_what_is_open_and_keeps_the_nodes() -> None:
    parts = [battery("b", "post", "minus"), switch("s", "post", "gnd", closed=False), ohms("r", "gnd", "minus", 5.0)]
    random.Random(1).shuffle(parts)
    text = run("netlist", {"components": parts}).spice
    assert "* s is open" in text
    assert "Rr gnd_ 0 5" in text, "gnd would be taken for the reference"
    assert text.index(".op") < text.index(".end")


def test_no_two_elements_of_a_netlist_share_a_name() -> None:
    # A coil, a shunt or a leak of ours must not meet a part that somebody called so.
    clashing = [
        battery("b", "post", "0"), relay("k", ("post", "0"), ("post", "m")), ohms("k_coil", "m", "0", 7.0), supply("s", "x", "0"),
        ohms("s_leak", "x", "0", 9.0), pv("sun", "y", "0"), ohms("sun_shunt", "y", "0", 11.0), ohms("float_1", "u", "v", 1.0),
    ]  # fmt: skip
    for parts in (clashing, *KITS.values()):
        lines = run("netlist", {"components": parts}).spice.splitlines()
        names = [line.split()[0].lower() for line in lines if line[:1] in "RVIDB"]
        assert len(names) == len(set(names))


def test_clashing_names_run_all_the_same(tmp_path: Path) -> None:
    check(
        [battery("b", "post", "0"), relay("k", ("post", "0"), ("post", "m")), ohms("k_coil", "m", "0", 7.0)], tmp_path
    )
