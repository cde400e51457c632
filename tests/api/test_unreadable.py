"""One stored row that cannot be read never takes a page down: it is one line that says so."""

import pytest

from insertum.shop import models


@pytest.mark.parametrize(
    ("model", "kind", "path", "value"),
    [
        (models.Part, "part", "generation", 9),
        (models.Part, "part", "kind", "floppy"),
        (models.Machine, "machine", "slots", "none"),
        (models.Sighting, "sighting", "outcome", "perhaps"),
        (models.Job, "job", "station", "nowhere"),
    ],
)
def test_a_bad_row_is_one_line(client, model, kind, path, value) -> None:
    row = model.objects.filter(spec__kind="memory").first() if model is models.Part else model.objects.first()
    row.spec = {**row.spec, path: value}
    row.save()
    name = str(getattr(row, {"machine": "slug", "part": "number", "job": "number", "sighting": "part"}[kind]))
    told = client.get("/api/unreadable").json()
    assert [(t["kind"], t["name"]) for t in told] == [(kind, name)] and told[0]["what"]
    for page in (
        "/api/jobs",
        "/api/machines",
        "/api/parts",
        "/api/sightings",
        "/api/jobs/148/fit",
        "/api/find?text=Strand",
    ):
        assert client.get(page).status_code == 200, page
    if kind == "job":
        assert client.get(f"/api/jobs/{name}").status_code == 400
