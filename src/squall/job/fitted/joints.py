"""What joins what along the chosen kit's run, and the clamps it takes."""

from dataclasses import dataclass

from squall.core.hydraulics.joints import End, Joint, clamps, joints_along
from squall.job.worked.assess import Assessment
from squall.job.worked.kit import KitAssessment


@dataclass(frozen=True)
class JointList:
    """Joints along the run, clamps to buy, and how many sizes don't meet."""

    joints: list[Joint]
    clamps: int


def joints_of(a: Assessment, chosen: KitAssessment) -> JointList:
    """What joins what from the pump's barb to the outlet."""
    ends = []
    for piece, laid in zip(a.job.run, chosen.layout.pieces, strict=True):
        hose = chosen.kit.hose if chosen.kit.hose is not None and laid.replaceable else a.parts.hoses.get(piece.hose)
        bore = hose.inner_diameter_m if hose is not None else piece.bore.si
        ends.append(End(piece.name, bore, hose is not None and hose.name.startswith("pipe")))
    joints = joints_along(chosen.kit.pump.barb_m, ends[chosen.layout.suction_pieces :])
    return JointList(joints, clamps(joints))
