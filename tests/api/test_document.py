"""The OpenAPI document against the application as it is served: whatever its shapes allow is sent, nothing breaks, and
every answer is one the document names."""

import os
from collections.abc import Iterator
from typing import Any

import pytest
import requests
import schemathesis
from hypothesis import HealthCheck, Phase, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from tests.draws import SEED
from tests.served import Server, free_port

from .conftest import DOCUMENT

#: For each call; the suite asks a little, ``make document`` much.
EXAMPLES = int(os.environ.get("INSERTUM_DOCUMENT", "1"))
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
schema = schemathesis.openapi.from_dict(DOCUMENT)


@pytest.fixture(scope="module")
def server(tmp_path_factory) -> Iterator[Server]:
    running = Server(tmp_path_factory.mktemp("var"), free_port())
    running.start()
    yield running
    running.kill()


_signed_in: dict[str, dict[str, str]] = {}


@pytest.fixture(params=["owner", "bench"])
def cookies(server: Server, request: pytest.FixtureRequest) -> dict[str, str]:
    """Of an owner, and of the bench, who are signed in: a call before may have signed them out."""
    known = _signed_in.get(request.param, {})
    if requests.get(f"{server.base}/api/session", cookies=known, timeout=10).status_code != 200:
        person = requests.Session()
        person.get(f"{server.base}/api/session", timeout=10)
        token = {"X-CSRFToken": person.cookies["csrftoken"]}
        body = {"name": request.param, "password": "saltmarsh"}
        assert person.post(f"{server.base}/api/session", json=body, headers=token, timeout=10).status_code == 200
        _signed_in[request.param] = person.cookies.get_dict()
    return _signed_in[request.param]


@schema.parametrize()
@settings(
    max_examples=EXAMPLES, deadline=None, phases=[Phase.explicit, Phase.generate], derandomize=not SEED, database=None,
    suppress_health_check=list(HealthCheck),
)  # fmt: skip
def test_whatever_the_document_allows(case: Any, server: Server, cookies: dict[str, str]) -> None:
    answer = case.call(base_url=server.base, cookies=cookies, headers={"X-CSRFToken": cookies["csrftoken"]}, timeout=30)
    if case.path != "/api/session":  # signing in and out is the one thing a signed-in person is refused at
        somebody_else = "X-Insertum-Person" in (case.headers or {}) or case.path.endswith("/photographs")
        assert answer.status_code != 401 or somebody_else, "the case was not signed in"
    case.validate_response(answer, checks=CHECKS)
