"""The simulated laptop, read back: the same machine, whatever is fitted and whatever is wrong."""

import json
import random

import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from insertum.core.base import InputError
from insertum.core.fit.judge import judge_equipped
from insertum.core.identify.identify import Library, identify
from insertum.core.machine.part import Accessory, Cellular, M2Drive, MemoryModule, Pack, Radio
from insertum.core.machine.shape import Machine
from insertum.core.prove.compare import compare
from insertum.core.prove.expect import expect
from insertum.core.standards import ddr, m2, spd
from insertum.core.survey.bench import build_today
from insertum.core.survey.contradict import contradictions
from insertum.core.survey.draft import from_reading
from insertum.core.survey.fill import filled, observed
from insertum.core.survey.recognise import recognise
from insertum.demo import laptop
from insertum.formats import bundle
from insertum.formats.tools import READERS, read_bundle

from ..core import made
from .test_formats import CONFIGURATIONS, MACHINES, PARTS

SHELF = [p for p in PARTS if isinstance(p, Accessory)]
FITTING = [p for p in PARTS if not isinstance(p, Accessory)]
LIBRARY = Library(MACHINES)


def usable(laid):
    """By slot: what goes in as the machine stands, and what is there."""
    build = build_today(laid)
    found = {}
    for slot in laid.slots:
        goes = [p for p in FITTING if p.kind != "battery" or slot.kind == "battery"]
        judged = [(p, judge_equipped(build, slot.id, p, SHELF).verdict) for p in goes]
        found[slot.id] = [p for p, v in judged if v is not None and v.usable][:12] + (
            [slot.fitted] if slot.fitted else [None]
        )
    return found


CHOICES = {c: (m.configured(c), usable(m.configured(c))) for m, c in CONFIGURATIONS}


@st.composite
def laptops(draw):
    laid, choices = CHOICES[draw(st.sampled_from(sorted(CHOICES)))]
    fitted = {slot: draw(st.sampled_from(parts)) for slot, parts in choices.items()}
    drives = [p.number for p in fitted.values() if isinstance(p, M2Drive)]
    assume(len(set(drives)) == len(drives))  # two alike cannot be told apart by any tool
    assume(laid.memory.soldered or any(isinstance(p, MemoryModule) for p in fitted.values()))
    return build_today(laid, fitted)


def worse(build, faults=()) -> set[str]:
    report = compare(expect(build), reading_of(build, faults))
    return {e.what for e, p in zip(expect(build).expectations, report.proofs, strict=True) if p.outcome == "worse"}


def reading_of(build, faults=()):
    reading = read_bundle(bundle.files_of(laptop.bundle_json(build, faults).encode()))
    assert not reading.not_understood
    return reading


@settings(max_examples=120, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(laptops())
def test_reading_it_back_gives_the_same_machine(build) -> None:
    reading = reading_of(build)
    laid = build.machine
    named = identify(reading.texts, LIBRARY)
    assert named.remaining[0] == f"{laid.machine.id}/{laid.configuration.id}"
    assert not contradictions(laid, reading, PARTS)
    found = filled(laid, reading, PARTS)
    for slot, part in build.fitted.items():
        sure = isinstance(part, MemoryModule | Radio | Cellular | Pack) or (part is None and slot.startswith("memory"))
        assert slot in found or not sure, slot
        if slot in found and part is not None:
            assert found[slot] is not None and found[slot].number == part.number
    assert not worse(build)
    assert all(i.crc_ok for i in reading.images)


#: What each fault makes worse where the build has it, and nothing else.
TELLS = {
    "module_not_home": {"memory_total", "memory_visible", "memory_socket"},
    "wrong_socket": {"memory_socket"},
    "narrow_link": {"drive_link"},
    "slow_speed": {"memory_speed"},
    "no_bluetooth": {"bluetooth"},
    "allowlist_block": {"radio", "bluetooth"},
    "swapped_leads": set(),
    "worn_pack": {"battery"},
    "hidden_drives": {"drive"},
}


@settings(max_examples=150, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(laptops(), st.sampled_from(sorted(laptop.FAULTS)))
def test_each_fault_tells_on_what_it_breaks_and_on_nothing_else(build, fault) -> None:
    wanted = {e.what for e in expect(build).expectations}
    modules = build.modules()
    assume(fault != "module_not_home" or (modules and (len(modules) > 1 or build.machine.memory.soldered)))
    found = worse(build, [fault])
    assert found <= TELLS[fault]
    speed = next((e.figure for e in expect(build).expectations if e.what == "memory_speed"), 0) or 0
    bites = {
        "module_not_home": bool(modules),
        "wrong_socket": bool(modules) and len(modules) < len(build.memory_slots),
        "narrow_link": any(e.link and e.link.lanes > 1 for e in expect(build).expectations),
        "slow_speed": speed > 2400,
        "no_bluetooth": "bluetooth" in wanted,
        "allowlist_block": "radio" in wanted,
        "hidden_drives": "drive_link" in wanted,
        "worn_pack": "battery" in wanted,
        "swapped_leads": False,
    }
    assert bool(found) == bites[fault], (fault, found)


def test_a_lead_off_shows_on_its_chain() -> None:
    build = build_today(CHOICES["mk2-rill-430"][0])
    lines = observed(build.machine, reading_of(build, ["swapped_leads"]), PARTS)["radio"]
    assert any("look at the leads" in line for line in lines)
    assert not any("leads" in line for line in observed(build.machine, reading_of(build), PARTS)["radio"])


def test_a_reading_fills_what_runs_and_contradicts_what_the_library_says() -> None:
    laid = CHOICES["mk2-rill-430"][0]
    slow = build_today(laid, {"memory-b": next(p for p in FITTING if p.number == "PM4S-08G32A1")})
    reading = reading_of(slow)
    assert observed(laid, reading, PARTS)["memory-b"] == ("runs 2933, rated 3200: held back",)
    assert observed(laid, reading, PARTS)["drive-1"] == (
        "link PCIe 3 ×4, the drive could PCIe 3 ×4, its slot PCIe 3 ×4",
    )
    assert reading.battery is not None and reading.battery.wear_percent == 21  # 41 of 52 Wh
    odd = reading.model_copy(update={"processor": "Corvane Rill 999", "modules": reading.modules[1:], "devices": 1})
    says = [c.says for c in contradictions(laid, odd, PARTS)]
    assert [s.split(":")[0] for s in says] == [
        "Another processor than this configuration has",
        "Another amount of soldered memory.",
    ]
    fast = reading.model_copy(
        update={"modules": tuple(m.model_copy(update={"running_mts": 3200}) for m in reading.modules)}
    )
    (faster,) = contradictions(laid, fast, PARTS)
    assert (faster.attribute, faster.value, faster.library) == ("memory.speed_mts", 3200, "2933 MT/s")


@pytest.mark.parametrize("configuration", sorted(CHOICES))
def test_a_reading_drafts_a_machine_that_is_sound_and_knows_its_limits(configuration) -> None:
    laid = CHOICES[configuration][0]
    draft = Machine.model_validate(from_reading(reading_of(build_today(laid))))
    again = draft.configured(draft.configurations[0].id)
    assert sum(s.kind == "memory" for s in again.slots) == sum(s.kind == "memory" for s in laid.slots)
    assert again.configuration.processor == laid.configuration.processor
    for slot in again.slots:  # nothing of it seats before somebody has looked
        for part in (made.module(), made.drive(), made.radio(), made.pack()):
            verdict = judge_equipped(build_today(again), slot.id, part, []).verdict
            assert verdict is None or not verdict.usable
    assert identify(reading_of(build_today(laid)).texts, [draft]).settled


# -- fuzzing ------------------------------------------------------------------------------------
def mutated(chance: random.Random, text: str) -> str:
    """Cut, doubled, swapped, translated or littered with junk."""
    i, j = sorted((chance.randrange(len(text) + 1), chance.randrange(len(text) + 1)))
    junk = chance.choice(["\x00", "Unknown", "-1", "{", "]", "ä漢", "9" * 30, "\t\t", ": ", "GB", "\ufffd", '"'])
    return chance.choice(
        [
            text[:i],
            text[i:],
            text[:i] + text[j:],
            text[:i] + junk + text[i:],
            text[:i] + text[i:j] * 2,
            text.upper(),
            junk,
        ]
    )


def test_four_thousand_mutated_readings_never_raise() -> None:
    chance = random.Random(3)
    bundles = [laptop.bundle(build_today(laid)) for laid, _ in CHOICES.values()]
    cim = '{"Win32_PhysicalMemory": [{"Capacity": "8589934592", "Speed": 3200, "PartNumber": "A  ", "FormFactor": 12}],' \
          ' "Win32_DiskDrive": {"Model": "X", "Size": 500107862016}, "Win32_Battery": {"DesignCapacity": 45000}}'  # fmt: skip
    for n in range(4000):
        files = chance.choice(bundles) | {"cim.json": cim, "battery.txt": "POWER_SUPPLY_ENERGY_FULL_DESIGN=45000000\n"}
        name = chance.choice(sorted(files))
        text = mutated(chance, files[name])
        reading = read_bundle({name: text if n % 2 else text.encode("utf-16-le", errors="replace")})
        assert set(reading.understood) <= {name}
    assert set(READERS) >= {"dmidecode", "lspci", "lsblk", "nvme", "upower", "battery", "cim", "vmstat", "df"}


def test_eight_thousand_mutated_labels_are_read_or_refused_with_a_reason() -> None:
    chance = random.Random(4)
    labels = ["16GB 2Rx8 PC4-3200AA-SE1-11", "16GB 1Rx8 PC5-4800B-SA0-1010-XT", "4GB 1Rx8 PC3L-12800S-11-11-B2", "2280-D2-B-M",
              "1TB NVMe PCIe 4 x4 M.2 2280-S3-M", "500GB SATA 7 mm"]  # fmt: skip
    readers = [ddr.read_label, m2.read_code, lambda t: recognise(t, PARTS[:20])]
    for _ in range(8000):
        text, read = mutated(chance, chance.choice(labels)), chance.choice(readers)
        try:
            read(text)
        except InputError as refused:
            assert refused.what and refused.where


def test_eight_thousand_mutated_images_are_read_refused_or_fail_their_checksum() -> None:
    chance = random.Random(5)
    plain = spd.image(spd.Spd(generation=4, ranks=2, chip_width=8, density_gbit=8, module_type="S", grade_mts=3200, cl=22, trfc_ns=350, part_number="PM4S"))  # fmt: skip
    old = spd.image(spd.Spd(generation=3, ranks=1, chip_width=8, density_gbit=4, module_type="S", grade_mts=1600, cl=11, voltage_mv=1350))  # fmt: skip
    for _ in range(8000):
        data = bytearray(chance.choice([plain, old]))
        spot = chance.randrange(126)
        data[spot] ^= 1 << chance.randrange(8)
        if chance.random() < 0.2:
            data = data[: chance.randrange(len(data))]
        try:
            read = spd.read_spd(bytes(data))
        except InputError as refused:
            assert refused.what
            continue
        # Every single flipped bit that the checksum covers is found.
        assert not read.crc_ok or (data[2] == 0x0B and spot >= 117)


@pytest.mark.parametrize(("devices", "objects"), [(None, False), (2, False), (3, True), (1, True)])
def test_only_a_count_of_places_contradicts_the_number_of_sockets(devices, objects) -> None:
    """8 GB soldered and one empty socket: a CIM inventory lists the chips alone, the array counts both."""
    classes = {"Win32_PhysicalMemory": [{"Capacity": 8 * 2**30, "SMBIOSMemoryType": 26, "FormFactor": 21}]}
    if devices:
        classes["Win32_PhysicalMemoryArray"] = [{"MemoryDevices": devices, "Use": 3}]
    reading = read_bundle({"cim.json": json.dumps(classes)})
    says = [c.says for c in contradictions(CHOICES["mk2-rill-430"][0], reading, PARTS)]
    assert (
        says
        == ["The firmware lists another number of memory sockets. A second pad on the board is no socket: look."]
        * objects
    )
