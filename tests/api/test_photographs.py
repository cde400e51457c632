"""Photographs and words of a step: made anew without position and device data, kept with it, never half."""

import io
import json
import stat

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from insertum.core.errors import InputError
from insertum.formats import photograph as reading
from insertum.formats.photograph import LONGEST, photograph
from insertum.shop import models
from insertum.shop.services import photographs

from .test_api import edit


def camera(width: int = 60, height: int = 40, kind: str = "JPEG", orientation: int = 0) -> bytes:
    """A picture as a telephone sends it: left half red, with its make and the place it was taken at."""
    made = Image.new("RGB", (width, height), "white")
    made.paste("red", (0, 0, width // 2, height))
    exif = made.getexif()
    exif[0x010F] = "Some maker"
    if orientation:
        exif[0x0112] = orientation
    exif.get_ifd(0x8825)[1] = "N"
    exif.get_ifd(0x8825)[2] = (54.0, 12.0, 3.0)
    out = io.BytesIO()
    made.save(out, kind, exif=exif)
    return out.getvalue()


def test_nothing_is_carried_over_but_the_picture() -> None:
    sent = camera()
    assert b"Some maker" in sent
    kept = photograph(sent, "a.jpg")
    assert b"Some maker" not in kept.data and b"Exif" not in kept.data
    with Image.open(io.BytesIO(kept.data)) as found:
        assert dict(found.getexif()) == {} and found.format == "JPEG" and found.size == (60, 40)


@pytest.mark.parametrize(
    ("data", "size"),
    [
        (camera(orientation=6), (40, 60)),  # held upright: turned by its pixels, since the mark is gone
        (camera(kind="PNG"), (60, 40)),
        (camera(kind="WEBP"), (60, 40)),
        (camera(LONGEST, 100), (LONGEST, 100)),
        (camera(LONGEST * 2, 200), (LONGEST, 100)),  # made smaller in proportion
    ],
)
def test_what_cameras_send_is_kept_upright_and_bounded(data, size) -> None:
    kept = photograph(data, "a")
    assert (kept.width, kept.height) == size
    if size == (40, 60):  # what was left is now on top
        with Image.open(io.BytesIO(kept.data)) as found:
            assert found.getpixel((20, 5))[1] < 80 < found.getpixel((20, 55))[1]


@pytest.mark.parametrize(
    "data", [b"", b"no picture", camera()[:200], b"<svg xmlns='http://www.w3.org/2000/svg'/>", b"GIF89a"]
)
def test_what_is_no_picture_is_refused(data) -> None:
    with pytest.raises(InputError, match="no picture that can be read"):
        photograph(data, "a.jpg")


def test_a_picture_that_unpacks_to_more_than_any_camera_makes_is_refused(monkeypatch) -> None:
    monkeypatch.setattr(reading, "MOST_PIXELS", 60 * 40)
    assert photograph(camera(), "a").width == 60
    monkeypatch.setattr(reading, "MOST_PIXELS", 60 * 40 - 1)
    with pytest.raises(InputError, match="60 × 40 pixels"):
        photograph(camera(), "a")
    monkeypatch.setattr(reading, "MOST_BYTES", len(camera()) - 1)
    with pytest.raises(InputError, match="larger than"):
        photograph(camera(), "a")


def send(client, number: int = 157, step: str = "off:cover", data: bytes | None = None):
    file = SimpleUploadedFile("lid.jpg", camera() if data is None else data, "image/jpeg")
    return client.post(f"/api/jobs/{number}/photographs", {"file": file, "step": step, "note": "scratch"})


def test_a_photograph_is_kept_with_its_step_and_can_be_taken_out_and_brought_back(client, kept_in) -> None:
    made = send(client).json()
    (path,) = kept_in.iterdir()
    assert path.name == f"{made['uid']}.jpg" and stat.S_IMODE(path.stat().st_mode) == 0o600
    assert stat.S_IMODE(kept_in.stat().st_mode) == 0o700
    (seen,) = client.get("/api/jobs/157/photographs").json()
    assert (seen["step"], seen["note"], seen["who"]) == ("off:cover", "scratch", "bench")
    picture = client.get(f"/api/jobs/157/pictures/{made['uid']}.jpg")
    assert picture["Content-Type"] == "image/jpeg" and picture.content == path.read_bytes()
    assert client.get(f"/api/jobs/155/pictures/{made['uid']}.jpg").status_code == 400  # another job's address
    out = lambda removed: client.put(  # noqa: E731
        f"/api/jobs/157/photographs/{made['uid']}", {"removed": removed}, content_type="application/json"
    )
    assert out(True).json() == [] and len(out(False).json()) == 1
    assert client.get("/api/jobs/157/record").json()["photographs"][0]["uid"] == made["uid"]


def test_nothing_is_kept_of_what_is_refused(client, kept_in, monkeypatch) -> None:
    assert send(client, data=b"no picture").status_code == 400
    assert send(client, number=9999).status_code == 404
    monkeypatch.setattr(photographs, "MOST_OF_A_JOB", 1)
    assert send(client).status_code == 200 and send(client).status_code == 400
    assert len(list(kept_in.iterdir())) == models.Photograph.objects.count() == 1
    client.logout()
    assert client.get("/api/jobs/157/photographs").status_code == 401
    assert client.get(f"/api/jobs/157/pictures/{models.Photograph.objects.get().uid}.jpg").status_code in (
        401,
        302,
        403,
    )


def test_words_and_numbers_of_a_step_reach_job_and_record(client) -> None:
    edit(client, 157, "/bench/said/off:cover/note", "two clips broken before")
    edit(client, 157, "/bench/said/off:cover/number", "BD-77 12")
    record = client.get("/api/jobs/157/hand-over").json()["record"]["noted"]
    assert record[0].startswith("two clips broken before (") and record[1].startswith("Number on the part: BD-77 12 (")
    assert client.get("/api/jobs/157").json()["job"]["survey"]["numbers"] == {}
    view = edit(client, 157, "/bench/said/off:cover/of", "board", base="part")
    assert view["view"]["job"]["survey"]["numbers"] == {"board": "BD-77 12"}
    assert edit(client, 157, "/bench/said/off:cover/of", "moon", base="board")["status"] == 400
    # A number of another machine, from before the job was identified anew, is in nobody's way.
    row = models.Job.objects.get(number=157)
    row.spec["bench"]["said"]["on:cover"] = {"note": "", "number": "X", "of": "second-fan"}
    row.save()
    assert edit(client, 157, "/bench/said/off:cover/note", "three", base="two clips broken before")["status"] == 200


@pytest.mark.role("library")
def test_a_number_found_waits_for_review_and_comes_into_the_machines_library(client) -> None:
    job = client.get("/api/jobs/157").json()["job"]["identify"]
    machine, configuration = job["machine"], job["configuration"]

    def waiting() -> list[tuple[str, str, str]]:
        return [(c["label"], c["value"], c["library"]) for c in client.get("/api/claims").json() if c["job"] == 157]

    def carries(number: str) -> list[str]:
        every = client.get(f"/api/machines/{machine}/data").json()
        marked = [c["id"] for c in every["configurations"] if any(m["text"] == number for m in c["marks"])]
        return marked + [a["id"] for a in every["assemblies"] if a["number"] == number]

    thing = next(t for t in client.get("/api/jobs/157/bench").json()["things"] if t.startswith("fan"))
    edit(client, 157, "/bench/said/off:cover/number", "FN-8")
    assert waiting() == []  # of a part: it stands with its step alone
    edit(client, 157, "/bench/said/off:cover/of", thing, base="part")
    was = waiting()[0][2]
    assert waiting() == [(f"number on the {thing}", "FN-8", was)]
    edit(client, 157, "/bench/said/off:cover/number", "FN-88", base="FN-8")
    assert waiting() == [(f"number on the {thing}", "FN-88", was)]  # what was typed on the way waits for nobody
    edit(client, 157, "/bench/said/off:slot/number", "BD-77 12")
    edit(client, 157, "/bench/said/off:slot/of", "board", base="part")
    open_now = [c for c in client.get("/api/claims").json() if c["job"] == 157]
    assert len(open_now) == 2 and carries("FN-88") == carries("BD-77 12") == []
    for c in open_now:
        assert (
            client.post(f"/api/claims/{c['id']}", {"accept": True}, content_type="application/json").status_code == 200
        )
    assert carries("FN-88") == [thing] and carries("BD-77 12") == [configuration] and waiting() == []
    edit(client, 157, "/bench/said/off:cover/number", "fn88", base="FN-88")
    assert waiting() == []  # the library says so by now
    edit(client, 157, "/bench/said/off:cover/number", "", base="fn88")
    assert client.get("/api/jobs/157").json()["job"]["survey"]["numbers"] == {"board": "BD-77 12"}


def test_the_workshops_record_holds_every_change_in_its_order(client) -> None:
    edit(client, 157, "/bench/notes", "one", base="")
    edit(client, 157, "/bench/notes", "two", base="one")
    record = client.get("/api/jobs/157/record").json()
    assert record["format"] == "insertum-record/1" and record["job"]["number"] == 157
    mine = [c for c in record["changes"] if c["path"] == "/bench/notes"]
    assert [(c["before"], c["after"], c["who"]) for c in mine][-2:] == [("", "one", "bench"), ("one", "two", "bench")]
    sequence = [c["sequence"] for c in record["changes"]]
    assert sequence == sorted(set(sequence)) and json.dumps(record)
