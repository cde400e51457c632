"""What happened at a job: the record says it from events alone, at every step of every demo job."""

import pytest

from insertum.shop import models
from insertum.shop.services import edit_job, jobs, plan_job

from .test_api import edit
from .test_plan_api import choose, post

PLANNED = (149, 150, 155, 157)


def gates_done(number: int) -> None:
    """Every check done, by its tick or by the event it waits for."""
    for gate in jobs.desk_of(number).gates():
        if gate.id == "consent":
            plan_job.agree(number, "the customer", "in person", "", None)
        else:
            said = {"state": "done", "words": "the customer" if gate.asks else "", "who": ""}
            edit_job.write(number, f"/prepare/gates/{gate.id}", said, None)


def tick(client, number: int, step: str) -> dict:
    return edit(client, number, f"/bench/done/{step}", "2026-11-27T10:00:00Z")


@pytest.mark.parametrize("number", PLANNED)
def test_every_prefix_of_a_jobs_steps(client, number: int) -> None:
    edit_job.write(number, "/bench/done", {}, None)
    edit_job.write(number, "/hand_over/gone", {}, None)
    edit_job.write(number, "/hand_over/closed_at", "", None)
    edit_job.write(number, "/hand_over/outcome", "", None)
    gates_done(number)
    steps = [s.id for s in jobs.desk_of(number).sheet().steps]
    plan = jobs.job_of(number).plan.chosen.plan
    ticked: list[str] = []
    for step in [None, *steps]:
        if step is not None:
            assert tick(client, number, step)["results"][0]["outcome"] == "applied"
            ticked.append(step)
        view = client.get(f"/api/jobs/{number}/hand-over").json()["record"]
        events = [(e["what"], e["slot"]) for e in view["events"]]
        assert events == [
            ({"in": "fitted", "out": "removed", "task": "task"}[w], s if w != "task" else "")
            for w, _, s in (x.partition(":") for x in ticked)
            if w in ("in", "out", "task")
        ]
        assert all(e["who"] == "bench" and e["at"] for e in view["events"])
        left = {c.slot for c in plan.changes} - {s for w, s in events if w == "fitted"}
        tasks = [t.name for t in plan.tasks if f"task:{t.id}" not in ticked]
        assert len(view["not_done"]) == len(left) + len(tasks)
        whole = not left and not tasks
        assert view["whole"] is whole and (
            view["cost_minor"] == plan.cost_minor if whole else view["cost_minor"] is None
        )
        assert bool(view["expected"]) is (whole and any(n.today != n.after for n in plan.needs))
        assert {s for w, s in events if w == "fitted"} == {
            c["slot"] for c in client.get(f"/api/jobs/{number}/prove").json()["changed"]
        }
    names = {e["slot"]: e["number"] for e in view["events"] if e["what"] == "fitted"}
    assert names == {c.slot: c.part for c in plan.changes}


def test_a_stopped_job_says_so_everywhere_and_nothing_of_it_reaches_shelf_or_sightings(client) -> None:
    """The swollen pack: stopped at Prepare before a screw was touched."""
    view = client.get("/api/jobs/153").json()
    assert view["job"]["stopped"]["station"] == "prepare" and "swollen" in view["job"]["stopped"]["why"]
    states = {s["station"]: s["state"] for s in view["stations"]}
    assert states["prepare"] == "stopped" and states["bench"] == states["hand_over"] == "ahead"
    assert next(j for j in client.get("/api/jobs").json()["jobs"] if j["number"] == 153)["stopped"]
    record = client.get("/api/jobs/153/hand-over").json()["record"]
    assert [e["what"] for e in record["events"]] == ["stopped"] and record["state"] == "stopped"
    assert record["cost_minor"] is None and record["expected"] == [] and len(record["not_done"]) == 2
    assert tick(client, 153, "set-out")["status"] == 400
    assert post(client, "/api/jobs/153/shelf")[0] == 400
    assert post(client, "/api/jobs/153/sightings", {"slot": "battery", "outcome": "worked"})[0] == 400
    assert client.delete("/api/jobs/153/stop").status_code == 400  # the pack still stands as swollen
    assert edit(client, 153, "/station", "bench", base="prepare")["status"] == 400


def test_a_job_is_stopped_and_goes_on(client) -> None:
    assert post(client, "/api/jobs/150/stop", {"why": "  "})[0] == 400
    status, view = post(client, "/api/jobs/150/stop", {"why": "the owner's no"})
    assert status == 200 and view["job"]["stopped"]["who"] == "bench" and view["job"]["stopped"]["station"] == "bench"
    assert models.Job.objects.get(number=150).stopped
    assert client.delete("/api/jobs/150/stop").json()["job"]["stopped"] is None
    assert not models.Job.objects.get(number=150).stopped


def test_a_step_is_ticked_only_where_it_is_and_while_the_key_is_in(client) -> None:
    assert "safety key" in tick(client, 149, "set-out")["what"]
    assert tick(client, 150, "in:nowhere")["status"] == 400
    forged = edit(client, 150, "/bench/ticks", {"in:battery": {"at": "", "part": "Never fitted"}}, base=jobs.job_of(150).bench.model_dump(mode="json")["ticks"])  # fmt: skip
    assert forged["status"] == 400
    open_step = next(s.id for s in jobs.desk_of(150).sheet().steps if s.id not in jobs.job_of(150).bench.done)
    tick(client, 150, open_step)
    assert jobs.job_of(150).bench.ticks[open_step].who == "bench"
    edit(client, 150, f"/bench/done/{open_step}", None, base="2026-11-27T10:00:00Z", op="remove")
    assert open_step not in jobs.job_of(150).bench.ticks


def test_what_was_taken_out_goes_somewhere_and_nothing_else_does(client) -> None:
    out = [e for e in client.get("/api/jobs/155/hand-over").json()["record"]["events"] if e["what"] == "removed"]
    slot = out[0]["slot"]
    assert post(client, "/api/jobs/155/gone", {"slot": "drive-1", "fate": "returned"})[0] == 400  # it is still in
    assert post(client, "/api/jobs/155/gone", {"slot": slot, "fate": "erased"})[0] == 400  # how is not said
    before = models.ShelfPart.objects.count()
    status, view = post(client, "/api/jobs/155/gone", {"slot": slot, "fate": "shelf"})
    assert status == 200 and view["job"]["hand_over"]["gone"][slot]["who"] == "bench"
    assert models.ShelfPart.objects.count() == before + 1
    record = client.get("/api/jobs/155/hand-over").json()["record"]
    assert record["events"][-1]["what"] == "shelf" and out[0]["says"] not in record["still_out"]


def test_a_drive_is_erased_before_it_is_anybodys(client) -> None:
    slot = "drive-1"
    assert post(client, "/api/jobs/157/gone", {"slot": slot, "fate": "shelf"})[0] == 400
    status, _ = post(
        client, "/api/jobs/157/gone", {"slot": slot, "fate": "shelf", "note": "secure erase by its own firmware, bench"}
    )
    row = models.ShelfPart.objects.latest("id")
    assert status == 200 and (row.erased, row.job) == ("erased", 157)


def test_measurements_stand_side_by_side_and_later_ones_come_to_a_closed_job(client) -> None:
    def measure(**more):
        body = {"what": "radio", "when": "before", "value": 40, "place": "Far court", "ran": "speed page"} | more
        return post(client, "/api/jobs/157/measured", body)

    assert measure(value=None)[0] == 400 and measure(what="colour")[0] == 422 and measure(value=-1)[0] == 422
    assert measure()[0] == 200 and measure(when="after", value=100, place="far court ")[0] == 200
    assert measure(when="after", value=300, place="near")[0] == 200  # another place: another line
    far, near = client.get("/api/jobs/157/prove").json()["compared"]
    assert (far["before"]["value"], far["after"]["value"], far["change_percent"], far["better"]) == (40, 100, 150, True)
    assert near["before"] is None and near["change_percent"] is None
    assert (
        measure(what="temperature", value=80)[0] == 200
        and measure(what="temperature", when="after", value=60)[0] == 200
    )
    assert client.get("/api/jobs/157/prove").json()["compared"][2]["better"] is True  # cooler is better
    edit_job.write(157, "/hand_over/closed_at", "2026-11-27T12:00:00Z", None)
    assert measure(when="after", value=90)[0] == 200
    assert client.get("/api/jobs/157/prove").json()["compared"][0]["later"][0]["value"] == 90


def test_a_firmware_screen_is_typed_for_a_reading(client) -> None:
    typed = "/api/jobs/157/prove/typed"
    assert post(client, typed, {})[0] == 400 and post(client, typed, {"sockets": {"nowhere": 8}})[0] == 400
    want = {e["what"]: e for e in client.get("/api/jobs/157/prove").json()["expected"]["expectations"]}
    body = {"total_gb": want["memory_total"]["figure"], "sockets": {"memory-b": 8}, "speed_mts": int(want["memory_speed"]["figure"]), "drives": [want["drive"]["number"]]}  # fmt: skip
    assert post(client, typed, body)[0] == 200
    found = {p["id"]: p["outcome"] for p in client.get("/api/jobs/157/prove").json()["report"]["proofs"]}
    assert (
        found["memory.total"]
        == found["memory-b.size"]
        == found["memory.speed"]
        == found["drive-1.drive"]
        == "as_expected"
    )
    assert found["radio.radio"] == "not_seen"  # the screen tells nothing of it
    assert post(client, typed, {"drives": []})[0] == 200
    last = {p["id"]: p["outcome"] for p in client.get("/api/jobs/157/prove").json()["report"]["proofs"]}
    assert last["drive-1.drive"] == "worse" and last["memory.total"] == "not_seen"


def test_another_plan_later_rewrites_nothing_that_was_done(client) -> None:
    """What a tick was stands beside it: choosing another plan does not turn one part into another."""
    before = client.get("/api/jobs/157/hand-over").json()["record"]["events"]
    choose(client, 157, "fill_it")
    after = client.get("/api/jobs/157/hand-over").json()["record"]
    assert [e["number"] for e in after["events"]] == [e["number"] for e in before]


@pytest.mark.role("owner")
def test_work_besides_is_taken_on_by_hand_and_asked_of_the_owner_again(client) -> None:
    put = lambda *ids: client.put("/api/jobs/157/tasks", {"ids": ids}, content_type="application/json")  # noqa: E731
    before = client.get("/api/jobs/157").json()["job"]["plan"]["chosen"]["plan"]
    clean = next(t for t in client.get("/api/jobs/157/tasks").json() if t["id"] == "clean")
    # The Strand is open for its memory: 12 minutes at € 50 an hour and € 1.00 of consumables.
    assert (clean["planned"], clean["adds_minor"], clean["seconds"]) == (False, 1100, 720)
    gates_done(157)
    view = put("clean").json()
    plan = view["job"]["plan"]["chosen"]["plan"]
    assert plan["cost_minor"] == before["cost_minor"] + 1100 and [t["id"] for t in plan["tasks"]] == ["clean"]
    assert plan["changes"] == before["changes"] and plan["needs"] == before["needs"]
    gates = {g["id"]: g for g in client.get("/api/jobs/157/prepare").json()["gates"]}
    assert "not taken down yet" in gates["consent"]["items"][0] and "soft brush" in gates["tasks"]["items"]
    assert set(client.get("/api/jobs/157/prepare").json()["open"]) == {"consent", "tasks"}
    assert tick(client, 157, "task:clean")["status"] == 400  # the key is shut
    gates_done(157)
    assert tick(client, 157, "task:clean")["results"][0]["outcome"] == "applied"
    events = client.get("/api/jobs/157/hand-over").json()["record"]["events"]
    assert events[-1]["says"] == "Clean fans and fins" and events[-1]["what"] == "task"
    assert put().status_code == 400  # done is done
    assert (
        put("clean", "paste").json()["job"]["plan"]["chosen"]["plan"]["cost_minor"]
        == before["cost_minor"] + 1100 + 2950
    )
    assert put("clean", "dance").status_code == 400
    assert put("clean", "heat_sink").status_code == 400  # no number is known of it
    seconds = lambda: {t["id"]: t["seconds"] for t in client.get("/api/jobs/157/tasks").json()}  # noqa: E731
    own, was = client.get("/api/workshop").json(), seconds()
    for tasks, status in (({"polish": {}}, 422), ({t: {"seconds": 1500} for t in ("clean", "hinges")}, 200)):
        body = own | {"tasks": tasks}
        assert client.put("/api/workshop", body, content_type="application/json").status_code == status
    # 25 min in place of 15; what is planned is a snapshot, and stays as it was agreed.
    assert seconds() == was | {"hinges": was["hinges"] + 600}
    assert client.put("/api/jobs/147/tasks", {"ids": ["clean"]}, content_type="application/json").status_code == 400
    assert client.get("/api/jobs/147/tasks").json() == []


def test_triage_leads_to_a_task_and_the_plan_mends_it(client) -> None:
    edit(client, 147, "/intake/complaints", ["slow", "hot"], base=["slow", "full"])
    edit(client, 147, "/intake/triage/hot.1", "found")
    view = client.get("/api/jobs/147/plan").json()
    enough = next(s for s in view["answer"]["stances"] if s["stance"] == "just_enough")["plan"]
    assert [t["id"] for t in enough["tasks"]] == ["clean"]
    needs = {n["label"]: n for n in enough["needs"]}
    assert needs["Dust in fan and fins"]["met_after"] == [1.0, 1.0] and needs["Dust in fan and fins"]["met_today"] == [
        0.0,
        0.0,
    ]


def test_what_was_found_differs_and_the_steps_wait_for_the_owners_word(client) -> None:
    gates_done(150)
    chosen = client.get("/api/jobs/150").json()["job"]["plan"]["chosen"]["plan"]
    slot = chosen["changes"][0]["slot"]
    assert client.get("/api/jobs/150/bench").json()["differs"] == []
    post(client, "/api/jobs/150/survey/fitted", {"slot": slot, "number": "PM4S-04G26", "state": "found"})
    bench = client.get("/api/jobs/150/bench").json()
    (line,) = bench["differs"]
    assert "Pallas 4 GB DDR4-2666 is in it, the plan was made for nothing" in line and bench["locked"]
    assert tick(client, 150, "check")["status"] == 400
    gates_done(150)  # no tick closes it
    assert client.get("/api/jobs/150/prepare").json()["open"] == ["found"]
    since = client.get("/api/jobs/150/plan").json()["difference"]
    assert any("nothing was named to come out, and Pallas 4 GB DDR4-2666 is in it now" in x for x in since["lines"])
    view = post(client, "/api/jobs/150/plan", {"stance": "again"})[1]
    again = view["job"]["plan"]["chosen"]["plan"]
    assert [c["part"] for c in again["changes"]] == [c["part"] for c in chosen["changes"]]
    assert again["cost_minor"] == since["now_minor"] and client.get("/api/jobs/150/bench").json()["differs"] == []
    # Something comes out now that nobody spoke of: the owner is asked, whatever the price.
    assert client.get("/api/jobs/150/prepare").json()["open"] == ["consent"]
    assert any(s["id"] == f"out:{slot}" for s in client.get("/api/jobs/150/bench").json()["sheet"]["steps"])


def test_accessories_of_the_plan_are_right_on_the_mat_too(client) -> None:
    plan = client.get("/api/jobs/149").json()["job"]["plan"]["chosen"]["plan"]
    numbers = client.get("/api/jobs/149/prepare").json()["numbers"]
    used = [n for c in plan["changes"] for n in (c["part"], *c["accessories"]) if n]
    assert sorted(numbers) == sorted(used) and len(set(used)) < len(used)  # two modules are two scans
    assert {a for c in plan["changes"] for a in c["accessories"]}
    for n in numbers:
        assert post(client, "/api/jobs/149/bench/scan", {"text": n})[1]["outcome"] == "planned"
    assert post(client, "/api/jobs/149/bench/scan", {"text": "PM4S-04G26"})[1]["outcome"] == "other"


def test_minutes_learn_from_closed_jobs_and_flow_into_the_plan(client) -> None:
    """The Drover's cover, timed on five closed jobs: 100 s off and 50 s on. Its plan takes the difference."""
    spec, before = models.Job.objects.get(number=155).spec, client.get("/api/jobs/148/plan").json()["answer"]
    cover = next(o for o in jobs.desk_of(148).plain.machine.obstacles if o.id == "cover")
    models.Job.objects.filter(number=155).delete()
    at = {"set-out": "00:00", "off:cover": "01:40", "on:cover": "02:30"}
    for n in range(901, 906):
        done = {s: f"2026-11-27T10:{t}+00:00" for s, t in at.items()}
        bench = {"done": done, "ticks": {s: {"at": t} for s, t in done.items()}}
        told = spec | {"number": n, "bench": bench, "hand_over": {"outcome": "done"}}
        jobs.import_job(jobs.Job.model_validate(told))
        assert edit(client, n, "/hand_over/closed_at", "2026-11-27T11:00:00+00:00", base="")["status"] == 200
        known = next(o for o in jobs.desk_of(148).plain.machine.obstacles if o.id == "cover")
        assert (known.seconds, known.source) == (
            (150, "timed here 5 times") if n == 905 else (cover.seconds, cover.source)
        )
    after = client.get("/api/jobs/148/plan").json()["answer"]
    old, new = (next(s for s in a["stances"] if s["stance"] == "fill_it")["plan"] for a in (before, after))
    assert new["bench_seconds"] - old["bench_seconds"] == 150 - cover.seconds
    edit(client, 905, "/hand_over/closed_at", "", base="2026-11-27T11:00:00+00:00")
    assert next(o for o in jobs.desk_of(148).plain.machine.obstacles if o.id == "cover").seconds == cover.seconds
