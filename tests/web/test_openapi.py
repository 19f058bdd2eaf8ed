"""Every address as openapi.json describes it, called with what its description allows and what it doesn't: never a fault of Squall's own.

The calls are made by schemathesis, a general tester of OpenAPI; how many for each address is bounded here.
"""

import json
import os
import re
from pathlib import Path

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings

from squall.demo import demo_jobs
from squall.store.folder.database import connect
from squall.store.jobs import add_job
from squall.web.app import create_app
from squall.web.settings import Settings

# Calls of each address; `make attack` asks for more.
CALLS = int(os.environ.get("SQUALL_CALLS", "3"))


# So many tests share the addresses, to be spread over the cores.
SHARES = 4


@pytest.fixture
def app(tmp_path: Path):
    made = create_app(Settings(tmp_path, hosts=("testserver", "localhost", "127.0.0.1")))
    conn = connect(made.state.settings.database)
    for job in demo_jobs():
        add_job(conn, job, "demo")
    conn.close()
    yield made
    made.state.background.stop_all()


def test_the_description_resolves_and_names_every_page(app) -> None:
    described = app.openapi()
    text = json.dumps(described)
    named = set(re.findall(r'"\$ref": "#/components/schemas/([^"]+)"', text))
    assert named
    assert named <= set(described["components"]["schemas"])
    assert text.count('"$ref"') == text.count('"$ref": "#/components/schemas/')
    assert len(described["paths"]) > 100


@pytest.mark.parametrize("share", range(SHARES))
def test_no_call_meets_a_fault(app, share: int) -> None:
    schema = schemathesis.openapi.from_asgi("/openapi.json", app)
    operations = [found.ok() for found in schema.get_all_operations()]
    sent = {"x-squall-key": app.state.settings.key, "x-squall-tab": "one", "hx-request": "true"}
    faults, called = [], 0
    for operation in operations[share::SHARES]:

        @settings(
            max_examples=CALLS, deadline=None, derandomize=True, database=None, phases=(Phase.generate,),
            suppress_health_check=list(HealthCheck),
        )  # fmt: skip
        @given(case=operation.as_strategy())
        def call(case) -> None:
            nonlocal called
            called += 1
            answer = case.call(headers=sent)
            if answer.status_code >= 500 and answer.status_code != 503:
                faults.append(
                    (case.method, case.formatted_path, answer.status_code, str(case.query), str(case.body)[:300])
                )

        call()
    assert not faults, faults
    assert called >= len(operations[share::SHARES]), "each was called"
