"""How long Fault's first answer and each next one take, on all kits of the stand-ins."""

import json
import random
import statistics
import time

from squall.core.faults.diagnosis import diagnose
from squall.core.faults.suspicion import Evidence
from squall.core.faults.sweep import Lit, sweep_all
from squall.standins.kits import KITS
from squall.standins.yard import Yard
from squall.sums.faults import KitIn


def rows() -> list[tuple[str, str, str]]:
    """The slowest kit's medians. [ms]"""
    firsts, nexts = [], []
    for kit in KITS.values():
        chain = KitIn.model_validate_json(json.dumps(kit)).chain()
        lit = Lit(None, 20.0)
        diagnose(chain, "unknown", lit, [])
        yard = Yard(kit, "joint-resistance", 600.0, 20.0, random.Random(1), exact=True)
        seen = [
            Evidence("turns", answer="turns"),
            Evidence("box-volts-on", value=yard.exactly("box-volts-on")),
            Evidence("outlet-flow", value=yard.exactly("outlet-flow") / 60_000.0),
        ]
        begun, later = [], []
        for _ in range(5):
            sweep_all.cache_clear()
            begin = time.perf_counter()
            diagnose(chain, "unknown", lit, [])
            begun.append((time.perf_counter() - begin) * 1000.0)
            for count in range(1, len(seen) + 1):
                begin = time.perf_counter()
                diagnose(chain, "unknown", lit, seen[:count])
                later.append((time.perf_counter() - begin) * 1000.0)
        firsts.append(statistics.median(begun))
        nexts.append(statistics.median(later))
    return [
        ("Fault's first answer, light unknown, slowest of six kits", f"{max(firsts):.0f} ms", "under 300 ms"),
        ("each next, slowest of six kits", f"{max(nexts):.0f} ms", "under 200 ms"),
    ]


if __name__ == "__main__":
    for name, figure, wanted in rows():
        print(f"{name:70} {figure:>10}   {wanted}")
