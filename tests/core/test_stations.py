"""Intake, identify, access, bench sheet, gates, proof and edits, on the demo machines."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from insertum.core.access.way import access_seconds, bench_seconds, closure
from insertum.core.bench.sheet import Ways, sheet
from insertum.core.errors import InputError
from insertum.core.identify.identify import identify
from insertum.core.identify.library import match
from insertum.core.identify.matters import differences
from insertum.core.intake.intake import Intake, NeedEdit, derive_needs, free_first
from insertum.core.intake.load import weigh
from insertum.core.intake.presets import PRESETS
from insertum.core.intake.purchase import advice
from insertum.core.intake.triage import Triage, tried
from insertum.core.job.edit import Edit, apply_edit
from insertum.core.job.shape import Job
from insertum.core.machine.shape import Machine
from insertum.core.plan.need import Need, NeedKind
from insertum.core.plan.result import CopyPath, ToSettle, WaitingAct
from insertum.core.prepare.gates import GateState, gates, still_open
from insertum.core.prove.compare import Outcome, compare
from insertum.core.prove.expect import Expected, expect
from insertum.core.reading import ReadBattery, ReadBluetooth, ReadDrive, Reading, ReadLoad, ReadModule
from insertum.core.spelling import folded
from insertum.core.standards.pcie import Link
from insertum.core.survey.current_build import laid_out

from . import made

DROVER, STRAND = made.demo_machine("veyra-drover-14"), made.demo_machine("veyra-strand-15")
LIBRARY = [DROVER, STRAND]
MK1, MK2, ONLY = "veyra-strand-15/mk1-rill-310", "veyra-strand-15/mk2-rill-430", "veyra-drover-14/rill-320"
TRIAGE = Triage.model_validate_json((made.DEMO.parents[1] / "shop" / "data" / "triage.json").read_text())

# -- intake -------------------------------------------------------------------------------------
MEMORY = {"floor": 8, "comfort": 16, "ceiling": 32}
SPACE = {"floor": 50, "comfort": 200, "ceiling": 500}


@pytest.mark.parametrize(
    ("kind", "figures", "measure", "met"),
    [
        ("memory_capacity", MEMORY, 0, 0),
        ("memory_capacity", MEMORY, 4, 200_000),  # 0.4 × 4 ÷ 8
        ("memory_capacity", MEMORY, 8, 400_000),
        ("memory_capacity", MEMORY, 12, 692_481),  # 0.4 + 0.5 × log2(12 ÷ 8) = 0.4 + 0.5 × 0.584963
        ("memory_capacity", MEMORY, 16, 900_000),
        ("memory_capacity", MEMORY, 24, 958_496),  # 0.9 + 0.1 × log2(24 ÷ 16)
        ("memory_capacity", MEMORY, 32, 1_000_000),
        ("memory_capacity", MEMORY, 64, 1_000_000),  # nothing past the ceiling
        ("drive_space", SPACE, 125, 650_000),  # linear: 0.4 + 0.5 × 75 ÷ 150
        ("drive_space", SPACE, -20, 0),
        ("drive_space", SPACE, 350, 950_000),
        ("runtime", {"floor": 3, "comfort": 5, "ceiling": 8}, 4, 650_000),
        ("fault", {"floor": 1, "comfort": 2, "ceiling": 3}, 1, 1_000_000),
        ("fault", {"floor": 1, "comfort": 2, "ceiling": 3}, 0, 0),
    ],
)
def test_how_far_a_need_is_met(kind, figures, measure, met) -> None:
    assert round(Need(kind=kind, **figures).met(measure) * 1_000_000) == met


@given(st.floats(0, 1000), st.floats(0, 1000))
def test_more_never_meets_less(a, b) -> None:
    need = Need(kind="memory_capacity", **MEMORY)
    low, high = sorted((a, b))
    assert need.met(low) <= need.met(high)


def test_needs_follow_use_complaint_observation_and_edit() -> None:
    def found(**intake):
        return {n.kind: n for n in derive_needs(Intake(**intake), True, TRIAGE.by_id())}

    plain = found(average_w=10)
    assert {k: n.weight for k, n in plain.items()} == {k: f[3] for k, f in PRESETS["office"].needs.items()}
    slow = found(complaints=("slow",))[NeedKind.MEMORY_CAPACITY]
    assert (slow.weight, slow.set_by) == (4, "complaint: slow with many pages open")
    peak = found(peak_memory_gb=12)[NeedKind.MEMORY_CAPACITY]
    assert (peak.floor, peak.comfort, peak.ceiling, peak.set_by) == (12, 12 * 1.3, 24, "observed peak use")
    light = found(peak_memory_gb=2)[NeedKind.MEMORY_CAPACITY]  # an observation beats the preset downwards too
    assert (light.floor, light.comfort, light.ceiling) == (2, 2.6, 4)
    edited = found(needs={"drive_space": NeedEdit(weight=0)})[NeedKind.DRIVE_SPACE]
    assert (edited.weight, edited.comfort, edited.set_by) == (0, 150, "this job")
    assert found()[NeedKind.RUNTIME].weight == 0  # no draw measured, nothing to reckon with
    short = found(complaints=("runtime",))[
        NeedKind.RUNTIME
    ]  # but a complaint about it stays: 1 of the use and 3 of its own
    assert (short.weight, short.set_by) == (4, "complaint: dies after two hours, draw not measured")
    assert found(complaints=("runtime",), average_w=10)[NeedKind.RUNTIME].set_by == "complaint: dies after two hours"
    assert found(complaints=("runtime", "runtime", "nobody's"))[NeedKind.RUNTIME] == short  # said twice it weighs once
    assert found(complaints=("far_net",))[NeedKind.RADIO_REACH].weight == 3
    assert found(complaints=("full",))[NeedKind.RADIO_REACH].weight == 0
    # A radio that drops out bears on reach where that was measured: it is first of all about what it delivers.
    far = {n.kind: n for n in derive_needs(Intake(complaints=("radio",)), True, TRIAGE.by_id(), measured_far=True)}
    assert (far[NeedKind.RADIO_REACH].weight, found(complaints=("radio",))[NeedKind.RADIO_REACH].weight) == (1, 0)
    own = {n.kind: n.weight for n in derive_needs(Intake(), False)}
    assert own[NeedKind.MEMORY_THROUGHPUT] == 0  # graphics have their own memory
    assert NeedKind.FAULT in found(fault_slot="drive-1")


@pytest.mark.parametrize(
    ("said", "figures"),
    [  # free space for the office: 40, 150, 400
        ({}, (40, 150, 400)),
        ({"floor": 100}, (100, 150, 400)),
        ({"floor": 150}, (150, 195, 400)),  # 1.3 of it
        ({"floor": 400}, (400, 520, 800)),  # and twice
        ({"comfort": 30}, (30 / 1.3, 30, 400)),
        ({"comfort": 520}, (40, 520, 800)),
        ({"ceiling": 150}, (40, 97.5, 150)),
        ({"ceiling": 26}, (13, 16.9, 26)),
        ({"floor": 200, "ceiling": 300}, (200, 260, 300)),  # 1.3 of the floor
        ({"floor": 200, "ceiling": 250}, (200, 225, 250)),  # which leaves no room for it: half way
        ({"floor": 1, "comfort": 2, "ceiling": 3}, (1, 2, 3)),
    ],
)
def test_what_a_job_says_of_a_need_stands_and_the_rest_makes_room(said: dict, figures: tuple) -> None:
    need = next(
        n for n in derive_needs(Intake(needs={"drive_space": NeedEdit(**said)}), True) if n.kind == "drive_space"
    )
    assert (need.floor, need.comfort, need.ceiling) == pytest.approx(figures)


@given(
    st.lists(st.none() | st.floats(0.01, 1e6), min_size=3, max_size=3), st.none() | st.floats(0.1, 512),
    st.sampled_from(sorted(PRESETS)), st.none() | st.floats(0, 16000),
)  # fmt: skip
def test_no_figure_a_job_can_hold_makes_its_needs_fall(said, peak, use, used) -> None:
    floor, comfort, ceiling = said
    known = [x for x in said if x is not None]
    assume(all(a * 1.0001 < b for a, b in zip(known, known[1:], strict=False)))
    edit = NeedEdit(floor=floor, comfort=comfort, ceiling=ceiling)
    needs = derive_needs(
        Intake(use=use, peak_memory_gb=peak, used_gb=used, needs=dict.fromkeys(PRESETS[use].needs, edit)), True
    )
    for n in needs:  # made at all, so they rise; and what was said is what they are
        assert all(x is None or x == y for x, y in zip(said, (n.floor, n.comfort, n.ceiling), strict=True))


@pytest.mark.parametrize("said", [{"floor": 0}, {"floor": -1}, {"floor": 5, "comfort": 5}, {"floor": 9, "ceiling": 8}, {"comfort": 1e7}, {"ceiling": float("nan")}])  # fmt: skip
def test_figures_no_need_can_have_are_refused_when_they_are_said(said: dict) -> None:
    with pytest.raises(ValueError):
        NeedEdit(**said)


def test_the_shipped_triage_has_twenty_complaints_with_free_causes_and_counts_what_helped() -> None:
    assert len(TRIAGE.complaints) >= 20
    assert all(x.cause and x.test for c in TRIAGE.complaints for x in c.causes)
    seen = tried([{"radio.1": "helped", "slow.2": "no_help"}, {"radio.1": "no_help", "radio.2": "untried"}])
    assert {k: (v.helped, v.no_help) for k, v in seen.items()} == {"radio.1": (1, 1), "slow.2": (0, 1)}
    slow = TRIAGE.by_id()["slow"].model_dump()
    for bad in (
        {"causes": []},
        {"id": "Slow"},
        {"weights": {"fault": 1}},
        {"weights": {"runtime": 11}},
        {"then": ["glue"]},
    ):
        with pytest.raises(ValueError):
            Triage.model_validate({"complaints": [slow | bad]})
    with pytest.raises(ValueError, match="share one id"):
        Triage.model_validate({"complaints": [slow, slow]})


@pytest.mark.parametrize(
    ("triage", "left"),
    [
        ({}, "brightness and power mode; a program that never rests"),
        ({"runtime.1": "no_help"}, "a program that never rests"),
        ({"runtime.1": "untried", "runtime.2": "no_help"}, "brightness and power mode"),
        ({"runtime.1": "no_help", "runtime.2": "no_help"}, ""),
        ({"runtime.1": "helped"}, ""),  # it was that: nothing more is looked for
    ],
)
def test_what_costs_nothing_stands_before_any_part(triage, left) -> None:
    said = free_first(Intake(complaints=("runtime", "gone", "runtime"), triage=triage), TRIAGE.by_id())
    assert said == ((f"Dies after two hours: before any part, look at: {left}.",) if left else ())


BUSY = ReadLoad(
    peak_memory_mb=7800, paging_kb_s=2600, processor_busy_percent=95, drive_used_gb=230, drive_filled_percent=93
)


@pytest.mark.parametrize(
    ("read", "typed", "binds", "pages", "says"),
    [
        (BUSY, {}, False, True, "paging keeps it so"),  # it pages: mend that first
        (BUSY.model_copy(update={"paging_kb_s": 199}), {}, True, False, "no part lifts it"),  # 200 KB/s is paging
        (BUSY.model_copy(update={"paging_kb_s": 200}), {}, False, True, "felt at once"),
        (BUSY.model_copy(update={"processor_busy_percent": 89, "paging_kb_s": 0}), {}, False, False, "93 %"),
        (None, {"processor_at_limit": True, "pages": False}, True, False, "compare another machine"),
        (BUSY, {"pages": False}, True, False, "will not be felt"),  # typed wins over read
        (None, {"pages": False}, False, False, "does not page under"),
        (None, {}, False, None, ""),
    ],
)
def test_what_the_load_says(read, typed, binds, pages, says) -> None:
    plain = {
        "peak_memory_gb": None,
        "used_gb": None,
        "pages": None,
        "filled_percent": None,
        "processor_at_limit": False,
    }
    found = weigh(read, **(plain | typed))
    assert (found.processor_binds, found.pages) == (binds, pages)
    assert says in " ".join([found.binds, *found.says]) and bool(found.binds) is binds
    if read and not typed:
        assert (found.peak_memory_gb, found.used_gb) == (7.6, 230)  # 7800 ÷ 1024
        needs = {n.kind: n for n in derive_needs(Intake(used_gb=900), True, {}, found)}
        assert needs[NeedKind.MEMORY_CAPACITY].floor == 7.6
        assert needs[NeedKind.DRIVE_SPACE].floor == 40  # a tenth of 230 is below the preset's 40


@pytest.mark.parametrize(
    ("machine", "configuration", "now", "later"),
    [
        ("halden-tern-13", "rill-520", {"Memory", "Processor", "Wi-Fi card", "Cellular", "Battery"}, {"Drive 1"}),
        ("halden-wick-11", "fen-210", {"Memory", "Processor", "eMMC", "Wi-Fi card"}, {"Drive 1"}),  # one lead for the radio
        ("brannock-fell-17", "beck-680", {"Processor", "Graphics"}, {"Memory", "Drive 1", "Drive 2", "Drive 3", "Wi-Fi card"}),
        ("veyra-strand-15", "mk2-rill-430", {"Memory channels", "Processor"}, {"Memory", "Drive 1", "Drive 2", "Wi-Fi card"}),
        ("brannock-harrow-16", "beck-450", {"Processor", "2.5-inch bay"}, {"Memory", "Drive 1", "Drive 2", "Wi-Fi card", "Battery"}),
    ],
)  # fmt: skip
def test_what_is_chosen_before_it_is_bought(machine, configuration, now, later) -> None:
    found = advice(made.demo_machine(machine).configured(configuration))
    assert ({a.what for a in found if a.now}, {a.what for a in found if not a.now}) == (now, later)


@pytest.mark.parametrize(
    ("leads", "now", "says"),
    [
        (0, True, "no antenna reaches it"),
        (1, True, "with one antenna lead"),
        (2, False, "the card can wait."),
        (None, False, "how many antenna leads reach it is not known"),
    ],
)
def test_antennas_before_it_is_bought(leads, now, says) -> None:
    """The library knows none of this radio slot: what this job measured counts, and what nobody knows is said."""
    bare = made.machine({"radio": {"leads": None}})
    measured = {} if leads is None else {"radio.leads": leads}
    (radio,) = (a for a in advice(laid_out(bare, (), {}, measured)) if a.what == "Wi-Fi card")
    assert radio.now is now and says in radio.says


@pytest.mark.parametrize(
    ("tray", "leads", "says"),
    [
        ("present", 4, None),
        ("missing", 4, "order them now or never"),
        ("present", 2, "order them now or never"),
        (None, 4, "Nobody has said whether it has a SIM tray:"),
        (None, None, "Nobody has said whether it has antennas and a SIM tray:"),
    ],
)
def test_a_modems_antennas_before_it_is_bought(tray, leads, says) -> None:
    laid = made.machine({"cellular": {"sim_tray": tray, "leads": leads}})
    found = [a.says for a in advice(laid) if a.what == "Cellular"]
    assert found == [] if says is None else says in found[0]


# -- identify -----------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("texts", "remaining"),
    [
        (["Veyra Strand 15"], {MK1, MK2}),
        (["Strand 15 mk II"], {MK2}),
        (["Strand 15 mk I"], {MK1}),
        (["strand 15 MK 1"], {MK1}),
        (["STRAND15 mkII"], {MK2}),
        (["VS15-R4B"], {MK2}),
        (["vs15 r4b"], {MK2}),
        (["VS15-R4"], {MK2}),  # truncated
        (["V515-R4B"], set()),  # one character is another: another model
        (["VS15"], {MK1, MK2}),
        (["Rill 43O"], {MK2}),  # O for 0
        (["RiII 430"], {MK2}),  # I for l
        (["Veyra Strand 15", "Corvane Rill 310"], {MK1}),
        (["Veyra Strand 15 Rill 430"], {MK2}),
        (["Drover 14"], {ONLY}),
        (["4VD320"], {ONLY}),
        (["VB-S15 rev 3"], {MK2}),
        (["AP-DR45"], {ONLY}),
        (["AP-ST52"], {MK1, MK2}),
        (["something else"], set()),
        ([], set()),
    ],
)
def test_identify(texts, remaining) -> None:
    found = identify(texts, LIBRARY)
    assert set(found.remaining) == remaining
    assert sum(c.share for c in found.candidates) == pytest.approx(1)
    assert found.settled == (len(remaining) == 1)
    assert found.says


def test_what_differs_and_what_to_ask() -> None:
    found = identify(["Veyra Strand 15"], LIBRARY)
    differ = {d.what: d.values for d in found.differences}
    assert differ["Memory ceiling"] == ("16 GB", "24 GB")
    assert differ["Memory B takes"] == ("8 GB", "16 GB")
    assert "Packs" not in differ
    assert found.question is not None and found.question.minutes == 1
    assert found.question.bits == pytest.approx(1)
    assert identify(["Veyra Strand 15", found.question.answers[1]], LIBRARY).remaining == (MK2,)


def test_twins_that_differ_in_nothing_are_settled() -> None:
    twin = STRAND.configurations[1].model_copy(update={"id": "twin"})
    twins = Machine.model_validate(STRAND.model_dump() | {"configurations": [STRAND.configurations[1], twin]})
    found = identify(["Rill 430"], [twins])
    assert found.settled and len(found.remaining) == 2 and "nothing that matters" in found.says
    assert differences([twins.configured("twin")]) == ()


def test_a_stray_text_speaks_against_and_earlier_work_counts() -> None:
    found = identify(["Rill 430", "VS15-R3A"], LIBRARY)
    assert {c.configuration: bool(c.against) for c in found.candidates if c.machine == STRAND.id} == {"mk1-rill-310": True, "mk2-rill-430": True}  # fmt: skip
    prior = identify(["Veyra Strand 15"], LIBRARY, {MK2: 3})
    assert prior.candidates[0].configuration == "mk2-rill-430" and prior.candidates[0].share == pytest.approx(
        0.8, abs=0.01
    )


NOISY = st.sampled_from(
    [(m, c, mark) for m in LIBRARY for c in m.configurations for mark in c.marks if mark.kind != "battery"]
)


def noised(text: str, how: str) -> str:
    return {
        "case": text.swapcase(),
        "spaces": " ".join(text.split()).replace(" ", "  ").replace("-", " - "),
        "tight": text.replace(" ", "").replace("-", ""),
        "zero": text.replace("0", "O"),
        "one": text.replace("1", "I").replace("I", "l", 1),
        "punctuated": f"[{text}]; ",
        "buried": f"S/N 8841 {text} made for you",
    }[how]


@given(NOISY, st.sampled_from(["case", "spaces", "tight", "zero", "one", "punctuated", "buried"]))
def test_noise_that_labels_carry_does_not_hide_the_machine(marked, how) -> None:
    machine, configuration, mark = marked
    found = identify([noised(mark.text, how)], LIBRARY)
    assert f"{machine.id}/{configuration.id}" in found.remaining
    assert len(found.remaining) == 1 or found.question is not None


@given(st.text(max_size=40))
def test_matching_any_text_is_bounded(text) -> None:
    assert 0 <= match("VS15-R4B", text) <= 1
    assert folded(folded(text)) == folded(text)


# -- access and bench sheet ---------------------------------------------------------------------
def test_the_cover_opens_once() -> None:
    laid = DROVER.configured("rill-320")
    one, other, both = ({"memory-a"}, {"drive-1"}, {"memory-a", "drive-1"})
    # Drover: grille screws 60 + grille 60 + cover screws 240 + cover 180 + plug 60 = 600; shield 60; set out 180, trial 300
    assert access_seconds(laid, one) == 180 + 300 + 600
    assert access_seconds(laid, other) == 180 + 300 + 600 + 60
    assert access_seconds(laid, both) == access_seconds(laid, other)
    assert bench_seconds(laid, both) == 1140 + 120 + 240
    assert access_seconds(laid, set()) == 0
    assert closure(laid, ["memory-a"]) == {"grille-screws", "grille", "cover-screws", "cover", "battery-plug"}


def test_circles_and_dangling_names_are_errors_in_the_data() -> None:
    data = DROVER.model_dump()
    data["obstacles"][0]["after"] = ["cover"]
    with pytest.raises(ValueError, match="circle"):
        Machine.model_validate(data)
    data["obstacles"][0]["after"] = ["nowhere"]
    with pytest.raises(ValueError, match="nowhere"):
        Machine.model_validate(data)
    with pytest.raises(InputError, match="no configuration"):
        DROVER.configured("rill-999")


def planned():
    laid = STRAND.configured("mk2-rill-430")
    today = made.build(
        laid, drive_1=STRAND.slots[1].fitted, radio=STRAND.slots[3].fitted, battery=STRAND.slots[4].fitted
    )
    return today.with_part("memory-b", made.module("PM", grade_mts=2933)).with_part("drive-1", made.drive("QK"))


def test_sheet_opens_exchanges_proves_and_closes() -> None:
    full = sheet(planned())
    phases = list(dict.fromkeys(s.phase for s in full.steps))
    assert phases == ["set out", "open", "exchange", "put back", "trial", "close"]
    assert sum(s.screws for s in full.steps) == 0 and full.screws == 9
    assert [s.id for s in full.steps if s.phase == "exchange"] == ["in:memory-b", "out:drive-1", "in:drive-1"]
    assert {s.id: s.number for s in full.steps if s.number} == {"in:memory-b": "PM", "in:drive-1": "QK"}
    assert full.seconds == bench_seconds(planned().machine, planned().changed())
    ids = [s.id for s in full.steps]
    assert ids.index("on:battery-plug") < ids.index("trial") < ids.index("on:cover-screws")
    hints = {s.id: s.hint for s in full.steps}
    assert "Undo the standoff screw" in hints["out:drive-1"] and "Slide in at an angle" in hints["in:drive-1"]
    assert "clips click" in hints["in:memory-b"]
    swap = planned().machine.slot("drive-1").swap_seconds
    assert [s.seconds for s in full.steps if s.slot == "drive-1"] == [swap // 2, swap - swap // 2]  # out, then in
    late = [s.id for s in sheet(planned(), Ways(trial_before_closing=False)).steps]
    assert late[-1] == "trial"
    assert sheet(made.build()).steps == ()


# -- gates --------------------------------------------------------------------------------------
DONE = GateState(state="done")


def test_gates_follow_from_plan_and_owner() -> None:
    needed = {g.id for g in gates(planned(), Intake(), sheet(planned()))}
    assert needed == {"backup", "encryption", "boot_stick", "drivers", "parts", "tools", "warranty", "battery"}
    memory_only = made.build().with_part("memory-a", made.module())
    assert {g.id for g in gates(memory_only, Intake(encryption="off"), sheet(memory_only))} == {"backup", "parts", "tools", "warranty", "battery"}  # fmt: skip


@pytest.mark.parametrize(
    ("slot", "part", "sends", "screws"),
    [
        ("radio", made.radio("R"), True, True),
        ("cellular", made.cellular("C"), True, True),
        ("drive-1", made.drive("D"), False, True),
        ("memory-a", made.module("M"), False, False),
        ("bay", made.bay_drive("B"), False, False),
    ],
)
def test_what_sends_asks_for_local_rules_and_a_card_for_its_own_screw(slot, part, sends, screws) -> None:
    build = made.build(made.machine({"cellular": {}} if slot == "cellular" else None)).with_part(slot, part)
    found = {g.id: g for g in gates(build, Intake(), sheet(build))}
    assert ("approvals" in found) == sends and any("own screw" in i for i in found["tools"].items) == screws


def test_the_copy_and_the_price_are_gates_where_there_is_one() -> None:
    copy = CopyPath(
        path="usb10",
        says="Over an enclosure.",
        minutes=7,
        needs_gb=110,
        fits=True,
        buys=("enclosure ENC",),
        must=("A stick.",),
    )
    found = {g.id: g for g in gates(planned(), Intake(), sheet(planned()), None, copy, "€ 31.57; the office agreed")}
    assert found["copy"].items == ("at hand: enclosure ENC", "A stick.", "about 7 min unattended")
    assert found["consent"].items == ("€ 31.57; the office agreed",)
    unknown = gates(planned(), Intake(), sheet(planned()), None, copy.model_copy(update={"minutes": None}))
    assert not any("unattended" in i for g in unknown for i in g.items) and not any(g.id == "consent" for g in unknown)


@pytest.mark.parametrize(
    ("gate", "state", "passes"),
    [
        ("backup", DONE, True),
        ("backup", GateState(), False),
        ("backup", GateState(state="waived", words="owner: nothing on it worth keeping"), True),
        ("backup", GateState(state="waived", words="ok"), False),  # a waiver is words
        ("backup", GateState(state="waived", words=" " * 30), False),
        ("battery", DONE, True),
        ("battery", GateState(state="waived", words="owner says it is fine like that"), False),
        ("battery", GateState(state="blocked", words="swollen"), False),
    ],
)
def test_what_opens_the_safety_key(gate, state, passes) -> None:
    needed = gates(planned(), Intake(), sheet(planned()))
    states = {g.id: DONE for g in needed} | {gate: state}
    assert (gate not in {g.id for g in still_open(needed, states)}) is passes


# -- proof --------------------------------------------------------------------------------------
EXPECTED = expect(planned())
GOOD = Reading(
    maker="Veyra",
    system="Strand 15 mk II",
    visible_mb=23_600,
    modules=(
        ReadModule(locator="Soldered A", present=True, size_mb=8192, soldered=True, running_mts=2933),
        ReadModule(locator="Memory B", present=True, size_mb=16384, soldered=False, running_mts=2933),
    ),
    memory_complete=True,
    drives=(ReadDrive(name="nvme0n1", model="Quern QK", size_bytes=10**12, running=Link(generation=3, lanes=4)),),
    understood=("lsblk.json", "lspci.txt"),
)


def outcome(reading: Reading, id: str) -> str:
    return next(p.outcome for p in compare(EXPECTED, reading).proofs if p.id == id)


def module_reading(**changes) -> Reading:
    return GOOD.model_copy(update={"modules": (GOOD.modules[0], GOOD.modules[1].model_copy(update=changes))})


def drive_reading(**changes) -> Reading:
    return GOOD.model_copy(update={"drives": (GOOD.drives[0].model_copy(update=changes),)})


def test_expectations_follow_from_the_plan() -> None:
    wanted = {e.id: e.wanted for e in EXPECTED.expectations}
    assert wanted["memory.total"] == "24 GB"
    assert wanted["memory.visible"].startswith("23968 MB")  # 24 × 1024 − 512 − 96
    assert wanted["memory.speed"] == "2933 MT/s, 16 GB of it in two channels"
    assert wanted["drive-1.link"] == "PCIe 3 ×4"
    assert {e.id for e in EXPECTED.expectations if e.changed} == {"memory-b.size", "drive-1.drive", "drive-1.link"}


@pytest.mark.parametrize(
    ("reading", "id", "wanted"),
    [
        (GOOD, "memory.total", Outcome.AS_EXPECTED),
        (GOOD, "memory.visible", Outcome.AS_EXPECTED),  # a kernel keeps up to 3 % for itself
        (GOOD.model_copy(update={"visible_mb": 23_000}), "memory.visible", Outcome.WORSE),
        (GOOD.model_copy(update={"visible_mb": 3_600, "word_bits": 32}), "memory.visible", Outcome.AS_EXPECTED),
        (GOOD.model_copy(update={"visible_mb": None}), "memory.visible", Outcome.NOT_SEEN),
        (module_reading(present=False, size_mb=None), "memory-b.size", Outcome.WORSE),
        (module_reading(present=False, size_mb=None), "memory.total", Outcome.WORSE),
        # a size nobody told is no empty socket, and a list that is not whole has no sum
        (module_reading(size_mb=None), "memory-b.size", Outcome.NOT_SEEN),
        (module_reading(size_mb=None), "memory.total", Outcome.NOT_SEEN),
        (GOOD.model_copy(update={"memory_complete": False}), "memory.total", Outcome.NOT_SEEN),
        (module_reading(size_mb=32768), "memory-b.size", Outcome.BETTER),
        (module_reading(locator="ChannelB-DIMM0"), "memory-b.size", Outcome.AS_EXPECTED),  # by order
        (module_reading(running_mts=2667), "memory.speed", Outcome.WORSE),
        (module_reading(running_mts=2934), "memory.speed", Outcome.AS_EXPECTED),  # one grade
        (GOOD.model_copy(update={"modules": tuple(m.model_copy(update={"running_mts": 1467}) for m in GOOD.modules)}), "memory.speed", Outcome.AS_EXPECTED),  # shown as half
        (GOOD, "drive-1.drive", Outcome.AS_EXPECTED),
        (drive_reading(size_bytes=1_000_204_886_016), "drive-1.drive", Outcome.AS_EXPECTED),
        (drive_reading(size_bytes=500 * 10**9), "drive-1.drive", Outcome.WORSE),
        (drive_reading(model="Another"), "drive-1.drive", Outcome.WORSE),
        (GOOD.model_copy(update={"drives": ()}), "drive-1.drive", Outcome.WORSE),  # the list was read and it is not there
        (GOOD.model_copy(update={"drives": (), "understood": ()}), "drive-1.drive", Outcome.NOT_SEEN),
        (GOOD, "radio.radio", Outcome.WORSE),  # the whole bus was listed
        (GOOD.model_copy(update={"cut_off": ("lspci.txt",)}), "radio.radio", Outcome.NOT_SEEN),
        (GOOD.model_copy(update={"understood": ("cim.json",)}), "radio.radio", Outcome.NOT_SEEN),
        (GOOD, "radio.bluetooth", Outcome.NOT_SEEN),  # no word is not "missing"
        (GOOD.model_copy(update={"bluetooth": ReadBluetooth(fixed=True, driver=True)}), "radio.bluetooth", Outcome.AS_EXPECTED),
        (GOOD.model_copy(update={"bluetooth": ReadBluetooth(fixed=True, driver=False)}), "radio.bluetooth", Outcome.WORSE),
        (GOOD.model_copy(update={"packs": (ReadBattery(full_mwh=41000),)}), "battery.full", Outcome.AS_EXPECTED),
        (GOOD.model_copy(update={"packs": (ReadBattery(full_mwh=41000),) * 2}), "battery.full", Outcome.NOT_SEEN),  # which is it?
        (drive_reading(running=Link(generation=3, lanes=2)), "drive-1.link", Outcome.WORSE),
        (drive_reading(running=Link(generation=1, lanes=4)), "drive-1.link", Outcome.WORSE),  # it may idle: said in the note
        (drive_reading(running=Link(generation=4, lanes=4)), "drive-1.link", Outcome.BETTER),
        (drive_reading(running=None), "drive-1.link", Outcome.NOT_SEEN),
        (GOOD, "battery.full", Outcome.NOT_SEEN),
    ],
)  # fmt: skip
def test_proof(reading, id, wanted) -> None:
    assert outcome(reading, id) == wanted
    worse = [p for p in compare(EXPECTED, reading).proofs if p.outcome == Outcome.WORSE]
    assert all(p.causes for p in worse)


def test_another_machines_reading_is_refused() -> None:
    with pytest.raises(InputError, match="another machine: Veyra Strand 15 mk I"):
        compare(EXPECTED, GOOD.model_copy(update={"system": "Strand 15 mk I"}))
    assert isinstance(Expected.model_validate_json(EXPECTED.model_dump_json()), Expected)


# -- edits --------------------------------------------------------------------------------------
JOB = Job(number=7, title="Slow desk")


def edited(job: Job, path: str, value=None, base=None, op="set"):
    return apply_edit(job, Edit(uid="u", path=path, base=base, value=value, op=op))


def test_an_edit_changes_one_place() -> None:
    job, result = edited(JOB, "/intake/words", "Slow", base="")
    assert (job.intake.words, result.outcome, result.before) == ("Slow", "applied", "")
    job, _ = edited(job, "/survey/measured/drive-2.clearance_below_um", 1400)
    assert job.survey.measured == {"drive-2.clearance_below_um": 1400}
    job, _ = edited(job, "/bench/done/off:a~1b", "now")
    assert job.bench.done == {"off:a/b": "now"}
    job, _ = edited(job, "/bench/done/off:a~1b", base="now", op="remove")
    assert job.bench.done == {}


def test_both_keep_their_words() -> None:
    mine, _ = edited(JOB, "/intake/notes", "mine", base="")
    same, result = edited(mine, "/intake/notes", "theirs", base="")
    assert same == mine and (result.outcome, result.theirs) == ("conflict", "mine")
    assert edited(mine, "/intake/notes", "mine", base="")[1].outcome == "already"


@pytest.mark.parametrize(
    ("path", "value", "base"),
    [
        ("/number", 9, 7),
        ("/format", "x", "insertum-job/1"),
        ("/nonsense", 1, None),
        ("intake", 1, None),
        ("", 1, None),
        ("/intake/years", -1, 3),
        ("/intake/years", "many", 3),
        ("/intake/nonsense", 1, None),
        ("/title/deeper", 1, None),
        ("/due", "next week", ""),
        ("/fit/limits", "lax", "proven"),
        ("/prepare/gates/backup", {"state": "perhaps"}, None),
    ],
)
def test_a_bad_edit_is_refused_and_changes_nothing(path, value, base) -> None:
    with pytest.raises(InputError):
        edited(JOB, path, value, base)


@given(
    st.lists(st.tuples(st.sampled_from(["/title", "/intake/words", "/bench/done/a"]), st.text(max_size=5)), max_size=8)
)
def test_edits_based_on_what_is_seen_always_apply(steps) -> None:
    job, seen = JOB, {"/title": "Slow desk", "/intake/words": "", "/bench/done/a": None}
    for path, value in steps:
        job, result = edited(job, path, value, seen[path])
        assert result.outcome in ("applied", "already")
        seen[path] = value
    assert Job.model_validate_json(job.model_dump_json()) == job


@pytest.mark.parametrize(("pack", "ticked"), [("not_looked", True), ("sound", True), ("swollen", False)])
def test_a_pack_that_came_in_swollen_opens_no_job_whatever_is_ticked(pack: str, ticked: bool) -> None:
    needed = gates(planned(), Intake(pack=pack, encryption="off"), sheet(planned()))
    left = {g.id for g in still_open(needed, {"battery": GateState(state="done")})}
    assert ("battery" not in left) is ticked


def _act(*questions: tuple[str, str]) -> WaitingAct:
    asks = tuple(ToSettle(attribute=a, label=label, how="", minutes=1) for a, label in questions)
    return WaitingAct(id="papers", name="Read the machine's papers", minutes=6, questions=asks)


USED, REACH = ("intake.used_gb", "How much of the drives is used"), ("trial.reach", "How far away it carries")


@pytest.mark.parametrize(
    ("asked", "open_", "looked", "trial"),
    [
        ((USED,), {"intake.used_gb"}, False, False),  # no verdict waits for it, and the plan does
        ((USED,), set(), True, False),
        ((REACH,), {"trial.reach"}, None, True),  # nothing to look at: only the fitted card tells
        ((USED, REACH), {"intake.used_gb", "trial.reach"}, False, True),
        ((USED, REACH), {"trial.reach"}, True, True),
        ((), {"intake.used_gb"}, None, False),  # a plan that waits for nothing has no such gate
    ],
)
def test_what_a_plans_figures_rest_on_is_looked_at_too_and_a_trial_is_no_look(asked, open_, looked, trial) -> None:
    waits = (_act(*asked),) if asked else ()
    made_ = {g.id: g for g in gates(planned(), Intake(), sheet(planned()), waits=waits, unmeasured=frozenset(open_))}
    assert (made_["looked"].settled if "looked" in made_ else None, "trial" in made_) == (looked, trial)
