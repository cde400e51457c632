"""Machines, claims, sightings, shelf, supplier, triage, imports: the workshop's memory over HTTP."""

import json
import threading
from http.server import ThreadingHTTPServer

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client

from insertum.core.errors import InputError
from insertum.demo import supplier as stand_in
from insertum.formats.parts import COLUMNS
from insertum.shop import models
from insertum.shop.services import parts, supplier, supplier_lists

from ..bulk import many
from .test_api import edit, send, spec, verdicts

ROLE = "library"


def post(client: Client, path: str, body: object, method: str = "post") -> tuple[int, object]:
    response = getattr(client, method)(path, body, content_type="application/json")
    return response.status_code, response.json()


# -- machines and the editor ---------------------------------------------------------------------
def test_a_machine_is_drafted_checked_saved_and_found(client) -> None:
    _, draft = post(client, "/api/machines/draft", {"start": "nothing", "maker": "Halden", "name": "Gannet 15"})
    assert client.get("/api/machines").json()["machines"].get("halden-gannet-15") is None
    for template in ("memory", "memory", "m2_drive", "radio", "battery", "bay", "cellular", "msata", "emmc"):
        _, slot = post(client, f"/api/machines/slot/{template}", draft)
        draft["slots"].append(slot)
    assert len({s["id"] for s in draft["slots"]}) == 9
    _, check = post(client, "/api/machines/check", draft)
    assert check["what"] == "" and len(check["map"]["slots"]) == 9
    draft["slots"][2]["key"] = "E"
    draft["slots"][2]["pcie_lanes"] = 4
    _, check = post(client, "/api/machines/check", draft)
    assert check["map"] is None and "key E carries no PCIe" in check["what"]
    assert post(client, "/api/machines/saved?new=true", draft, "put")[0] == 400
    draft["slots"][2]["key"] = "M"
    status, saved = post(client, "/api/machines/saved?new=true", draft, "put")
    assert (status, saved["machine"]) == (200, "halden-gannet-15")
    assert post(client, "/api/machines/saved?new=true", draft, "put")[0] == 400  # the id is taken
    page = client.get("/api/machines/halden-gannet-15/first").json()
    assert page["changes"][0]["who"] == ROLE and "added" in page["changes"][0]["what"] or page["changes"]
    found = client.get("/api/find?text=Gannet 15").json()["found"]
    assert any(f["kind"] == "machine" for f in found)


def test_a_copy_of_one_configuration_is_its_own(client) -> None:
    body = {"start": "copy", "machine": "halden-tern-13", "configuration": "rill-560"}
    _, copy = post(client, "/api/machines/draft", body)
    assert copy["id"] == "halden-tern-13-copy" and copy["configurations"][0]["differs"] == {}
    assert sum(s["capacity_gb"] for s in copy["memory"]["soldered"]) == 16 and not copy["marks"]
    assert post(client, "/api/machines/draft", {"start": "copy", "machine": "nobody"})[0] == 400
    assert post(client, "/api/machines/draft", {"start": "reading", "job": 147})[0] == 400


def test_the_library_goes_out_and_in_as_one_file_all_or_nothing(client) -> None:
    text = client.get("/api/machines/library/file").content
    assert send(client, "/api/machines/import", text)[1] == {
        "added": [], "changed": [], "same": sorted(m.slug for m in models.Machine.objects.all()),
    }  # fmt: skip
    data = json.loads(text)
    data["machines"][0]["name"] = "Renamed"
    data["machines"][1]["slots"][0]["kind"] = "drawer"
    assert send(client, "/api/machines/import", json.dumps(data).encode())[0] == 400
    assert not models.Machine.objects.filter(name="Renamed").exists()


# -- claims for review -----------------------------------------------------------------------------
def test_not_what_the_library_says_waits_for_review_and_then_counts(client) -> None:
    claim = {"attribute": "drive-2.clearance_below_um", "typed": "1.4", "source": "measured", "note": "feeler gauge"}
    assert post(client, "/api/jobs/147/survey/claim", claim)[0] == 200
    (open_,) = client.get("/api/claims").json()
    assert (open_["value"], open_["library"], open_["job"]) == ("1.4", "unknown", 147)
    assert verdicts(client, 147, "drive-2")["QB5-1T0-80BM"] == "measure_first"  # nothing changes before review
    assert post(client, f"/api/claims/{open_['id']}", {"accept": True})[0] == 200
    assert verdicts(client, 147, "drive-2")["QB5-1T0-80BM"] == "seats"
    assert verdicts(client, 150, "drive-2")["QB5-1T0-80BM"] == "measure_first"  # the other year is another machine
    changes = client.get("/api/machines/veyra-strand-15/mk2-rill-430").json()["changes"]
    assert "claim from job 147" in changes[0]["what"] and changes[0]["who"] == ROLE
    assert post(client, f"/api/claims/{open_['id']}", {"accept": False})[0] == 400  # decided already
    for bad in (
        {"attribute": "drive-9.key", "typed": "M"},
        {"attribute": "drive-2.key", "typed": "Q"},
        claim | {"source": "rumour"},
    ):
        assert post(client, "/api/jobs/147/survey/claim", bad)[0] == 400


# -- sightings -------------------------------------------------------------------------------------
def test_an_outcome_at_prove_becomes_a_claim_for_the_next_job(client) -> None:
    before = verdicts(client, 150, "memory-b")
    assert before["PM4S-16G29"] == "refused"  # mk I documents 8 GB
    seen = {"machine": "veyra-strand-15", "configuration": "mk1-rill-310", "slot": "memory-b", "part": "PM4S-16G29",
            "outcome": "worked", "firmware": "1.09", "proves": {"memory-b.limit_gb": 16, "memory.total_limit_gb": 24}}  # fmt: skip
    assert post(client, "/api/sightings", seen)[0] == 200
    assert verdicts(client, 150, "memory-b")["PM4S-16G29"] == "seats"  # the same configuration and firmware
    assert post(client, "/api/sightings", seen | {"outcome": "did_not", "cause": "part"})[0] == 200
    assert verdicts(client, 150, "memory-b")["PM4S-16G29"] == "seats"  # not home: teaches nothing of the machine
    assert post(client, "/api/sightings", seen | {"outcome": "did_not", "cause": "machine"})[0] == 200
    assert verdicts(client, 150, "memory-b")["PM4S-16G29"] == "refused"  # a failure at that value
    for bad in ({"slot": "drive-9"}, {"hearsay": True}, {"outcome": "worked_after"}, {"machine": "nobody"}):
        assert post(client, "/api/sightings", seen | bad)[0] == 400
    status, lines = post(client, "/api/jobs/157/sightings", {"slot": "drive-1", "outcome": "worked"})
    assert status == 200 and (lines[0]["sighting"]["firmware"], lines[0]["sighting"]["job"]) == ("1.14", 157)
    mine = [x["id"] for x in client.get("/api/sightings?machine=veyra-strand-15&part=PM4S-16G29").json()]
    assert len(mine) >= 2
    for id in mine:
        assert client.delete(f"/api/sightings/{id}").status_code == 200
    assert verdicts(client, 150, "memory-b")["PM4S-16G29"] == "refused"  # as the library documents it
    refused = verdicts(client, 161, "cellular")
    assert refused["TL-4G-3042"] == "refused"


# -- parts: import with preview and progress, killed half-way --------------------------------------
def steps(client: Client, data: bytes):
    file = SimpleUploadedFile("bulk.csv", data)
    return client.post("/api/parts/import/steps", {"file": file}).streaming_content


def test_twenty_thousand_rows_with_progress_and_nothing_half_written(client) -> None:
    before = models.Part.objects.count()
    running = parts.import_steps(many(20_000).decode())
    said = [next(running) for _ in range(45)]
    assert said[0].says == "reading" and said[-1].says == "writing"
    running.close()  # whoever listened is gone
    assert (
        models.Part.objects.count() == before and not models.PricePoint.objects.filter(part__startswith="BULK").exists()
    )
    lines = [json.loads(x) for x in b"".join(steps(client, many(1200))).splitlines()]
    assert lines[-1]["report"] == {"added": 1200, "changed": 0, "same": 0}
    assert {x["says"] for x in lines} == {"reading", "writing", "done"}
    bad = many(3).replace(b"2Rx8", b"3Rx5", 1)
    (problem,) = [json.loads(x)["problem"] for x in b"".join(steps(client, bad)).splitlines()]
    assert problem["rows"][0]["row"] == 2 and "3Rx5" in problem["rows"][0]["what"]


def test_a_preview_shows_what_would_change_and_changes_nothing(client) -> None:
    text = client.get("/api/parts.csv").content.decode()
    changed = (
        text.replace("Quay Supply 31.50 x4", "Quay Supply 29.00 x4")
        + "accessory,NEW-1,,New thing,"
        + "," * (len(COLUMNS) - 5)
        + "\n"
    )
    changed = changed.replace("accessory,NEW-1,,New thing,", "accessory,NEW-1,,New thing,")
    status, preview = send(
        client,
        "/api/parts/preview",
        changed.replace("\naccessory,NEW-1" + changed.split("\naccessory,NEW-1")[1], "\n").encode(),
    )
    assert status == 200 and preview["report"] == {"added": 0, "changed": 1, "same": 192}
    ((name, before, after),) = preview["changes"][0]["fields"]
    assert name == "offers" and "31.50" in before and "29.00" in after
    assert parts.part_of("PM4S-16G32A1").price_minor == 3150
    assert send(client, "/api/parts/import", changed.split("\naccessory,NEW-1")[0].encode())[0] == 200
    history = client.get("/api/parts/PM4S-16G32A1").json()["history"]
    assert [h["price_minor"] for h in history if h["shop"] == "Quay Supply"] == [3150, 2900]


def test_a_label_is_taken_in_as_a_new_part_and_named_as_fitted(client) -> None:
    _, found = post(client, "/api/jobs/147/survey/recognise", {"slot": "memory-b", "text": "8GB 1Rx8 PC4-2666V-SA2-11"})
    body = {"slot": "memory-b", "number": "FOUND-8", "offered": found["offered"]}
    assert post(client, "/api/jobs/147/survey/new-part", body)[0] == 200
    assert spec(147)["survey"]["fitted"]["memory-b"]["number"] == "FOUND-8"
    assert parts.part_of("FOUND-8").ranks == 1
    assert post(client, "/api/jobs/147/survey/new-part", body)[0] == 400  # it is there now
    assert (
        post(client, "/api/jobs/147/survey/new-part", body | {"number": "F2", "offered": {"kind": "memory"}})[0] == 400
    )


def test_which_of_our_machines_a_part_goes_in(client) -> None:
    lines = client.get("/api/parts/QB4-0T25-42BM/machines").json()
    goes = {(g["configuration"], g["slot"]): g["verdict"] for g in lines}
    assert goes[("fen-210", "drive-1")] == "seats" and goes[("rill-520", "drive-1")] == "refused"  # SATA into PCIe
    assert client.get("/api/parts/NO-SUCH/machines").status_code == 404
    assert client.get("/api/parts/PL-STK16/machines").json() == []


# -- the shelf -------------------------------------------------------------------------------------
def test_a_drive_on_the_shelf_is_not_used_while_it_holds_data(client) -> None:
    before = len(client.get("/api/shelf").json()["parts"])
    _, view = post(client, "/api/shelf", {"number": "QK2-1T0-80M", "origin": "job 147", "condition": "good"})
    drive = view["parts"][0]
    assert (drive["erased"], len(view["parts"])) == ("not yet", before + 1)
    change = {"condition": "good", "erased": "not yet", "state": "used"}
    assert post(client, f"/api/shelf/{drive['id']}", change)[0] == 400
    assert post(client, f"/api/shelf/{drive['id']}", change | {"erased": "erased"})[0] == 400  # how is not said
    row = next(r for r in client.get("/api/jobs/147/fit?whole=true").json()["rows"] if r["number"] == "QK2-1T0-80M")
    assert row["on_shelf"] == 0
    said = change | {"erased": "erased", "erased_note": "secure erase, bench", "state": "on the shelf"}
    assert post(client, f"/api/shelf/{drive['id']}", said)[0] == 200
    row = next(r for r in client.get("/api/jobs/147/fit?whole=true").json()["rows"] if r["number"] == "QK2-1T0-80M")
    assert row["on_shelf"] == 1
    assert post(client, "/api/shelf", {"number": " "})[0] == 400
    assert post(client, "/api/jobs/155/shelf", {})[0] == 200
    assert post(client, "/api/jobs/155/shelf", {})[0] == 400  # once


# -- the supplier ----------------------------------------------------------------------------------
@pytest.fixture
def feed():
    stand_in.Handler.slow_s = 60  # its thread sleeps on and holds nobody up; only the slow mood is given little time
    server = ThreadingHTTPServer(("127.0.0.1", 0), stand_in.Handler)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}/offers"
    server.shutdown()
    server.server_close()


def test_fresh_prices_come_in_all_or_nothing(db, feed) -> None:
    first = supplier.refresh(f"{feed}?seed=1")
    assert first.shop == "Quay Supply" and first.changed > 100 and first.unknown == 1
    assert supplier.refresh(f"{feed}?seed=1").changed == 0  # the same answer changes nothing
    now = dict(models.Part.objects.values_list("number", "price_minor"))
    for mood, says in (
        ("slow", "no answer in"),
        ("broken", "not JSON"),
        ("half", "supplier feed|reached"),
        ("wrong", "below 1"),
        ("down", "503"),
    ):
        with pytest.raises(InputError, match=says):
            supplier.refresh(f"{feed}?seed=2&mood={mood}", timeout_s=0.5 if mood == "slow" else 30)
    with pytest.raises(InputError, match="reached"):
        supplier.refresh("http://127.0.0.1:9/offers")
    assert dict(models.Part.objects.values_list("number", "price_minor")) == now


# -- triage ----------------------------------------------------------------------------------------
@pytest.mark.role("owner")
def test_the_workshop_edits_its_triage_list(client) -> None:
    view = client.get("/api/triage").json()
    assert len(view["triage"]["complaints"]) >= 20 and view["tried"]["radio.1"]["helped"] == 1  # the scorers' job
    new = {
        "id": "damp",
        "name": "Fell into the harbour",
        "causes": [{"id": "damp.1", "cause": "Wet", "test": "Open, dry a week."}],
        "then": ["kit"],
        "weights": {"runtime": 1},
    }
    assert post(client, "/api/triage/complaints", {"complaint": new}, "put")[0] == 200
    edit(client, 147, "/intake/complaints", ["damp"], base=["slow", "full"])
    needs = {n["need"]["kind"]: n["need"] for n in client.get("/api/jobs/147/intake").json()["needs"]}
    assert needs["drive_space"]["set_by"].startswith("use")
    assert post(client, "/api/triage/complaints", {"complaint": new | {"causes": []}}, "put")[0] in (400, 422)
    text = client.get("/api/triage/file").content
    assert client.delete("/api/triage/complaints/damp").status_code == 200
    assert send(client, "/api/triage/import", text)[0] == 200
    assert any(c["id"] == "damp" for c in client.get("/api/triage").json()["triage"]["complaints"])
    assert send(client, "/api/triage/import", b'{"complaints": [{}]}')[0] == 400


# -- readings before the machine is known -----------------------------------------------------------
def test_a_reading_identifies_and_fills_the_survey(client) -> None:
    bundle = client.get("/api/jobs/147/simulated/survey?busy=true").content
    _, started = post(client, "/api/jobs", {"customer": "new"})
    number = started["job"]["number"]
    assert send(client, f"/api/jobs/{number}/reading/survey", bundle)[0] == 200
    found = client.get(f"/api/jobs/{number}/identify").json()
    assert found["settled"] and found["remaining"] == ["veyra-strand-15/mk2-rill-430"]
    was = spec(number)["identify"]
    chosen = was | {"machine": "veyra-strand-15", "configuration": "mk2-rill-430"}
    edit(client, number, "/identify", chosen, was)
    survey = client.get(f"/api/jobs/{number}/survey").json()
    assert {s["id"]: s["fitted_how"] for s in survey["map"]["slots"]}["drive-1"] == "read from the running system"
    assert survey["reading"]["not_understood"] == [] and survey["since"]["/survey/reading"]["who"] == ROLE
    load = client.get(f"/api/jobs/{number}/intake").json()["load"]
    assert load["pages"] and load["peak_memory_gb"] == 7.4  # 7600 MB
    assert (
        edit(client, number, "/identify", {**chosen, "machine": "halden-wick-11", "configuration": "fen-210"}, chosen)[
            "status"
        ]
        == 200
    )
    assert spec(number)["survey"]["reading"] is None  # it was another machine's


def test_unknown_content_is_a_choice_and_is_measured_first(client) -> None:
    assert verdicts(client, 147, "memory-b")["PM4S-16G29"] == "seats"
    body = {"slot": "memory-b", "number": "", "state": "unknown"}
    assert post(client, "/api/jobs/148/survey/fitted", body | {"slot": "memory-a"})[0] == 200
    now = verdicts(client, 148, "memory-b")
    # Drover 14: 16 GB a socket, 32 in all: whatever sits in the other socket, 8 GB more stay within it
    assert now["PM4S-08G29"] == "held_back"  # but it may be slower
    slots = {s["id"]: s for s in client.get("/api/jobs/148/survey").json()["map"]["slots"]}
    assert (slots["memory-a"]["fitted_name"], slots["memory-a"]["fitted_how"]) == ("unknown", "nobody has looked")
    assert client.get("/api/jobs/148/plan").status_code == 200
    assert post(client, "/api/jobs/148/survey/fitted", body | {"slot": "memory-a", "state": "as_delivered"})[0] == 200
    assert verdicts(client, 148, "memory-b")["PM4S-08G29"] == "held_back"  # 2666 beside it


def test_a_measured_gap_names_its_pad(client) -> None:
    typed = {"attribute": "drive-1.pad_gap_um", "typed": "1.0"}
    assert post(client, "/api/jobs/147/survey/measured", typed)[0] == 200
    slots = {s["id"]: s for s in client.get("/api/jobs/147/survey").json()["map"]["slots"]}
    assert slots["drive-1"]["notes"] == ["A 1 mm gap takes a 1.25 mm pad: squeezed by 20%."]


def test_the_database_asks_few_questions_for_a_page(client, django_assert_max_num_queries) -> None:
    client.get("/api/jobs/147/fit")
    with django_assert_max_num_queries(14):
        client.get("/api/jobs/147/fit")
    assert connection.vendor == "sqlite"


# -- reasons, comparison, gauges and rules ---------------------------------------------------------
def test_a_cell_and_its_reasons_agree_and_every_finding_links_to_its_rule(client) -> None:
    fit = client.get("/api/jobs/147/fit?whole=true").json()
    ranks = ("seats", "held_back", "measure_first", "refused", "harm")
    rules = {r["id"]: r for r in client.get("/api/rules").json()}
    assert all(r["sentence"] and r["source"] and r["slots"] and r["parts"] for r in rules.values())
    looked = 0
    for row in fit["rows"][::9]:
        for at, rank, word, extra in row["cells"]:
            slot = fit["slots"][at]["number"]
            why = client.get(f"/api/jobs/147/fit/why?slot={slot}&part={row['number']}").json()["judgement"]
            assert (why["verdict"], why["short"], why["extra_minor"]) == (ranks[rank], fit["words"][word], extra)
            assert {f["rule"] for f in why["findings"]} <= set(rules)
            assert why["verdict"] == "seats" or any(f["says"] for f in why["findings"])
            looked += 1
    assert looked > 20
    assert client.get("/api/jobs/147/fit/why?slot=drive-1&part=NOBODY").status_code == 400
    assert client.get("/api/jobs/147/fit/why?slot=drive-9&part=QK2-1T0-80M").status_code == 400


@pytest.mark.parametrize(
    ("parts", "status"),
    [
        ("PM4S-16G29", 200),
        ("PM4S-16G29,PM4S-16G32A1", 200),
        ("", 400),
        ("PM4S-16G29,NOBODY", 400),
        ("PM4S-16G29," * 5, 400),  # four at most
    ],
)
def test_up_to_four_side_by_side(client, parts, status) -> None:
    answer = client.get(f"/api/jobs/147/fit/compare?slot=memory-b&parts={parts}")
    assert answer.status_code == status
    if status == 200:
        assert len(answer.json()["judged"]) == len(parts.split(","))


def test_gauges_answer_without_a_job(client) -> None:
    gauges = {g["id"]: g for g in client.get("/api/gauges").json()}
    assert len(gauges) >= 10 and all(g["formula"] and g["standard"] for g in gauges.values())
    for id, gauge in gauges.items():
        assert post(client, f"/api/gauges/{id}", {})[0] in (200, 400)
        assert post(client, f"/api/gauges/{id}", {f["name"]: "∞" for f in gauge["fields"]})[0] == 400
    assert post(client, "/api/gauges/nothing", {})[0] == 400
    script = client.get("/api/gather.sh")
    assert script.content.startswith(b"#!/bin/sh") and b"attachment" in script["Content-Disposition"].encode()


# -- machines from a reading, parts from a label ----------------------------------------------------
def test_a_machine_is_drafted_from_a_bundle_and_sound_as_it_stands(client) -> None:
    bundle = client.get("/api/jobs/147/simulated/survey").content
    file = SimpleUploadedFile("bundle.json", bundle)
    draft = client.post("/api/machines/draft-from-bundle", {"file": file}).json()
    assert post(client, "/api/machines/check", draft)[1]["what"] == ""
    assert all(s["key"] is None or s["key"]["source"] == "read" for s in draft["slots"] if s["kind"] == "m2_drive")
    junk = client.post("/api/machines/draft-from-bundle", {"file": SimpleUploadedFile("x.json", b"[]")})
    assert junk.status_code == 400
    form = client.get("/api/machines/form").json()
    assert {"memory", "m2_drive", "radio", "battery", "bay"} <= set(form["templates"]) and form["places"]
    data = client.get("/api/machines/veyra-strand-15/data").json()
    assert data["format"] == "insertum-machine/2" and len(data["configurations"]) == 2
    assert client.get("/api/machines/nobody/data").status_code == 404


def test_a_new_part_is_what_its_label_proves_and_no_number_is_taken_twice(client) -> None:
    offered = client.get("/api/parts/decode", {"text": "8GB 2Rx8 PC4-2400T-SE1-11"}).json()["offered"]
    assert (offered["capacity_gb"], offered["ranks"], offered["cl"]) == (8, 2, 17)  # 2400T is CL17
    assert post(client, "/api/parts/new", {"part": offered | {"number": "NEW-1", "name": "New"}})[0] == 200
    assert client.get("/api/parts/decode", {"text": "new-1"}).json()["known"] == ["NEW-1"]
    assert post(client, "/api/parts/new", {"part": offered | {"number": "NEW-1", "name": "New"}})[0] == 400
    assert post(client, "/api/parts/new", {"part": offered | {"number": "NEW-2", "capacity_gb": -8}})[0] == 400
    assert "NEW-2" not in client.get("/api/parts.csv").content.decode()


def test_a_supplier_who_does_not_answer_changes_nothing(client, settings) -> None:
    settings.SUPPLIER_URL = "http://127.0.0.1:9/offers"
    before = client.get("/api/parts.csv").content
    status, problem = post(client, "/api/parts/refresh", {})
    assert (status, "reached" in problem["what"], bool(problem["mend"])) == (400, True, True)
    assert client.get("/api/parts.csv").content == before


def test_one_act_believes_either_side_of_a_contradiction(client) -> None:
    """Memory that was read faster than the library says it runs."""
    files = json.loads(client.get("/api/jobs/147/simulated/survey").content)
    table = files["files"]["dmidecode.txt"]
    files["files"]["dmidecode.txt"] = table.replace("Configured Memory Speed: 2933", "Configured Memory Speed: 3200")
    bundle = SimpleUploadedFile("b.json", json.dumps(files).encode())
    assert client.post("/api/jobs/147/reading/survey", {"file": bundle}).status_code == 200
    (said,) = client.get("/api/jobs/147/survey").json()["contradictions"]
    assert (said["id"], said["library"], said["read"]) == ("memory.speed_mts", "2933 MT/s", "3200 MT/s")

    def believe(right: str, id: str = "memory.speed_mts"):
        return client.post("/api/jobs/147/survey/believe", {"id": id, "right": right}, content_type="application/json")

    def runs_at() -> str:
        view = client.get("/api/jobs/147/survey").json()
        return next(f["value"] for f in view["map"]["board"] if f["attribute"] == "memory.speed_mts")

    assert runs_at() == "3200"
    assert believe("library").status_code == 200 and runs_at() == "2933"
    for _ in range(2):  # said twice it is one claim
        assert believe("reading").status_code == 200
    view = client.get("/api/jobs/147/survey").json()
    assert runs_at() == "3200" and view["believed"] == {"memory.speed_mts": "reading"}
    assert [(c["attribute"], c["source"]) for c in view["claims"]] == [("memory.speed_mts", "read")]
    assert believe("library", "nothing").status_code == 400
    again = SimpleUploadedFile("b.json", json.dumps(files).encode())
    client.post("/api/jobs/147/reading/survey", {"file": again})
    assert client.get("/api/jobs/147/survey").json()["believed"] == {}  # it was said of another reading


def test_a_machine_the_library_lacks_is_started_inside_its_job(client) -> None:
    """From labels to a job that goes on: the draft is found by name and code, by Find and by Identify."""
    number = post(client, "/api/jobs", {"title": "Pilots' laptop", "customer": "Pilots"})[1]["job"]["number"]
    edit(client, number, "/identify/texts", "Brannock Weir 14\nBW14-A7\nCorvane Beck 450", base="")
    assert not client.get(f"/api/jobs/{number}/identify").json()["settled"]
    form = client.get(f"/api/jobs/{number}/identify/start").json()
    assert (form["maker"], form["name"], form["processor"]) == ("Brannock", "Weir 14", "Corvane Beck 450")
    said = {k: form[k] for k in ("maker", "name", "processor", "marks")} | {
        "seen": {"memory": 2, "m2_drive": 1},
        "of": "",
    }
    status, view = post(client, f"/api/jobs/{number}/identify/start", said)
    assert status == 200
    assert view["job"]["identify"]["machine"] == "brannock-weir-14" and view["job"]["identify"]["texts"].startswith(
        "Brannock"
    )
    assert client.get(f"/api/jobs/{number}/identify").json()["settled"]
    assert client.get("/api/find", {"text": "BW14-A7"}).json()["found"][0]["sure"]
    assert any(m["machine"] == "brannock-weir-14" and m["draft"] for m in client.get("/api/machines").json()["lines"])
    survey = client.get(f"/api/jobs/{number}/survey").json()
    assert [s["id"] for s in survey["map"]["slots"]] == ["memory-a", "memory-b", "drive-1"]
    assert client.get(f"/api/jobs/{number}/fit").status_code == 200
    # Nobody has looked: what everything waits for is asked, and nothing is sold by what is not known.
    worth = client.get(f"/api/jobs/{number}/survey/worth").json()
    assert any(w["parts"] == 0 and w["among"] > 10 for w in worth)
    edit(client, number, "/intake/use", "office", base="")
    plan = client.get(f"/api/jobs/{number}/plan").json()["answer"]
    today = {s["need"]: s["today"] for s in plan["today"]}
    assert (
        today["drive_speed"][0] == 0 < today["drive_speed"][1]
        and today["memory_capacity"][0] == 0 < today["memory_capacity"][1]
    )
    assert [len(p["plan"]["changes"]) for p in plan["stances"]] == [0, 0, 0, 0] and plan["waiting"]
    assert post(client, f"/api/jobs/{number}/identify/start", said | {"name": " "})[0] == 400
    again = post(client, f"/api/jobs/{number}/identify/start", said)[1]
    assert again["job"]["identify"]["machine"] == "brannock-weir-14-2"  # another of that name is another machine


def test_another_configuration_of_a_known_shell_joins_it(client) -> None:
    number = post(client, "/api/jobs", {"title": "x", "customer": "y"})[1]["job"]["number"]
    said = {
        "name": "Almanac 12, second",
        "processor": "Corvane Rill 130",
        "of": "halden-almanac-12",
        "marks": [{"kind": "type_code", "text": "HA12-R5A"}],
    }
    status, view = post(client, f"/api/jobs/{number}/identify/start", said)
    assert status == 200 and view["job"]["identify"]["configuration"] == "corvane-rill-130"
    assert client.get("/api/find", {"text": "HA12-R5A"}).json()["found"][0]["link"].endswith("/corvane-rill-130")
    assert post(client, f"/api/jobs/{number}/identify/start", said | {"of": "nothing"})[0] == 400
    assert client.get("/api/jobs/162/survey").status_code == 200  # the shell's other job is as it was
    status, problem = post(client, f"/api/jobs/{number}/identify/start", said | {"of": "veyra-strand-15"})
    assert status == 400 and "memory on its board" in problem["what"]  # how much, nobody has told


def test_a_price_list_is_one_drop(client) -> None:
    """Semicolons, decimal commas, Latin-1: offers of known parts change, every other row is named with its reason."""
    text = "Artikel-Nr.;Bezeichnung;Nettopreis;Bestand\nPM4S-16G32A1;Größe;27,90;7\nNEVER-SEEN;x;1,00;1\n"

    def sent(path: str):
        return client.post(path, {"file": SimpleUploadedFile("Keelhouse.csv", text.encode("latin-1"))})

    seen = sent("/api/parts/preview").json()
    assert seen["currency_open"] and seen["report"]["changed"] == 0  # in which currency nobody said
    seen = sent("/api/parts/preview?currency=EUR").json()
    assert seen["report"] == {"added": 0, "changed": 1, "same": 0} and seen["columns"]["price"] == "Nettopreis"
    ends = [(e["outcome"], e["reason"], e["rows"]) for e in seen["ends"]]
    assert ends == [
        ("asked", "the title does not say what kind of part it is", [[3, "NEVER-SEEN"]]),
        ("taken", "", [[2, "PM4S-16G32A1"]]),
    ]
    assert seen["outcomes"] == {"taken": 1, "asked": 1}
    assert "read as Windows-1252" in seen["assumed"] and "the shop is called Keelhouse" in seen["assumed"]
    before = parts.part_of("PM4S-16G32A1")
    lines = (
        b"".join(sent("/api/parts/import/steps?shop=Keelhouse Surplus&currency=EUR").streaming_content)
        .decode()
        .splitlines()
    )
    assert json.loads(lines[-1])["report"]["changed"] == 1
    after = parts.part_of("PM4S-16G32A1")
    assert before and after
    new = [(o.shop, o.price_minor, o.stock) for o in after.offers if o not in before.offers]
    assert [o.tax for o in after.offers if o not in before.offers] == ["net"]
    assert new == [("Keelhouse Surplus", 2790, 7)] and after.model_dump(exclude={"offers"}) == before.model_dump(
        exclude={"offers"}
    )
    assert any(p.price_minor == 2790 for p in parts.price_history("PM4S-16G32A1"))
    again = sent("/api/parts/preview").json()  # the next one is one drop
    assert (again["shop"], again["remembered"], again["report"]["same"]) == ("Keelhouse Surplus", True, 1)


def test_columns_are_chosen_once_and_new_parts_come_from_titles(client) -> None:
    text = "A;B;C\nOR4S-32G32C;Orrin 32GB DDR4-3200 SO-DIMM;68,90\nOR4D;Orrin 16GB DDR4 DIMM;9,00\n"

    def sent(path: str, body: str = text):
        return client.post(path, {"file": SimpleUploadedFile("Back Room.csv", body.encode())})

    seen = sent("/api/parts/preview").json()
    assert (
        "which column holds the prices" in seen["open"]
        and seen["heads"] == ["A", "B", "C"]
        and seen["samples"][0][0] == "OR4S-32G32C"
    )
    lines = b"".join(sent("/api/parts/import/steps").streaming_content).decode().splitlines()
    assert "which column" in json.loads(lines[-1])["problem"]["what"]
    named = 'columns={"number":"A","name":"B","price":"C"}&shop=Back Room&currency=EUR'
    seen = sent(f"/api/parts/preview?{named}").json()
    assert (
        seen["report"]["added"] == 1
        and seen["outcomes"] == {"taken": 1, "left_out": 1}
        and not parts.part_of("OR4S-32G32C")
    )
    b"".join(sent(f"/api/parts/import/steps?{named}").streaming_content)
    part = parts.part_of("OR4S-32G32C")
    assert part and part.kind == "memory" and part.offers[0].shop == "Back Room" and part.ranks is None  # not said
    later = text.replace("68,90", "66,00")
    seen = sent("/api/parts/preview", later).json()
    assert seen["remembered"] and seen["shop"] == "Back Room" and seen["report"]["changed"] == 1
    for bad in ("{", "[1]", '{"price": 3}'):
        assert sent(f"/api/parts/preview?columns={bad}").status_code == 400


def test_a_list_stopped_half_way_keeps_nothing_and_teaches_nothing(client) -> None:
    rows = "".join(f"NX-{i:05d};Orrin 16GB DDR4-3200 SO-DIMM;{i % 90 + 10},00\n" for i in range(1500))
    running = supplier_lists.take(
        ("MPN;Titel;Preis\n" + rows).encode(), "Stopped.csv", supplier_lists.Told(currency="EUR")
    )
    said = next(step for step in running if step.says == "writing")
    assert 0 < said.done < said.of
    running.close()  # whoever listened is gone
    assert not models.Part.objects.filter(number__startswith="NX-").exists()
    assert not models.SupplierLayout.objects.filter(shop="Stopped").exists()


def test_every_kind_of_part_is_typed_and_corrected_by_its_own_words(client) -> None:
    form = client.get("/api/parts/form").json()
    assert set(form) == {"memory", "m2_drive", "bay_drive", "radio", "cellular", "battery", "accessory"}
    assert not [f for fields in form.values() for f in fields if "_" in f["label"]]
    typed = {
        "kind": "battery",
        "number": "AP-NEW",
        "name": "Amberly spare",
        "design_wh": "45,5",
        "voltage_v": "11.4",
        "safety_mark": "",
    }
    status, report = post(client, "/api/parts/saved", {"cells": typed, "new": True}, "put")
    assert status == 200 and report["added"] == 1
    page = client.get("/api/parts/AP-NEW").json()
    assert (page["cells"]["design_wh"], page["cells"]["safety_mark"]) == ("45.5", "")  # unknown is not no
    assert post(client, "/api/parts/saved", {"cells": typed, "new": True}, "put")[0] == 400
    for cells in (
        {"voltage_v": "x"},
        {"design_wh": "-3"},
        {"safety_mark": "maybe"},
        {"kind": "pocket"},
        {"height": "3"},
    ):
        status, problem = post(client, "/api/parts/saved", {"cells": typed | cells}, "put")
        assert status == 400 and problem["what"] and problem["where"], cells
    before = parts.part_of("LR-AX2-E30B")
    page = client.get("/api/parts/LR-AX2-E30B").json()
    status, report = post(
        client,
        "/api/parts/saved",
        {"cells": {k: v for k, v in page["cells"].items() if k not in ("offers", "note")}},
        "put",
    )
    assert report == {"added": 0, "changed": 0, "same": 1} and parts.part_of("LR-AX2-E30B") == before
    post(
        client,
        "/api/parts/saved",
        {"cells": {**{k: v for k, v in page["cells"].items() if k not in ("offers", "note")}, "streams": "1"}},
        "put",
    )
    after = parts.part_of("LR-AX2-E30B")
    assert after and before and after.streams == 1 and after.offers == before.offers


def test_two_people_edit_one_machine_and_both_keep_their_words(client, colleague) -> None:
    base = client.get("/api/machines/veyra-drover-14/data").json()
    mine = {**base, "memory": {**base["memory"], "graphics_share_mb": [{"value": 512, "source": "documented"}]}}
    theirs = {**base, "slots": [{**base["slots"][0], "name": "Memory one"}, *base["slots"][1:]]}
    assert post(colleague, "/api/machines/edited", {"machine": theirs, "base": base}, "put")[0] == 200
    assert post(client, "/api/machines/edited", {"machine": mine, "base": base}, "put")[0] == 200
    now = client.get("/api/machines/veyra-drover-14/data").json()
    assert now["slots"][0]["name"] == "Memory one" and now["memory"]["graphics_share_mb"][0]["value"] == 512
    other = {**base, "slots": [{**base["slots"][0], "name": "Socket A"}, *base["slots"][1:]], "width_mm": 331}
    status, problem = post(client, "/api/machines/edited", {"machine": other, "base": base}, "put")
    assert status == 400 and problem["where"] == "slots/memory-a/name"
    assert client.get("/api/machines/veyra-drover-14/data").json() == now  # nothing half-written
    assert post(client, "/api/machines/edited", {"machine": other, "base": base, "mine": True}, "put")[0] == 200
    last = client.get("/api/machines/veyra-drover-14/data").json()
    assert (last["slots"][0]["name"], last["width_mm"]) == ("Socket A", 331)
    assert last["memory"]["graphics_share_mb"][0]["value"] == 512
    assert post(client, "/api/machines/edited", {"machine": {**base, "width_mm": -1}, "base": base}, "put")[0] == 400
    assert post(client, "/api/machines/edited", {"machine": base, "base": {**base, "id": "gone"}}, "put")[0] == 400
    strand = client.get("/api/machines/veyra-strand-15/data").json()
    renamed = {"machine": {**base, "id": "veyra-strand-15"}, "base": base, "mine": True}
    status, problem = post(client, "/api/machines/edited", renamed, "put")
    assert status == 400 and problem["where"] == "machine, id"  # another machine would have been lost under it
    assert client.get("/api/machines/veyra-strand-15/data").json() == strand


@pytest.mark.role("owner")
def test_the_mark_up_is_what_plans_reckon_with_and_the_catalogue_keeps_what_parts_cost(client) -> None:
    before = {r["number"]: r["price_minor"] for r in client.get("/api/jobs/147/fit?whole=true").json()["rows"]}
    assert post(client, "/api/workshop", {"markup_percent": 15}, "put")[0] == 200
    after = {r["number"]: r["price_minor"] for r in client.get("/api/jobs/147/fit?whole=true").json()["rows"]}
    assert before["PM4S-16G29"] == 2990 and after["PM4S-16G29"] == 3439  # 2990 x 1.15 = 3438.5, half upwards
    assert parts.part_of("PM4S-16G29").selling_minor is None
    assert 'selling_minor": 34' not in client.get("/api/parts.json").content.decode()
    typed = client.get("/api/parts/PM4S-16G29").json()["cells"]
    cells = {k: v for k, v in typed.items() if k not in ("offers", "note")} | {"selling": "31,90"}
    assert post(client, "/api/parts/saved", {"cells": cells}, "put")[0] == 200
    own = {r["number"]: r["price_minor"] for r in client.get("/api/jobs/147/fit?whole=true").json()["rows"]}
    assert own["PM4S-16G29"] == 3190  # its own price stands
    for bad in (-1, 501, "x"):
        assert client.put("/api/workshop", {"markup_percent": bad}, content_type="application/json").status_code == 422
    assert client.get("/api/workshop").json()["markup_percent"] == 15


def test_why_opens_from_a_part_s_own_page(client) -> None:
    lines = client.get("/api/parts/QB5-2T0-80BMS/machines").json()
    line = next(x for x in lines if x["verdict"] != "seats")
    where = {k: line[k] for k in ("machine", "configuration", "slot")}
    why = client.get("/api/parts/QB5-2T0-80BMS/why", where).json()
    assert why["judgement"]["verdict"] == line["verdict"] and why["judgement"]["findings"] and why["because"]
    assert client.get("/api/parts/QB5-2T0-80BMS/why", where | {"slot": "nowhere"}).status_code == 400
    assert client.get("/api/parts/NEVER/why", where).status_code == 404
    assert client.get("/api/parts/QB5-2T0-80BMS/why", where | {"machine": "none"}).status_code == 404


def test_two_people_correct_one_part_and_one_complaint_and_both_keep_their_words(client) -> None:
    number = "PM4S-16G29"
    base = client.get(f"/api/parts/{number}").json()["cells"]
    put = lambda path, body: client.put(path, body, content_type="application/json")  # noqa: E731
    assert put("/api/parts/saved", {"cells": base | {"name": "Their name"}, "base": base}).status_code == 200
    # Another field: both changes stand.
    assert put("/api/parts/saved", {"cells": base | {"maker": "Orrin"}, "base": base}).status_code == 200
    now = client.get(f"/api/parts/{number}").json()["cells"]
    assert (now["name"], now["maker"]) == ("Their name", "Orrin")
    # The same field: both words are shown and nothing is kept, until somebody says so.
    mine = {"cells": base | {"name": "My name"}, "base": base}
    refused = put("/api/parts/saved", mine)
    assert refused.status_code == 400 and refused.json()["where"] == "name: theirs Their name, yours My name"
    assert client.get(f"/api/parts/{number}").json()["cells"] == now
    assert put("/api/parts/saved", mine | {"base": None}).status_code == 200
    assert client.get(f"/api/parts/{number}").json()["cells"]["name"] == "My name"
    slow = next(c for c in client.get("/api/triage").json()["triage"]["complaints"] if c["id"] == "slow")
    kept = lambda change: put("/api/triage/complaints", {"complaint": slow | change, "base": slow})  # noqa: E731
    assert kept({"name": "Slow, theirs"}).status_code == 200 and kept({"then": ["memory"]}).status_code == 200
    found = next(c for c in client.get("/api/triage").json()["triage"]["complaints"] if c["id"] == "slow")
    assert (found["name"], found["then"]) == ("Slow, theirs", ["memory"])
    torn = kept({"name": "Slow, mine"})
    assert torn.status_code == 400 and torn.json()["where"] == "name: theirs Slow, theirs, yours Slow, mine"


@pytest.mark.role("bench")
def test_the_bench_takes_the_makers_words_on_its_job_and_proposes_them(client) -> None:
    """Counted on this job at once; the library says what it said, until somebody of its role accepts."""
    number, slug = 147, models.Job.objects.get(number=147).spec["identify"]["machine"]
    text = "Drive slot 1: M.2 2242/2280, drives up to 4 TB\nMaximum memory: 48 GB in all"
    status, page = post(client, f"/api/words/{slug}", {"text": text})
    assert status == 200
    chosen = [r["id"] for r in page["rows"] if r["goes"] == "in"]
    assert chosen
    status, refused = post(client, f"/api/words/{slug}/taken", {"text": text, "chosen": chosen})
    assert status == 403  # the library's own door is not the bench's
    before = models.Machine.objects.get(slug=slug).spec
    status, view = post(
        client, f"/api/jobs/{number}/words/taken", {"text": text, "chosen": chosen, "where": "data sheet"}
    )
    assert status == 200, view
    words = view["job"]["survey"]["words"]
    assert words and all(w["note"].startswith("data sheet: “") for said in words.values() for w in said)
    assert models.Machine.objects.get(slug=slug).spec == before
    waiting = models.ClaimReview.objects.filter(job=number, source="documented")
    assert {r.attribute for r in waiting} == set(words)
    facts = [f for s in client.get(f"/api/jobs/{number}/survey").json()["map"]["slots"] for f in s["facts"]]
    facts += client.get(f"/api/jobs/{number}/survey").json()["map"]["board"]
    told = {f["attribute"]: f["steps"] for f in facts}
    assert all(any("data sheet" in step for step in told[a]) for a in words)
    status, again = post(client, f"/api/jobs/{number}/words/taken", {"text": "Nothing here.", "chosen": ["x"]})
    assert status == 400
