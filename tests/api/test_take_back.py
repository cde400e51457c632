"""One change out of the history is taken back, what else was changed since stays, and all of it is in the history."""

import json
from datetime import timedelta
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone

from insertum.shop import models

from .test_api import edit
from .test_house import call

ROLE = "owner"


def lines(client: Client, text: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = client.get("/api/history", {"text": text}).json()["changes"]
    return found


def back(client: Client, line: dict[str, Any], where: str) -> int:
    return call(client, "POST", f"/api/history/{where}/{line['change']}/undo").status_code


def test_in_a_job(client) -> None:
    edit(client, 157, "/bench/notes", "one", base="")
    edit(client, 157, "/customer", "Sail loft", base="Sailmaker's loft")
    first = next(c for c in lines(client, "157") if c["says"] == "bench, notes")
    assert back(client, first, "jobs") == 204  # not the last of this person
    job = client.get("/api/jobs/157").json()["job"]
    assert (job["bench"]["notes"], job["customer"]) == ("", "Sail loft")
    assert back(client, first, "jobs") == 400  # it is
    says = [c["says"] for c in lines(client, "157")]
    assert "taken back: bench, notes" in says and "bench, notes, taken back since" in says
    edit(client, 157, "/bench/notes", "two", base="")
    second = next(c for c in lines(client, "157") if c["says"] == "bench, notes")
    edit(client, 157, "/bench/notes", "three", base="two")
    assert back(client, second, "jobs") == 400  # somebody changed it since
    assert client.get("/api/jobs/157").json()["job"]["bench"]["notes"] == "three"
    assert back(client, {"change": 10**9}, "jobs") == 400


def test_in_a_machine_what_others_changed_since_stays(client) -> None:
    data = client.get("/api/machines/halden-tern-13/data").json()
    for change in ({"depth_mm": 211.0}, {"width_mm": 307.0}):
        base = client.get("/api/machines/halden-tern-13/data").json()
        assert call(client, "PUT", "/api/machines/edited", {"machine": base | change, "base": base}).status_code == 200
    depth = next(c for c in lines(client, "halden-tern-13") if [t["place"] for t in c["places"]] == ["depth"])
    assert [(t["before"], t["after"]) for t in depth["places"]] == [(f"{data['depth_mm']:g} mm", "211 mm")]
    assert back(client, depth, "library/machine") == 204
    now = client.get("/api/machines/halden-tern-13/data").json()
    assert now == data | {"width_mm": 307.0}
    assert back(client, depth, "library/machine") == 400  # taken back already
    assert (
        call(client, "PUT", "/api/machines/edited", {"machine": now | {"depth_mm": 213.0}, "base": now}).status_code
        == 200
    )
    assert back(client, depth, "library/machine") == 400  # changed again since
    added = next(c for c in lines(client, "halden-tern-13") if not c["places"])
    assert added["change"] is None  # nothing stood there before


def test_in_parts_and_settings(client) -> None:
    part = client.get("/api/parts/OM4S-08G24").json()
    row = models.Part.objects.get(number="OM4S-08G24").spec
    cells = part["cells"] | {"cl": "18"}
    sent = {"cells": cells, "base": part["cells"]}
    assert call(client, "PUT", "/api/parts/saved", sent).status_code == 200
    line = next(c for c in lines(client, "OM4S-08G24") if c["about"] == "part" and c["change"])
    assert (line["places"][0]["place"], line["places"][0]["after"]) == ("CL", "18")
    assert back(client, line, "library/part") == 204
    assert models.Part.objects.get(number="OM4S-08G24").spec == row
    own = client.get("/api/workshop").json()
    for change in ({"quote_days": 30}, {"tax_percent": 7}):
        own |= change
        assert call(client, "PUT", "/api/workshop", own).status_code == 200
    line = next(c for c in lines(client, "settings") if c["says"] == "settings: quote days")
    assert back(client, line, "settings") == 204
    now = client.get("/api/workshop").json()
    assert (now["quote_days"], now["tax_percent"]) == (14, 7)


def test_an_outcome_taken_back_is_brought_back_for_thirty_days(client) -> None:
    seen = models.Sighting.objects.first()
    spec = seen.spec
    assert call(client, "DELETE", f"/api/sightings/{seen.pk}").status_code == 200
    line = next(c for c in lines(client, "taken back") if c["about"] == "sighting")
    entry = models.Entry.objects.filter(pk=line["change"])
    for days, status in ((30, 400), (29, 204)):
        entry.update(at=timezone.now() - timedelta(days=days, minutes=1))
        assert back(client, line, "sightings") == status, days
    assert models.Sighting.objects.filter(spec=spec).count() == 1
    assert back(client, line, "sightings") == 400  # it stands again
    recorded = next(
        c for c in lines(client, "sighting") if c["about"] == "sighting" and c["places"][0]["after"] != "nothing"
    )
    assert recorded["change"] is None  # what was recorded is taken back where it is shown


def test_a_list_says_from_and_to_of_what_it_changed_and_is_not_taken_back(client) -> None:
    row = models.Part.objects.get(number="OM4S-08G24").spec
    two = [row | {"cl": 99}, row | {"number": "NEW-1"}]
    sent = SimpleUploadedFile("two.json", json.dumps(two).encode())
    assert client.post("/api/parts/import", {"file": sent}).status_code == 200
    line = next(c for c in lines(client, "1 parts added and 1 changed") if c["about"] == "part")
    assert line["change"] is None and [tuple(t.values()) for t in line["places"]] == [
        ("OM4S-08G24, CL", str(row["cl"]), "99"),
        ("NEW-1", "nothing", "added"),
    ]
