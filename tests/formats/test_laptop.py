"""The simulated laptop, read back: the same machine, whatever is fitted and whatever is wrong."""

import json

import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from insertum.core.fit.judge import judge_equipped
from insertum.core.identify.identify import identify
from insertum.core.identify.library import Library
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.drive_parts import M2Drive
from insertum.core.machine.part import Accessory, MemoryModule, Pack
from insertum.core.machine.radio_parts import Cellular, Radio
from insertum.core.machine.shape import Machine
from insertum.core.prove.compare import compare
from insertum.core.prove.expect import expect
from insertum.core.reading import Reading
from insertum.core.survey.contradict import contradictions
from insertum.core.survey.current_build import build_today
from insertum.core.survey.draft import from_reading
from insertum.core.survey.match_devices import Matched
from insertum.core.survey.reading_summary import summarise
from insertum.demo import laptop
from insertum.formats import bundle
from insertum.formats.readings import read_bundle

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


def reading_of(build, faults=(), load=None, locale="C"):
    reading = read_bundle(bundle.files_of(laptop.bundle_json(build, faults, load, locale).encode()))
    assert not reading.not_understood
    return reading


@settings(max_examples=120, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(laptops())
def test_reading_it_back_gives_the_same_machine(build) -> None:
    reading = reading_of(build)
    laid = build.machine
    named = identify(reading.texts, LIBRARY)
    assert named.remaining[0] == f"{laid.machine.id}/{laid.configuration.id}"
    assert not contradictions(Matched(laid, reading, PARTS))
    found = Matched(laid, reading, PARTS).fitted
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
    "slow_speed": {"memory_speed"},
    "profile_off": {"memory_speed"},
    "narrow_link": {"drive_link"},
    "hidden_drives": {"drive"},
    "drive_missing": {"drive"},
    "bluetooth_driver": {"bluetooth"},
    "allowlist_block": {"radio"},
    "lead_off": {"signal"},
    "worn_pack": {"battery"},
    "weak_adapter": {"supply"},
}


#: Words of the true cause: among the first two that are named.
CAUSE = {
    "module_not_home": "not fully home", "wrong_socket": "wrong socket", "slow_speed": "holds the speed down", "profile_off": "profile",
    "narrow_link": "a lane has no contact", "hidden_drives": "storage mode", "drive_missing": "not home", "bluetooth_driver": "driver",
    "allowlist_block": "card list", "lead_off": "lead is off", "worn_pack": "worn", "weak_adapter": "too weak",
}  # fmt: skip


@settings(max_examples=200, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(laptops(), st.sampled_from(sorted(laptop.FAULTS)))
def test_each_fault_tells_on_what_it_breaks_and_on_nothing_else(build, fault) -> None:
    expected = expect(build).expectations
    wanted = {e.what for e in expected}
    modules = build.modules()
    assume(fault != "module_not_home" or (modules and (len(modules) > 1 or build.machine.memory.soldered)))
    found = worse(build, [fault])
    assert found <= TELLS[fault]
    reading = reading_of(build, [fault])
    laid = build.machine
    assert identify(reading.texts, LIBRARY).remaining[0] == f"{laid.machine.id}/{laid.configuration.id}"
    assert not contradictions(Matched(laid, reading, PARTS))
    seen = Matched(laid, reading, PARTS).fitted
    moved = fault in ("module_not_home", "wrong_socket")  # firmware sees the sockets otherwise than they are
    for slot, part in seen.items():
        here = build.now(slot)
        assert (part and part.number) == (here and here.number) or (moved and slot.startswith("memory")), slot
    speed = next((e.figure for e in expected if e.what == "memory_speed"), 0) or 0
    bites = {
        "module_not_home": bool(modules),
        "wrong_socket": bool(modules) and len(modules) < len(build.memory_slots),
        "slow_speed": speed > 2400,
        "profile_off": False,  # no demo module carries a profile: the case below has one
        "narrow_link": any(e.link and e.link.lanes > 1 for e in expected),
        "hidden_drives": "drive_link" in wanted,
        "drive_missing": "drive" in wanted,
        "bluetooth_driver": "bluetooth" in wanted,
        "allowlist_block": "radio" in wanted,
        "worn_pack": "battery" in wanted,
        "lead_off": "signal" in wanted,
        "weak_adapter": "supply" in wanted,
    }
    assert bool(found) == bites.get(fault, False), (fault, found)
    if found:
        named = [c for p in compare(expect(build), reading).proofs for c in p.causes[:2]]
        assert any(CAUSE[fault] in c.lower() for c in named), (fault, named)


def test_a_profile_that_is_not_applied_runs_at_the_base_grade() -> None:
    applies = made.machine(memory_applies_profiles=True, memory_speed_mts=3200)
    quick = made.module("PROFILE", grade_mts=2400, profile_mts=3200)
    build = build_today(applies, {"memory-a": quick})
    speed = {e.what: e.figure for e in expect(build).expectations}["memory_speed"]
    assert speed == 3200 and not worse(build) & {"memory_speed"}
    assert "memory_speed" in worse(build, ["profile_off"])


def test_a_weak_supply_shows_in_survey() -> None:
    build = build_today(CHOICES["mk2-rill-430"][0])
    for faults, watts, drains in (([], 65, False), (["weak_adapter"], 30, True)):
        reading = reading_of(build, faults)
        assert reading.adapter and reading.adapter.most_mw == watts * 1000
        said = summarise(Matched(build.machine, reading, PARTS)).proved
        assert any("still drains" in line for line in said) is drains


def test_a_lead_off_shows_on_its_chain() -> None:
    build = build_today(CHOICES["beck-450"][0])
    lines = Matched(build.machine, reading_of(build, ["lead_off"]), PARTS).observed["radio"]
    assert any("look at the leads" in line for line in lines)
    assert not any("leads" in line for line in Matched(build.machine, reading_of(build), PARTS).observed["radio"])


def test_a_reading_fills_what_runs_and_contradicts_what_the_library_says() -> None:
    laid = CHOICES["mk2-rill-430"][0]
    slow = build_today(laid, {"memory-b": next(p for p in FITTING if p.number == "PM4S-08G32A1")})
    reading = reading_of(slow)
    assert Matched(laid, reading, PARTS).observed["memory-b"] == ("runs 2933, rated 3200: held back",)
    assert Matched(laid, reading, PARTS).observed["drive-1"] == (
        "link PCIe 3 ×4, the drive could PCIe 3 ×4, its slot PCIe 3 ×4",
        "firmware Q1.06, 41 °C, 7 % of its rated life used",
    )
    assert reading.packs[0].wear_percent == 21  # 41 of 52 Wh
    odd = reading.model_copy(update={"processor": "Corvane Rill 999", "modules": reading.modules[1:], "devices": 1})
    says = [c.says for c in contradictions(Matched(laid, odd, PARTS))]
    assert [s.split(":")[0] for s in says] == [
        "Another processor than this configuration has",
        "Another amount of soldered memory.",
    ]
    fast = reading.model_copy(
        update={"modules": tuple(m.model_copy(update={"running_mts": 3200}) for m in reading.modules)}
    )
    (faster,) = contradictions(Matched(laid, fast, PARTS))
    assert (faster.attribute, faster.value, faster.library) == ("memory.speed_mts", 3200, "2933 MT/s")


# beck-680 is the shell of beck-540 with as many sockets: once is enough of what takes long
@pytest.mark.parametrize("configuration", sorted(CHOICES.keys() - {"beck-680"}))
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


# -- what is so, and nothing else ----------------------------------------------------------------
def untrue(reading: Reading, build, whole: Reading) -> list[str]:
    """Claims of a reading that are not so of the machine it was taken from."""
    found = []
    for slot, part in Matched(build.machine, reading, PARTS).fitted.items():
        here = build.now(slot)
        if (part and part.number) != (here and here.number):
            found.append(f"{slot}: {part and part.number}")
    facts = {m.locator: m for m in whole.modules}
    for m in reading.modules:
        mine = facts.get(m.locator)
        for key in ("present", "size_mb", "soldered", "rated_mts", "running_mts", "part_number", "channel", "ranks"):
            said = getattr(m, key)
            if mine and said not in (None, "") and said != getattr(mine, key):
                found.append(f"{m.locator} {key}: {said}")
    drives = {d.name: d for d in whole.drives}
    for d in reading.drives:
        mine_ = drives.get(d.name)
        if mine_ is None:
            found.append(f"drive {d.name}")
            continue
        for key in (
            "model",
            "serial",
            "size_bytes",
            "running",
            "capable",
            "port",
            "pci",
            "spinning",
            "started",
            "used_bytes",
        ):
            said = getattr(d, key)
            if said not in (None, "", False) and said != getattr(mine_, key):
                found.append(f"{d.name} {key}: {said}")
    for key in (
        "system",
        "board",
        "processor",
        "firmware",
        "memory_mb",
        "visible_mb",
        "own_system",
        "word_bits",
        "devices",
    ):
        said = getattr(reading, key)
        if said not in (None, "") and said != getattr(whole, key):
            found.append(f"{key}: {said}")
    for r in reading.radios:
        if r.name not in {x.name for x in whole.radios} or r.chains_dbm not in ((), whole.radios[0].chains_dbm):
            found.append(f"radio {r}")
    packs = {p.name: p for p in whole.packs}
    for p in reading.packs:
        known = packs.get(p.name) or next((q for q in whole.packs if q.design_mwh == p.design_mwh), None)
        if known is None or any(
            v not in (None, "") and v != getattr(known, k) for k, v in p if k not in ("name", "status", "maker")
        ):
            found.append(f"pack {p}")
    if reading.bluetooth and (not whole.bluetooth or reading.bluetooth.fixed is True is not whole.bluetooth.fixed):
        found.append("bluetooth")
    own = reading.owners_load
    if own and whole.load and any(v is not None and v > (getattr(whole.load, k) or 0) for k, v in own):
        found.append(f"load {own}")
    found += [c.says for c in contradictions(Matched(build.machine, reading, PARTS))]
    return found


@settings(max_examples=150, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(laptops(), st.data())
def test_what_is_missing_cut_doubled_or_localised_makes_nothing_untrue(build, data) -> None:
    load = data.draw(st.sampled_from([None, laptop.SimulatedLoad()]))
    locale = data.draw(st.sampled_from(["C", "de"]))
    whole = reading_of(build, (), load)
    files = laptop.bundle(build, (), load, locale)
    names = data.draw(st.lists(st.sampled_from(sorted(files)), unique=True))
    kept = {n: t for n, t in files.items() if n not in names}
    for name in data.draw(st.lists(st.sampled_from(sorted(files)), unique=True, max_size=4)):
        text = files[name]
        how = data.draw(st.sampled_from(["cut", "doubled", "twice in two folders"]))
        if how == "cut":
            kept[name] = text[: data.draw(st.integers(0, len(text)))]
        elif how == "doubled":
            kept[name] = text + text
        else:
            kept[f"again/{name}"] = text
    assert untrue(read_bundle(kept), build, whole) == []


@settings(max_examples=60, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(laptops(), st.randoms(use_true_random=False))
def test_a_machine_with_unknowns_prints_and_reads_too(build, chance) -> None:
    """Facts of the library hidden at random: the laptop still prints, and the reading makes up none of them."""
    data = build.machine.machine.model_dump(mode="json")
    for slot in data["slots"]:
        for name in list(attributes_of(type(build.machine.slot(slot["id"])))):
            if chance.random() < 0.4:
                slot[name] = None
    for chip in data["memory"]["soldered"]:
        chip |= {k: None for k in ("rated_mts", "channel") if chance.random() < 0.5}
    for c in data["configurations"]:
        c["differs"] = {}
    laid = Machine.model_validate(data).configured(build.machine.configuration.id)
    hidden = build_today(laid, dict(build.fitted))
    reading = reading_of(hidden)
    assert untrue(reading, hidden, reading) == []
    for chip, read in zip(laid.memory.soldered, (m for m in reading.modules if m.soldered), strict=True):
        assert (read.rated_mts, read.channel or None) == (chip.rated_mts, chip.channel)


def test_a_file_cut_anywhere_says_nothing_untrue() -> None:
    """Each file alone, cut after every line and in the middle of lines: a cut number is no number."""
    build = build_today(CHOICES["beck-540"][0])
    whole = reading_of(build, load=laptop.SimulatedLoad())
    for name, text in laptop.bundle(build, load=laptop.SimulatedLoad()).items():
        if name.startswith("spd"):
            continue  # an image has a checksum of its own
        ends = [i + 1 for i, c in enumerate(text) if c == "\n"]
        for at in sorted({*ends, *(e - k for e in ends for k in (2, 3, 5) if e > k)}):
            assert untrue(read_bundle({name: text[:at]}), build, whole) == [], (name, text[:at][-60:])


def test_files_of_two_machines_are_taken_for_none_or_for_one() -> None:
    """A folder each: their names differ, so nothing is taken. Without names, what disagrees is left out."""
    strand, fell = (build_today(CHOICES[c][0]) for c in ("mk2-rill-430", "beck-540"))
    one, two = laptop.bundle(strand), laptop.bundle(fell)
    both = {f"a/{n}": t for n, t in one.items()} | {f"b/{n}": t for n, t in two.items()}
    mixed = read_bundle(both)
    assert not mixed.understood and any("two machines" in n for n in mixed.not_understood)
    nameless = read_bundle({n: t for n, t in both.items() if "dmidecode" not in n})
    assert not nameless.drives and nameless.visible_mb is None and not nameless.packs
    assert any("disagree" in n for n in nameless.not_understood)


def test_a_load_of_the_stick_is_never_the_owners() -> None:
    build = build_today(CHOICES["mk2-rill-430"][0])
    busy = laptop.SimulatedLoad(peak_memory_mb=7600, drive_used_gb=120)
    own, stick = reading_of(build, load=busy), reading_of(build)
    assert own.owners_load and (own.owners_load.peak_memory_mb, own.owners_load.drive_used_gb) == (7600, 120.0)
    assert stick.own_system is False and stick.owners_load is None and stick.load is not None
    assert own.drives[0].started and not stick.drives[0].started


@pytest.mark.parametrize(("devices", "objects"), [(None, False), (2, False), (3, True), (1, True)])
def test_only_a_count_of_places_contradicts_the_number_of_sockets(devices, objects) -> None:
    """8 GB soldered and one empty socket: a CIM inventory lists the chips alone, the array counts both."""
    classes = {"Win32_PhysicalMemory": [{"Capacity": 8 * 2**30, "SMBIOSMemoryType": 26, "FormFactor": 21}]}
    if devices:
        classes["Win32_PhysicalMemoryArray"] = [{"MemoryDevices": devices, "Use": 3}]
    reading = read_bundle({"cim.json": json.dumps(classes)})
    says = [c.says for c in contradictions(Matched(CHOICES["mk2-rill-430"][0], reading, PARTS))]
    assert (
        says
        == ["The firmware lists another number of memory sockets. A second pad on the board is no socket: look."]
        * objects
    )
