"""A question without a job: asked by whoever is signed in or by a program with a key, kept nowhere, made a job in one act."""

import csv
import io
import json

import pytest
from django.test import Client

from insertum.shop import models

FITS = "/api/machines/veyra-drover-14/rill-320/fits"


def made(client: Client, name: str = "our page") -> dict:
    return client.post("/api/workshop/keys", json.dumps({"name": name}), content_type="application/json").json()


def asks(key: str, path: str = "/api/ask?text=Drover+14", method: str = "GET") -> int:
    return Client().generic(method, path, headers={"authorization": f"Bearer {key}"}).status_code


def test_nothing_is_kept_of_a_question(client: Client) -> None:
    before = [m.objects.count() for m in (models.Job, models.Entry, models.Sighting, models.Part)]
    answer = client.get("/api/ask", {"text": "Drover 14, WH4-1T0-80M"}).json()
    assert answer["says"].startswith("No: 80 mm long") and answer["seats"][0]["verdict"] == "refused"
    assert client.get(FITS).status_code == client.get(f"{FITS}/paper").status_code == 200
    assert [m.objects.count() for m in (models.Job, models.Entry, models.Sighting, models.Part)] == before


def test_whose_limits_count_is_said_with_the_question(client: Client) -> None:
    # 32 GB in all by the maker; the controller addresses 32 GB modules.
    asked = {"text": "Drover 14, PM4S-32G26"}
    assert client.get("/api/ask", asked | {"limits": "documented"}).json()["seats"][0]["verdict"] == "refused"
    assert client.get("/api/ask", asked | {"limits": "nobody"}).status_code == 422


def test_a_number_typed_apart_is_the_part(client: Client) -> None:
    told = client.get("/api/ask", {"text": "part ap dr45"})
    assert told.status_code == 200 and told.json()["meaning"]["parts"] == ["AP-DR45"]


@pytest.mark.role("owner")
def test_a_key_asks_and_does_nothing_else_until_it_is_taken_back(client: Client) -> None:
    key = made(client)
    assert asks(key["key"]) == 200 and asks("ask_nonsense") == asks("") == 401
    assert models.AskKey.objects.get().digest != key["key"]  # what is kept opens nothing
    for path, method in (("/api/jobs", "GET"), ("/api/parts", "GET"), ("/api/workshop", "GET"), (FITS, "GET"), ("/api/ask/job", "POST"),
                         ("/api/workshop/keys", "GET")):  # fmt: skip
        assert asks(key["key"], path, method) == 401, path
    assert [k["name"] for k in client.get("/api/workshop/keys").json()] == ["our page"]
    assert "key" not in client.get("/api/workshop/keys").json()[0]
    assert client.delete(f"/api/workshop/keys/{key['id']}").status_code == 204
    assert asks(key["key"]) == 401
    assert client.delete(f"/api/workshop/keys/{key['id']}").status_code == 400  # there is none that counts
    assert client.get("/api/workshop/keys").json()[0]["taken_back_at"]


@pytest.mark.role("owner")
def test_a_key_has_a_name_of_its_own(client: Client) -> None:
    assert "key" in made(client)
    assert made(client)["code"] == "taken" and made(client, "  ")["what"] == "a key has a name"


def test_the_question_becomes_a_job_with_what_was_asked_in_it(client: Client) -> None:
    def job_of(text: str) -> dict:
        made = client.post("/api/ask/job", json.dumps({"text": text}), content_type="application/json").json()
        return client.get(f"/api/jobs/{made['number']}").json()["job"] if "number" in made else made

    goes_in = job_of("Drover 14, OM4S-16G26")
    assert goes_in["identify"]["configuration"] == "rill-320" and goes_in["fit"]["build"] == {"memory-a": "OM4S-16G26"}
    assert goes_in["title"] == "Drover 14, OM4S-16G26" and goes_in["station"] == "fit"
    # What does not go in is not put in; of two configurations none is chosen for anybody.
    assert job_of("Drover 14, WH4-1T0-80M")["fit"]["build"] == {}
    strand = job_of("Strand 15, QT7-1T0")
    assert (strand["identify"]["machine"], strand["fit"]["build"], strand["station"]) == ("", {}, "identify")
    assert job_of("WH4-1T0-80M")["what"] == "the question names no machine of the library"
    assert job_of("Drover 15, WH4-1T0-80M")["code"] == "not_yet"


def test_what_is_in_it_is_as_delivered_empty_or_as_somebody_says(client: Client) -> None:
    def in_it(**asked: str) -> dict[str, str]:
        slots = client.get(FITS, asked).json()["map"]["slots"]
        return {s["id"]: s["fitted_name"] for s in slots if s["id"] in ("memory-a", "memory-b", "bay")}

    assert in_it() == {"memory-a": "Orrin 4 GB DDR4-2666", "memory-b": "Orrin 4 GB DDR4-2666", "bay": "empty"}
    assert set(in_it(holds="empty").values()) == {"empty"}
    told = in_it(has="memory-a:OM4S-08G26,memory-b:")
    assert told == {"memory-a": "Orrin 8 GB DDR4-2666", "memory-b": "empty", "bay": "empty"}
    for asked, what in (
        ({"has": "attic:OM4S-08G26"}, "no slot 'attic'"),
        ({"has": "memory-a:NOBODY"}, "no part 'NOBODY'"),
        ({"puts": "nonsense"}, "'nonsense' names no slot"),
        # What somebody says is in it must be something it could hold, or all beside it is judged wrongly.
        ({"has": "memory-a:WH4-1T0-80M"}, "Wherry H4 1 TB, 2280 key M is nothing Memory A takes"),
        ({"puts": "bay:AP-DR45"}, "Amberly Drover 45 Wh is nothing 2.5-inch bay takes"),
    ):
        refused = client.get(FITS, asked)
        assert refused.status_code == 400 and refused.json()["what"] == what
    assert client.get("/api/machines/nobody/none/fits").status_code == 400


def test_what_is_asked_of_a_machine_becomes_a_job_as_it_was_asked(client: Client) -> None:
    asked = "limits=documented&has=memory-a:OM4S-08G26,memory-b:&puts=drive-1:WS4-2T0-42M,bay:QT7-1T0"
    made = client.post(f"{FITS}/job?{asked}")
    job = client.get(f"/api/jobs/{made.json()['number']}").json()["job"]
    assert (job["identify"]["machine"], job["identify"]["configuration"]) == ("veyra-drover-14", "rill-320")
    assert job["fit"]["limits"] == "documented" and job["station"] == "fit"
    assert job["fit"]["build"] == {"drive-1": "WS4-2T0-42M", "bay": "QT7-1T0"}
    assert job["survey"]["fitted"]["memory-a"]["number"] == "OM4S-08G26" and job["survey"]["fitted"]["memory-b"] is None
    refused = client.post(f"{FITS}/job?puts=memory-a:QT7-1T0")
    assert refused.status_code == 400 and "nothing Memory A takes" in refused.json()["what"]


def test_the_paper_the_csv_and_the_json_say_the_same_as_fit(client: Client) -> None:
    station = client.get(FITS, {"whole": True}).json()
    paper = client.get(f"{FITS}/paper").json()
    names = [s["number"] for s in station["slots"]]
    by_fit = {(r["number"], names[c[0]]): c[1] for r in station["rows"] for c in r["cells"]}
    ranks = ["seats", "held_back", "measure_first", "refused", "harm"]
    assert {(x["number"], x["slot"]): ranks.index(x["verdict"]) for x in paper["lines"]} == {
        pair: rank for pair, rank in by_fit.items() if rank <= 2
    }
    assert paper["refused"] == sum(rank > 2 for rank in by_fit.values())
    rows = list(csv.DictReader(io.StringIO(client.get(f"{FITS}.csv").content.decode())))
    assert [(r["number"], r["verdict"]) for r in rows] == [(x["number"], x["verdict"]) for x in paper["lines"]]
    assert client.get(f"{FITS}.json").json() == paper and paper["format"] == "insertum-what-fits/1"
    # What objects is apart from what is only said: a module that seats has no objection.
    assert all(not x["says"] for x in paper["lines"] if x["verdict"] == "seats")
    assert all(x["asks"] and not x["asks"][:2].istitle() for x in paper["lines"] if x["verdict"] == "measure_first")


def test_why_comparison_and_schools_are_those_of_the_machine_asked(client: Client) -> None:
    why = client.get(f"{FITS}/why", {"slot": "memory-a", "part": "OM4S-16G26"}).json()
    assert why["judgement"]["verdict"] == "seats" and why["because"]
    both = client.get(f"{FITS}/compare", {"slot": "memory-a", "parts": "OM4S-16G26,PM4S-16G26"}).json()
    assert len(both["parts"]) == 2
    schools = client.get(f"{FITS}/schools").json()
    assert schools["open"] >= schools["proven"] >= schools["documented"]
    assert isinstance(client.get(f"{FITS}/acts").json(), list)
