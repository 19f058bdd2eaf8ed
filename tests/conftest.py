"""Shared parts of the tests: a layout, kits, and an application on a fresh SQLite file."""

from collections.abc import Iterator
from pathlib import Path
from shutil import copyfile

import pytest
from hypothesis import settings as hypothesis_settings
from starlette.testclient import TestClient

from squall.catalogue import catalogue
from squall.catalogue.reader import Catalogue
from squall.core.drive.motors import Motor
from squall.core.hydraulics.water import water_at
from squall.core.kit.kit import Kit
from squall.core.kit.layout import Layout, RunPiece
from squall.core.kit.supply import Banked, Direct
from squall.core.sky.climate import Site
from squall.core.sky.typical_days import Light, Mounting, light_of_year
from squall.demo import demo_jobs
from squall.store.folder.database import connect, prepare
from squall.store.jobs import add_job
from squall.web.app import create_app
from squall.web.settings import Settings

LM = 1.0 / 60_000.0
# No test is timed: how fast things are is for the benchmark to say.
hypothesis_settings.register_profile("untimed", deadline=None)
hypothesis_settings.load_profile("untimed")


@pytest.fixture(scope="session")
def parts() -> Catalogue:
    return catalogue()


@pytest.fixture(scope="session")
def layout() -> Layout:
    return Layout(9.4, 0.0, (RunPiece(64.0, 0.0191, 7e-6, 6.0),), water_at(14.0), False, 3.0, 22.0, 35.0, -9.0)


@pytest.fixture(scope="session")
def light(parts: Catalogue) -> Light:
    return light_of_year(Site(-30.4, 24.6, 1180.0, 2.0), parts.climates["ridge"], Mounting(35.0, 0.0))


@pytest.fixture(scope="session")
def direct_kit(parts: Catalogue) -> Kit:
    return Kit(parts.pumps["stairwell-8"], Direct(), parts.panels["kite-50"], 1, 2, parts.hoses["hose-13"])


@pytest.fixture(scope="session")
def battery_kit(parts: Catalogue) -> Kit:
    return Kit(
        parts.pumps["stairwell-8"], Banked(parts.controllers["till-10"], parts.batteries["anvil-35"]), parts.panels["kite-50"], 1, 1, parts.hoses["hose-13"])  # fmt: skip


@pytest.fixture(scope="session")
def centrifugal() -> Motor:
    points = ((0, 12, 3.0), (10 * LM, 10, 3.8), (20 * LM, 6, 4.6), (28 * LM, 1, 5.2))
    return Motor("centrifugal", 12.0, points, 0.5, 0.8, 16.0)


@pytest.fixture(scope="session")
def displacement() -> Motor:
    points = ((11 * LM, 0, 1.5), (10 * LM, 20, 3.8), (9 * LM, 40, 6.2), (8 * LM, 60, 8.6))
    return Motor("displacement", 24.0, points, 0.5, 0.8, 30.0)


class Client(TestClient):
    """A client that carries the key of this run, as the pages do."""

    @property
    def settings(self) -> Settings:
        return self.app.state.settings  # type: ignore[attr-defined]

    def change(self, url: str, data: dict[str, object] | None = None, *, htmx: bool = True, tab: str = "one", **more):
        headers = {"x-squall-key": self.settings.key, "x-squall-tab": tab}
        if htmx:
            headers |= {"hx-request": "true", "hx-request-type": "partial"}
        return self.post(url, data=data or {}, headers=headers, follow_redirects=False, **more)

    def type(
        self, path: str, value: str, *, job: int = 1, stage: str = "survey", revision: int | None = None, tab="one"
    ):
        on = self.revision(job) if revision is None else revision
        data = {"path": path, "value": value, "stage": stage, "revision": on}
        return self.change(f"/jobs/{job}/field", data, tab=tab)

    def settle(self) -> None:
        """Wait until the long work that pages began has ended."""
        self.app.state.background.settle()  # type: ignore[attr-defined]

    def revision(self, job: int = 1) -> int:
        conn = connect(self.settings.database)
        number = conn.execute("SELECT revision FROM job WHERE id = ?", (job,)).fetchone()[0]
        conn.close()
        return int(number)


@pytest.fixture(scope="session")
def filled(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A database with the demo jobs, made once: a copy of it is what each test works on."""
    path = Settings(tmp_path_factory.mktemp("filled")).database
    prepare(path)
    conn = connect(path)
    for job in demo_jobs():
        add_job(conn, job, "demo")
    conn.close()
    return path


@pytest.fixture
def client(tmp_path: Path, filled: Path) -> Iterator[Client]:
    settings = Settings(tmp_path, hosts=("testserver", "127.0.0.1", "localhost"))
    copyfile(filled, settings.database)
    app = create_app(settings)
    yield Client(app, raise_server_exceptions=False)
    app.state.background.stop_all()
