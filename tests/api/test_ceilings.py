"""Machine page, Identify and Survey say the same of a machine's ceilings under the same school."""

LIMITS = ("memory.total_limit_gb", "memory.speed_mts", "memory.density_gbit")


def test_the_same_ceilings_everywhere(client) -> None:
    jobs = client.get("/api/jobs").json()
    rows = jobs if isinstance(jobs, list) else jobs["jobs"]
    seen = 0
    for job in rows:
        doc = client.get(f"/api/jobs/{job['number']}").json()["job"]
        if (
            not doc["identify"]["configuration"]
            or doc["fit"]["limits"] != "proven"
            or doc["survey"]["firmware"]
            or doc["survey"]["reading"]
        ):
            continue
        survey = client.get(f"/api/jobs/{job['number']}/survey").json()
        where = f"{doc['identify']['machine']}/{doc['identify']['configuration']}"
        page = client.get(f"/api/machines/{where}").json()
        here = {f["attribute"]: f["value"] for f in survey["map"]["board"] if f["attribute"] in LIMITS}
        there = {f["attribute"]: f["value"] for f in page["map"]["board"] if f["attribute"] in LIMITS}
        assert here == there, job["number"]
        total = here["memory.total_limit_gb"]
        assert page["matters"]["Memory ceiling"] == (f"{total} GB" if total else "unknown")
        seen += 1
    assert seen >= 3
