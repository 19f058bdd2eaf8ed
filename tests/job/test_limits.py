"""How much one job may hold, and that identifiers are used again only when free."""

import pytest
from hill import new_job

from squall.core.electrics.conductors import conductor
from squall.core.errors import BadQuantity, NotFound
from squall.core.kit.kit import Kit
from squall.core.kit.setup import Cabling
from squall.core.kit.supply import Direct
from squall.job.edit import changes, kits


@pytest.fixture
def job():
    return new_job("Trough")


def test_forty_pieces_are_the_most(job) -> None:
    for _ in range(39):
        job, _ = changes.add_piece(job)
    assert len({piece.id for piece in job.run}) == 40
    with pytest.raises(BadQuantity, match="40 pieces"):
        changes.add_piece(job)


def test_forty_rows_of_a_herd_are_the_most(job) -> None:
    for _ in range(40):
        job, _ = changes.add_drinkers(job)
    with pytest.raises(BadQuantity, match="40 rows"):
        changes.add_drinkers(job)
    with pytest.raises(NotFound):
        changes.remove_drinkers(job, "h99")


def test_twenty_devices_are_the_most(job, parts) -> None:
    for _ in range(20):
        job, _ = changes.add_device(job, "plug-30", parts)
    with pytest.raises(BadQuantity, match="Twenty"):
        changes.add_device(job, "plug-30", parts)


def test_twelve_options_are_the_most(job, parts) -> None:
    sizes = ("0.5", "0.75", "1", "1.5", "2.5", "4", "6", "10", "16", "25", "35", "50")
    kit = Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-110"], 1, 1, parts.hoses["hose-19"])
    for size in sizes:
        job, _ = kits.adopt(job, kit, Cabling(conductor(f"mm2:{size}"), None))
    assert [option.id for option in job.options] == [f"o{n}" for n in range(1, 13)]
    with pytest.raises(BadQuantity, match="Twelve"):
        kits.adopt(job, kit, Cabling(conductor("mm2:70"), None))


def test_a_free_identifier_is_used_again(job) -> None:
    job, _ = changes.add_piece(job)
    job, _ = changes.add_piece(job)
    job, _ = changes.remove_piece(job, "p2")
    job, _ = changes.add_piece(job)
    assert [piece.id for piece in job.run] == ["p1", "p3", "p2"]
