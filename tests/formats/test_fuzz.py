"""Mutated readings, labels, images and files: a result or a documented error.

5,000 in the suite; ``make fuzz`` runs 100,000 (INSERTUM_FUZZ), each in under two seconds of processor time.
"""

import io
import json
import os
import random
import time
import zipfile
from typing import Any

from insertum.core.errors import InputError
from insertum.core.fit.judge import because, judge_equipped
from insertum.core.machine.processor import Processor, dressed
from insertum.core.machine.shape import Machine
from insertum.core.plan.answer import plan
from insertum.core.plan.request import PlanRequest
from insertum.core.prove.compare import compare
from insertum.core.prove.expect import Expected, expect
from insertum.core.reading import Reading
from insertum.core.standards import m2, spd, spd_image
from insertum.core.standards.module_label import read_label
from insertum.core.survey.current_build import build_today
from insertum.core.survey.draft import from_reading
from insertum.core.survey.match_devices import Matched
from insertum.core.survey.reading_summary import summarise
from insertum.core.survey.recognise import recognise
from insertum.demo import laptop
from insertum.formats import bundle
from insertum.formats.json_errors import read_json
from insertum.formats.readings import READERS, read_bundle
from tests import draws

from ..core import made
from .test_formats import CONFIGURATIONS, PARTS

COUNT = int(os.environ.get("INSERTUM_FUZZ", "5000"))
LONGEST_S = 2 if "INSERTUM_FUZZ" in os.environ else float("inf")  # the suite measures no time
JUNK = [
    "\x00", "Unknown", "-1", "{", "]", "ä漢", "9" * 30, "9" * 5000, "\t\t", ": ", "GB", "\ufffd", '"', "\ud800", "NaN", "[" * 300,
    "0x", "\r", "Speed 8GT/s, Width x", "LnkCap:", "Handle 0x0001, DMI type 17, 40 bytes\n", "/", "..", "1e999", ",",
]  # fmt: skip


def mutated(chance: random.Random, text: str) -> str:
    """Cut, doubled, swapped, translated, littered with junk, or blown up."""
    i, j = sorted((chance.randrange(len(text) + 1), chance.randrange(len(text) + 1)))
    junk = chance.choice(JUNK)
    return chance.choice(
        [
            text[:i],
            text[i:],
            text[:i] + text[j:],
            text[:i] + junk + text[i:],
            text[:i] + text[i:j] * 2,
            text.upper(),
            junk,
            text[:i] + junk * 200 + text[j:],
            text.replace(chance.choice(text or " "), junk, 1),
        ]
    )


LAIDS = [m.configured(c) for m, c in CONFIGURATIONS]
BUNDLES = [
    (laid, laptop.bundle(build_today(laid), load=chosen)) for laid in LAIDS for chosen in (None, laptop.SimulatedLoad())
]
CIM = (
    '{"Win32_PhysicalMemory": [{"Capacity": "8589934592", "Speed": 3200, "PartNumber": "A  ", "FormFactor": 12}],'
    ' "Win32_DiskDrive": {"Model": "X", "Size": 500107862016}, "Win32_Battery": {"DesignCapacity": 45000}}'
)
LABELS = [
    "16GB 2Rx8 PC4-3200AA-SE1-11", "16GB 1Rx8 PC5-4800B-SA0-1010-XT", "4GB 1Rx8 PC3L-12800S-11-11-B2", "2280-D2-B-M",
    "1TB NVMe PCIe 4 x4 M.2 2280-S3-M", "500GB SATA 7 mm",
]  # fmt: skip
IMAGES = [
    spd_image.image(spd.Spd(generation=3, ranks=1, chip_width=8, density_gbit=4, module_type="S", grade_mts=1600, cl=11, voltage_mv=1350)),
    spd_image.image(spd.Spd(generation=4, ranks=2, chip_width=8, density_gbit=8, module_type="S", grade_mts=3200, cl=22, trfc_ns=350, part_number="PM4S")),
    spd_image.image(spd.Spd(generation=5, ranks=1, chip_width=8, density_gbit=16, module_type="S", grade_mts=4800, cl=40, trfc_ns=295)),
]  # fmt: skip


def a_reading(chance: random.Random) -> None:
    laid, files = chance.choice(BUNDLES)
    files = files | {"cim.json": CIM}
    name = chance.choice(sorted(files))
    text = mutated(chance, files[name])
    data = text.encode("utf-16-le", errors="replace") if chance.random() < 0.1 else text
    some = {name: data} if chance.random() < 0.5 else files | {name: data}
    reading = read_bundle(some)
    assert set(reading.understood) <= set(some)
    # What the reading says is used at once: nothing of it may break what reads it.
    (
        summarise(Matched(laid, reading, PARTS)),
        Matched(laid, reading, PARTS).fitted,
        Matched(laid, reading, PARTS).signs,
        Matched(laid, reading, PARTS).observed,
    )
    Machine.model_validate(from_reading(reading, PARTS))


def a_label(chance: random.Random) -> None:
    text, read = mutated(chance, chance.choice(LABELS)), chance.choice(READ_LABEL)
    read(text)


READ_LABEL = [read_label, m2.read_code, lambda t: recognise(t, PARTS[:20])]


def an_image(chance: random.Random) -> None:
    data = bytearray(chance.choice(IMAGES))
    five = data[2] == 0x12
    spot = chance.randrange(510 if five else 126)
    data[spot] ^= 1 << chance.randrange(8)
    cut = chance.random() < 0.2
    if cut:
        data = data[: chance.randrange(len(data))]
    if chance.random() < 0.2:
        spd.from_hex(mutated(chance, data.hex(" ")))
        return
    read = spd.read_spd(bytes(data))
    # Every single flipped bit that the checksum covers is found.
    assert not read.crc_ok or (data[2] == 0x0B and spot >= 117) or data[2] not in (0x0B, 0x0C, 0x12)


def a_file(chance: random.Random) -> None:
    _, files = chance.choice(BUNDLES)
    if chance.random() < 0.5:
        text = json.dumps({"format": "insertum-bundle/1", "files": {"free.txt": files["free.txt"]}})
        read_bundle(bundle.files_of(mutated(chance, text).encode(errors="surrogatepass")))
        return
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", chance.choice([zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED, zipfile.ZIP_BZIP2])) as z:
        for name in chance.sample(sorted(files), 3):
            z.writestr(chance.choice(["", "a/", "a/b/"]) + name, files[name])
    data = bytearray(out.getvalue())
    for _ in range(chance.randrange(6)):
        data[chance.randrange(len(data))] = chance.randrange(256)
    bundle.files_of(bytes(data[: chance.randrange(len(data))] if chance.random() < 0.2 else data))


#: Values where others are wanted.
ODD = [
    None,
    -(2**63),
    2**63,
    10**9,
    -1,
    0,
    1.5,
    True,
    "",
    "x",
    "9" * 300,
    [],
    {},
    [None],
    {"value": 1},
    [[]],
    {"value": None, "source": "documented"},
]


def bent(chance: random.Random, value: Any) -> str:
    """JSON with one value of it another, gone or doubled; sometimes its text mutated."""
    if chance.random() < 0.2:
        return mutated(chance, json.dumps(value))
    whole = json.loads(json.dumps(value))
    here: Any = whole
    for _ in range(chance.randrange(1, 7)):
        keys = list(here) if isinstance(here, dict) else list(range(len(here)))
        if not keys:
            break
        key = chance.choice(keys)
        if not isinstance(here[key], dict | list) or chance.random() < 0.2:
            here[key] = chance.choice(ODD)
            break
        here = here[key]
    return json.dumps(whole)


MACHINES = [json.loads(path.read_text()) for path in sorted((made.DEMO / "machines").glob("*.json"))]
PROCESSORS = json.loads((made.DEMO / "processors.json").read_text())
EXPECTED = [expect(build_today(laid)).model_dump(mode="json") for laid in LAIDS[:4]]
SMALL = [p for p in PARTS if p.kind in ("memory", "m2_drive", "radio", "battery", "bay_drive")][::9]


def a_machine(chance: random.Random) -> None:
    machine = read_json(Machine, bent(chance, chance.choice(MACHINES)), "machine")
    laid = machine.configured(machine.configurations[0].id)
    build = build_today(laid)
    for part in chance.sample(SMALL, 2):
        for slot in laid.slots:
            found = judge_equipped(build, slot.id, part, [])
            because(build, found)


def a_processor(chance: random.Random) -> None:
    processor = read_json(Processor, bent(chance, chance.choice(PROCESSORS)), "processor")
    machine = Machine.model_validate(chance.choice(MACHINES))
    dressed(machine, [processor]).configured(machine.configurations[0].id)


def a_request(chance: random.Random) -> None:
    laid = chance.choice(LAIDS)
    asked = {
        "machine": laid.machine.model_dump(mode="json"), "configuration": laid.configuration.id,
        "parts": [p.model_dump(mode="json") for p in SMALL[:3]],
        "needs": [{"kind": "memory_capacity", "floor": 8, "comfort": 16, "ceiling": 32}], "use": {}, "terms": {},
    }  # fmt: skip
    request = read_json(PlanRequest, bent(chance, asked), "request")
    if chance.random() < 0.05:
        plan(request)


def an_expectation(chance: random.Random) -> None:
    expected = read_json(Expected, bent(chance, chance.choice(EXPECTED)), "expected")
    compare(expected, read_bundle(chance.choice(BUNDLES)[1]) if chance.random() < 0.1 else Reading())


def test_mutated_input_is_read_or_refused_in_words() -> None:
    chance = draws.chance(3)
    kinds = [
        a_reading,
        a_label,
        a_machine,
        a_reading,
        a_label,
        a_processor,
        an_image,
        a_request,
        a_file,
        an_expectation,
    ]
    for n in range(COUNT):
        began = time.process_time()
        try:
            kinds[n % len(kinds)](chance)
        except InputError as refused:
            assert refused.what and refused.where
        assert time.process_time() - began < LONGEST_S, (draws.SEED, n, kinds[n % len(kinds)].__name__)
    assert set(READERS) >= {
        "dmidecode",
        "lspci",
        "lsblk",
        "nvme",
        "upower",
        "power",
        "cim",
        "vmstat",
        "df",
        "usb",
        "places",
    }
