"""The desk: what the stations show, worked out for known jobs."""

import pytest

from insertum.core.errors import InputError
from insertum.core.fit.build import Build
from insertum.core.intake.intake import Intake
from insertum.core.job.desk import Desk
from insertum.core.job.fit_desk import Row
from insertum.core.job.shape import (
    STATIONS,
    Agreement,
    FitChoice,
    HandedOver,
    Identified,
    Job,
    PlanChoice,
    Snapshot,
    Station,
    Surveyed,
)
from insertum.core.job.slots import detail, map_view, outline, size_of
from insertum.core.known.evidence import Grade
from insertum.core.machine.attribute import shown
from insertum.core.machine.claim import Claim, Fact
from insertum.core.machine.part import Accessory
from insertum.core.machine.shape import Machine
from insertum.core.plan.request import Terms, Use
from insertum.core.plan.result import PlanPoint
from insertum.core.plan.totals import tally
from insertum.core.reading import (
    ReadBattery,
    ReadBluetooth,
    ReadDrive,
    Reading,
    ReadLoad,
    ReadModule,
    ReadRadio,
    ReadSlot,
    ReadVolume,
)
from insertum.core.standards.pcie import Link
from insertum.core.survey.attributes import typed_value
from insertum.core.survey.contradict import read_facts
from insertum.core.survey.match_devices import Matched
from insertum.core.verdict import Verdict
from insertum.formats.parts import read_csv

from . import made

PARTS = read_csv((made.DEMO / "parts.csv").read_text())
STRAND, DROVER = made.demo_machine("veyra-strand-15"), made.demo_machine("veyra-drover-14")
MK2 = Identified(machine="veyra-strand-15", configuration="mk2-rill-430")


def desk(machine=STRAND, identify=MK2, **job) -> Desk:
    return Desk(Job(number=1, identify=identify, **job), machine, PARTS)


# -- typed measurements -------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("attribute", "typed", "value"),
    [
        ("drive-1.clearance_below_um", "1.4", 1400),
        ("drive-1.clearance_below_um", "1,35", 1350),
        ("drive-1.clearance_below_um", " 0 ", 0),
        ("bay.height_um", "9.5", 9500),
        ("battery.voltage_mv", "11.4", 11400),
        ("drive-1.clearance_below_um", "1,35 mm", 1350),
        ("drive-1.clearance_below_um", "4.2", 4200),  # as high as the tallest socket
        ("bay.height_um", "15", 15000),
        ("radio.leads", "2", 2),
        ("memory.total_limit_gb", "32", 32),
        ("drive-1.cooled", "above", "above"),
        ("radio.usb", "no", False),
        ("drive-1.standoffs_mm", "42, 60 80", [42, 60, 80]),
        ("drive-1.bracket_mm", "none", []),
        ("radio.antenna_bands", "2.4 5", ["2.4", "5"]),
        ("radio.plug", "MHF4", "MHF4"),
        ("bay.ribbon", "present", "present"),
        ("drive-1.pcie_lanes", "4", 4),
        ("drive-1.pcie_lanes", "0", 0),
        ("drive-1.pcie_generation", "5", 5),
        ("drive-1.sata", "3", 3),
    ],
)
def test_what_is_typed_is_stored_in_the_cores_unit(attribute, typed, value) -> None:
    assert typed_value(made.machine(), attribute, typed) == value


@pytest.mark.parametrize(("attribute", "typed"), [("drive-1.clearance_below_um", "deep"), ("drive-1.cooled", "perhaps"), ("drive-1.nonsense", "1"), ("drive-1.standoffs_mm", "a b"), ("drive-1.pcie_generation", "6"), ("drive-1.pcie_generation", "0"), ("drive-1.pcie_lanes", "3"), ("memory.total_limit_gb", "3200"), ("drive-1.width_mm", "nan"), ("drive-1.width_mm", "9" * 5000), ("drive-1.clearance_below_um", "-1"), ("drive-1.clearance_below_um", "-0.0001"), ("drive-1.clearance_below_um", "1350"), ("drive-1.clearance_below_um", "4.201"), ("drive-1.clearance_above_um", "14"), ("memory-a.room_above_um", "10.1"), ("bay.height_um", "95")])  # fmt: skip
def test_what_is_no_value_is_refused(attribute, typed) -> None:
    with pytest.raises((ValueError, KeyError)):
        typed_value(made.machine(), attribute, typed)


@pytest.mark.parametrize(
    ("value", "scale", "text"),
    [(1350, 1000, "1.35"), (True, 1, "yes"), ((42, 80), 1, "42, 80"), ((), 1, "none"), ("M", 1, "M"), (16, 1, "16")],
)
def test_how_values_are_shown(value, scale, text) -> None:
    assert shown(value, scale) == text


# -- the map ------------------------------------------------------------------------------------
def test_the_map_lays_true_sizes_over_slots() -> None:
    build = desk(fit=FitChoice(build={"drive-1": "WS4-0T5-42M", "memory-b": "PM4S-16G29"})).build
    view = map_view(build, {"drive-1": Verdict.SEATS}, {"drive-1": "read"})
    slots = {s.id: s for s in view.slots}
    laid = slots["drive-1"].planned_outline
    assert laid is not None and (laid.w_mm, laid.h_mm, laid.verdict) == (42, 22, "seats")
    module = slots["memory-b"].planned_outline
    assert module is not None and (module.w_mm, module.h_mm) == (69.6, 30)
    assert slots["drive-1"].fitted_outline is not None and slots["drive-1"].fitted_outline.w_mm == 80
    assert (slots["memory-b"].fitted_name, slots["drive-1"].fitted_how) == ("empty", "read")
    assert slots["drive-2"].summary == "key M, SATA, height unknown"
    assert slots["radio"].leads == 2 and slots["drive-1"].standoffs_mm == (42, 80)
    assert (view.width_mm, view.opens) == (358, "under")


def test_facts_say_how_they_are_known() -> None:
    view = map_view(desk(survey=Surveyed(firmware="1.14", measured={"drive-2.clearance_below_um": 1400})).today, {}, {})
    facts = {f.attribute: f for s in view.slots for f in s.facts} | {f.attribute: f for f in view.board}
    known = facts["drive-2.clearance_below_um"]
    assert (known.value, known.unit, known.why) == ("1.4", "mm", "measured")
    limit = facts["memory-b.limit_gb"]
    assert (limit.value, limit.why) == ("32", "proven") and len(limit.claims) == 3
    assert "worked 1×" in limit.claims[2].note and "firmware 1.14" in limit.claims[2].note
    assert map_view(desk().today, {}, {}).slots[0].facts[2].value == "16"  # another firmware never decides
    unknown = facts["radio.card_policy"]
    assert (unknown.known, unknown.value, unknown.options) == (False, "", ("any", "listed")) and unknown.measure
    assert facts["drive-1.cooled"].value == "above"


def test_sizes_and_details_of_parts() -> None:
    assert size_of(made.module(generation=3, grade_mts=1600, capacity_gb=8)).w_mm == 67.6  # type: ignore[union-attr]
    assert size_of(made.drive(length_mm=None)) is None and size_of(made.pack()) is None
    slot = made.machine().slot("battery")
    assert outline(slot, made.pack(), None).w_mm == slot.place.w_mm  # type: ignore[union-attr]
    assert outline(slot, made.drive(length_mm=None), None) is None
    assert [detail(p) for p in made.PARTS.values()] == [
        "16 GB DDR4-3200, 2Rx8",
        "1000 GB PCIe 3 ×4",
        "802.11ax 2×2",
        "1000 GB SATA",
        "45 Wh",
    ]
    assert detail(made.pack(full_mwh=40000)) == "45 Wh, 40 Wh today"
    assert detail(made.radio(standard=None, streams=None)) == "standard unknown"
    assert detail(made.drive(interface=None)) == "1000 GB interface unknown"
    assert detail(made.accessory("leads", "adapter_leads", 550)) == "adapter leads"


# -- ledger -------------------------------------------------------------------------------------
def test_the_tally_of_a_hand_made_build() -> None:
    """Strand: strip 120 + strip screws 120 + cover screws 150 + cover 180 + plug 60 = 630 s; set out 180, trial 300;
    memory 150, drive 240: 1500 s = 25 min, at 50 an hour 20.83. Parts 31.50 + 54.90."""
    job = desk(
        fit=FitChoice(build={"memory-b": "PM4S-16G32A1", "drive-1": "QK2-1T0-80M"}),
        intake=Intake(budget_minor=18000),
        plan=PlanChoice(credits={"drive-1": 900}),
    )
    told = job.tally()
    assert (told.parts_minor, told.bench_seconds, told.labour_minor, told.credit_minor) == (8640, 1500, 2083, 900)
    assert told.total_minor == 8640 + 2083 - 900 and told.verdict == "held_back"
    figures = {b.label: (b.today, b.after) for b in told.becomes}
    assert figures["Memory"] == ("8 GB", "24 GB") and figures["In two channels"] == ("0 GB", "16 GB")
    assert figures["System drive"] == ("1600 MB/s", "3400 MB/s") and figures["Storage"] == ("256 GB", "1000 GB")
    assert figures["Wi-Fi link"] == ("433 Mb/s", "433 Mb/s") and figures["Battery"] == ("41 Wh", "41 Wh")
    assert [a.slot for a in told.advice] == ["memory-b"] and "2933" in told.advice[0].says
    assert any("credit" in line for line in told.sum)


def test_the_tally_of_nothing_and_of_a_part_without_price() -> None:
    empty = desk().tally()
    assert (empty.total_minor, empty.bench_seconds, empty.verdict) == (0, 0, "seats")
    odd = tally(made.build().with_part("memory-a", made.module(price=None)), Terms(), Use())
    assert odd.parts_minor == 0 and odd.sum[0].endswith("no price")


def test_accessories_come_with_the_part_that_needs_them() -> None:
    job = desk(
        DROVER, Identified(machine="veyra-drover-14", configuration="rill-320"), fit=FitChoice(build={"bay": "QT7-1T0"})
    )
    assert {a.number for a in job.build.accessories["bay"]} == {"PL-RB-DR14", "PL-SP795"}
    assert job.tally().accessories_minor == 750 + 150
    assert job.judged()["bay"].verdict == "seats"
    out = desk(fit=FitChoice(build={"drive-1": ""})).build
    assert out.now("drive-1") is None and out.changed() == ("drive-1",)


# -- fit and survey -----------------------------------------------------------------------------
def test_the_fit_view_has_a_row_a_part_and_a_cell_a_slot_it_could_meet() -> None:
    strand = desk()
    rows = {r.part.number: r for r in strand.rows()}
    assert len(rows) == sum(not isinstance(p, Accessory) for p in PARTS)
    assert {c.slot for c in rows["QK2-1T0-80M"].cells} == {"drive-1", "drive-2", "radio"}
    assert rows["QT7-1T0"].cells == []  # no bay
    # 1000 GB in the place of 256, 54.90 for 1000 GB
    assert (rows["QK2-1T0-80M"].adds, rows["QK2-1T0-80M"].unit) == (744, "GB")
    worth = {w.attribute: w for w in strand.worth()}
    assert (worth["drive-2.clearance_below_um"].parts, worth["drive-2.clearance_below_um"].to_minor) == (2, 8800)
    assert strand.worth_today() == strand.worth()  # nothing is chosen yet


def test_schools_are_counted_on_the_same_build() -> None:
    counts = desk(survey=Surveyed(firmware="1.14")).schools()
    assert counts["documented"] < counts["proven"] < counts["open"]


def reading(**changes) -> Reading:
    plain = {
        "modules": (ReadModule(locator="Soldered A", present=True, size_mb=8192, soldered=True, running_mts=2933), ReadModule(locator="Memory B", present=True, size_mb=8192, part_number="pm4s-08g29 ", running_mts=2933)),
        "drives": (ReadDrive(name="nvme0n1", model="Quern QK2-1T0-80M", transport="nvme"),),
        "radios": (ReadRadio(name="Larkfield LR-AX2-E30"),),
        "packs": (ReadBattery(model="AP-ST52", full_mwh=30000),),
    }  # fmt: skip
    return Reading(**(plain | changes))


def test_a_reading_fills_in_what_it_proves_and_nothing_else() -> None:
    laid = STRAND.configured("mk2-rill-430")
    found = Matched(laid, reading(), PARTS).fitted
    assert {s: p and p.number for s, p in found.items()} == {
        "memory-b": "PM4S-08G29",
        "drive-1": "QK2-1T0-80M",
        "radio": "LR-AX2-E30",
        "battery": "AP-ST52",
    }
    assert found["battery"].full_mwh == 30000  # type: ignore[union-attr]
    assert Matched(laid, Reading(), PARTS).fitted == {}
    strange = reading(
        modules=(ReadModule(locator="Memory B", present=True, size_mb=8192, part_number="NEVER-SEEN"),),
        drives=(ReadDrive(name="sda", model="NEVER-SEEN"),),
        radios=(),
        packs=(ReadBattery(model="Unknown pack"),),
    )
    assert Matched(laid, strange, PARTS).fitted == {}
    empty = reading(modules=(ReadModule(locator="Memory B", present=False),))
    assert Matched(laid, empty, PARTS).fitted["memory-b"] is None
    unknown = reading(modules=(ReadModule(locator="Memory B"),))  # neither filled nor empty was said
    assert "memory-b" not in Matched(laid, unknown, PARTS).fitted


def test_what_is_entered_by_hand_stands_over_what_is_read() -> None:
    own = next(p for p in PARTS if p.number == "PM4S-16G29")
    job = desk(survey=Surveyed(reading=reading(), fitted={"memory-b": own}))
    assert job.today.fitted["memory-b"] == own
    assert job.how_known() == {
        "memory-b": "entered at this bench",
        "drive-1": "read from the running system",
        "radio": "read from the running system",
        "battery": "read from the running system",
    }
    assert any(c.source == "read" and c.value == 2933 for c in job.configured.memory.speed_mts.claims)


# -- stations -----------------------------------------------------------------------------------
def test_stations_are_done_under_way_or_ahead() -> None:
    states = [s.state for s in desk(station=Station.FIT).stations()]
    assert states == ["done"] * 3 + ["under_way"] + ["ahead"] * 5
    closed = desk(station=Station.HAND_OVER, hand_over=HandedOver(closed_at="2026-11-24"))
    assert {s.state for s in closed.stations()} == {"done"}


@pytest.mark.parametrize("station", STATIONS)
def test_no_station_past_identify_without_a_machine_nor_past_plan_without_a_plan(station) -> None:
    blank, known = Desk(Job(number=1), None, []), desk()
    rank = STATIONS.index(station)
    for job, last in ((blank, 1), (known, 4)):
        if rank <= last:
            job.may_enter(station)
        else:
            with pytest.raises(InputError):
                job.may_enter(station)


def test_the_request_is_whole() -> None:
    job = desk(
        intake=Intake(average_w=10.5, used_gb=120, line_mbit_s=50, years=5, processor_at_limit=True, budget_minor=9000),
        survey=Surveyed(firmware="1.14", measured={"drive-2.clearance_below_um": 1400}),
    )
    asked = job.request()
    assert (asked.use.average_mw, asked.use.used_gb, asked.use.years, asked.use.processor_at_limit) == (
        10500,
        120,
        5,
        True,
    )
    assert (asked.terms.budget_minor, asked.firmware, asked.boot_slot) == (9000, "1.14", "drive-1")
    assert asked.measured == {"drive-2.clearance_below_um": 1400} and len(asked.parts) == len(PARTS)
    assert type(asked).model_validate(asked.model_dump()).machine == STRAND


def test_builds_compare_by_what_changes() -> None:
    old = made.module("OLD")
    build: Build = made.build(memory_a=old)
    assert build.with_part("memory-a", old).changed() == ()
    assert build.with_part("memory-a", None).changed() == ("memory-a",)
    assert build.with_part("memory-b", old).changed() == ("memory-b",)
    assert (
        Fact[int]((Claim[int](value=1, source="read"),)).plus(Claim[int](value=2, source="read")).claims[1].value == 2
    )


def test_one_pack_read_is_in_one_slot() -> None:
    """A machine with two packs: the reading tells of one, and nothing of the other."""
    front = made.machine().machine.slots[-1].model_dump(mode="json") | {"id": "front", "accepts": ["AP-57"]}
    two = made.machine().machine.model_dump(mode="json")
    two["slots"].append(front)
    laid = Machine.model_validate(two).configured("only")
    for number, where in (("AP-45", "battery"), ("AP-57", None)):
        reading = Reading(packs=(ReadBattery(model=number, full_mwh=30000),))
        found = Matched(laid, reading, [made.pack(number)]).fitted
        # AP-57 goes in either slot: nobody knows which it is
        assert [s for s in ("battery", "front") if s in found] == ([where] if where else [])


def test_two_packs_read_are_two() -> None:
    front = made.machine().machine.slots[-1].model_dump(mode="json") | {"id": "front", "accepts": ["AP-57"]}
    two = made.machine().machine.model_dump(mode="json")
    two["slots"][-1]["accepts"] = ["AP-45"]
    two["slots"].append(front)
    laid = Machine.model_validate(two).configured("only")
    read = Reading(packs=(ReadBattery(model="AP-57", full_mwh=50000), ReadBattery(model="AP-45", full_mwh=30000)))
    found = Matched(laid, read, [made.pack("AP-45"), made.pack("AP-57")]).fitted
    assert {s: p and p.full_mwh for s, p in found.items()} == {"battery": 30000, "front": 50000}  # type: ignore[union-attr]
    same = Reading(packs=(ReadBattery(model="AP-45", full_mwh=50000), ReadBattery(model="AP-45", full_mwh=30000)))
    assert Matched(laid, same, [made.pack("AP-45")]).fitted == {}  # two of one number: nothing tells which is where


def test_equal_drives_keep_their_own_links() -> None:
    """Two equal drives in two like slots: placed; their links by address, and without one only what both agree on."""
    wide, narrow = Link(generation=3, lanes=4), Link(generation=3, lanes=2)
    twins = tuple(
        ReadDrive(
            name=f"nvme{n}n1", model="Quern QK2-1T0-80M", transport="nvme", pci=f"0000:0{n + 1}:00.0", running=link
        )
        for n, link in enumerate((wide, narrow))
    )
    laid = made.demo_machine("brannock-harrow-16").configured("beck-450")
    slots = [s for s in laid.slots if s.kind == "m2_drive"]
    assert [s.id for s in slots] == ["drive-1", "drive-2"]
    both = Matched(laid, reading(drives=twins), PARTS).signs
    assert both["drive-1"].running is None and both["drive-2"].running is None
    alike = tuple(d.model_copy(update={"running": wide}) for d in twins)
    assert Matched(laid, reading(drives=alike), PARTS).signs["drive-2"].running == wide
    firmware = (ReadSlot(name=slots[0].name, pci="0000:02:00.0"), ReadSlot(name=slots[1].name, pci="0000:01:00.0"))
    told = Matched(laid, reading(drives=twins, slots=firmware), PARTS).signs
    assert (told["drive-1"].running, told["drive-2"].running) == (narrow, wide)


def test_a_bluetooth_stick_proves_no_wire_of_the_slot() -> None:
    laid = STRAND.configured("mk2-rill-430")
    for blue, proved in ((ReadBluetooth(fixed=True), True), (ReadBluetooth(), None), (None, None)):
        assert Matched(laid, reading(bluetooth=blue), PARTS).signs["radio"].bluetooth is proved


def test_a_half_rate_that_may_be_a_clock_is_no_fact() -> None:
    def said(running: int, rated: int, generation: int = 4):
        module = ReadModule(present=True, size_mb=8192, running_mts=running, rated_mts=rated, generation=generation)
        return read_facts(reading(modules=(module,)))

    assert said(2933, 2933) == {"memory.speed_mts": 2933}
    assert said(1467, 2933) == {"memory.speed_mts": 2933}  # DDR4 has no grade of 1467: it is the clock
    assert said(1600, 3200) == {}  # the clock of 3200, or memory held at 1600
    assert said(2400, 4800, 5) == {"memory.speed_mts": 4800}  # DDR5 begins at 3200
    assert said(2400, 3200) == {"memory.speed_mts": 2400}


def test_believing_one_side_counts_on_this_job() -> None:
    fast = reading(modules=(ReadModule(present=True, size_mb=8192, running_mts=3200),))
    job = desk(survey=Surveyed(reading=fast))
    assert [c.id for c in job.contradictions()] == ["memory.speed_mts"]
    assert job.read_facts == {"memory.speed_mts": 3200}
    assert desk(survey=Surveyed(reading=fast, believed={"memory.speed_mts": "library"})).read_facts == {}
    assert desk(survey=Surveyed(reading=fast, believed={"memory.speed_mts": "reading"})).read_facts == job.read_facts


def test_only_the_owners_own_load_counts() -> None:
    load = ReadLoad(peak_memory_mb=9216)
    for own, peak in ((True, 9), (False, None), (None, None)):
        job = desk(survey=Surveyed(reading=reading(load=load, own_system=own)))
        assert job.load.peak_memory_gb == peak


def test_firmware_s_own_start_names_the_drive() -> None:
    second = ReadDrive(name="nvme0n1", model="Quern QK2-1T0-80M", transport="nvme", pci="0000:02:00.0",
                       volumes=(ReadVolume(name="nvme0n1p1", loader=True, started=True),))  # fmt: skip
    harrow = made.demo_machine("brannock-harrow-16")
    named = Identified(machine="brannock-harrow-16", configuration="beck-450")
    here = Reading(
        drives=(second,), slots=(ReadSlot(name=harrow.configured("beck-450").slot("drive-2").name, pci="0000:02:00.0"),)
    )
    assert desk(harrow, named, survey=Surveyed(reading=here)).today.boot_slot == "drive-2"
    assert desk(harrow, named, survey=Surveyed(reading=Reading(drives=(second,)))).today.boot_slot == "drive-1"


def test_a_reading_of_the_first_version_comes_up() -> None:
    old = {
        "format": "insertum-reading/1", "modules": [{"locator": "A", "size_gb": 8}, {"locator": "B", "size_gb": 0}],
        "battery": {"model": "AP-1", "full_mwh": 30000}, "bluetooth": True, "load": {"peak_memory_mb": 4096},
    }  # fmt: skip
    new = Reading.model_validate(old)
    assert [(m.present, m.size_mb) for m in new.modules] == [(True, 8192), (None, None)]
    assert new.packs[0].model == "AP-1" and new.bluetooth and new.owners_load


def test_what_was_seen_of_a_card_is_of_that_card() -> None:
    """A card that lies flat shows room and no pad; once another one lies there nothing was seen of it."""
    job = Job.model_validate(
        {"number": 1, "identify": {"machine": "veyra-strand-15", "configuration": "mk1-rill-310"}, "survey": {"looked": {"drive-1": {"part": "QK2-1T0-80M", "lies_flat": True}}}}
    )  # fmt: skip
    drive = next(p for p in PARTS if p.number == "QK2-1T0-80M")
    other = drive.model_copy(update={"number": "OTHER"})
    machine = made.demo_machine("veyra-strand-15")

    def desk(part):
        survey = job.survey.model_copy(update={"fitted": {"drive-1": part}})
        return Desk(job.model_copy(update={"survey": survey}), machine, PARTS)

    assert desk(drive).signs["drive-1"].lies_flat and Grade.SEEN in desk(drive).grades["drive-1"]
    assert "drive-1" not in desk(other).looked and getattr(desk(other).signs.get("drive-1"), "lies_flat", None) is None
    assert desk(None).looked == {}


def test_a_word_given_before_a_plan_was_chosen_is_not_of_it_whatever_the_clock_says() -> None:
    """Chosen again in the second in which the owner agreed: what was agreed is the plan before."""
    plan = PlanPoint.model_construct(cost_minor=12160)
    chosen = Snapshot.model_construct(plan=plan, chosen_at="2026-12-01T10:00:00Z", words_before=1)
    said = {"said_by": "Mira Holt", "how": "by telephone", "at": "2026-12-01T10:00:00Z", "cost_minor": 12160}
    one = PlanChoice.model_construct(chosen=chosen, agreed=(Agreement.model_validate(said),))
    assert one.word is None
    assert one.model_copy(update={"agreed": (*one.agreed, Agreement.model_validate(said))}).word is not None
    later = Agreement.model_validate(said | {"cost_minor": 12161})
    assert one.model_copy(update={"agreed": (*one.agreed, later)}).word is None
    old = one.model_copy(update={"chosen": chosen.model_copy(update={"words_before": None})})
    assert old.word is not None  # a job from before this was kept goes by its times


@pytest.mark.parametrize("most", [1, 3, 8, 400])
@pytest.mark.parametrize("build", [{}, {"drive-1": "QF3-1T0-30M", "drive-2": ""}])
def test_the_best_rows_of_a_kind_are_those_of_the_whole_matrix(most, build) -> None:
    """Judged from the part that could add most on, so that few are: the same rows as judging all, in the same order."""
    whole = desk(fit=FitChoice(build=build))

    def order(r: Row) -> tuple[bool, float, int]:
        return not any(c.verdict.usable for c in r.cells), -r.adds, r.part.price_minor or 10**9

    for kind in whole.parts.by_kind:
        rows = [r for r in whole.rows() if r.part.kind == kind and r.cells]
        best = sorted(rows, key=order)[:most]  # of equals the first in the catalogue
        held = [r for r in rows if r.part.number in build.values() and r not in best]
        assert whole.best_rows(kind, most) == best + held, kind


@pytest.mark.parametrize(
    ("intake", "reading", "unknown", "used", "system"),
    [
        # 98 % of the one drive of 256 GB it is delivered with; with a place nobody has looked into nobody knows.
        ({"drive_filled_percent": 98}, None, [], 250.9, None),
        ({"drive_filled_percent": 98}, None, ["drive-2"], None, None),
        ({"drive_filled_percent": 98, "used_gb": 120}, None, [], 120, None),  # a figure outweighs a share
        ({}, None, [], None, None),
        ({}, True, [], 90, 40.5),  # root and boot; the data partition is not the system's
        ({}, False, [], None, None),  # of a stick's system nothing is the owner's
    ],
)  # fmt: skip
def test_what_is_in_use(intake, reading, unknown, used, system) -> None:
    volumes = [ReadVolume(name="a", kind="ext4", mounted="/", used_bytes=40 * 10**9), ReadVolume(name="b", kind="vfat", mounted="/boot/efi", used_bytes=5 * 10**8),
               ReadVolume(name="c", kind="ext4", mounted="/data", used_bytes=49_500_000_000)]  # fmt: skip
    read = Reading(understood=("lsblk.json",), drives=(ReadDrive(name="nvme0n1", volumes=tuple(volumes)),), own_system=reading,
                   load=ReadLoad(drive_used_gb=90)) if reading is not None else None  # fmt: skip
    known = desk(intake=Intake.model_validate(intake), survey=Surveyed(reading=read, unknown=tuple(unknown)))
    assert (known.use.used_gb, known.use.system_gb) == (used, system)


@pytest.mark.parametrize(
    ("volumes", "system"),
    [
        ((("/", 40), ("/boot/efi", 1), ("/data", 50)), 41.0),
        ((("/", 40),), 40.0),
        ((("/", None), ("/boot", 1)), None),  # a volume of the system's that nobody read the fill of
        ((("/boot", 1), ("/data", 50)), None),  # its root is elsewhere
        ((), None),
    ],
)
def test_what_the_system_holds_is_known_where_all_of_it_is(volumes, system) -> None:
    read = [ReadVolume(name="v", mounted=at, used_bytes=None if gb is None else gb * 10**9) for at, gb in volumes]
    reading = Reading(understood=("lsblk.json",), drives=(ReadDrive(name="sda", volumes=tuple(read)),), own_system=True)
    assert desk(survey=Surveyed(reading=reading)).use.system_gb == system
