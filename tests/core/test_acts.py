"""What to do next: acts, their questions, minutes and order, worked by hand."""

import pytest

from insertum.core.access.way import access_seconds
from insertum.core.fit.judge import Cell, worth_of_measuring
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.part import M2Drive, MemoryModule, Radio
from insertum.core.survey.acts import ACTS, acts_of, next_acts
from insertum.core.verdict import Verdict

from . import made

BUILD = made.build()
#: A drive waits for the room above it, a radio for the card policy, another drive for both, one module for its seller.
ROOM, POLICY, FIRMWARE = "drive-1.clearance_above_um", "radio.card_policy", "firmware.version"
PARTS = [made.drive("A", 5000), made.radio("B", 1200), made.drive("C", 9000), made.module("D", 3000)]
WAITS = {"A": (ROOM,), "B": (POLICY,), "C": (ROOM, POLICY), "D": ("part.chip_width",)}
SLOT = {"A": "drive-1", "B": "radio", "C": "drive-1", "D": "memory-a"}
CELLS = [Cell(SLOT[n], n, Verdict.MEASURE_FIRST, "", asks, (), 0) for n, asks in WAITS.items()]
WAY = -(-access_seconds(BUILD.machine, ["drive-1"]) // 60)


def acts(cells=CELLS, **more):
    worths = worth_of_measuring(BUILD, cells, PARTS)
    return next_acts(BUILD, cells, PARTS, worths, **more)


def test_acts_with_their_questions_minutes_and_what_they_decide() -> None:
    """The papers take 5 + 1 minutes and decide B; the way to drive 1 and clay (3) take longer and decide A and C then."""
    found = [(a.id, a.minutes, a.answers, a.of, a.parts, a.from_minor, a.to_minor) for a in acts()]
    assert WAY + 3 > 2 * 6  # else the cover would decide as much a minute
    assert found == [
        ("papers", 6, 1, 2, 1, 1200, 1200), ("cover", WAY + 3, 1, 2, 2, 5000, 9000), ("seller", 5, 0, 0, 1, 3000, 3000),
    ]  # fmt: skip


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


def test_a_question_goes_to_the_next_act_that_can_answer_it() -> None:
    """The firmware's version is read or seen on its screens; read already and still open, only the screens are left."""
    cells = [Cell("radio", "B", Verdict.MEASURE_FIRST, "", (FIRMWARE,), (), 0)]
    assert [(a.id, a.minutes) for a in acts(cells)] == [("reading", 5)]
    assert [(a.id, a.minutes) for a in acts(cells, told=["reading"])] == [("firmware", 4)]


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
