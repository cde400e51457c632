"""Bad input at every door: a 400 that says what and where, and nothing kept."""

import json
import re
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError, connection
from pydantic import BaseModel

import insertum.api  # noqa: F401 — its shapes are there once it is
from insertum.shop import models
from insertum.shop.services import edit_job

from .conftest import DOCUMENT

ROLE = "library"

HALF = "a\ud800b"
CARD = {"kind": "m2_drive", "number": "Z-1", "name": "Z", "capacity_gb": 500}


def sent(client: Any, method: str, path: str, body: Any) -> tuple[int, dict[str, Any]]:
    answer = client.generic(method, path, json.dumps(body), content_type="application/json")
    return answer.status_code, answer.json()


def edited(client: Any, path: str, value: Any, base: Any = None, number: int = 147) -> tuple[int, dict[str, Any]]:
    return sent(
        client, "POST", f"/api/jobs/{number}/edits",
        [{"uid": path, "path": path, "op": "set", "base": base, "value": value}],
    )  # fmt: skip


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/api/session", {"name": HALF, "password": "x"}),
        ("POST", "/api/parts/new", {"part": CARD | {"name": HALF}}),
        ("POST", "/api/jobs/147/survey/recognise", {"slot": "memory-b", "text": HALF}),
        ("POST", "/api/jobs/147/survey/measured", {"attribute": "drive-2.clearance_below_um", "typed": HALF}),
        ("POST", "/api/jobs/147/survey/claim", {"attribute": "drive-2.clearance_below_um", "typed": "1", "source": "reported", "note": HALF}),
        ("POST", "/api/jobs/147/edits", [{"uid": "1", "path": "/title", "op": "set", "base": "", "value": HALF}]),
        ("PUT", "/api/machines/saved", {"name": HALF}),
        ("PUT", "/api/triage/complaints", {"complaint": {"id": HALF}}),
        ("POST", "/api/sightings", {"part": HALF}),
    ],
)  # fmt: skip
def test_half_a_character_is_refused_where_it_comes_in(client, method, path, body) -> None:
    before = models.Part.objects.count(), models.JobEdit.objects.count()
    status, problem = sent(client, method, path, body)
    assert (status, problem["what"]) == (400, "half a character in it")
    assert (models.Part.objects.count(), models.JobEdit.objects.count()) == before


def test_a_whole_character_in_two_escapes_is_none_of_them(client) -> None:
    raw = '{"part": {"kind": "m2_drive", "number": "Z-1", "name": "\\ud83d\\ude00", "capacity_gb": 500}}'
    assert client.post("/api/parts/new", raw, content_type="application/json").status_code == 200
    assert models.Part.objects.get(number="Z-1").name == "\U0001f600"


@pytest.mark.parametrize(
    ("changes", "where", "what"),
    [
        ({"below_um": -1500}, "below_um", "below 0"),
        ({"generation": 9}, "generation", "above 5"),
        ({"keys": ["Q"]}, "m2_drive", "no key Q"),
        ({"number": "  "}, "number", "all of them to be seen"),
        ({"capacity_gb": None}, "capacity_gb", "no whole number"),
        ({"kind": "anvil"}, "part", "anvil"),
        ({"colour": "red"}, "colour", "nothing of that name"),
    ],
)
def test_a_typed_part_is_refused_at_the_field_that_is_wrong(client, changes, where, what) -> None:
    status, problem = sent(client, "POST", "/api/parts/new", {"part": CARD | changes})
    assert status == 400 and problem["where"].endswith(where) and what in problem["what"]
    assert "function" not in problem["where"]


def test_a_row_is_refused_at_the_column_as_the_file_calls_it(client) -> None:
    rows = b"kind,number,name,capacity_gb,height_mm\nbay_drive,Z-1,Z,500,0.5\n"
    answer = client.post("/api/parts/import", {"file": SimpleUploadedFile("p.csv", rows)})
    assert [(r["row"], r["column"]) for r in answer.json()["rows"]] == [(2, "height_mm")]


@pytest.mark.parametrize(
    ("path", "value", "what"),
    [
        ("/fit/build/battery", "QB5-0T5-80BM", "nothing Battery takes"),
        ("/fit/boot_slot", "battery", "no drive to start from"),
        ("/survey/measured/drive-2.width_mm", -22, "nothing a laptop has"),
        ("/survey/not_working", ["nowhere"], "no slot"),
        ("/survey/as_usual", {"owner": "   "}, "may not be empty"),
        ("/plan/credits/radio", 10**15, "more than"),
    ],
)
def test_an_edit_is_refused_where_it_could_not_be(client, path, value, what) -> None:
    base = {"/fit/boot_slot": "", "/survey/not_working": []}.get(path)
    status, problem = edited(client, path, value, base)
    assert status == 400 and what in problem["what"]
    for station in ("survey", "fit", "plan"):
        assert client.get(f"/api/jobs/147/{station}").status_code == 200


def test_no_two_shapes_share_a_name_in_the_document() -> None:
    """A second one would quietly stand in for the first in the generated client."""
    named: dict[str, set[type]] = {}

    def walk(shape: type) -> None:
        for sub in shape.__subclasses__():
            if sub.__module__.startswith("insertum."):
                named.setdefault(sub.__name__, set()).add(sub)
            walk(sub)

    walk(BaseModel)
    shown = DOCUMENT["components"]["schemas"]
    assert {n for n in shown if len(named.get(n, ())) > 1} == set()


@pytest.mark.role("owner")
@pytest.mark.parametrize("number", [1, 2, 3])
def test_two_of_a_thing_are_a_list_like_one_or_three(client, number) -> None:
    models.Person.objects.exclude(user__username="owner").delete()
    User.objects.exclude(username="owner").delete()
    for n in range(1, number):
        models.Person.objects.create(user=User.objects.create_user(f"two-{n}"), role="bench")
    models.ClaimReview.objects.all().delete()
    for n in range(number):
        models.ClaimReview.objects.create(machine="m", configuration="c", attribute=f"a.{n}", value=1, source="read")
    for path in ("/api/claims", "/api/people"):
        found = client.get(path)
        assert (found.status_code, len(found.json())) == (200, number), path


def test_a_folder_that_may_not_be_written_to_is_said_in_words_and_looking_goes_on(client) -> None:
    edit = {"uid": "u-1", "path": "/bench/notes", "op": "set", "base": "", "value": "n"}
    was = client.get("/api/jobs/147").json()["job"]
    with connection.cursor() as cursor:
        cursor.execute("pragma query_only = on")
        try:
            status, problem = sent(client, "POST", "/api/jobs/147/edits", [edit])
            looked = client.get("/api/jobs/147").json()["job"]
        finally:
            cursor.execute("pragma query_only = off")
    assert (
        status == 507 and "may not be written to" in problem["what"] and "what you typed waits here" in problem["mend"]
    )
    assert looked == was
    assert sent(client, "POST", "/api/jobs/147/edits", [edit])[0] == 200  # the same edit, once it can be


@pytest.mark.parametrize(
    ("error", "status", "says"),
    [
        ("database or disk is full", 507, "the disk is full: nothing was kept"),
        ("attempt to write a readonly database", 507, "the workshop's folder may not be written to"),
        ("database is locked", 503, "the database is busy"),
    ],
)
def test_each_way_a_database_says_no_has_its_words(client, monkeypatch, error, status, says) -> None:
    def broken(*args: object) -> None:
        raise OperationalError(error)

    monkeypatch.setattr(edit_job, "edit_job", broken)
    told, problem = sent(client, "POST", "/api/jobs/147/edits", [])
    assert (told, problem["what"]) == (status, says) and problem["mend"]


def test_no_number_in_an_address_is_too_large(client) -> None:
    """Every call with a number in its address, asked for one no database holds: refused in words."""
    paths = DOCUMENT["paths"]
    asked = [
        (m.upper(), re.sub(r"\{(number|id|claim|change)\}", str(10**30), p))
        for p, methods in paths.items()
        for m in methods
    ]
    asked = [(m, re.sub(r"\{kind\}", "part", p)) for m, p in asked if str(10**30) in p]
    assert len(asked) > 40
    for method, path in asked:
        answer = client.generic(method, re.sub(r"\{\w+\}", "x", path), "{}", content_type="application/json")
        assert answer.status_code < 500, (method, path, answer.content[:200])


@pytest.mark.parametrize("figure", ["Infinity", "-Infinity", "NaN", "1e999", "-1E+400", "[1, 2e500]", "9" * 400 + ".5"])
def test_an_endless_figure_is_refused_in_words_and_not_kept(client, figure) -> None:
    before = models.Job.objects.get(number=147).spec
    body = f'[{{"uid": "endless", "path": "/survey/measured/x", "op": "set", "base": null, "value": {figure}}}]'
    answer = client.post("/api/jobs/147/edits", body, content_type="application/json")
    assert answer.status_code == 400 and "figure" in answer.json()["what"], answer.content
    assert models.Job.objects.get(number=147).spec == before


def test_words_that_look_like_an_endless_figure_are_words(client) -> None:
    stands = models.Job.objects.get(number=147).spec["bench"]["notes"]
    body = [{"uid": "words", "path": "/bench/notes", "op": "set", "base": stands, "value": "NaN, Infinity, 1e999"}]
    assert client.post("/api/jobs/147/edits", body, content_type="application/json").status_code == 200
