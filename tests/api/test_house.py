"""A workshop of one's own: begun once, its people and what each may do, and what keeps it safe."""

import json
import re
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone

from insertum.api import api
from insertum.api.roles import needed
from insertum.demo import story
from insertum.shop import models
from insertum.shop.services import answer_cache, backup_age, history, people, remove_job, shelf
from insertum.shop.services.workshop import Workshop, save_workshop, workshop

from .conftest import DOCUMENT, signed_in
from .test_api import edit
from .test_photographs import send as photographed

ROLE = "owner"

SIMPLE = {"name": "North quay"}


def call(client: Client, method: str, path: str, body: Any = None):
    return client.generic(method, path, json.dumps(body) if body is not None else "", content_type="application/json")


def signed(name: str, role: str) -> Client:
    user = User.objects.filter(username=name).first() or User.objects.create_user(name)
    models.Person.objects.update_or_create(user=user, defaults={"role": role})
    return signed_in(user)


# -- the first run ------------------------------------------------------------------------------------
def test_a_workshop_is_begun_once(db) -> None:
    User.objects.all().delete()
    browser = Client(enforce_csrf_checks=True)
    assert browser.get("/api/session").json()["first"] is True
    token = {"X-CSRFToken": browser.cookies["csrftoken"].value}

    def begin(**changes: Any):
        body = {"workshop": SIMPLE, "name": "ada", "password": "quay-and-steps"} | changes
        return browser.post("/api/first-run", body, content_type="application/json", headers=token)

    assert browser.post("/api/first-run", {}, content_type="application/json").status_code in (403, 422)
    for changes in ({"password": "short"}, {"password": "password1"}, {"workshop": {"name": " "}}, {"name": " "}):
        assert begin(**changes).status_code == 400, changes
    assert not User.objects.exists()  # nothing of what was refused is kept
    assert begin().json()["role"] == "owner"
    assert browser.get("/api/people").json()[0]["name"] == "ada" and workshop().name == "North quay"
    token = {"X-CSRFToken": browser.cookies["csrftoken"].value}
    assert begin(name="eve").status_code == 400 and User.objects.count() == 1
    assert Client().get("/api/session").json()["first"] is False


# -- people -------------------------------------------------------------------------------------------
def test_somebody_new_gets_a_password_that_is_changed_at_the_first_sign_in(client) -> None:
    made = call(client, "POST", "/api/people", {"name": "tomke", "role": "bench"}).json()
    assert call(client, "POST", "/api/people", {"name": "tomke", "role": "bench"}).status_code == 400
    assert call(client, "POST", "/api/people", {"name": "two words", "role": "bench"}).status_code == 400
    new = signed_in(User.objects.get(username="tomke"))
    session = new.session
    session[people.EPOCH] = models.Person.objects.get(user__username="tomke").epoch
    session.save()
    assert new.get("/api/session").json()["handed_over"] is True
    change = lambda old, fresh: call(new, "POST", "/api/me/password", {"old": old, "new": fresh}).status_code  # noqa: E731
    assert change("wrong", "lantern-on-the-mole") == 400 and change(made["password"], "12345678") == 400
    assert change(made["password"], "lantern-on-the-mole") == 204
    assert new.get("/api/session").json()["handed_over"] is False
    assert User.objects.get(username="tomke").check_password("lantern-on-the-mole")


def test_sessions_are_ended_and_who_no_longer_gets_in_is_out(client) -> None:
    hand = signed("hand", "bench")
    assert hand.get("/api/jobs").status_code == 200
    assert call(client, "DELETE", "/api/people/hand/sessions").status_code == 204
    assert hand.get("/api/jobs").status_code == 401 and hand.get("/api/session").status_code == 401
    again = signed("other", "bench")
    assert call(client, "PUT", "/api/people/other", {"role": "bench", "active": False}).status_code == 200
    assert again.get("/api/jobs").status_code == 401
    assert call(client, "PUT", "/api/people/nobody", {"role": "bench", "active": False}).status_code == 400


def test_what_is_done_prolongs_a_session_and_looking_does_not(client, settings) -> None:
    save_workshop(workshop().model_copy(update={"session_hours": 2}), None)
    hand = Client()
    hand.get("/api/session")
    assert call(hand, "POST", "/api/session", {"name": "owner", "password": "saltmarsh"}).status_code == 200
    ends = lambda: Session.objects.get(session_key=hand.session.session_key).expire_date  # noqa: E731
    begun = ends()
    assert timedelta(minutes=119) < begun - timezone.now() <= timedelta(hours=2)
    hand.get("/api/jobs")
    assert ends() == begun
    edit(hand, 149, "/bench/notes", "x", base="")
    first = ends()
    assert first > begun
    edit(hand, 149, "/bench/notes", "y", base="x")
    assert ends() == first  # written down once in ten minutes, not at every stroke
    Session.objects.filter(session_key=hand.session.session_key).update(expire_date=timezone.now())
    assert hand.get("/api/jobs").status_code == 401


def test_the_last_owner_stays_one(client) -> None:
    models.Person.objects.exclude(user__username="owner").update(role="bench")
    lose = {"role": "library", "active": True}
    assert call(client, "PUT", "/api/people/owner", lose).status_code == 400
    assert call(client, "PUT", "/api/people/owner", {"role": "owner", "active": False}).status_code == 400
    models.Person.objects.filter(user__username="library").update(role="owner")
    assert call(client, "PUT", "/api/people/owner", lose).status_code == 200


#: The least role of every call, worked out from what each role is for; "open" needs nobody.
WHO_MAY = {
    (method, path): role
    for role, method, path in (
        line.split() for line in (Path(__file__).parent / "who_may.txt").read_text().splitlines()
    )
}


def every_call() -> list[tuple[str, str]]:
    """As the application has them, those its document leaves out included."""
    return [
        (method, re.sub(r"\{\w+:(\w+)\}", r"{\1}", f"/api/{path.lstrip('/')}"))
        for _, router in api._routers
        for path, view in router.path_operations.items()
        for operation in view.operations
        for method in operation.methods
    ]


def test_every_call_has_its_row() -> None:
    assert sorted(WHO_MAY) == sorted(every_call())
    documented = {(m.upper(), p) for p, methods in DOCUMENT["paths"].items() for m in methods}
    assert documented <= set(WHO_MAY)


@pytest.mark.parametrize(("method", "path"), sorted(WHO_MAY))
def test_each_role_tried_against_each_call(db, method: str, path: str) -> None:
    """Who may not is told so, whatever was sent; who may gets past the door. Without a session nobody does."""
    call_is, least = f"{method} {path}", WHO_MAY[method, path]
    concrete = re.sub(
        r"\{(\w+)\}",
        lambda m: {"station": "survey", "template": "memory", "kind": "part"}.get(
            m[1], "149" if m[1] in ("number", "claim", "id", "change") else "x"
        ),
        path,
    )
    if least != "open":
        assert needed(method, concrete) == least, call_is
        assert call(Client(), method, concrete, {}).status_code == 401
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(User.objects.get(username="owner"), backend="django.contrib.auth.backends.ModelBackend")
        if method != "GET":
            assert call(strict, method, concrete, {}).status_code == 403  # no token of the page
    for role in people.ROLES:
        answer = call(signed(f"a-{role}", role), method, concrete, {})
        refused = answer.status_code == 403
        assert refused == (least != "open" and not people.may(role, least)), (role, call_is, answer.content[:200])
        assert answer.status_code < 500
        if refused:
            assert least in answer.json()["mend"]
            # Nor by an address that is nearly this one.
            for nearly in ("%0A", "/", "%00", "%20") if role == "bench" else ():
                assert call(signed(f"a-{role}", role), method, concrete + nearly, {}).status_code in (
                    400,
                    403,
                    404,
                    405,
                )


def test_a_password_that_was_handed_over_opens_the_page_that_changes_it_and_nothing_else(client, db) -> None:
    password = call(signed("boss", "owner"), "POST", "/api/people", {"name": "tomke", "role": "owner"}).json()[
        "password"
    ]
    new = Client()
    assert call(new, "POST", "/api/session", {"name": "tomke", "password": password}).json()["handed_over"] is True
    for method, path in (("GET", "/api/jobs"), ("GET", "/api/people"), ("PUT", "/api/workshop"), ("POST", "/api/jobs")):
        answer = call(new, method, path, {} if method != "GET" else None)
        assert answer.status_code == 403 and "handed over" in answer.json()["what"]
    same = call(new, "POST", "/api/me/password", {"old": password, "new": password})
    assert same.status_code == 400 and "password of today" in same.json()["what"]
    assert call(new, "POST", "/api/me/password", {"old": password, "new": "a quiet harbour at noon"}).status_code == 204
    assert new.get("/api/jobs").status_code == 200


def test_a_new_password_from_an_owner_opens_a_name_that_was_locked(db) -> None:
    boss, browser = signed("boss", "owner"), Client()
    call(boss, "POST", "/api/people", {"name": "tomke", "role": "bench"})
    for _ in range(9):
        answer = call(browser, "POST", "/api/session", {"name": "tomke", "password": "guess"})
    assert answer.status_code == 429
    given = call(boss, "POST", "/api/people/tomke/password", {}).json()["password"]
    assert call(browser, "POST", "/api/session", {"name": "tomke", "password": given}).status_code == 200


@pytest.mark.parametrize(("one", "other"), [("Tomke", "tomke"), ("TOMKE", "tOmKe")])
def test_names_differ_by_more_than_capitals(db, one: str, other: str) -> None:
    boss = signed("boss", "owner")
    assert call(boss, "POST", "/api/people", {"name": one, "role": "bench"}).status_code == 200
    taken = call(boss, "POST", "/api/people", {"name": other, "role": "bench"})
    assert taken.status_code == 400 and "name already" in taken.json()["what"]


def test_everybody_takes_back_their_own_outcome_and_an_owner_anybodys(client) -> None:
    def recorded() -> int:
        models.Sighting.objects.filter(part="OM4S-08G24").delete()
        hand = signed("hand", "bench")
        said = {"slot": "memory-b", "outcome": "worked"}
        assert call(hand, "POST", "/api/jobs/155/sightings", said).status_code in (200, 400)
        seen = models.Sighting.objects.order_by("-id").first()
        models.Sighting.objects.filter(pk=seen.pk).update(who=User.objects.get(username="hand"))
        return seen.pk

    pk = recorded()
    assert call(signed("another", "bench"), "DELETE", f"/api/sightings/{pk}").status_code == 403
    assert call(signed("clerk", "library"), "DELETE", f"/api/sightings/{pk}").status_code == 403
    assert call(signed("hand", "bench"), "DELETE", f"/api/sightings/{pk}").json() == 1
    assert call(client, "DELETE", f"/api/sightings/{recorded()}").json() == 1
    assert client.get("/api/history?text=taken back sighting").json()["changes"][0]["places"][0]["before"]


# -- what was changed ---------------------------------------------------------------------------------
def test_history_says_who_when_from_and_to(client) -> None:
    edit(client, 149, "/bench/notes", "lid creaks", base="")
    save_workshop(workshop().model_copy(update={"quote_days": 30}), User.objects.get(username="owner"))
    lines = client.get("/api/history?text=quote").json()["changes"]
    assert lines[0]["who"] == "owner"
    assert lines[0]["places"] == [{"place": "quote", "before": "14 days", "after": "30 days"}]
    mine = client.get("/api/history?text=149 notes").json()["changes"]
    assert (mine[0]["key"], mine[0]["says"], mine[0]["who"]) == ("149", "bench, notes", ROLE)
    assert mine[0]["places"] == [{"place": "", "before": "nothing", "after": "lid creaks"}]
    assert client.get("/api/history?text=nothing-of-the-kind").json()["changes"] == []
    first, second = (client.get(f"/api/history?page={n}").json() for n in (1, 2))
    assert len(first["changes"]) == history.PAGE and first["more"] and first["changes"][-1] != second["changes"][0]
    times = [c["at"] for c in first["changes"]]
    assert times == sorted(times, reverse=True)


def test_the_librarys_changes_are_in_the_history_too(client) -> None:
    def last(text: str) -> tuple[str, str]:
        line = client.get(f"/api/history?text={text}").json()["changes"][0]
        return line["says"], line["who"]

    row = client.get("/api/shelf").json()["parts"][0]
    body = {n: row[n] for n in ("condition", "erased", "erased_note", "state", "note", "price_minor")} | {
        "note": "scratched"
    }
    assert call(client, "POST", f"/api/shelf/{row['id']}", body).status_code == 200
    assert last("shelf") == (f"{row['name']} on the shelf: {row['state']}, {row['erased']}", ROLE)
    complaint = client.get("/api/triage").json()["triage"]["complaints"][0] | {"name": "Slow, they say"}
    assert call(client, "PUT", "/api/triage/complaints", {"complaint": complaint}).status_code == 200
    assert last("complaint slow") == ("complaint slow changed", ROLE)
    assert call(client, "DELETE", "/api/triage/complaints/slow").status_code == 200
    line = client.get("/api/history?text=complaint slow removed").json()["changes"][0]
    assert {"place": "name", "before": "Slow, they say", "after": "nothing"} in line["places"]
    csv = b"kind,number,maker,name,label\nmemory,X-1,Pallas,Some memory,16GB 2Rx8 PC4-3200AA-SE1-11\n"
    streamed = client.post("/api/parts/import/steps", {"file": SimpleUploadedFile("p.csv", csv)})
    assert b'"report"' in b"".join(streamed.streaming_content)
    assert last("X-1") == ("part X-1 added", ROLE)


def test_a_job_off_the_board_comes_back_and_its_number_is_nobodys(client) -> None:
    post = lambda what, method="POST", number=154: call(client, method, f"/api/jobs/{number}/{what}").status_code  # noqa: E731
    assert post("removed", number=9999) == 404 and post("removed", "DELETE") == 400
    assert post("removed") == 204 and client.get("/api/jobs/154").status_code == 404
    assert 154 not in [j["number"] for j in client.get("/api/jobs?which=all").json()["jobs"]]
    assert not any(f["kind"] == "job" for f in client.get("/api/find?text=154").json()["found"])
    assert [j["number"] for j in client.get("/api/jobs/removed").json()] == [154]
    assert post("removed", "DELETE") == 204 and client.get("/api/jobs/154").status_code == 200
    highest = max(models.Job.everything.values_list("number", flat=True))
    assert post("removed", number=highest) == 204
    assert call(client, "POST", "/api/jobs", {"customer": "x"}).json()["job"]["number"] == highest + 1


def test_numbers_cannot_be_used_up(client) -> None:
    models.Job.everything.filter(number=165).update(number=999_999_999)
    assert call(client, "POST", "/api/jobs", {}).json()["job"]["number"] == 101
    assert call(client, "POST", "/api/jobs", {}).json()["job"]["number"] == 102


def test_removed_for_good_after_thirty_days_and_not_before(client) -> None:
    for number, days in ((154, 29), (156, 31)):
        models.Job.objects.filter(number=number).update(removed=timezone.now() - timedelta(days=days))
    remove_job.remove(158, None)
    assert [j.number for j in remove_job.removed()] == [158, 154]


def test_a_customers_data_are_gone_for_good_and_only_that_is_kept(
    client, kept_in, django_capture_on_commit_callbacks
) -> None:
    photographed(client, 155)
    edit(client, 155, "/bench/notes", "Rope walk museum, door code 77", base="")
    said = {"slot": "memory-a", "outcome": "did_not", "note": "Rope walk's desk is damp", "cause": "unknown"}
    assert call(client, "POST", "/api/jobs/155/sightings", said).status_code == 200
    lying = shelf.put_from_job(155, None)[0]
    shelf.change(lying.id, "worn", "no data", "", "on the shelf", "Rope walk wants it back")
    (picture,) = kept_in.iterdir()
    number_of_sightings = models.Sighting.objects.count()
    with django_capture_on_commit_callbacks(execute=True):
        assert call(client, "POST", "/api/jobs/155/erased").status_code == 204
    assert not picture.exists() and not models.Job.everything.filter(number=155).exists()
    assert (
        not models.JobEdit.objects.filter(job__number=155).exists()
        and models.Sighting.objects.count() == number_of_sightings
    )
    left = [
        json.dumps([{k: str(v) for k, v in row.items()} for row in table._base_manager.values()])
        for table in (
            models.Job,
            models.JobEdit,
            models.Entry,
            models.ShelfPart,
            models.ClaimReview,
            models.Photograph,
            models.Sighting,
        )
    ]
    assert not any("Rope walk" in text or "door code" in text for text in left)
    (line,) = client.get("/api/history?text=155 good").json()["changes"]
    assert line["says"] == "all data of job 155 were removed for good on request"


# -- the door -----------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("GET", "/api/nowhere", 404),
        ("PATCH", "/api/jobs", 405),
        ("GET", "/api/jobs/147/survey/fitted", 405),
        ("GET", "/api/jobs/77", 404),
    ],
)
def test_what_goes_wrong_is_said_in_json(client, method, path, status) -> None:
    answer = call(client, method, path)
    assert answer.status_code == status and {"what", "where", "mend"} <= set(answer.json())
    assert answer["Cache-Control"] == "no-store"


def test_more_than_may_be_sent_is_refused_before_it_is_read(client) -> None:
    answer = client.post("/api/parts/import", b"x", content_type="text/plain", CONTENT_LENGTH=str(33 * 2**20))
    assert answer.status_code == 413 and "32 MB" in answer.json()["what"]


def test_health_is_told_to_anybody_and_nothing_else(db) -> None:
    assert Client().get("/healthz").json()["status"] == "ok"
    assert set(Client().get("/healthz").json()) == {"status", "version"}


def test_a_line_for_each_request_and_nothing_of_its_content(client, caplog) -> None:
    with caplog.at_level("INFO", logger="insertum.requests"):
        client.get("/api/jobs?text=Rope walk museum")
    (line,) = [r.getMessage() for r in caplog.records if r.name == "insertum.requests"]
    assert re.fullmatch(r"GET /api/jobs 200 \d+ ms person \d+", line)


def test_a_workshop_has_no_stand_ins(client, settings, monkeypatch) -> None:
    settings.DEMO, settings.SUPPLIER_URL = False, ""
    # No server turns from demo to workshop, so answers kept by other tests would be the demo's.
    monkeypatch.setattr(answer_cache, "answers", answer_cache._Answers())
    assert client.get("/api/jobs/157/simulated/prove").status_code == 400
    assert client.get("/api/jobs/157/prove").json()["faults"] == {}
    assert client.get("/api/jobs/165/survey").status_code in (200, 400)
    assert call(client, "POST", "/api/parts/refresh").status_code == 400


def test_new_jobs_start_as_the_workshop_has_it(client) -> None:
    own = Workshop(name="x", currency="GBP", rate_minor_per_hour=7200, schools={"memory": "pair"})
    save_workshop(own, None)
    job = call(client, "POST", "/api/jobs", {"customer": "y"}).json()["job"]
    assert (job["currency"], job["plan"]["rate_minor_per_hour"], job["plan"]["schools"]["memory"]) == (
        "GBP",
        7200,
        "pair",
    )


@pytest.mark.parametrize(
    ("days", "old", "said"), [(7, None, "No backup"), (7, 6, ""), (7, 8, "8 days old"), (0, 99, "")]
)
def test_an_old_backup_is_said(db, tmp_path, settings, days, old, said) -> None:
    settings.VAR = tmp_path
    if old is not None:
        (tmp_path / "last_backup").write_text((timezone.now() - timedelta(days=old)).isoformat())
    found = backup_age.backup_due(days)
    assert (said in found) if said else found == ""


def test_examples_come_in_whole_beside_ones_own(db) -> None:
    for table in (models.Machine, models.Part, models.Processor):
        table.objects.all().delete()
    owner = signed("owner", "owner")
    made = call(owner, "POST", "/api/workshop/examples").json()
    assert made["machines"] == models.Machine.objects.count() > 0 and made["parts"] == models.Part.objects.count() > 0
    assert call(owner, "POST", "/api/workshop/examples").status_code == 200  # again changes nothing
    assert models.Part.objects.count() == made["parts"] and story.LOGIN == "bench"
