"""What is said above the plans, each sentence where it is so and where it is not; worked by hand."""

import pytest

from insertum.core.plan.answer import plan
from insertum.core.plan.detail import detail
from insertum.core.plan.need import Need

from . import made
from .test_plan_values import EIGHT, MEMORY, OLD, RADIO, SIXTEEN, SPACE, SPEED, THIRTY_TWO, first, request

#: 8 GB fitted: comfort, and one GB short of the ceiling.
EASY = MEMORY.model_copy(update={"floor": 2, "comfort": 8, "ceiling": 9})
HOURS = Need(kind="runtime", floor=2, comfort=4, ceiling=6, weight=1)
FAULT = Need(kind="fault", floor=1, comfort=2, ceiling=3, slot="drive-1", weight=1)
NOTHING = "Every stated need is at comfort today: buy nothing."
COMFORT = "Every stated need is at comfort today."


@pytest.mark.parametrize(
    ("parts", "needs", "terms", "said"),
    [
        ([SIXTEEN], [EASY], {}, NOTHING),  # 16 GB: 10 points for 30.00, a third of a point a unit; the job stops at half
        ([SIXTEEN], [EASY], {"threshold": 0.3}, COMFORT),  # the plan buys it
        ([SIXTEEN], [EASY], {"threshold": 0.3, "budget_minor": 0}, COMFORT),  # worth its money, and kept out by the budget
        ([made.module("NP", None, capacity_gb=16)], [EASY], {}, COMFORT),  # nobody has it in stock: at what price nobody knows
        ([SIXTEEN], [EASY, HOURS], {}, ""),  # hours nobody has measured are a need too
        ([SIXTEEN], [MEMORY], {}, ""),
        ([], [EASY], {}, NOTHING),
    ],
)  # fmt: skip
def test_buy_nothing(parts, needs, terms, said) -> None:
    told = [f for f in first(request(parts, needs, terms)) if "comfort" in f or "uy nothing" in f]
    assert told == ([said] if said else [])


@pytest.mark.parametrize(
    ("parts", "needs", "more", "said"),
    [
        ([made.drive("ND", 6000)], [EASY, FAULT], {}, "Everything else is at comfort today: mend the fault only."),
        ([], [EASY, FAULT], {}, "Everything else is at comfort today."),
        ([made.drive("ND", 6000), SIXTEEN], [EASY, FAULT], {"threshold": 0.1}, "Everything else is at comfort today."),
        ([made.drive("ND", 6000)], [EASY, FAULT, HOURS], {}, ""),
    ],
)
def test_mend_the_fault_only(parts, needs, more, said) -> None:
    told = first(request(parts, needs, more, fitted={"drive-1": made.drive("OD", None)}))
    assert [f for f in told if "comfort" in f] == ([said] if said else [])
    lost = "Fault: nothing in the catalogue mends it, and no task does."
    assert (lost in told) is not any(p.kind == "m2_drive" for p in parts)


REPORTED = {s: {"limit_gb": [made.said(8), made.said(32, "reported")]} for s in ("memory-a", "memory-b")}
CONTROLLER = {s: {"limit_gb": [made.said(8), made.said(32, "controller")]} for s in ("memory-a", "memory-b")}


@pytest.mark.parametrize(
    ("what", "parts", "changes", "said"),
    [
        # 8 fitted and 8 at most: 32 GB only where the controller's figure counts; the plan in hand costs nothing.
        ("limits", [THIRTY_TWO], {"slots": CONTROLLER, "terms": {"limits": "documented"}},
         "Memory: M-32 would lift it under *controller*, + € 90.00."),
        ("the owner's risk", [THIRTY_TWO], {"slots": REPORTED}, "Memory: M-32 would lift it under *open*, + € 90.00."),
        ("the cheaper of two that do", [THIRTY_TWO, SIXTEEN], {"slots": CONTROLLER, "terms": {"limits": "documented"}},
         "Memory: M-16 would lift it under *controller*, + € 30.00."),
        ("makes", [SIXTEEN], {"terms": {"schools": {"makes": ("Orrin",)}}}, "Memory: M-16 would lift it of another make, + € 30.00."),
        ("stock", [made.module("NP", None, capacity_gb=16, offers=[{"shop": "T", "price_minor": 900, "stock": 0}])], {},
         "Memory: NP would lift it; nobody has it in stock."),
        # Sold abroad only, or offered by nobody: that is no empty shelf.
        ("another currency", [made.module("NP", None, capacity_gb=16, offers=[{"shop": "T", "price_minor": 900, "stock": 3, "currency": "JPY"}])], {},
         "Memory: NP would lift it; it has no price here."),
        ("no offer", [made.module("NP", None, capacity_gb=16)], {}, "Memory: NP would lift it; it has no price here."),
        # What nobody has a price for is no cheap way.
        ("a price before none", [made.module("NP", None, capacity_gb=16), THIRTY_TWO], {"terms": {"schools": {"makes": ("Quern",)}}},
         "Memory: M-32 would lift it of another make, + € 90.00."),
        ("two terms", [THIRTY_TWO], {"slots": CONTROLLER, "terms": {"limits": "documented", "schools": {"makes": ("Orrin",)}}},
         "Memory: M-32 would lift it under *controller* and of another make, + € 90.00."),
        ("nothing keeps it out", [SIXTEEN], {}, ""),
        ("nothing at all lifts it", [], {}, ""),
    ],
)  # fmt: skip
def test_what_is_kept_out_is_named_with_its_term_and_price(what, parts, changes, said) -> None:
    changes = {**changes, "fitted": {"memory-a": OLD, "memory-b": None}}
    told = [f for f in first(request(parts, [MEMORY], **changes)) if "would lift" in f]
    assert told == ([said] if said else []), what
    assert (LOST in first(request(parts, [MEMORY], **changes))) is (what == "nothing at all lifts it")


LOST = "Memory: nothing in the catalogue lifts it in this machine."


def test_the_router_is_named_where_it_binds() -> None:
    """One stream of ax in 20 MHz is 143 Mb/s, of which 65 % come through: 93."""
    from insertum.core.standards.wlan import RadioSide

    slow = RadioSide(standard="ax", streams=1, width_mhz=20, bands=("5",))
    card = {"radio": made.radio("OR", None)}
    says = "The router delivers 93 Mb/s at most: no Wi-Fi card gets more out of it."
    assert says in first(request([], [RADIO], use={"router": slow}, fitted=card))
    assert not any(
        "nothing in the catalogue" in f for f in first(request([], [RADIO], use={"router": slow}, fitted=card))
    )
    wide = RadioSide(standard="be", streams=4, width_mhz=320, bands=("5", "6"))
    assert not any("router" in f for f in first(request([], [RADIO], use={"router": wide}, fitted=card)))
    assert not any("router" in f for f in first(request([], [RADIO.model_copy(update={"floor": 20, "comfort": 90, "ceiling": 700})], use={"router": slow}, fitted=card)))  # fmt: skip


@pytest.mark.parametrize(
    ("needs", "says"),
    [
        ([MEMORY], "Just enough for 3 years at 12 % a year."),
        ([MEMORY.model_copy(update={"growth_percent": 0.0}), SPEED], "Just enough for 3 years at 12 % a year (memory 0 %)."),
        ([MEMORY.model_copy(update={"growth_percent": 0.0})], "Just enough for 3 years at memory 0 % a year."),
        ([MEMORY.model_copy(update={"growth_percent": 12.0})], "Just enough for 3 years at 12 % a year."),
    ],
)  # fmt: skip
def test_growth_is_told_as_each_need_grows(needs, says) -> None:
    parts = [THIRTY_TWO, made.drive("ND", 6000, read_mb_s=3400)]
    found = next(s for s in plan(request(parts, needs)).stances if s.stance == "room_for_years")
    assert found.says.startswith(says[:-1]) or not all(n.met_after[1] >= 0.9 for n in found.plan.needs)
    assert found.says.startswith(says[:-1])


def test_no_step_within_the_budget() -> None:
    for budget, says in ((0, "No step within the budget gains"), (None, "No step gains")):
        asked = request([THIRTY_TWO], [MEMORY], {"budget_minor": budget, "threshold": 5})
        found = next(s for s in plan(asked).stances if s.stance == "best_value")
        assert found.says.startswith(says)


def test_what_a_plan_would_lose_is_not_called_a_gain() -> None:
    """16 GB chosen; 8 more instead would gain 50 points less. "gains -1.0 points" is no sentence."""
    told = detail(request([SIXTEEN, EIGHT, THIRTY_TWO], [MEMORY, SPACE], {"threshold": 0.1})).left_out
    assert told and not any("gains -" in x.reason or "gains +0.0" in x.reason for x in told)


@pytest.mark.parametrize(("slots", "said"), [({}, True), ({"memory-b": None}, False)])
def test_a_matched_pair_is_offered_only_where_there_are_two_sockets(slots, said) -> None:
    asked = request([SIXTEEN], [MEMORY])
    if slots:
        one = tuple(s for s in asked.machine.slots if s.id != "memory-b")
        asked = asked.model_copy(update={"machine": asked.machine.model_copy(update={"slots": one})})
    assert ("pair" in {s.choice for s in detail(asked).schools if s.school == "memory"}) is said
