"""The API on the demo world: every station answers, edits keep everybody's words, bad input changes nothing."""

import json
import uuid

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client

from insertum.core.job.shape import STATIONS, Job
from insertum.demo import story
from insertum.formats.json_errors import MAX_BYTES
from insertum.shop import models
from insertum.shop.services import edit_job, jobs, parts
from insertum.shop.services.show_fit import VERDICTS, FitStation

from .conftest import signed_in

pytestmark = pytest.mark.django_db


def edit(client: Client, number: int, path: str, value=None, base=None, op="set", uid: str = "") -> dict:
    body = [{"uid": uid or uuid.uuid4().hex, "path": path, "op": op, "base": base, "value": value}]
    response = client.post(f"/api/jobs/{number}/edits", body, content_type="application/json")
    return {"status": response.status_code, **response.json()}


def send(client: Client, path: str, data: bytes, name: str = "file") -> tuple[int, dict]:
    response = client.post(path, {"file": SimpleUploadedFile(name, data)})
    return response.status_code, response.json()


def spec(number: int) -> dict:
    return models.Job.objects.get(number=number).spec


# -- session and headers ------------------------------------------------------------------------
def test_nobody_gets_in_without_signing_in(db) -> None:
    stranger = Client()
    for path in (
        "/api/jobs",
        "/api/jobs/147",
        "/api/jobs/147/plan",
        "/api/parts",
        "/api/parts.csv",
        "/api/jobs/147/file",
    ):
        assert stranger.get(path).status_code == 401, path
    assert stranger.post("/api/jobs", {}, content_type="application/json").status_code in (401, 403)


def test_sign_in_needs_the_page_and_the_password(db) -> None:
    browser = Client(enforce_csrf_checks=True)
    body = {"name": story.LOGIN, "password": story.PASSWORD}
    assert browser.post("/api/session", body, content_type="application/json").status_code == 403
    browser.get("/api/session")
    token = {"HTTP_X_CSRFTOKEN": browser.cookies["csrftoken"].value}
    wrong = browser.post("/api/session", body | {"password": "x"}, content_type="application/json", **token)
    assert wrong.status_code == 400 and "wrong" in wrong.json()["what"]
    assert browser.post("/api/session", body, content_type="application/json", **token).status_code == 200
    assert browser.get("/api/session").json()["name"] == "bench"
    assert browser.post("/api/jobs", {}, content_type="application/json").status_code == 403  # no token
    token = {"HTTP_X_CSRFTOKEN": browser.cookies["csrftoken"].value}
    assert browser.delete("/api/session", **token).status_code == 204
    assert browser.get("/api/jobs").status_code == 401


def test_eight_wrong_passwords_lock_the_door(db) -> None:
    browser = Client()
    for _ in range(9):
        browser.post("/api/session", {"name": "bench", "password": "x"}, content_type="application/json")
    right = browser.post("/api/session", {"name": "bench", "password": story.PASSWORD}, content_type="application/json")
    assert right.status_code == 429  # and when to come again, in words
    assert "wrong tries" in right.json()["what"] and "Come again at" in right.json()["mend"]


def test_the_page_allows_only_its_own_origin(db) -> None:
    page = Client().get("/jobs/147/fit")
    policy = page.headers["Content-Security-Policy"]
    assert (
        "default-src 'self'" in policy
        and "script-src 'self'" in policy
        and "unsafe" not in policy
        and "http" not in policy
    )
    assert page.headers["X-Frame-Options"] == "DENY"
    assert "__NONCE__" not in page.content.decode()


def test_the_database_is_set_as_the_house_says(db) -> None:
    with connection.cursor() as cursor:
        values = {
            p: cursor.execute(f"PRAGMA {p}").fetchone()[0] for p in ("journal_mode", "synchronous", "foreign_keys")
        }
    assert values == {"journal_mode": "wal", "synchronous": 2, "foreign_keys": 1}


# -- demo world ---------------------------------------------------------------------------------
def test_jobs_stand_at_different_stations(client) -> None:
    listed = client.get("/api/jobs?which=all").json()["jobs"]
    assert len(listed) >= 10 and len({j["station"] for j in listed}) >= 6
    assert all(j["closed"] for j in client.get("/api/jobs?which=closed").json()["jobs"])
    assert {j["number"] for j in listed if j["waits_for"]} >= {149, 153}


@pytest.mark.parametrize("number", [147, 148, 149, 150, 151, 152, 153, 154, 155, 157])
def test_every_station_of_every_demo_job_answers(client, number) -> None:
    chosen = spec(number)["plan"]["chosen"]
    for station in (*STATIONS, "tally"):
        response = client.get(f"/api/jobs/{number}/{station.replace('_', '-')}")
        needs_plan = station in ("prepare", "bench", "prove")
        assert response.status_code == (400 if needs_plan and not chosen else 200), (number, station, response.content)
        if response.status_code == 400:
            assert response.json()["mend"]


def test_an_unidentified_job_says_so(client) -> None:
    assert client.get("/api/jobs/156/identify").json()["question"]["ask"]
    assert client.get("/api/jobs/156/intake").status_code == 200
    refused = client.get("/api/jobs/156/fit")
    assert refused.status_code == 400 and "identified" in refused.json()["what"]
    assert client.get("/api/jobs/999").status_code == 404


def test_the_story_of_the_module_that_was_not_home(client) -> None:
    reports = client.get("/api/jobs/152/hand-over").json()["reports"]
    assert [r["proved"] for r in reports] == [False, True]
    assert any("fully home" in c for p in reports[0]["proofs"] for c in p["causes"])


def test_the_swollen_pack_blocks_the_bench(client) -> None:
    assert "battery flat and cool" in client.get("/api/jobs/153/bench").json()["locked"]
    moved = edit(client, 153, "/station", "bench", base="prepare")
    assert moved["status"] == 400 and "stopped" in moved["what"]
    assert spec(153)["station"] == "prepare"


def test_the_safety_key_opens_when_all_is_done_or_waived_in_words(client) -> None:
    for gate in client.get("/api/jobs/149/prepare").json()["open"]:
        assert edit(client, 149, "/station", "bench", base="prepare")["status"] == 400
        if gate == "consent":  # of a price: neither a tick nor a waiver says that anybody agreed to it
            for state in ("done", "waived"):
                edit(
                    client,
                    149,
                    "/prepare/gates/consent",
                    {"state": state, "words": "owner wrote it on the ticket", "who": ""},
                )
                assert "consent" in client.get("/api/jobs/149/prepare").json()["open"]
            body = {"said_by": "the boat's mate", "how": "by telephone"}
            assert client.post("/api/jobs/149/plan/agree", body, content_type="application/json").status_code == 200
            continue
        words = {"state": "waived", "words": "owner wrote it on the ticket", "who": "bench"}
        edit(
            client,
            149,
            f"/prepare/gates/{gate}",
            words if gate != "battery" else {"state": "done", "words": "", "who": ""},
        )
    assert edit(client, 149, "/station", "bench", base="prepare")["status"] == 200
    ticks = spec(149)["prepare"]["ticks"]
    assert all(t["who"] == "bench" and t["at"] for t in ticks.values()) and "battery" in ticks


def test_a_tick_without_a_name_and_a_time_is_written_by_nobody(client) -> None:
    forged = edit(client, 149, "/prepare/ticks/backup", {"at": "2026-01-01T00:00:00Z", "who": "owner"})
    assert forged["status"] == 400 and spec(149)["prepare"]["ticks"].get("backup", {}).get("who") != "owner"


# -- edits --------------------------------------------------------------------------------------
def test_an_edit_is_kept_once_and_logged(client) -> None:
    first = edit(client, 147, "/intake/notes", "hello", base="", uid="same")
    again = edit(client, 147, "/intake/notes", "hello", base="", uid="same")
    assert [first["results"][0]["outcome"], again["results"][0]["outcome"]] == ["applied", "already"]
    log = models.JobEdit.objects.filter(job__number=147, path="/intake/notes")
    assert [(e.before, e.after, e.who.username) for e in log] == [("", "hello", "bench")]


def test_an_edit_twice_in_one_batch_is_made_once(client) -> None:
    one = {"uid": "twice", "path": "/intake/notes", "op": "set", "base": "", "value": "hello"}
    sent = client.post("/api/jobs/147/edits", [one, one], content_type="application/json")
    assert [r["outcome"] for r in sent.json()["results"]] == ["applied", "already"]
    assert spec(147)["intake"]["notes"] == "hello"
    assert models.JobEdit.objects.filter(uid="twice").count() == 1


@pytest.mark.parametrize(
    "differs", [{"value": "hello, and more"}, {"path": "/hand_over/warranty"}, {"op": "remove", "value": None}]
)
@pytest.mark.parametrize("stood", ["", "hello"])
def test_two_edits_of_one_id_are_two_and_neither_is_dropped(client, stood: str, differs: dict) -> None:
    """Words typed on over an answer that was lost are told of, also where the first of them changed nothing."""
    if stood:
        edit(client, 147, "/intake/notes", stood, base="")
    one = {"uid": "same", "path": "/intake/notes", "op": "set", "base": stood, "value": "hello"}
    for sent, outcome in ((one, "already" if stood else "applied"), (one, "already"), (one | differs, "conflict")):
        (result,) = client.post("/api/jobs/147/edits", [sent], content_type="application/json").json()["results"]
        assert result["outcome"] == outcome
    assert spec(147)["intake"]["notes"] == "hello"


def test_an_edit_that_found_what_it_asked_is_no_conflict_when_it_comes_again(client, colleague) -> None:
    """Its answer was lost, and a colleague changed the place since."""
    edit(client, 147, "/intake/notes", "hello", base="")
    assert edit(client, 147, "/intake/notes", "hello", base="", uid="late")["results"][0]["outcome"] == "already"
    edit(colleague, 147, "/intake/notes", "other", base="hello")
    assert edit(client, 147, "/intake/notes", "hello", base="", uid="late")["results"][0]["outcome"] == "already"
    assert spec(147)["intake"]["notes"] == "other"


def test_sequences_rise_with_every_change_and_no_look(client) -> None:
    first = client.get("/api/jobs/147").json()
    assert client.get("/api/jobs/147").json()["sequence"] == first["sequence"]
    changed = edit(client, 147, "/intake/notes", "hello", base="")["view"]
    assert changed["sequence"] > first["sequence"] and changed["epoch"] == first["epoch"]
    assert changed["undo"] == "intake, notes" != first["undo"]
    back = client.post("/api/jobs/147/undo").json()
    assert back["sequence"] > changed["sequence"] and back["undo"] == first["undo"]


def test_an_edit_that_bears_the_id_of_another_jobs_is_told_of_and_not_swallowed(client) -> None:
    assert edit(client, 147, "/intake/notes", "hello", base="", uid="same")["status"] == 200
    before = spec(148)
    refused = edit(client, 148, "/intake/notes", "words", base="", uid="same")
    assert refused["status"] == 400 and "another job" in refused["what"]
    assert spec(148) == before


@pytest.mark.parametrize(("name", "taken"), [("bench", True), ("anna", False), ("B%C3%A9rit", False), ("", True)])
def test_what_one_person_typed_is_never_logged_as_anothers(client, name: str, taken: bool) -> None:
    """The page names who typed; since then somebody else may have signed in at that browser."""
    body = [{"uid": uuid.uuid4().hex, "path": "/intake/notes", "op": "set", "base": "", "value": "mine"}]
    answer = client.post(
        "/api/jobs/147/edits", body, content_type="application/json", headers={"X-Insertum-Person": name}
    )
    assert answer.status_code == (200 if taken else 401)
    assert models.JobEdit.objects.filter(job__number=147, path="/intake/notes").exists() == taken


def test_a_name_with_letters_beyond_ascii_is_told_in_percent_signs(db) -> None:
    anna = signed_in(User.objects.create_user("Bérit"))
    body = [{"uid": uuid.uuid4().hex, "path": "/intake/notes", "op": "set", "base": "", "value": "mine"}]
    answer = anna.post(
        "/api/jobs/147/edits", body, content_type="application/json", headers={"X-Insertum-Person": "B%C3%A9rit"}
    )
    assert answer.status_code == 200


@pytest.mark.parametrize("said", [{"floor": 0}, {"floor": 9, "comfort": 8}, {"ceiling": 1e300}])
def test_a_need_that_cannot_be_is_refused_and_intake_stays_open(client, said: dict) -> None:
    """Kept, it would leave Intake and Plan of this job without an answer for ever."""
    refused = edit(client, 148, "/intake/needs/memory_capacity", said)
    assert refused["status"] == 400 and "memory capacity" in refused["where"]
    assert (
        edit(client, 148, "/intake/needs/memory_capacity", {"floor": 900})["status"] == 200
    )  # what is derived makes room
    for station in ("intake", "plan"):
        assert client.get(f"/api/jobs/148/{station}").status_code == 200


def test_a_fault_is_no_factory_option(client) -> None:
    body = {"kind": "fault", "figure": 1, "price_minor": 0}
    answer = client.post("/api/jobs/148/plan/factory", body, content_type="application/json")
    assert answer.status_code == 400 and "factory" in answer.json()["what"]


def test_two_people_both_keep_their_words(client, colleague) -> None:
    edit(client, 147, "/intake/notes", "mine", base="")
    clash = edit(colleague, 147, "/intake/notes", "theirs", base="")
    assert clash["results"][0] | {"uid": "", "at": ""} == {
        "uid": "",
        "path": "/intake/notes",
        "outcome": "conflict",
        "before": None,
        "theirs": "mine",
        "place": "intake, notes",
        "yours_words": "theirs",
        "theirs_words": "mine",
        "who": "bench",
        "at": "",
    }
    elsewhere = edit(colleague, 147, "/hand_over/warranty", "theirs", base="")
    assert elsewhere["results"][0]["outcome"] == "applied"
    both = edit(colleague, 147, "/intake/notes", "mine\ntheirs", base="mine")
    assert both["view"]["job"]["intake"]["notes"] == "mine\ntheirs"


def test_undo_takes_back_only_ones_own(client, colleague) -> None:
    edit(client, 147, "/intake/notes", "mine", base="")
    edit(colleague, 147, "/hand_over/warranty", "theirs", base="")
    assert client.post("/api/jobs/147/undo").json()["job"]["intake"]["notes"] == ""
    assert spec(147)["hand_over"]["warranty"] == "theirs"
    edit(client, 147, "/fit/build/radio", "LR-AX2-E30")
    assert "radio" not in client.post("/api/jobs/147/undo").json()["job"]["fit"]["build"]
    edit(client, 147, "/intake/notes", "a", base="")
    edit(colleague, 147, "/intake/notes", "b", base="a")
    refused = client.post("/api/jobs/147/undo")
    assert refused.status_code == 400 and "since" in refused.json()["what"]


@pytest.mark.parametrize(
    ("path", "value", "base"),
    [
        ("/number", 1, 147),
        ("/intake/years", -3, 3),
        ("/fit/build/radio", "NO-SUCH-PART", None),
        ("/fit/build/slot-99", "LR-AX2-E30", None),
        ("/fit/build/drive-1", "PL-BR4260", "QK2-1T0-80M"),  # an accessory is no drive
        ("/identify/configuration", "mk9", "mk2-rill-430"),
        ("/survey/measured/drive-9.key", "M", None),
        ("/survey/measured/drive-2.clearance_below_um", "deep", None),
        ("/survey/measured/drive-2.clearance_below_um", 1_350_000, None),  # µm taken for mm: no laptop is so deep
        ("/station", "orbit", "fit"),
        ("/station", "prove", "fit"),
        ("/due", "soon", None),
    ],
)
def test_a_bad_edit_changes_nothing(client, path, value, base) -> None:
    before = spec(147)
    if path == "/due":
        base = before["due"]
    answer = edit(client, 147, path, value, base)
    assert answer["status"] == 400 and answer["what"]
    assert spec(147) == before


def test_a_batch_with_one_bad_edit_makes_none(client) -> None:
    before = spec(147)
    body = [
        {"uid": "b1", "path": "/title", "op": "set", "base": before["title"], "value": "New"},
        {"uid": "b2", "path": "/intake/years", "op": "set", "base": 3, "value": "many"},
    ]
    assert client.post("/api/jobs/147/edits", body, content_type="application/json").status_code == 400
    assert spec(147) == before and not models.JobEdit.objects.filter(uid="b1").exists()


# -- stations -----------------------------------------------------------------------------------
def test_a_new_job_walks_from_label_to_plan(client) -> None:
    number = client.post(
        "/api/jobs", {"customer": "A reader", "due": "2026-12-01"}, content_type="application/json"
    ).json()["job"]["number"]
    assert number > 157
    edit(client, number, "/identify/texts", "VS15-R4B", base="")
    best = client.get(f"/api/jobs/{number}/identify").json()["candidates"][0]
    base = {"texts": "VS15-R4B", "answers": {}, "machine": "", "configuration": ""}
    chosen = base | {"machine": best["machine"], "configuration": best["configuration"]}
    assert edit(client, number, "/identify", chosen, base)["view"]["machine_title"] == "Strand 15 mk II"
    plan = client.get(f"/api/jobs/{number}/plan").json()["answer"]
    assert [s["stance"] for s in plan["stances"]] == ["just_enough", "best_value", "room_for_years", "fill_it"]


def identified(client, number: int, machine: str, configuration: str) -> dict:
    was = spec(number)["identify"]
    return edit(client, number, "/identify", was | {"machine": machine, "configuration": configuration}, was)


def test_another_machine_clears_what_belonged_to_the_first_and_the_log_keeps_it(client) -> None:
    client.post("/api/jobs/147/plan", {"stance": "own"}, content_type="application/json")
    assert identified(client, 147, "veyra-drover-14", "rill-320")["status"] == 200
    now = spec(147)
    assert now["fit"]["build"] == {} and now["plan"]["chosen"] is None and now["fit"]["limits"] == "proven"
    kept = models.JobEdit.objects.filter(job__number=147, path="/fit/build").first()
    assert kept.before["drive-1"] == "QK2-1T0-80M"
    for station in ("survey", "fit", "plan", "tally"):
        assert client.get(f"/api/jobs/147/{station}").status_code == 200


def test_another_configuration_of_the_same_shell_asks_for_a_new_plan(client) -> None:
    client.post("/api/jobs/147/plan", {"stance": "own"}, content_type="application/json")
    assert identified(client, 147, "veyra-strand-15", "mk1-rill-310")["status"] == 200
    now = spec(147)
    assert now["plan"]["chosen"] is None and now["fit"]["build"]["drive-1"] == "QK2-1T0-80M"
    assert verdicts(client, 147, "memory-b")["PM4S-16G32A1"] == "refused"  # mk I documents 8 GB


def verdicts(client, number: int, slot: str) -> dict[str, str]:
    """The verdict on every part for one slot, unpacked from the matrix."""
    view = FitStation.model_validate_json(client.get(f"/api/jobs/{number}/fit?whole=true").content)
    index = [s.number for s in view.slots].index(slot)
    return {r.number: str(VERDICTS[c[1]]) for r in view.rows for c in r.cells if c[0] == index}


def test_measuring_opens_what_waited(client) -> None:
    def now() -> str:
        return verdicts(client, 147, "drive-2")["QB5-2T0-80BM"]

    assert now() == "measure_first"
    typed = {"attribute": "drive-2.clearance_below_um", "typed": "1,4"}
    assert client.post("/api/jobs/147/survey/measured", typed, content_type="application/json").status_code == 200
    assert spec(147)["survey"]["measured"] == {"drive-2.clearance_below_um": 1400}
    assert now() == "seats"
    client.post("/api/jobs/147/survey/measured", typed | {"typed": "1.3"}, content_type="application/json")
    assert now() == "harm"
    for bad in ("deep", "", "1e999", "nan"):
        assert (
            client.post(
                "/api/jobs/147/survey/measured", typed | {"typed": bad}, content_type="application/json"
            ).status_code
            == 400
        )


def test_a_fault_mended_is_a_benefit_of_its_own(client) -> None:
    assert client.get("/api/jobs/147/intake").json()["slots"]["battery"] == "Battery"
    assert client.get("/api/jobs/156/intake").json()["slots"] == {}
    edit(client, 147, "/intake/fault_slot", "battery", base="")
    edit(client, 147, "/intake/budget_minor", 30000, base=18000)
    enough = client.get("/api/jobs/147/plan").json()["answer"]["stances"][0]["plan"]
    assert "AP-ST52" in {c["part"] for c in enough["changes"]}  # the same pack anew
    fault = next(n for n in enough["needs"] if n["need"] == "fault:battery")
    assert (fault["met_today"], fault["met_after"]) == ([0, 0], [1, 1])


def test_what_is_fitted_can_be_corrected(client) -> None:
    body = {"slot": "memory-b", "number": "PM4S-08G29"}
    assert client.post("/api/jobs/147/survey/fitted", body, content_type="application/json").status_code == 200
    view = client.get("/api/jobs/147/survey").json()
    slot = next(s for s in view["map"]["slots"] if s["id"] == "memory-b")
    assert (slot["fitted_name"], slot["fitted_how"]) == ("Pallas 8 GB DDR4-2933", "entered at this bench")
    for bad in ({"slot": "memory-z", "number": ""}, {"slot": "memory-b", "number": "NOBODY"}):
        assert client.post("/api/jobs/147/survey/fitted", bad, content_type="application/json").status_code == 400


@pytest.mark.role("library")
def test_a_chosen_plan_is_a_snapshot(client) -> None:
    chosen = client.post("/api/jobs/148/plan", {"stance": "best_value"}, content_type="application/json").json()["job"][
        "plan"
    ]["chosen"]
    cost = chosen["plan"]["cost_minor"]
    numbers = {c["part"] for c in chosen["plan"]["changes"]}
    assert numbers <= {p["number"] for p in chosen["request"]["parts"]} and len(chosen["request"]["parts"]) < 10
    dearer = parts.catalogue()
    text = json.dumps({"parts": [p.model_dump(mode="json") | {"offers": []} for p in dearer if p.number in numbers]})
    assert send(client, "/api/parts/import", text.encode())[1]["changed"] == len(numbers)
    assert client.get("/api/jobs/148/tally?planned=1").json()["total_minor"] == cost
    assert client.get("/api/jobs/148/tally").json()["total_minor"] < cost  # the build in hand follows the new prices
    assert client.get("/api/jobs/148").json()["job"]["plan"]["chosen"]["plan"]["cost_minor"] == cost
    for bad in ({"stance": "grand"}, {"stance": "frontier", "index": 999}, {"stance": "frontier"}):
        assert client.post("/api/jobs/148/plan", bad, content_type="application/json").status_code == 400


def test_the_hand_made_build_can_be_chosen_unless_something_stands_against_it(client) -> None:
    own = client.get("/api/jobs/147/plan").json()["own"]
    assert own["against"] == [] and own["plan"]["cost_minor"] == client.get("/api/jobs/147/tally").json()["total_minor"]
    assert client.post("/api/jobs/147/plan", {"stance": "own"}, content_type="application/json").status_code == 200
    edit(client, 148, "/fit/build/drive-1", "QK2-1T0-80M")  # 80 mm into 60 mm
    assert client.get("/api/jobs/148/plan").json()["own"]["against"]
    assert client.post("/api/jobs/148/plan", {"stance": "own"}, content_type="application/json").status_code == 400


def test_another_plan_opens_the_checks_made_for_its_parts(client) -> None:
    done = {"state": "done", "words": "", "who": ""}
    for gate in ("parts", "backup"):
        edit(client, 149, f"/prepare/gates/{gate}", done)
    client.post("/api/jobs/149/plan", {"stance": "fill_it"}, content_type="application/json")
    gates = spec(149)["prepare"]["gates"]
    assert "parts" not in gates and gates["backup"]["state"] == "done"


def test_limits_are_switchable_with_the_difference_shown(client) -> None:
    schools = client.get("/api/jobs/147/fit/schools").json()
    assert schools["documented"] < schools["proven"] < schools["open"]
    edit(client, 147, "/fit/limits", "documented", base="proven")
    assert client.get("/api/jobs/147/fit").json()["limits"] == "documented"


# -- readings -----------------------------------------------------------------------------------
def test_the_simulated_laptop_is_read_at_survey_and_prove(client) -> None:
    bundle = client.get("/api/jobs/147/simulated/survey").content
    assert send(client, "/api/jobs/147/reading/survey", bundle)[0] == 200
    how = {s["id"]: s["fitted_how"] for s in client.get("/api/jobs/147/survey").json()["map"]["slots"]}
    assert how["memory-b"] == how["drive-1"] == "read from the running system"
    good = client.get("/api/jobs/157/simulated/prove").content
    assert send(client, "/api/jobs/157/reading/prove", good)[0] == 200
    assert client.get("/api/jobs/157/prove").json()["report"]["proved"] is True


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"{", "not JSON"),
        (b"[]", "not a reading bundle"),
        (b"\xff\xfe", "UTF-8"),
        (b"x" * (MAX_BYTES + 1), "at most"),
        (b'{"format": "insertum-bundle/1", "files": {"letter.txt": "dear"}}', "nothing in it was understood"),
        (b'{"format": "insertum-bundle/1", "files": {"../x": "y"}}', "leaves the bundle"),
    ],
)
def test_a_bad_reading_changes_nothing(client, data, says) -> None:
    before = spec(157)
    status, problem = send(client, "/api/jobs/157/reading/prove", data)
    assert status == 400 and says in problem["what"]
    assert spec(157) == before


def test_another_machines_reading_changes_nothing(client) -> None:
    before, other = spec(157), client.get("/api/jobs/150/simulated/prove").content
    status, problem = send(client, "/api/jobs/157/reading/prove", other)
    assert status == 400 and "another machine" in problem["what"] and problem["mend"]
    assert spec(157) == before
    assert client.get("/api/jobs/157/simulated/prove?faults=gremlins").status_code == 400


# -- imports and exports ------------------------------------------------------------------------
@pytest.mark.role("library")
def test_three_bad_rows_import_nothing_and_are_all_named(client) -> None:
    count = models.Part.objects.count()
    text = "kind,number,name,label\nmemory,N1,Good,8GB 1Rx8 PC4-3200AA-SA2-11\nmemory,N2,Bad,8GB 3Rx5 PC4-3200AA\nwheel,N3,Bad,\nmemory,,Bad,8GB 1Rx8 PC4-3200AA\n"
    status, problem = send(client, "/api/parts/import", text.encode(), "parts.csv")
    assert status == 400 and sorted({r["row"] for r in problem["rows"]}) == [3, 4, 5]
    assert models.Part.objects.count() == count
    assert send(client, "/api/parts/import", b"x" * 50 * 2**20)[0] in (400, 413)
    assert models.Part.objects.count() == count


@pytest.mark.role("library")
def test_parts_go_out_and_come_back_the_same(client) -> None:
    for path in ("/api/parts.csv", "/api/parts.json"):
        status, report = send(client, "/api/parts/import", client.get(path).content)
        assert (status, report["added"], report["changed"]) == (200, 0, 0)


@pytest.mark.role("library")
def test_a_machine_goes_out_and_comes_back(client) -> None:
    text = client.get("/api/machines/veyra-strand-15/file").content
    assert send(client, "/api/machines/import", text) == (
        200,
        {"added": [], "changed": [], "same": ["veyra-strand-15"]},
    )
    broken = json.loads(text)
    broken["configurations"][0]["differs"] = {"memory-b": {"limit_gb": "lots"}}
    status, problem = send(
        client, "/api/machines/import", json.dumps([json.loads(text) | {"id": "new-one"}, broken]).encode()
    )
    assert status == 400 and [r["row"] for r in problem["rows"]] == [2] and "limit_gb" in problem["rows"][0]["column"]
    assert not models.Machine.objects.filter(slug="new-one").exists()
    assert client.get("/api/machines/no-such/file").status_code == 404
    assert client.get("/api/machines/veyra-strand-15/mk9").status_code == 400


def test_a_job_goes_out_and_comes_in_under_another_number(client) -> None:
    job = json.loads(client.get("/api/jobs/155/file").content)
    assert Job.model_validate(job).number == 155
    status, problem = send(client, "/api/jobs/import", json.dumps(job).encode())
    assert status == 400 and "here already" in problem["what"]
    assert send(client, "/api/jobs/import", json.dumps(job | {"number": 900}).encode())[0] == 200
    assert client.get("/api/jobs/900/hand-over").json() == client.get("/api/jobs/155/hand-over").json()
    status, problem = send(
        client, "/api/jobs/import", json.dumps(job | {"number": 901, "intake": {"years": "x"}}).encode()
    )
    assert status == 400 and "years" in problem["where"]


@pytest.mark.parametrize("due", ["next week", "2026-02-30", "1"])
def test_a_new_job_with_no_date_is_refused(client, due) -> None:
    count = models.Job.objects.count()
    refused = client.post("/api/jobs", {"due": due}, content_type="application/json")
    assert refused.status_code == 400 and refused.json()["what"] and models.Job.objects.count() == count


@pytest.mark.role("library")
def test_figures_beyond_all_measure_and_half_characters_are_refused(client) -> None:
    job = json.loads(client.get("/api/jobs/155/file").content)
    assert send(client, "/api/jobs/import", json.dumps(job | {"number": 10**30}).encode())[0] == 400
    assert send(client, "/api/jobs/import", json.dumps(job | {"number": 991, "title": "\ud800"}).encode())[0] == 400
    rows = "kind,number,name,capacity_gb,offers\nbay_drive,AB,x,500,Quay 99999999999999999999999.00 x1\n"
    status, problem = send(client, "/api/parts/import", rows.encode())
    assert status == 400 and problem["rows"][0]["row"] == 2
    assert not models.Part.objects.filter(number="AB").exists()
    assert edit(client, 147, "/title", "\ud800", base="Slow catalogue desk")["status"] == 400


def test_find_by_label(client) -> None:
    def found(text: str) -> dict:
        return client.get("/api/find", {"text": text}).json()

    assert found("pm4s 16g29")["found"][0]["detail"] == "PM4S-16G29"
    assert {"kind": "machine", "title": "Veyra Strand 15 mk II"}.items() <= found("VS15-R4B")["found"][0].items()
    assert found("Wren Street")["found"][0]["link"] == "/jobs/147"
    assert found("16GB 2Rx8 PC4-3200AA-SE1-11")["decoded"]["density_gbit"] == 8
    nothing = found("zzzz")
    assert nothing["found"] == [] and nothing["decoded"] is None and nothing["problem"]


def test_the_printed_code_is_a_picture(client) -> None:
    code = client.get("/api/jobs/155/qr.svg")
    assert code["Content-Type"] == "image/svg+xml" and b"<svg" in code.content


def test_services_refuse_what_is_not_there(db) -> None:
    with pytest.raises(jobs.NoSuchJob):
        edit_job.write(12345, "/title", "x", None)
    with pytest.raises(jobs.NoSuchJob):
        jobs.desk_of(12345)


def test_an_act_that_told_nothing_leaves_its_place_to_the_next(client: Client) -> None:
    """At job 152 the papers decide most a minute; once they told nothing the cover stands first, and it is taken back."""
    first = [a["id"] for a in client.get("/api/jobs/152/survey/acts").json()]
    assert first[:2] == ["papers", "cover"]
    edit(client, 152, "/survey/closed_acts/papers", "looked, and not told")
    acts = client.get("/api/jobs/152/survey/acts").json()
    assert acts[0]["id"] == "cover" and (acts[-1]["id"], acts[-1]["closed"]) == ("papers", "looked, and not told")
    assert "radio.card_policy" not in {w["attribute"] for a in acts[:-1] for w in a["asks"]}
    (left,) = acts[-1]["asks"]
    assert left["attribute"] == "radio.card_policy"  # said with the act that could have, and with no other
    for act, why in (("crystal-ball", "cloudy"), ("cover", ""), ("cover", "  "), ("cover", "x" * 201)):
        assert edit(client, 152, f"/survey/closed_acts/{act}", why)["status"] == 400, (act, why)
