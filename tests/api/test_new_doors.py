"""The doors of the library take anything: an answer or an error in words, and nothing half-kept."""

import json
import random

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from insertum.shop import models

ROLE = "owner"

#: What people, programs and cats send.
ODD = [
    None,
    "",
    0,
    -1,
    10**30,
    1.5,
    True,
    [],
    {},
    "x" * 5000,
    "\ud83d",
    "\x00",
    ["a", {"b": None}],
    {"value": 1},
    float("1e308"),
]


def kept() -> tuple[object, ...]:
    tables = (models.Machine, models.Part, models.Processor, models.Workshop, models.SupplierLayout)
    return tuple(
        sorted(map(str, t.objects.values_list("pk", "spec" if t is not models.SupplierLayout else "columns")))
        for t in tables
    )


def sent(client, method: str, path: str, body: object) -> int:
    response = getattr(client, method)(path, json.dumps(body), content_type="application/json")
    assert response.status_code in (200, 400, 404, 422), (path, body)
    if response.status_code != 200:
        said = response.json()
        assert said["what"] and "Traceback" not in said["what"], (path, body)
    return response.status_code


def changed(data: object, chance: random.Random) -> object:
    """A document with one thing replaced, somewhere in it."""
    if isinstance(data, dict) and data and chance.random() < 0.85:
        name = chance.choice(list(data))
        return {**data, name: changed(data[name], chance)}
    if isinstance(data, list) and data and chance.random() < 0.85:
        at = chance.randrange(len(data))
        return [*data[:at], changed(data[at], chance), *data[at + 1 :]]
    return chance.choice(ODD)


@pytest.mark.parametrize("seed", range(12))
def test_processors_parts_and_machines_with_one_thing_odd(client, seed: int) -> None:
    chance = random.Random(seed)
    processor = client.get("/api/processors/corvane-beck-680").json()["processor"]
    cells = {
        k: v for k, v in client.get("/api/parts/PM4S-16G29").json()["cells"].items() if k not in ("offers", "note")
    }
    base = client.get("/api/machines/veyra-drover-14/data").json()
    for _ in range(6):
        before = kept()
        for method, path, body in (
            ("put", "/api/processors/saved", changed(processor, chance)), ("put", "/api/parts/saved", {"cells": changed(cells, chance)}),
            ("put", "/api/machines/edited", {"machine": changed(base, chance), "base": base}),
            ("put", "/api/workshop", {"markup_percent": chance.choice(ODD)}),
            ("post", "/api/words/veyra-drover-14", {"text": chance.choice(ODD), "places": chance.choice(ODD)}),
            ("post", "/api/words/veyra-drover-14/taken", {"text": "Maximum memory: 8 GB", "chosen": chance.choice(ODD)}),
        ):  # fmt: skip
            if sent(client, method, path, body) == 200 and "words/veyra-drover-14" not in path:
                before = kept()
        assert kept() == before


@pytest.mark.parametrize("seed", range(6))
def test_a_library_of_another_workshop_with_one_thing_odd(client, seed: int) -> None:
    chance = random.Random(100 + seed)
    library = client.get("/api/machines/library/file").json()
    library["machines"] = library["machines"][:2]
    before = kept()
    for _ in range(4):
        text = json.dumps(changed(library, chance)).encode()
        file = SimpleUploadedFile("l.json", text, "application/json")
        response = client.post("/api/machines/library/bring", {"file": file, "workshop": "Tern Lane"})
        assert response.status_code in (200, 400, 422)
        assert response.status_code == 200 or response.json()["what"]
    assert kept() == before  # looked through, and nothing taken


@pytest.mark.parametrize(
    ("method", "path", "body", "where", "what", "mend"),
    [
        ("post", "/api/jobs", {"customer": 5}, "customer", "no text", "Write a text."),
        ("post", "/api/jobs/147/plan", {}, "stance", "missing", "Add it."),
        ("get", "/api/jobs/147/plan?certain=maybe", None, "certain", "neither yes nor no", "Write true or false."),
        ("get", "/api/jobs?page=zero", None, "page", "no whole number", "Write a whole number."),
        ("get", "/api/jobs?page=0", None, "page", "below 1", "Write at least 1."),
        ("post", "/api/jobs/147/edits", [{"x": 1}], "edits / 0 / uid", "missing", "Add it."),
        (
            "post",
            "/api/jobs/147/plan/agree",
            {"said_by": "A" * 121},
            "said_by",
            "longer than 120 characters",
            "Shorten it.",
        ),
    ],
)
def test_what_has_another_form_is_refused_with_what_where_and_how_to_mend_it(
    client, method, path, body, where, what, mend
) -> None:
    more = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
    answer = getattr(client, method)(path, **more)
    told = answer.json()
    assert (answer.status_code, told["where"], told["what"], told["mend"]) == (422, where, what, mend)


def test_a_day_that_is_none_says_how_a_day_is_written(client) -> None:
    answer = client.post(
        "/api/jobs", data=json.dumps({"customer": "x", "due": "31/02/2027"}), content_type="application/json"
    )
    assert answer.status_code == 400 and answer.json()["what"] == "no day as 2026-11-30"
