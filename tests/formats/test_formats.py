"""Open formats: worked examples run, imports all or nothing, bundles read back, the command line."""

import io
import json
import zipfile
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from insertum import cli
from insertum.core.errors import InputError
from insertum.core.machine.part import MemoryModule
from insertum.core.machine.shape import Machine
from insertum.core.plan.request import PlanRequest
from insertum.core.plan.result import Plan
from insertum.core.prove.expect import Expected
from insertum.core.survey.current_build import build_today
from insertum.demo import laptop
from insertum.formats import bundle, schemas
from insertum.formats.json_errors import MAX_BYTES, RowsRefused, read_json, text_of
from insertum.formats.parts import COLUMNS, part_from, read_csv, read_parts, write_csv, write_parts_json
from insertum.formats.readings import read_bundle

ROOT = Path(__file__).resolve().parents[2]
DOCS, DATA = ROOT / "docs" / "formats", ROOT / "insertum" / "demo" / "data"
PARTS = read_csv((DATA / "parts.csv").read_text())
BY_NUMBER = {p.number: p for p in PARTS}
MACHINES = [Machine.model_validate_json(p.read_text()) for p in sorted((DATA / "machines").glob("*.json"))]
DROVER = next(m for m in MACHINES if m.id == "veyra-drover-14").configured("rill-320")
CONFIGURATIONS = [(m, c.id) for m in MACHINES for c in m.configurations]


# -- examples and schemas -----------------------------------------------------------------------
def test_generated_docs_are_current() -> None:
    for name, text in schemas.schemas().items():
        assert (DOCS / name).read_text() == text, f"run make schemas: {name}"
    assert (ROOT / "docs" / "rules.md").read_text() == schemas.rules_page()
    assert (ROOT / "docs" / "words.md").read_text() == schemas.words_page()


def test_demo_parts_are_about_as_many_as_promised() -> None:
    assert len(PARTS) >= 180
    kinds = {"memory", "m2_drive", "bay_drive", "radio", "cellular", "battery", "accessory"}
    assert {p.kind for p in PARTS} == kinds


def run(capsys, *args: str) -> tuple[int, object, str]:
    code = cli.main(list(args))
    out = capsys.readouterr()
    return code, json.loads(out.out) if out.out else None, out.err


def test_command_line_on_the_worked_examples(capsys) -> None:
    code, fit, _ = run(capsys, "fit", "--machine", f"{DOCS}/machine.example.json", "--configuration", "mk2-rill-430",
                       "--parts", f"{DOCS}/parts.example.json", "--slot", "drive-2")  # fmt: skip
    assert code == 0
    assert {j["part"]: j["verdict"] for j in fit["judgements"]} == {
        "QK2-1T0-80M": "refused",
        "QB5-0T5-80BM": "seats",
        "QB5-1T0-80BM": "measure_first",
        "LR-AX2-E30": "refused",
    }
    assert all("because" not in j for j in fit["judgements"])
    _, why, _ = run(capsys, "fit", "--machine", f"{DOCS}/machine.example.json", "--configuration", "mk2-rill-430",
                    "--parts", f"{DOCS}/parts.example.json", "--slot", "drive-2", "--why")  # fmt: skip
    refused = next(j for j in why["judgements"] if j["part"] == "QK2-1T0-80M")
    seats = next(j for j in why["judgements"] if j["part"] == "QB5-0T5-80BM")
    # what keeps it out alone; what lets it in is everything that could have kept it out
    assert [(e["place"], e["value"], e["steps"]) for e in refused["because"]] == [
        ("drive-2.pcie_lanes", "0", ["documented: 0"])
    ]
    assert {e["place"] for e in seats["because"]} >= {f"drive-2.{n}" for n in ("width_mm", "standoffs_mm", "sata")}
    # a card with both notches goes in whatever key it has: the claim about it changes nothing
    assert "drive-2.key" not in {e["place"] for e in seats["because"]}
    assert "drive-2.key" in {a["place"] for a in seats["aside"]}
    assert all(e["steps"] for e in seats["because"])
    code, planned, _ = run(capsys, "plan", f"{DOCS}/plan-request.example.json")
    assert code == 0 and [s.stance for s in Plan.model_validate(planned).stances] == ["just_enough", "best_value", "room_for_years", "fill_it"]  # fmt: skip
    code, reading, _ = run(capsys, "read", f"{DOCS}/bundle.example.json")
    assert code == 0 and reading["system"] == "Strand 15 mk II"
    assert run(capsys, "prove", f"{DOCS}/expected.example.json", f"{DOCS}/bundle.example.json")[0] == 0


def test_command_line_decodes(capsys) -> None:
    code, read, _ = run(capsys, "decode", "16GB 2Rx8 PC4-3200AA-SE1-11")
    assert code == 0
    assert {k: read[k] for k in ("kind", "capacity_gb", "ranks", "chip_width", "grade_mts", "module_type", "density_gbit")} == {
        "kind": "memory_label", "capacity_gb": 16, "ranks": 2, "chip_width": 8, "grade_mts": 3200, "module_type": "S", "density_gbit": 8,
    }  # fmt: skip
    code, read, _ = run(capsys, "decode", "2280-D2-B-M")
    assert (code, read["kind"], read["below_um"], read["keys"]) == (0, "m2_code", 1350, ["B", "M"])
    code, read, said = run(capsys, "decode", "nonsense")
    assert (code, read) == (2, None) and "neither" in said


def test_command_line_says_no_and_bad_input(capsys, tmp_path) -> None:
    machine = f"{DOCS}/machine.example.json"
    args = ["fit", "--machine", machine, "--configuration", "mk2-rill-430", "--parts"]
    only = tmp_path / "p.csv"
    only.write_text("kind,number,name,label\nmemory,X,X,16GB 1Rx8 PC5-4800B-SA0\n")
    assert run(capsys, *args, str(only))[0] == 1  # the answer is no
    only.write_text("kind,number,name,label\nmemory,X,X,16GB 3Rx5 PC5-4800B-SA0\n")
    code, out, said = run(capsys, *args, str(only))
    assert (code, out) == (2, None) and "row 2" in said
    for bad in (["plan", "/nowhere.json"], ["read", machine], ["plan", machine], ["prove", machine, machine]):
        code, out, said = run(capsys, *bad)
        assert (code, out) == (2, None) and said
    assert run(capsys, "fit", "--machine", machine, "--configuration", "mk9", "--parts", str(only))[0] == 2
    empty = tmp_path / "bundle"
    empty.mkdir()
    assert run(capsys, "read", str(empty))[0] == 1
    (empty / "meminfo.txt").write_text("MemTotal: 8000000 kB\n")
    code, read, _ = run(capsys, "read", str(empty))
    assert (code, read["visible_mb"]) == (0, 7812)


# -- parts --------------------------------------------------------------------------------------
def test_a_question_from_the_command_line(capsys, tmp_path) -> None:
    files = sorted(str(p) for p in (DATA / "machines").glob("*.json"))
    beside = ["--machines", *files, "--parts", str(DATA / "parts.csv")]

    def ask(text: str) -> tuple[int, dict, str]:
        code = cli.main(["ask", text, *beside])
        said = capsys.readouterr()
        return code, json.loads(said.out or "{}"), said.err

    code, found, _ = ask("Drover 14, OM4S-16G26")
    assert code == cli.DONE and found["says"].startswith("Yes: ") and found["seats"][0]["verdict"] == "seats"
    code, found, _ = ask("Drover 14, WH4-1T0-80M")
    assert code == cli.NO and found["says"].startswith("No: 80 mm long")
    # What is not understood is neither: its own exit, and why on standard error.
    code, found, told = ask("Drover 15, WH4-1T0-80M")
    assert code == cli.BAD_INPUT and "Drover 14" in told and not found["seats"]
    assert (
        cli.main(["ask", "Drover 14", "--machines", files[0], files[0], "--parts", str(DATA / "parts.csv")])
        == cli.BAD_INPUT
    )
    assert "two of the files" in capsys.readouterr().err


def test_parts_survive_both_formats() -> None:
    assert read_csv(write_csv(PARTS)) == PARTS
    assert read_parts(write_parts_json(PARTS)) == PARTS


def test_a_label_in_a_row_is_read() -> None:
    part = read_csv("kind,number,name,label\nmemory,A,A,8GB 1Rx16 PC4-2666V-SC0-11\n")[0]
    assert isinstance(part, MemoryModule)
    assert (part.capacity_gb, part.ranks, part.chip_width, part.cl, part.voltage_mv, part.spreader_um) == (
        8,
        1,
        16,
        19,
        1200,
        None,
    )


@pytest.mark.parametrize(
    ("row", "column"),
    [
        ("memory,A,A,16GB 3Rx5 PC4-3200AA,,,", "label"),
        ("memory,A,A,16GB 2Rx8 PC4-3200AA,,32,", "label"),  # the label proves 16
        ("m2_drive,A,A,,2280-D9-M,500,", "code"),
        ("m2_drive,A,A,,2280-S3-M,0,", "capacity_gb"),
        ("m2_drive,A,A,,2280-S3-M,much,", "capacity_gb"),
        ("m2_drive,,A,,2280-S3-M,500,", "number"),
        ("m2_drive,A\x001,A,,2280-S3-M,500,", "number"),  # not to be seen
        ("m2_drive,GOOD\u200b,A,,2280-S3-M,500,", "number"),  # looks like the good one
        (f"m2_drive,{'A' * 101},A,,2280-S3-M,500,", "number"),
        ("spaceship,A,A,,,,", "kind"),
        ("m2_drive,A,A,,2280-S3-M,500,Quay Supply", "offers"),
        ("m2_drive,A,A,,2280-S3-M,500,Quay Supply -3", "offers"),
        ("m2_drive,A,A,,2280-S3-M,500,Quay Supply 3.005", "offers"),
        ("m2_drive,A,A,,2280-S3-M,500,Quay Supply nan", "offers"),
        ("m2_drive,A,A,,2280-S3-M,500,,more,cells", "row"),
    ],
)
def test_a_bad_row_is_named_by_row_and_column(row, column) -> None:
    good = "m2_drive,GOOD,Good,,2280-S3-M,500,Quay Supply 30.00 x2"
    with pytest.raises(RowsRefused) as refused:
        read_csv(f"kind,number,name,label,code,capacity_gb,offers\n{good}\n{row}\n")
    assert all(r == 3 for r, _, _ in refused.value.problems)
    assert column in {c for _, c, _ in refused.value.problems} or column == "kind"


def test_every_bad_row_is_reported_and_doubles_too() -> None:
    rows = [
        "kind,number,name,capacity_gb",
        "bay_drive,A,A,500",
        "bay_drive,B,B,x",
        "bay_drive,A,A,1000",
        "bay_drive,C,C,-1",
    ]
    with pytest.raises(RowsRefused) as refused:
        read_csv("\n".join(rows))
    assert [r for r, _, _ in refused.value.problems] == [3, 4, 5]


@pytest.mark.parametrize(
    "text", ["", "number,name\n1,2\n", "kind,number,name,colour\n", '{"a": 1}', "[1]", '[{"kind": "memory"}]', "{"]
)
def test_no_parts_file(text) -> None:
    with pytest.raises(InputError):
        read_parts(text)


@given(st.text(max_size=200))
def test_no_text_breaks_the_parts_reader(text) -> None:
    try:
        read_parts(text)
    except InputError as refused:
        assert refused.what


@given(st.lists(st.tuples(st.sampled_from(COLUMNS), st.text(max_size=12)), max_size=6))
def test_no_cell_breaks_the_csv_reader(cells) -> None:
    row = dict(cells) | {"number": "A", "name": "A"}
    clean = {k: v.replace('"', "").replace("\r", "").replace("\n", "") for k, v in row.items()}
    text = ",".join(clean) + "\n" + ",".join(f'"{v}"' for v in clean.values()) + "\n"
    try:
        read_csv(text)
    except InputError as refused:
        assert refused.what


def test_too_large_and_not_text() -> None:
    with pytest.raises(InputError, match="at most 10 MB"):
        text_of(b"x" * (MAX_BYTES + 1), "big.csv")
    with pytest.raises(InputError, match="UTF-8"):
        text_of(b"\xff\xfe\x00", "odd.csv")
    with pytest.raises(InputError, match="line 1, column 2"):
        read_json(PlanRequest, "{", "request.json")
    with pytest.raises(InputError, match="nested too deep|no object|no list"):
        read_json(PlanRequest, "[" * 100_000, "request.json")


# -- bundles ------------------------------------------------------------------------------------
def test_junk_of_real_tools_is_no_figure() -> None:
    text = (
        "# dmidecode 3.4\nHandle 0x0011, DMI type 17, 40 bytes\nMemory Device\n\tSize: No Module Installed\n"
        "\tForm Factor: SODIMM\n\tLocator: DIMM 0\n\tType: Unknown\n\tSpeed: Unknown\n\tPart Number: None\n\n"
        "Handle 0x0012, DMI type 17, 40 bytes\nMemory Device\n\tSize: 8192 MB\n\tForm Factor: SODIMM\n\tLocator: DIMM 1\n"
        "\tType: DDR4\n\tSpeed: 2667 MT/s\n\tPart Number: ABC-1            \n\tConfigured Memory Speed: 2667 MT/s\n\n"
    )
    empty, held = read_bundle({"dmidecode.txt": text}).modules
    assert (empty.present, empty.size_mb, empty.rated_mts, empty.part_number, empty.generation) == (
        False,
        None,
        None,
        "",
        None,
    )
    assert (held.size_mb, held.running_mts, held.part_number, held.generation) == (8192, 2667, "ABC-1", 4)


def test_what_is_not_understood_is_listed() -> None:
    reading = read_bundle({"lsblk.json": "{", "letter.txt": "dear", "upower.txt": "nothing", "uname.txt": "x86_64"})
    assert [n.partition(":")[0] for n in reading.not_understood] == ["letter.txt", "lsblk.json", "upower.txt"]
    assert reading.understood == ("uname.txt",)


def zipped(names: dict[str, str], how: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", how) as z:
        for name, text in names.items():
            z.writestr(name, text)
    return out.getvalue()


def test_a_zip_is_read_and_stays_inside_itself() -> None:
    assert bundle.files_of(zipped({"a/meminfo.txt": "MemTotal: 1 kB"})) == {"a/meminfo.txt": b"MemTotal: 1 kB"}
    for bad in ("../x.txt", "/etc/x.txt", "a/b/c/d/e.txt", "..\\x.txt"):
        with pytest.raises(InputError, match="leaves the bundle"):
            bundle.files_of(zipped({bad: "x"}))
    with pytest.raises(InputError, match="unpacks to more"):
        bundle.files_of(zipped({"big.txt": "0" * (MAX_BYTES + 1)}))
    two = bundle.files_of(zipped({"a/free.txt": "1", "b/free.txt": "2"}))  # two folders, two files
    assert two == {"a/free.txt": b"1", "b/free.txt": b"2"}
    with pytest.raises(InputError, match="two files of one path"):
        bundle.files_of(zipped({"a\\free.txt": "1", "a/free.txt": "2"}))
    with pytest.raises(InputError, match="none we keep"):
        bundle.files_of(zipped({"n" * 201: "x"}))
    with pytest.raises(InputError, match="a way we do not open"):
        bundle.files_of(zipped({"free.txt": "1" * 999}, zipfile.ZIP_BZIP2))
    liar = bytearray(zipped({"big.txt": "0" * (MAX_BYTES + 1)}))
    for at in (liar.index(b"PK\x03\x04") + 22, liar.index(b"PK\x01\x02") + 24):  # the sizes the headers claim
        liar[at : at + 4] = (10).to_bytes(4, "little")
    with pytest.raises(InputError, match=r"unpacks to more|cannot be opened"):
        bundle.files_of(bytes(liar))
    with pytest.raises(InputError, match="at most 100"):
        bundle.files_of(zipped({f"{i}.txt": "" for i in range(101)}))
    with pytest.raises(InputError, match="cannot be opened"):
        bundle.files_of(b"PK not a zip")


@pytest.mark.parametrize("data", [b"", b"{}", b"[]", b'{"format": "insertum-bundle/1"}', b'{"format": "insertum-bundle/1", "files": {"a": 1}}', b"\xff"])  # fmt: skip
def test_no_bundle(data) -> None:
    with pytest.raises(InputError):
        bundle.files_of(data)


def test_unknown_fault_and_expected_file() -> None:
    with pytest.raises(InputError, match="without memory"):
        laptop.bundle(build_today(DROVER, {"memory-a": None, "memory-b": None}))
    with pytest.raises(InputError, match="no fault"):
        laptop.bundle(build_today(DROVER), ["gremlins"])
    assert read_json(Expected, (DOCS / "expected.example.json").read_text(), "x").sockets == ("memory-b",)


#: Letters that text files, sheets and lines trip over.
ODD = "aé漢😀 \t\n\r\u0085\u2028\u2029\u200b\"',;|=+-@\\0️⃣"


@given(name=st.text(ODD, min_size=1, max_size=12), note=st.text(ODD, max_size=20), maker=st.text(ODD, max_size=6))
def test_every_text_of_a_part_that_was_taken_comes_back_from_its_list(name: str, note: str, maker: str) -> None:
    drive = PARTS[0].model_copy(update={"name": "x"}).model_dump(mode="json")
    try:
        part = part_from({**drive, "name": name, "note": note, "maker": maker})
    except InputError:
        return
    assert read_csv(write_csv([part])) == [part]
