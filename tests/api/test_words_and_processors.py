"""The maker's words taken into the library, and processors that change every machine that names them."""

import json

from django.core.files.uploadedfile import SimpleUploadedFile

from insertum.shop import models

from .test_library import post

ROLE = "library"

PAGE = "Maximum memory: 40 GB\nMemory: one SO-DIMM socket, DDR4\nSecond drive slot: M.2 2242, SATA 6 Gb/s"


def test_words_are_shown_and_only_what_is_chosen_is_kept(client) -> None:
    before = models.Machine.objects.get(slug="veyra-drover-14").spec
    status, page = post(client, "/api/words/veyra-drover-14", {"text": PAGE})
    assert status == 200
    rows = {r["id"]: r for r in page["rows"]}
    assert (rows["memory.total_limit_gb@"]["value"], rows["memory.total_limit_gb@"]["goes"]) == ("40", "in")
    assert rows["memory.sockets@"]["goes"] == "shown"  # the library has two, and none is taken away
    assert models.Machine.objects.get(slug="veyra-drover-14").spec == before
    body = {"text": PAGE, "chosen": ["memory.total_limit_gb@"], "where": "data sheet p. 2"}
    status, page = post(client, "/api/words/veyra-drover-14/taken", body)
    assert next(r for r in page["rows"] if r["id"] == "memory.total_limit_gb@")["goes"] == "there"
    after = models.Machine.objects.get(slug="veyra-drover-14").spec
    assert after["memory"]["total_limit_gb"][-1]["note"] == "data sheet p. 2: “Maximum memory: 40 GB”"
    assert {**after, "memory": None} == {**before, "memory": None}
    change = client.get("/api/machines/veyra-drover-14/rill-320").json()["changes"][0]
    assert change["what"] == "1 claim from the maker's words: data sheet p. 2" and change["who"] == ROLE


def test_words_nobody_can_place_are_refused_and_nothing_is_kept(client) -> None:
    assert post(client, "/api/words/no-such-machine", {"text": PAGE})[1]["what"] == "no machine 'no-such-machine'"
    assert post(client, "/api/words/veyra-drover-14", {"text": "x" * 100_001})[0] == 400
    before = models.Machine.objects.get(slug="veyra-drover-14").spec
    for chosen, what in ((["memory.speed_mts@"], "states no"), (["drive-2.sata@"], "which slot"), ([], "")):
        body = {"text": PAGE, "chosen": ["memory.total_limit_gb@", *chosen] if chosen else []}
        status, problem = post(client, "/api/words/veyra-drover-14/taken", body)
        assert status in (400, 422) and what in problem["what"]
    assert models.Machine.objects.get(slug="veyra-drover-14").spec == before


def total(client, where: str) -> list[str]:
    facts = client.get(f"/api/machines/{where}").json()["map"]["board"]
    fact = next(f for f in facts if f["attribute"] == "memory.total_limit_gb")
    return [f"{c['value']} {c['source']}" for c in fact["claims"]]


def test_changing_a_processor_changes_every_machine_that_names_it_and_no_file(client) -> None:
    files = {m.slug: m.spec for m in models.Machine.objects.all()}
    page = client.get("/api/processors/corvane-rill-340").json()
    assert [m["number"] for m in page["machines"]] == ["veyra-cairn-14/rill-340"]
    assert "64 controller" in total(client, "veyra-cairn-14/rill-340")
    status, _ = post(client, "/api/processors/saved", page["processor"] | {"total_limit_gb": 48}, "put")
    assert status == 200
    claims = total(client, "veyra-cairn-14/rill-340")
    assert "48 controller" in claims and "64 controller" not in claims
    assert files == {m.slug: m.spec for m in models.Machine.objects.all()}
    exported = client.get("/api/machines/veyra-cairn-14/file").content.decode()
    assert json.loads(exported) == files["veyra-cairn-14"]
    assert client.get("/api/processors/corvane-rill-340").json()["changes"][0]["what"] == "edited"


def test_a_new_processor_by_its_name_and_bad_ones_refused(client) -> None:
    new = {"name": "Corvane Rill 350", "maker": "Corvane", "memory_generations": [4], "speed_mts": 3200}
    assert post(client, "/api/processors/saved?new=true", new, "put")[1]["id"] == "corvane-rill-350"
    assert post(client, "/api/processors/saved?new=true", new, "put")[1]["what"].endswith("in the library already")
    status, problem = post(client, "/api/processors/saved?new=true", {**new, "name": "X 1", "speed_mts": "48OO"}, "put")
    assert status == 400 and "speed_mts" in problem["where"]
    assert post(client, "/api/processors/saved?new=true", {**new, "name": "X 2", "speed_mts": 3400}, "put")[0] == 400


def test_processors_travel_all_or_nothing(client) -> None:
    file = client.get("/api/processors/file").content
    upload = SimpleUploadedFile("p.json", file, "application/json")
    report = client.post("/api/processors/import", {"file": upload}).json()
    assert not report["added"] and not report["changed"] and len(report["same"]) == 12
    rows = json.loads(file)["processors"]
    rows[0]["cores"], rows[1]["pcie_generation"] = 3, 9
    upload = SimpleUploadedFile("p.json", json.dumps(rows).encode(), "application/json")
    response = client.post("/api/processors/import", {"file": upload})
    assert response.status_code == 400 and response.json()["rows"][0]["row"] == 2
    assert client.get(f"/api/processors/{rows[0]['id']}").json()["processor"]["cores"] != 3


def bring(client, data: object, **fields: str) -> tuple[int, dict]:
    text = data if isinstance(data, bytes) else json.dumps(data).encode()
    response = client.post("/api/machines/library/bring", {"file": SimpleUploadedFile("l.json", text), **fields})
    return response.status_code, response.json()


def test_another_workshop_s_library_is_looked_through_and_taken_in_beside_ours(client) -> None:
    file = json.loads(client.get("/api/machines/library/file").content)
    own = bring(client, file, workshop="Tern Lane")[1]
    assert (own["comes_in"], own["lines"]) == (0, [])
    cairn = next(m for m in file["machines"] if m["id"] == "veyra-cairn-14")
    cairn["memory"]["total_limit_gb"] = [{"value": 96, "source": "documented"}]
    status, seen = bring(client, file, workshop="Tern Lane")
    assert status == 200 and seen["comes_in"] == 1 and not seen["taken"]
    assert not any("96" in c for c in total(client, "veyra-cairn-14/rill-340"))
    before = total(client, "veyra-cairn-14/rill-340")
    status, seen = bring(client, file, workshop="Tern Lane", take="true")
    assert status == 200 and seen["taken"]
    after = total(client, "veyra-cairn-14/rill-340")
    assert set(before) <= set(after) and "96 reported" in after
    rows = models.Sighting.objects.filter(spec__who__startswith="Tern Lane")
    assert rows.count() == seen["sightings"] and all(r.spec["hearsay"] for r in rows)
    assert bring(client, file, workshop="Tern Lane", take="true")[1]["comes_in"] == 0
    assert models.Sighting.objects.filter(spec__who__startswith="Tern Lane").count() == rows.count()


def test_a_library_with_a_bad_row_is_refused_whole(client) -> None:
    file = json.loads(client.get("/api/machines/library/file").content)
    file["machines"][0]["memory"]["total_limit_gb"] = [{"value": 96, "source": "documented"}]
    file["machines"][2]["slots"][0]["kind"] = "pocket"
    before = list(models.Machine.objects.values_list("spec", flat=True))
    status, problem = bring(client, file, workshop="Tern Lane", take="true")
    assert status == 400 and problem["rows"][0]["row"] == 3
    assert list(models.Machine.objects.values_list("spec", flat=True)) == before
    assert bring(client, {"format": "insertum-library/1"}, workshop="T")[0] == 400
    assert bring(client, file["machines"], workshop="T")[0] == 400
    assert bring(client, b"{", workshop="T")[0] == 400
    assert "whose" in bring(client, {**file, "machines": file["machines"][3:]})[1]["what"]


def test_two_processors_of_one_name_are_refused_because_machines_would_carry_neither(client) -> None:
    page = client.get("/api/processors/corvane-beck-680").json()["processor"]
    status, problem = post(client, "/api/processors/saved", page | {"name": "corvane beck-540"}, "put")
    assert status == 400 and "corvane-beck-540" in problem["what"]
    rows = json.loads(client.get("/api/processors/file").content)["processors"]
    file = SimpleUploadedFile("p.json", json.dumps([rows[0] | {"id": "another"}]).encode())
    assert client.post("/api/processors/import", {"file": file}).status_code == 400
    assert client.get("/api/processors/corvane-beck-680").json()["processor"]["name"] == "Corvane Beck 680"
    assert not models.Processor.objects.filter(slug="another").exists()


def test_a_workshop_is_named_so_that_it_can_be_read(client) -> None:
    file = json.loads(client.get("/api/machines/library/file").content)
    for name in ("x" * 61, "Tern\u202eLane", "a\x07b"):
        assert bring(client, file, workshop=name, take="true")[0] == 400
    assert bring(client, file, workshop="x" * 60)[0] == 200
