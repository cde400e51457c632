"""Whatever is sent, the API answers with a result or a reason, never with a fault, and keeps the job valid."""

import copy
import json
import uuid
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from insertum.core.job.shape import Job
from insertum.shop import models

pytestmark = pytest.mark.django_db

SLOW = settings(max_examples=60, suppress_health_check=list(HealthCheck))
SCALARS = st.none() | st.booleans() | st.integers(-(10**9), 10**9) | st.floats(allow_nan=False) | st.text(max_size=12)
VALUES = st.recursive(
    SCALARS, lambda v: st.lists(v, max_size=3) | st.dictionaries(st.text(max_size=6), v, max_size=3), max_leaves=6
)
STEPS = [
    "intake", "identify", "survey", "fit", "plan", "prepare", "bench", "prove", "hand_over", "number", "station", "due",
    "words", "complaints", "use", "years", "router", "used_gb", "needs", "memory_capacity", "weight", "texts", "machine",
    "configuration", "measured", "fitted", "memory-b", "drive-1", "build", "limits", "boot_slot", "credits", "chosen",
    "gates", "backup", "done", "readings", "checks", "closed_at", "~1", "", "drive-2.clearance_below_um",
]  # fmt: skip
PLACES = st.lists(st.sampled_from(STEPS), min_size=1, max_size=4).map(lambda s: "/" + "/".join(s)) | st.text(
    max_size=10
)


def at(document: Any, path: str) -> Any:
    for step in path.split("/")[1:]:
        document = document.get(step) if isinstance(document, dict) else None
    return document


@SLOW
@given(path=PLACES, value=VALUES, op=st.sampled_from(["set", "remove"]))
def test_any_edit_is_applied_or_refused(client, path, value, op) -> None:
    row = models.Job.objects.get(number=147)
    body = [{"uid": uuid.uuid4().hex, "path": path, "op": op, "base": at(row.spec, path), "value": value}]
    response = client.post("/api/jobs/147/edits", body, content_type="application/json")
    assert response.status_code in (200, 400, 422), (path, value, response.content)
    after = models.Job.objects.get(number=147).spec
    Job.model_validate(after)
    if response.status_code != 200:
        assert after == row.spec and response.json()["what"]
    for station in ("intake", "survey", "fit", "plan", "tally"):
        assert client.get(f"/api/jobs/147/{station}").status_code in (200, 400), (path, value, station)
    row.save()  # the next example starts from the same job


def places_of(value: Any, path: tuple = ()) -> list[tuple]:
    """Every place in a JSON document."""
    found = [path] if path else []
    for key, inner in value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ():
        found += places_of(inner, (*path, key))
    return found


def mutated(document: Any, path: tuple, value: Any) -> Any:
    changed = copy.deepcopy(document)
    here = changed
    for key in path[:-1]:
        here = here[key]
    here[path[-1]] = value
    return changed


@pytest.fixture
def documents(client) -> dict[str, Any]:
    """Good files by the address they are sent to."""
    return {
        "/api/machines/import": json.loads(client.get("/api/machines/veyra-strand-15/file").content),
        "/api/parts/import": json.loads(client.get("/api/parts.json").content),
        "/api/jobs/import": json.loads(client.get("/api/jobs/155/file").content) | {"number": 990},
        "/api/jobs/157/reading/prove": json.loads(client.get("/api/jobs/157/simulated/prove").content),
    }


@pytest.mark.role("library")
@SLOW
@given(data=st.data())
def test_any_file_is_taken_or_refused_whole(client, documents, data) -> None:
    address = data.draw(st.sampled_from(sorted(documents)))
    document = documents[address]
    place = data.draw(st.sampled_from(places_of(document)))
    sent = json.dumps(mutated(document, place, data.draw(VALUES))).encode()
    before = {m: list(m.objects.values_list("pk", flat=True)) for m in (models.Machine, models.Part, models.Job)}
    response = client.post(address, {"file": SimpleUploadedFile("f.json", sent)})
    assert response.status_code in (200, 400), (address, place, response.content)
    if response.status_code == 400:
        assert response.json()["what"]
        assert before == {m: list(m.objects.values_list("pk", flat=True)) for m in before}
    for path in ("/api/machines", "/api/parts", "/api/jobs"):
        assert client.get(path).status_code == 200, (address, place)
    models.Job.objects.filter(number=990).delete()


@SLOW
@given(text=st.text(max_size=60))
def test_any_text_can_be_looked_for(client, text) -> None:
    assert client.get("/api/find", {"text": text}).status_code == 200


@pytest.mark.parametrize(
    "path",
    [
        "/api/jobs/147/edits",
        "/api/jobs/147/plan",
        "/api/jobs/147/survey/fitted",
        "/api/jobs/147/survey/measured",
        "/api/jobs",
    ],
)
@pytest.mark.parametrize("body", ["", "{", "null", "[]", "[1]", '{"a": 1}', '"text"', "[[]]"])
def test_any_body_is_refused_with_a_reason(client, path, body) -> None:
    response = client.post(path, body, content_type="application/json")
    assert response.status_code in (200, 400, 422)
    if response.status_code != 200:
        assert response.json()["what"]
