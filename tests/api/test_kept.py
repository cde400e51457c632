"""What was typed is what is written: bounds in words, odd characters, a full disk, and no answer that says what is not so."""

import json
import resource
import uuid
from collections.abc import Iterator
from typing import Any

import pytest
from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError
from django.test import Client

from insertum.core.frozen import MOST_TEXT
from insertum.core.job.edit import steps_of, value_at
from insertum.core.sighting import Sighting
from insertum.shop import models
from insertum.shop.services import answer_cache, edit_job, jobs, photographs, plan_job, shelf, sightings, tasks_beside
from insertum.shop.services.show_fit import FIRST

from .test_photographs import camera as picture

pytestmark = pytest.mark.django_db
ROLE = "bench"


def edit(client: Client, number: int, path: str, value: Any, base: Any = None) -> Any:
    body = [{"uid": uuid.uuid4().hex, "path": path, "op": "set", "base": base, "value": value}]
    return client.post(f"/api/jobs/{number}/edits", json.dumps(body), content_type="application/json")


def texts(value: Any, path: str = "") -> Iterator[tuple[str, str]]:
    """Every text of a job by its place, lists left out: an edit does not reach into them."""
    for name, inner in value.items():
        here = f"{path}/{name.replace('~', '~0').replace('/', '~1')}"
        if isinstance(inner, str):
            yield here, inner
        elif isinstance(inner, dict):
            yield from texts(inner, here)


def test_no_text_of_a_job_is_without_bounds(client) -> None:
    job = client.get("/api/jobs/150").json()["job"]
    places = [(p, stands) for p, stands in texts(job) if p != "/format"]
    assert len(places) > 60
    for path, stands in places:
        answer = edit(client, 150, path, "x" * (MOST_TEXT + 1), stands)
        assert answer.status_code == 400 and answer.json()["what"], path
    assert client.get("/api/jobs/150").json()["job"] == job


def test_a_text_of_its_bound_is_kept_and_one_more_is_refused_in_words(client) -> None:
    assert edit(client, 147, "/bench/notes", "x" * MOST_TEXT, "").status_code == 200
    refused = edit(client, 147, "/bench/notes", "x" * (MOST_TEXT + 1), "x" * MOST_TEXT)
    assert refused.json()["what"] == f"more than {MOST_TEXT} characters are not kept here"
    assert refused.json()["where"] == "bench, notes"


@pytest.mark.parametrize(
    "value",
    [
        json.loads("[" * 300 + "]" * 300),
        json.loads('{"a":' * 300 + "1" + "}" * 300),
        "x" * 10_000_000,
        ["x" * 1000] * 10_000,
        {f"slot-{i}": "x" for i in range(300_000)},
    ],
    ids=["lists", "objects", "a note of 10 MB", "many texts", "many names"],
)
@pytest.mark.parametrize("path", ["/bench/notes", "/survey/numbers"])
def test_what_no_job_holds_is_refused_and_nothing_is_changed(client, path: str, value: Any) -> None:
    before = models.Job.objects.get(number=147).spec
    section, name = path.strip("/").split("/")
    answer = edit(client, 147, path, value, before[section][name])
    assert answer.status_code in (400, 413) and answer.json()["what"]
    assert models.Job.objects.get(number=147).spec == before


@pytest.mark.parametrize(
    ("path", "value", "what"),
    [
        ("/intake/years", 16, "more than 15 years is not planned for"),
        ("/intake/drive_filled_percent", 101, "more than 100 % is not taken here"),
        ("/intake/growth_percent", -1, "less than 0 % is not taken here"),
        ("/intake/average_w", 0, "it has to be more than 0"),
        ("/intake/years", 2.5, "it has to be a whole number"),
        ("/intake/years", "abc", "it has to be a whole number"),
        ("/intake/backup", "perhaps", "it is one of 'unknown', 'none' or 'confirmed'"),
        ("/intake/colour", "red", "nothing of this name is kept here"),
    ],
)
def test_a_figure_that_is_not_taken_says_why(client, path: str, value: Any, what: str) -> None:
    stands = models.Job.objects.get(number=147).spec["intake"].get(path.rpartition("/")[2])
    answer = edit(client, 147, path, value, stands)
    assert (answer.status_code, answer.json()["what"]) == (400, what)


@pytest.mark.parametrize("odd", ["\x00", "a\x00b", "\ud800", "half \udfff"])
@pytest.mark.parametrize("door", ["edit", "name", "part", "photograph", "find", "shelf"])
def test_half_a_character_or_none_is_refused_at_every_door(client, odd: str, door: str) -> None:
    if door == "edit":
        answer = edit(client, 147, "/bench/notes", odd, "")
    elif door == "name":
        answer = edit(client, 147, f"/survey/numbers/{odd}", "1")
    elif door == "part":
        body = json.dumps({"part": {"kind": "battery", "number": "AP-1", "name": odd}})
        answer = client.post("/api/parts/new", body, content_type="application/json")
        assert answer.status_code in (400, 403)
    elif door == "shelf":
        body = json.dumps({"number": "AP-1", "origin": odd, "condition": "good", "note": ""})
        answer = client.post("/api/shelf", body, content_type="application/json")
    elif door == "find":
        if not odd.isprintable() and odd.encode(errors="replace") == odd.encode(errors="replace") and "\x00" not in odd:
            return  # an address cannot hold half a character
        answer = client.get("/api/find", {"text": odd})
    else:
        if "\x00" not in odd:
            return  # nor can a form
        answer = client.post("/api/jobs/148/photographs", {"file": SimpleUploadedFile("p.jpg", picture()), "note": odd})
    assert answer.status_code in (400, 403) and answer.json()["what"], answer.content


def test_two_who_add_at_once_both_stand(client) -> None:
    """Each read the job before the other wrote."""
    one, two = jobs.job_of(155), jobs.job_of(155)
    assert one == two
    for said in ("the first", "the second"):
        plan_job.agree(155, said, "by telephone", "", None)
    assert [a.said_by for a in jobs.job_of(155).plan.agreed][-2:] == ["the first", "the second"]


def test_what_was_worked_out_on_another_plan_is_not_written_over_it(client, monkeypatch) -> None:
    real = tasks_beside.Besides.having

    def meanwhile(self, tasks):
        monkeypatch.setattr(tasks_beside.Besides, "having", real)
        plan_job.choose_plan(157, "nothing", None, None)
        return real(self, tasks)

    monkeypatch.setattr(tasks_beside.Besides, "having", meanwhile)
    answer = client.put("/api/jobs/157/tasks", {"ids": ["clean"]}, content_type="application/json")
    assert answer.status_code == 400 and "changed meanwhile" in answer.json()["what"]
    assert jobs.job_of(157).plan.chosen.stance == "nothing"  # type: ignore[union-attr]


# -- a plan chosen again ------------------------------------------------------------------------------
def choose(client: Client, number: int, stance: str) -> Any:
    answer = client.post(f"/api/jobs/{number}/plan", {"stance": stance}, content_type="application/json")
    assert answer.status_code == 200, answer.content
    return answer.json()["job"]["plan"]["chosen"]


def test_a_plan_chosen_again_keeps_what_was_taken_on_by_hand(client) -> None:
    client.put("/api/jobs/157/tasks", {"ids": ["clean"]}, content_type="application/json")
    chosen = choose(client, 157, "best_value")
    assert [t["id"] for t in chosen["plan"]["tasks"]] == ["clean"] and chosen["by_hand"] == ["clean"]
    client.put("/api/jobs/157/tasks", {"ids": []}, content_type="application/json")
    assert choose(client, 157, "best_value")["plan"]["tasks"] == []  # what was left out stays out


def test_a_task_of_the_planner_s_that_another_plan_leaves_out_is_named(client) -> None:
    edit(client, 147, "/intake/complaints", ["slow", "hot"], ["slow", "full"])
    edit(client, 147, "/intake/triage/hot.1", "found")
    assert [t["id"] for t in choose(client, 147, "just_enough")["plan"]["tasks"]] == ["clean"]
    nothing = choose(client, 147, "nothing")
    assert nothing["plan"]["tasks"] == [] and nothing["dropped"] == ["Clean fans and fins"]


# -- a full disk --------------------------------------------------------------------------------------
def full(*_: Any, **__: Any) -> Any:
    raise OperationalError("database or disk is full")


def test_a_full_disk_answers_in_words_at_every_door(client, monkeypatch) -> None:
    monkeypatch.setattr(edit_job, "store", full)
    answer = edit(client, 147, "/bench/notes", "x", "")
    assert answer.status_code == 507 and "nothing was kept" in answer.json()["what"]
    monkeypatch.setattr("django.contrib.sessions.backends.db.SessionStore.save", full)
    fresh = Client()
    body = {"name": "bench", "password": "saltmarsh"}
    signing = fresh.post("/api/session", body, content_type="application/json")
    assert signing.status_code == 507 and signing.json()["what"]


def test_a_session_that_cannot_be_prolonged_takes_nothing_back(client, monkeypatch) -> None:
    monkeypatch.setattr("django.contrib.sessions.backends.db.SessionStore.save", full)
    answer = edit(client, 147, "/bench/notes", "kept all the same", "")
    assert answer.status_code == 200 and jobs.job_of(147).bench.notes == "kept all the same"


def test_a_photograph_for_which_there_is_no_room_is_refused_and_leaves_nothing(client, kept_in) -> None:
    before = set(photographs.folder().iterdir())
    soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
    data = picture()
    try:
        resource.setrlimit(resource.RLIMIT_FSIZE, (16, hard))
        answer = client.post("/api/jobs/148/photographs", {"file": SimpleUploadedFile("p.jpg", data)})
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, (soft, hard))
    assert answer.status_code == 507 and answer.json()["what"]
    assert (
        set(photographs.folder().iterdir()) == before and not models.Photograph.objects.filter(job__number=148).exists()
    )


# -- photographs --------------------------------------------------------------------------------------
def test_a_photograph_sent_twice_is_kept_once_and_shown_to_no_store(client, kept_in) -> None:
    uid = uuid.uuid4().hex

    def send() -> Any:
        return client.post(
            "/api/jobs/148/photographs", {"file": SimpleUploadedFile("p.jpg", picture()), "uid": uid, "by": "bench"}
        )

    first, again = send().json(), send().json()
    assert first == again and first["uid"] == uid
    assert len(client.get("/api/jobs/148/photographs").json()) == 1
    shown = client.get(f"/api/jobs/148/pictures/{uid}.jpg")
    assert shown.status_code == 200 and shown["Cache-Control"] == "no-store"
    other = client.post("/api/jobs/147/photographs", {"file": SimpleUploadedFile("p.jpg", picture()), "uid": uid})
    assert other.status_code == 400 and "another photograph" in other.json()["what"]
    stranger = client.post("/api/jobs/148/photographs", {"file": SimpleUploadedFile("p.jpg", picture()), "by": "berit"})
    assert stranger.status_code == 401


def test_pictures_of_a_removed_job_are_an_owner_s(client, colleague, kept_in) -> None:
    uid = client.post("/api/jobs/148/photographs", {"file": SimpleUploadedFile("p.jpg", picture())}).json()["uid"]
    models.Person.objects.filter(user__username="bench-2").update(role="owner")
    assert colleague.post("/api/jobs/148/removed").status_code == 204
    assert client.get(f"/api/jobs/148/pictures/{uid}.jpg").status_code == 400
    assert colleague.get(f"/api/jobs/148/pictures/{uid}.jpg").status_code == 200


# -- answers that are kept ----------------------------------------------------------------------------
CHANGES = [
    ("/bench/notes", "n", False), ("/hand_over/warranty", "w", False), ("/fit/limits", "documented", True), ("/fit/build/memory-b", "OM4S-08G24", True),
    ("/intake/words", "slow", False), ("/survey/measured/drive-1.clearance_above_um", 1200, True), ("/survey/unknown", ["memory-a"], True),
    ("/survey/firmware", "9.99", False), ("/plan/allow_loss", True, False), ("/title", "another", False),
]  # fmt: skip


def fresh(client: Client, path: str) -> bytes:
    answer_cache.answers, known = answer_cache._Answers(), dict(answer_cache._sections)
    answer_cache._sections.clear()
    made: bytes = client.get(path).content
    answer_cache._sections |= known
    return made


@pytest.mark.parametrize("view", ["fit", "fit?whole=true", "survey"])
def test_a_kept_answer_is_what_a_new_one_would_be_after_every_change(client, view: str) -> None:
    path = f"/api/jobs/148/{view}"
    last = json.loads(client.get(path).content)
    for place, value, tells in CHANGES:
        spec = models.Job.objects.get(number=148).spec
        stands = value_at(spec, steps_of(place))
        assert edit(client, 148, place, value, stands).status_code == 200, place
        kept, made = json.loads(client.get(path).content), json.loads(fresh(client, path))
        assert kept == made, place
        if tells and (view != "survey" or not place.startswith("/fit/build")):
            assert kept != last, place
        last = kept


def test_a_note_makes_no_matrix_anew(client, monkeypatch) -> None:
    client.get("/api/jobs/148/fit")
    monkeypatch.setattr("insertum.core.job.fit_desk.matrix", lambda *a, **k: pytest.fail("made anew"))
    edit(client, 148, "/bench/notes", "a note", models.Job.objects.get(number=148).spec["bench"]["notes"])
    assert client.get("/api/jobs/148/fit").status_code == 200


def test_fit_sends_the_best_of_the_first_kinds_and_says_how_many_follow(client) -> None:
    first, whole = (client.get(f"/api/jobs/148/fit?whole={w}").json() for w in ("false", "true"))
    assert whole["more"] == 0 and first["more"] == len(whole["rows"]) - len(first["rows"])
    words = lambda view, row: {**row, "cells": [[*c[:2], view["words"][c[2]], c[3]] for c in row["cells"]]}  # noqa: E731
    every = {r["number"]: words(whole, r) for r in whole["rows"]}
    assert all(words(first, r) == every[r["number"]] for r in first["rows"])  # nothing of a row changes later
    kinds = list(dict.fromkeys(r["kind"] for r in whole["rows"]))
    sent = list(dict.fromkeys(r["kind"] for r in first["rows"]))
    assert kinds[: len(sent)] == sent and len(first["rows"]) >= min(FIRST, len(every))
    for kind in sent:
        mine = [r for r in whole["rows"] if r["kind"] == kind and r["cells"]]
        usable = {r["number"] for r in mine if any(c[1] < 2 for c in r["cells"])}
        shown = {r["number"] for r in first["rows"] if r["kind"] == kind}
        assert len(shown) >= min(FIRST, len(mine)) and (len(usable) > FIRST or usable <= shown)
    assert first["worth"] == []  # what is worth measuring follows from all parts


@pytest.mark.role("owner")
def test_no_word_of_an_erased_customer_is_left_in_any_table(client, kept_in) -> None:
    said = iter(f"seagull{n}" for n in range(20))
    edit(client, 155, "/bench/notes", next(said), jobs.job_of(155).bench.notes)
    lying = shelf.put("QB5-0T5-80BM", next(said), "good", next(said), None, 155)
    shelf.change(lying.id, "good", "erased", next(said), "on the shelf", next(said))
    laid = jobs.desk_of(155)
    sightings.record_sighting(
        Sighting(
            machine=laid.plain.machine.id, configuration=laid.plain.configuration.id, slot="drive-1", part="QB5-0T5-80BM",
            outcome="worked_after", after=next(said), note=next(said), hearsay=True, who=next(said), where=next(said), job=155,
        ),
        None,
    )  # fmt: skip
    client.post("/api/jobs/155/photographs", {"file": SimpleUploadedFile("p.jpg", picture()), "note": next(said)})
    every = lambda: " ".join(str(list(t._default_manager.values())) for t in apps.get_app_config("shop").get_models())  # noqa: E731
    assert every().count("seagull") >= 10
    assert client.post("/api/jobs/155/erased").status_code == 204
    left = {t.__name__: str(list(t._default_manager.values())) for t in apps.get_app_config("shop").get_models()}
    assert [name for name, rows in left.items() if "seagull" in rows] == []
