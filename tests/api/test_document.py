"""The OpenAPI document against the application as it is served: whatever its shapes allow is sent, nothing breaks, and
every answer is one the document names."""

import json
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

from insertum.api import api
from tests.served import Server, free_port

#: For each call; the suite asks a little, ``make document`` much.
EXAMPLES = int(os.environ.get("INSERTUM_DOCUMENT", "6"))
DOCUMENT = json.loads(json.dumps(api.get_openapi_schema(), default=str))
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
schema = schemathesis.openapi.from_dict(DOCUMENT)


@pytest.fixture(scope="module")
def served(tmp_path_factory) -> Iterator[tuple[Server, dict[str, str]]]:
    """The server, and the cookies of its owner: each case is sent by a browser of its own, signed in."""
    running = Server(tmp_path_factory.mktemp("var"), free_port())
    running.start()
    person = requests.Session()
    person.get(f"{running.base}/api/session", timeout=10)
    token = {"X-CSRFToken": person.cookies["csrftoken"]}
    body = {"name": "owner", "password": "saltmarsh"}
    assert person.post(f"{running.base}/api/session", json=body, headers=token, timeout=10).status_code == 200
    yield running, person.cookies.get_dict()
    running.kill()


@schema.parametrize()
@settings(
    max_examples=EXAMPLES, deadline=None, phases=[Phase.explicit, Phase.generate], derandomize=True, database=None,
    suppress_health_check=list(HealthCheck),
)  # fmt: skip
def test_whatever_the_document_allows(case: Any, served: tuple[Server, dict[str, str]]) -> None:
    server, cookies = served
    answer = case.call(base_url=server.base, cookies=cookies, headers={"X-CSRFToken": cookies["csrftoken"]}, timeout=30)
    if case.path != "/api/session":  # signing in and out is the one thing a signed-in person is refused at
        somebody_else = "X-Insertum-Person" in (case.headers or {})
        assert answer.status_code != 401 or somebody_else, "the case was not signed in"
    case.validate_response(answer, checks=CHECKS)
