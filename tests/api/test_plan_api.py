"""Plan, quote, the owner's word, wishes and the list of jobs, over HTTP."""

import json

import pytest

from insertum.shop import models
from insertum.shop.services import answer_cache, parts, plan_job, wishes, workshop

from .test_api import edit


def post(client, path: str, body: object = None):
    found = client.post(path, body or {}, content_type="application/json")
    return found.status_code, found.json()


def choose(client, number: int, stance: str = "best_value", index: int | None = None):
    return post(client, f"/api/jobs/{number}/plan", {"stance": stance, "index": index})


def reprice(number: str, minor: int) -> None:
    row = models.Part.objects.get(number=number)
    spec = {**row.spec, "offers": [{"shop": "Quay Supply", "price_minor": minor, "stock": 9}], "selling_minor": None}
    parts.import_parts(json.dumps([spec]))


def test_a_plan_is_answered_from_the_cache_until_something_it_follows_from_changes(client, monkeypatch) -> None:
    monkeypatch.setattr(answer_cache, "answers", answer_cache._Answers())
    made = []
    plain = plan_job._planned
    monkeypatch.setattr(
        plan_job, "_planned", lambda desk, planner: made.append(desk.job.number) or plain(desk, planner)
    )
    for _ in range(2):
        assert client.get("/api/jobs/148/plan").status_code == 200
    assert made == [148]
    edit(client, 148, "/plan/threshold", 0.3, base=0.1)
    client.get("/api/jobs/148/plan")
    reprice("OM4S-08G24", 1500)
    client.get("/api/jobs/148/plan")
    workshop.save_workshop(workshop.workshop().model_copy(update={"markup_percent": 10}), None)
    client.get("/api/jobs/148/plan")
    assert made == [148] * 4


def test_what_changed_since_a_plan_was_chosen_is_told_and_the_owner_agrees_to_the_price(client) -> None:
    assert post(client, "/api/jobs/148/plan/agree", {"said_by": "the office"})[0] == 400  # no plan yet
    assert client.get("/api/jobs/148/quote").status_code == 400
    chosen = choose(client, 148)[1]["job"]["plan"]["chosen"]
    number = chosen["plan"]["changes"][0]["part"]
    assert client.get("/api/jobs/148/plan").json()["difference"]["lines"] == []
    assert post(client, "/api/jobs/148/plan/agree", {"said_by": " "})[0] == 400
    status, view = post(client, "/api/jobs/148/plan/agree", {"said_by": "Kestrel office", "how": "by telephone"})
    assert status == 200 and view["job"]["plan"]["agreed"][0]["cost_minor"] == chosen["plan"]["cost_minor"]
    assert client.get("/api/jobs/148/quote").json()["agreed"]["said_by"] == "Kestrel office"
    price = chosen["plan"]["changes"][0]["price_minor"]
    reprice(number, price + 100)
    told = client.get("/api/jobs/148/plan").json()["difference"]
    assert len(told["lines"]) == 1 and told["now_minor"] == told["then_minor"] + 100
    assert choose(client, 148)[0] == 200
    assert client.get("/api/jobs/148/quote").json()["agreed"] is None  # the word was on another price


@pytest.mark.parametrize(
    ("settings", "net", "tax", "total"),
    [
        ({"tax_percent": 0}, 5738, 0, 5738),
        ({"tax_percent": 20, "prices_hold_tax": True}, 4782, 956, 5738),  # 5738 × 20 ÷ 120 = 956.33
        ({"tax_percent": 20, "prices_hold_tax": False}, 5738, 1148, 6886),  # 1147.6
    ],
)
def test_a_quote_adds_up_with_tax_as_the_workshop_has_it(client, settings, net, tax, total) -> None:
    workshop.save_workshop(workshop.workshop().model_copy(update={**settings, "quote_days": 10}), None)
    choose(client, 160)
    paper = client.get("/api/jobs/160/quote").json()
    q = paper["quote"]
    assert (q["net_minor"], q["tax_minor"], q["total_minor"]) == (net, tax, total)
    assert sum(line["amount_minor"] for line in q["lines"]) == 5738
    assert q["holds_until"] > q["made_on"] and paper["workshop"] == "Saltmarsh Refit"
    said = " ".join([*(a["says"] for a in q["answers"]), *q["besides"], *q["does"]])
    assert "GB of memory" not in said and "We fit" in said  # it is soldered, and nothing is said of it


def test_points_of_the_frontier_and_bad_choices(client) -> None:
    front = client.get("/api/jobs/148/plan").json()["answer"]["frontier"]
    taken = choose(client, 148, "frontier", 3)[1]["job"]["plan"]["chosen"]["plan"]
    assert [c["part"] for c in taken["changes"]] == [c["part"] for c in front[3]["changes"]]
    assert taken["cost_minor"] == front[3]["cost_minor"]
    for stance, index in (("frontier", 10_000), ("frontier", None), ("nobody", None)):
        assert choose(client, 148, stance, index)[0] == 400


def test_what_is_beside_a_plan(client) -> None:
    found = client.get("/api/jobs/160/plan/detail").json()
    assert {s["school"] for s in found["schools"]} == {"memory", "grade", "drive", "spinning", "makes", "limits"}
    assert all(x["reason"] for x in found["left_out"])
    status, said = post(
        client, "/api/jobs/160/plan/factory", {"kind": "drive_space", "figure": 256, "price_minor": 9000}
    )
    assert status == 200 and "less than the factory asks" in said["says"]


def test_a_wish_that_comes_into_its_price_is_shown_on_jobs(client) -> None:
    left = client.get("/api/jobs/148/plan/detail").json()["left_out"]
    wish = next(x for x in left if x["enters_minor"])
    edit(client, 169, "/plan/wishes", [], base=["OM4S-08G24"])  # the demo's own, which came true
    edit(client, 148, "/plan/wishes", [wish["part"]], base=[])
    assert wishes.look_at_wishes() == 0
    reprice(wish["part"], wish["enters_minor"])
    assert wishes.look_at_wishes() == 1
    line = next(j for j in client.get("/api/jobs").json()["jobs"] if j["number"] == 148)
    assert line["wish"] == wish["part_name"]
    edit(client, 148, "/plan/wishes", [], base=[wish["part"]])
    assert next(j for j in client.get("/api/jobs").json()["jobs"] if j["number"] == 148)["wish"] == ""


def test_the_list_of_jobs_is_paged_searched_and_sorted_without_a_jobs_document(
    client, django_assert_max_num_queries
) -> None:
    client.get("/api/machines")  # the library is read once a process, whichever test comes first
    with django_assert_max_num_queries(12) as asked:
        page = client.get("/api/jobs").json()
    assert not any('"spec"' in q["sql"] and "shop_job" in q["sql"] and "spec" in q["sql"].split("FROM")[0] for q in asked.captured_queries)  # fmt: skip
    assert page["total"] == len(page["jobs"]) <= page["open"] and page["pages"] == 1
    assert [j["number"] for j in client.get("/api/jobs?text=kestrel").json()["jobs"]] == [148, 164, 169]
    assert 148 in [j["number"] for j in client.get("/api/jobs?text=drover").json()["jobs"]]
    assert client.get("/api/jobs?text=zzzz").json()["jobs"] == []
    numbers = [j["number"] for j in client.get("/api/jobs?sort=number&which=all").json()["jobs"]]
    assert numbers == sorted(numbers, reverse=True)
    assert client.get("/api/jobs?sort=colour").status_code == 422
    assert client.get("/api/jobs?page=99").json()["page"] == 1


def test_a_makes_failures_here_are_told_beside_its_parts(client) -> None:
    """A machine that does not take a part says nothing of its make; a part that failed does."""
    before = client.get("/api/jobs/148/plan").json()["makes"]

    def see(outcome: str, cause: str = "") -> None:
        seen = {"machine": "veyra-drover-14", "configuration": "rill-320", "slot": "memory-a", "part": "OM4S-08G24", "part_name": "x", "outcome": outcome, "cause": cause}  # fmt: skip
        models.Sighting.objects.create(
            machine=seen["machine"],
            configuration="rill-320",
            slot="memory-a",
            part=seen["part"],
            outcome=outcome,
            spec=seen,
        )

    for outcome, cause in (("worked", ""), ("did_not", "part"), ("did_not", "machine")):
        see(outcome, cause)
    after = client.get("/api/jobs/148/plan").json()["makes"]["Orrin"]
    was = before.get("Orrin", {"tried": 0, "failed": 0})
    assert (after["tried"], after["failed"]) == (was["tried"] + 2, was["failed"] + 1)


def looked_gate(client, number: int) -> dict[str, object] | None:
    gates = client.get(f"/api/jobs/{number}/prepare").json()["gates"]
    return next((g for g in gates if g["id"] == "looked"), None)


@pytest.mark.parametrize(
    ("says", "settled", "items"),
    [
        ({"below_um": 0, "generation": 4}, True, []),
        (
            {"generation": 4},
            False,
            ["Ask the seller, or read the part's data sheet: unbranded 1 TB, 2280 key M: height of the underside"],
        ),
        (
            {"below_um": 4000, "generation": 4},
            False,
            ["Unbranded 1 TB, 2280 key M does not go into Drive 1: presses on the board"],
        ),
    ],
)
def test_a_plan_that_waits_is_chosen_with_its_acts_as_a_gate(client, says, settled, items) -> None:
    """Job 152's best plan takes a drive of which a supplier's list says next to nothing: the gate asks it, opens where the
    data sheet settles it, and tells what no longer goes in where it says so."""
    assert choose(client, 152, "waiting", 99)[0] == 400
    late = {
        "stance": "waiting",
        "index": 0,
        "sees": {"drive-1": "another"},
    }  # what was seen is not what stands there now
    assert post(client, "/api/jobs/152/plan", late)[0] == 400
    status, view = choose(client, 152, "waiting", 0)
    assert status == 200 and [a["id"] for a in view["job"]["plan"]["chosen"]["waits"]] == ["seller"]
    gate = looked_gate(client, 152)
    assert not gate["settled"] and gate["title"] == "What the plan waits for" and "interface" in gate["items"][0]
    row = models.Part.objects.get(number="KS-1T0-80")
    told = {"interface": "pcie", "lanes": 4, "read_mb_s": 5000, **says}
    parts.import_parts(json.dumps([{**row.spec, **told}]))
    gate = looked_gate(client, 152)
    assert (gate["settled"], gate["items"]) == (settled, items)
    assert choose(client, 152)[0] == 200 and looked_gate(client, 152) is None
