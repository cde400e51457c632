"""What to do next: acts, their questions, minutes and order, worked by hand."""

import pytest

from insertum.core.fit.judge import Cell, Worth, matrix, worth_of_measuring
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.drive_parts import M2Drive
from insertum.core.machine.part import MemoryModule
from insertum.core.machine.radio_parts import Radio
from insertum.core.survey.acts import ACTS, acts_of, by_act, minutes_of, next_acts, open_acts
from insertum.core.verdict import Verdict
from tests.draws import chance

from . import made
from . import random_machines as drawn

BUILD = made.build(
    made.machine({"radio": {"card_policy": None}, "drive-1": {"clearance_above_um": None}}, memory_total_limit_gb=None)
)
#: A drive waits for the room above it, a radio for the card policy, another drive for both, one module for its seller.
ROOM, POLICY, FIRMWARE = "drive-1.clearance_above_um", "radio.card_policy", "firmware.version"
PARTS = [made.drive("A", 5000), made.radio("B", 1200), made.drive("C", 9000), made.module("D", 3000)]
WAITS = {"A": (ROOM,), "B": (POLICY,), "C": (ROOM, POLICY), "D": ("part.chip_width",)}
SLOT = {"A": "drive-1", "B": "radio", "C": "drive-1", "D": "memory-a"}
CELLS = [Cell(SLOT[n], n, Verdict.MEASURE_FIRST, "", asks, (), 0) for n, asks in WAITS.items()]
#: Setting out 180 s, trial 300, screws 240, cover 120, plug 60, shield 60: 960 s in and out.
WAY = 16


def acts(cells=CELLS, **more):
    worths = worth_of_measuring(BUILD, cells, PARTS)
    return next_acts(BUILD, cells, PARTS, worths, **more)


def test_acts_with_their_questions_minutes_and_what_they_decide() -> None:
    """The papers take 5 + 1 minutes and decide B, a part in six minutes; the way to drive 1 and clay, 16 + 3, alone decide A, one in
    nineteen, and after the papers C too."""
    found = [(a.id, a.minutes, a.answers, a.of, a.parts, a.from_minor, a.to_minor) for a in acts()]
    assert found == [
        ("papers", 6, 1, 2, 1, 1200, 1200), ("cover", WAY + 3, 1, 2, 2, 5000, 9000), ("seller", 5, 0, 0, 1, 3000, 3000),
    ]  # fmt: skip


def test_the_table_is_the_rules() -> None:
    """rules.md section 7: minutes once, and for each; of the cover the way comes on top."""
    assert {a: (x.once, x.each, x.opens) for a, x in ACTS.items()} == {
        "trial": (10, 0, False), "reading": (5, 0, False), "firmware": (3, 1, False), "labels": (2, 0, False),
        "papers": (5, 1, False), "processor": (5, 1, False), "cover": (0, 1, True), "customer": (3, 1, False), "seller": (5, 0, False),
    }  # fmt: skip


def test_a_way_nobody_has_written_down_takes_a_quarter_of_an_hour() -> None:
    laid = made.machine({s: {"reached_by": []} for s in ("memory-a", "memory-b", "drive-1", "radio", "bay", "battery")}, obstacles=[])  # fmt: skip
    assert minutes_of(made.build(laid), "cover", ["drive-1.pad_below", "bay.ribbon"]) == 15 + 2
    # What belongs to no slot is looked for where the first one is: setting out 180, trial 300, screws 240, cover 120, plug 60.
    assert minutes_of(BUILD, "cover", ["exclusion.0"]) == 15 + 1


def test_a_part_that_was_decided_is_not_decided_again() -> None:
    """One slot waits for the policy, another for the room: the papers decide the part there, and the cover decides nothing
    more of it; what still waits for both is decided by the second."""
    cells = [
        Cell("radio", "B", Verdict.MEASURE_FIRST, "", (POLICY,), (), 0),
        Cell("drive-1", "C", Verdict.MEASURE_FIRST, "", (POLICY, ROOM), (), 0),
    ]
    assert [(a.id, a.parts) for a in acts(cells)] == [("papers", 1), ("cover", 1)]


@pytest.mark.parametrize(
    ("places", "parts", "minutes"),
    [
        (["memory.total_limit_gb", POLICY, "bay.drive_limit_gb"], 0, {"papers": 5 + 3}),  # lines of one page, not three looks
        (["part.ranks", "part.chip_width"], 1, {"seller": 5}),
        (["part.ranks"], 2, {"seller": 10}),  # of two parts two are asked
        ([ROOM, "drive-1.pad_below"], 0, {"cover": WAY + 3 + 1}),  # clay and a look, the way once
        (["fitted.bay", "boot.storage_mode"], 0, {"reading": 5, "firmware": 4}),
        (["job.as_usual"], 0, {"customer": 4}),
        (["trial.reach"], 0, {"trial": 10}),
        (["intake.used_gb"], 0, {"reading": 5}),
    ],
)  # fmt: skip
def test_minutes_of_a_plans_questions_belong_to_the_acts(places, parts, minutes) -> None:
    assert {a: minutes_of(BUILD, a, asked, parts) for a, asked in by_act(BUILD, places).items()} == minutes


@pytest.mark.parametrize(
    ("more", "ids", "decided"),
    [
        ({}, ["papers", "cover", "seller"], [1, 2, 1]),
        # Without the papers nothing answers the policy: B and C stay open, and are said to be nobody's.
        ({"closed": {"papers": "no manual is to be had"}}, ["cover", "seller", "papers"], [1, 1, 0]),
        ({"closed": {"cover": "glued"}}, ["papers", "seller", "cover"], [1, 1, 0]),
        ({"told": ["seller"]}, ["papers", "cover"], [1, 2]),
        # What a complaint needs comes first, however little it decides.
        ({"unmeasured": ["Hours off mains"]}, ["trial", "papers", "cover", "seller"], [0, 1, 2, 1]),
        ({"unmeasured": ["Hours off mains"], "closed": {"trial": "no time"}}, ["papers", "cover", "seller", "trial"], [1, 2, 1, 0]),
    ],
)  # fmt: skip
def test_what_cannot_be_done_leaves_its_place_to_the_next(more, ids, decided) -> None:
    found = acts(**more)
    assert ([a.id for a in found], [a.parts for a in found]) == (ids, decided)
    assert {a.id: a.closed for a in found if a.closed} == more.get("closed", {})
    left = {w.attribute for a in found if a.closed for w in a.asks}  # what nothing else answers is not lost
    assert left == {"papers": {POLICY}, "cover": {ROOM}}.get(next(iter(more.get("closed", {})), ""), set())


def test_a_question_goes_to_the_next_act_that_can_answer_it() -> None:
    """The firmware's version is read or seen on its screens; read already and still open, only the screens are left."""
    cells = [Cell("radio", "B", Verdict.MEASURE_FIRST, "", (FIRMWARE,), (), 0)]
    assert [(a.id, a.minutes) for a in acts(cells)] == [("reading", 5)]
    assert [(a.id, a.minutes) for a in acts(cells, told=["reading"])] == [("firmware", 4)]


@pytest.mark.parametrize(
    ("claims", "left"),
    [
        ({}, ("papers", "processor")),
        ({"documented": 8}, ("processor",)),
        ({"controller": 16}, ("papers",)),
        ({"documented": 8, "controller": 16}, ()),  # in conflict: reading either again settles nothing
        ({"reported": 16}, ("papers", "processor")),  # what others say is no word of the papers
    ],
)
def test_who_has_told_already_is_not_asked_again(claims, left) -> None:
    told = [{"value": gb, "source": source} for source, gb in claims.items()]
    build = made.build(made.machine(memory_density_gbit=told))
    assert open_acts(build, "memory.density_gbit") == left
    worth = [Worth(attribute="memory.density_gbit", label="densest chips", how="", minutes=5, parts=1)]
    found = next_acts(build, [], [], worth)
    assert [(a.id, bool(a.closed)) for a in found] == ([(left[0], False)] if left else [("papers", True)])


def test_a_part_that_waits_in_two_slots_is_decided_by_either() -> None:
    cells = [*CELLS, Cell("bay", "C", Verdict.MEASURE_FIRST, "", ("bay.height_um",), (), 0)]
    cover = next(a for a in acts(cells, closed={"papers": "none"}) if a.id == "cover")
    assert cover.parts == 2  # A, and C in the bay


def test_nothing_is_asked_of_a_machine_that_is_known() -> None:
    assert acts([]) == ()


def test_every_attribute_has_an_act() -> None:
    """And what is asked of a part is asked of its seller, what of the machine never."""
    for slot in BUILD.machine.slots:
        for name in attributes_of(type(slot)):
            found = acts_of(BUILD, f"{slot.id}.{name}")
            assert found and set(found) <= set(ACTS) - {"seller"}, f"{slot.id}.{name}"
    for kind in (MemoryModule, M2Drive, Radio):
        assert all(acts_of(BUILD, f"part.{name}") == ("seller",) for name in attributes_of(kind))


def test_every_question_is_asked_once_and_no_part_is_decided_twice() -> None:
    """On machines known in part, with acts closed and readings told as it comes: each open question stands with one act, a
    part counts once, and only where the acts up to there answer all it waits for in some slot."""
    for seed in range(25):
        r = chance(seed)
        sample = drawn.sample(r)
        parts = [drawn.bare(r, drawn.part_for(r, s.kind, 4), 0.2).model_copy(update={"number": f"{s.id}-{n}"}) for s in sample.machine.slots for n in range(3)]  # fmt: skip
        cells = matrix(sample.hidden, parts, [])
        worths = worth_of_measuring(sample.hidden, cells, parts)
        closed = {a: "not possible here" for a in ("papers", "cover", "firmware", "seller") if r.random() < 0.25}
        told = ["reading"] if r.random() < 0.5 else []
        acts_ = next_acts(sample.hidden, cells, parts, worths, told=told, closed=closed)
        assert sorted(w.attribute for a in acts_ for w in a.asks) == sorted(w.attribute for w in worths), seed
        waits = {p.number: [set(c.asks) for c in cells if c.part == p.number and c.asks] for p in parts}
        known: set[str] = set()
        before = 0
        for a in acts_:
            if a.closed or a.id in ("seller", "trial"):
                continue
            known |= {w.attribute for w in a.asks}
            now = sum(any(w <= known for w in ways) for ways in waits.values())
            assert a.parts == now - before, (seed, a.id)
            before = now
        sellers = sum(any(x.startswith("part.") for w in ways for x in w) for ways in waits.values())
        assert sum(a.parts for a in acts_ if a.id == "seller") <= sellers
