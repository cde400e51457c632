"""What a plan says: to the owner, in the quote, of what changed since it was chosen. Each sentence where it is so, and
not where it is not; sums with tax worked by hand."""

from dataclasses import replace
from typing import Any

import pytest

from insertum.core.errors import InputError
from insertum.core.plan.copying import copy_path
from insertum.core.plan.difference import difference
from insertum.core.plan.need import LABELS, Need, NeedKind
from insertum.core.plan.plain_summary import for_owner
from insertum.core.plan.planner import Planner
from insertum.core.plan.quote import Quote, Taxed, quote
from insertum.core.plan.report import span
from insertum.core.plan.request import Terms, Use
from insertum.core.plan.result import Change, CopyPath, NeedState, PlanPoint, TaskOffer
from insertum.core.plan.tread_words import step_words
from insertum.core.prove.expect import expect
from insertum.core.prove.typed import TypedScreen, typed_reading
from insertum.core.record.record import expected

from . import made
from .test_plan_values import EIGHT, MEMORY, SIXTEEN, best, plan, request

CHANGE = Change(slot="memory-b", slot_name="Memory B", part="M-16", part_name="Pallas 16 GB", price_minor=3000)
TASK = TaskOffer(id="clean", name="Clean the fan", consumables_minor=250, seconds=600)
OUTSIDE = TaskOffer(id="set", name="Set it right", seconds=600, outside=True)
SPACE = NeedState(
    need="drive_space", label="Room", unit="GB", weight=1, set_by="", today=(100, 100), after=(400, 612.34),
    met_today=(0.2, 0.2), met_after=(0.6, 0.8), points=40, hoped=40,
)  # fmt: skip


def point(*changes: Change, **more: Any) -> PlanPoint:
    plain = {
        "changes": changes, "boot_slot": "drive-1", "cost_minor": 4417, "parts_minor": 3000, "accessories_minor": 0,
        "bench_seconds": 1020, "labour_minor": 1417, "credit_minor": 0, "benefit": 40, "needs": (),
    }  # fmt: skip
    return PlanPoint.model_validate(plain | more)


def need(
    kind: str, today: tuple[float, float], after: tuple[float, float], unit: str, points: float = 5, hoped: float = 5
) -> NeedState:
    return SPACE.model_copy(
        update={"need": kind, "label": LABELS[NeedKind(kind.partition(":")[0])], "today": today, "after": after, "unit": unit, "points": points, "hoped": hoped}
    )  # fmt: skip


def changed(**more: Any) -> Change:
    return CHANGE.model_copy(update=more)


# -- to the owner -------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("so", "not_so", "says"),
    [
        (point(), point(CHANGE), "Nothing is bought and nothing is opened."),
        (point(CHANGE), point(changed(part="", part_name="")), "We fit Pallas 16 GB into Memory B."),
        (point(changed(takes_out="Orrin 8 GB")), point(CHANGE), "Out comes Orrin 8 GB (Memory B)."),
        (
            point(changed(takes_out="one"), changed(slot="a", slot_name="A", takes_out="two")),
            point(changed(takes_out="one")),
            "Out come one (Memory B) and two (A).",
        ),
        (point(CHANGE, tasks=(TASK,)), point(tasks=(TASK,)), "While it is open: Clean the fan."),
        (point(tasks=(TASK,)), point(CHANGE, tasks=(TASK,)), "We do this: Clean the fan."),
        (point(tasks=(OUTSIDE,)), point(tasks=(TASK,)), "With the case shut: Set it right."),
        (point(CHANGE, needs=(SPACE,)), point(CHANGE), "You get 400–612.3 GB of room instead of 100."),
        (
            point(CHANGE, needs=(SPACE.model_copy(update={"after": (350.5, 350.5)}),)),
            point(CHANGE, needs=(SPACE,)),
            "You get 250.5 GB more room.",
        ),
        (
            point(CHANGE, needs=(SPACE,)),
            point(CHANGE, needs=(SPACE.model_copy(update={"points": 0, "hoped": 0}),)),
            "You get ",
        ),
        (
            point(CHANGE, needs=(SPACE,), years=3),
            point(CHANGE, needs=(SPACE,)),
            "You get in 3 years 400–612.3 GB of room instead of 100.",
        ),
        (
            point(
                CHANGE, needs=(need("drive_speed", (1600, 1600), (3400, 3400), "MB/s"),), years=3
            ),  # no rate is used up
            point(CHANGE, needs=(SPACE,), years=3),
            "You get a system drive that reads 3400 MB/s instead of 1600.",
        ),
        (
            point(
                CHANGE,
                needs=(
                    need("memory_capacity", (8, 8), (16, 16), "GB"),
                    need("memory_throughput", (23467, 23467), (38400, 38400), "GB/s"),
                ),
            ),
            point(CHANGE, needs=(need("memory_capacity", (8, 8), (16, 16), "GB"),)),
            "You get 16 GB of memory instead of 8 and memory that is read at 38.4 GB/s instead of 23.5.",
        ),
        (
            point(CHANGE, needs=(need("runtime", (0, 4.5), (5.7, 5.7), "h"),)),
            point(CHANGE, needs=(need("runtime", (4.5, 4.5), (5.7, 5.7), "h"),)),
            "You get 5.7 hours off mains instead of up to 4.5.",
        ),
        (
            point(CHANGE, needs=(SPACE.model_copy(update={"need": "fault:fan", "label": "Loud fan"}),)),
            point(CHANGE, needs=(SPACE,)),
            "Loud fan is mended.",
        ),
        (
            point(CHANGE, needs=(SPACE.model_copy(update={"hoped": 40.06}),)),
            point(CHANGE, needs=(SPACE.model_copy(update={"hoped": 40.04}),)),
            "Not everything is known of room: it may gain more than this says.",
        ),
        (point(changed(short="taken as usual")), point(CHANGE), "Unproven until it is tried: Memory B."),
        (
            point(changed(short="taken as usual", takes_out="Orrin 8 GB")),
            point(changed(short="taken as usual")),  # nothing was there: nothing is kept
            "What comes out there is kept until then.",
        ),
        (point(CHANGE, bench_seconds=3000), point(CHANGE, bench_seconds=2940), "bench work of about 50 minutes"),
        (point(CHANGE, consumables_minor=250), point(CHANGE), "consumables € 2.50"),
        (point(CHANGE, credit_minor=800), point(CHANGE), "less € 8.00 for what comes out"),
        (
            point(changed(credit_to_come_minor=800)),
            point(changed(credit_minor=800), credit_minor=800),
            "A credit of € 8.00 follows once it has proved itself.",
        ),
        (point(CHANGE), point(), "In all € 44.17: parts € 30.00, bench work of about 17 minutes € 14.17."),
    ],
)
def test_the_owner_is_told_what_is_so(so: PlanPoint, not_so: PlanPoint, says: str) -> None:
    assert says in for_owner(so, "EUR")
    assert says not in for_owner(not_so, "EUR")


SLOW = {"Slow with many pages open": ("memory_capacity", "memory_throughput")}
FULL = {"Disk full": ("drive_space",)}
MORE = need("memory_capacity", (8, 8), (16, 16), "GB")
NO_MORE = need("memory_capacity", (8, 8), (8, 8), "GB", 0, 0)
MAYBE = need("memory_throughput", (0, 9000), (0, 12000), "GB/s", 0, 3)


@pytest.mark.parametrize(
    ("needs", "complaints", "says"),
    [
        ((MORE, SPACE), SLOW | FULL, ["16 GB of memory instead of 8.", "400–612.3 GB of room instead of 100."]),
        ((NO_MORE, SPACE), SLOW | FULL, ["This plan does nothing for it.", "400–612.3 GB of room instead of 100."]),
        ((NO_MORE, MAYBE), SLOW, ["Memory throughput: not known yet, it may gain."]),
        ((MORE, MAYBE), SLOW, ["16 GB of memory instead of 8. Memory throughput: not known yet, it may gain."]),
        # What two bear on is answered once; no complaint of the customer's is passed over.
        (
            (MORE,),
            SLOW | {"Games stutter": ("memory_capacity",)} | FULL,
            [
                "16 GB of memory instead of 8.",
                "Answered above.",
                "What bears on it was not measured: nothing is sold for it.",
            ],
        ),
        ((MORE,), {"Looks dead": ()}, ["This plan does nothing for it."]),
        ((need("fault:fan", (0, 0), (1, 1), ""),), {"Looks dead": ()}, []),  # what is mended stands below
    ],
)
def test_a_quote_answers_each_complaint_by_what_the_plan_does_about_it(needs, complaints, says) -> None:
    plan_ = point(CHANGE, needs=needs)
    made_ = quote(plan_, Terms(), "2026-11-27T10:00:00+00:00", Taxed(), 14, complaints)
    assert [a.says for a in made_.answers] == says
    whole = " ".join([*(a.says for a in made_.answers), *made_.besides])  # what is answered is not said again
    assert all(whole.count(figure) <= 1 for figure in ("16 GB of memory", "400–612.3 GB"))
    assert ("You get" in whole) is (
        "Looks dead" in complaints and MORE in needs
    )  # what nobody complained of stands besides
    assert quote(plan_, Terms(), "2026-11-27T10:00:00+00:00", Taxed(), 14).answers == ()


# -- the quote ----------------------------------------------------------------------------------------
def quoted(*changes: Change, percent: int = 0, included: bool = True, days: int = 14, **more: Any) -> Quote:
    return quote(point(*changes, **more), Terms(), "2026-11-27T10:00:00+00:00", Taxed(percent=percent, included=included), days)  # fmt: skip


@pytest.mark.parametrize(
    ("cost", "percent", "included", "net", "tax", "total"),
    [
        (10_000, 19, True, 8403, 1597, 10_000),  # 190000 / 119 = 1596.64
        (3, 100, True, 1, 2, 3),  # 1.5 is 2
        (10_050, 19, False, 10_050, 1910, 11_960),  # 1909.5 is 1910
        (10_047, 19, False, 10_047, 1909, 11_956),  # 1908.93
        (10_042, 19, False, 10_042, 1908, 11_950),  # 1907.98
        (10_000, 0, True, 10_000, 0, 10_000),
        (10_000, 0, False, 10_000, 0, 10_000),
    ],
)
def test_tax_is_rounded_once_and_the_three_sums_agree(cost, percent, included, net, tax, total) -> None:
    made_ = quoted(CHANGE, percent=percent, included=included, cost_minor=cost)
    assert (made_.net_minor, made_.tax_minor, made_.total_minor) == (net, tax, total)
    assert made_.net_minor + made_.tax_minor == made_.total_minor


def test_the_lines_of_a_quote_add_up_to_its_sum() -> None:
    """30.00 + a screw for 0.40 + 2.50 for cleaning + 14.17 of work - 8.00 for the old module: 39.07."""
    whole = quoted(
        changed(accessories=("screw",), accessories_minor=40, takes_out="Orrin 8 GB", credit_minor=800, shelf=True, short="unproven"),
        tasks=(TASK,), consumables_minor=250, accessories_minor=40, credit_minor=800, cost_minor=3907,
    )  # fmt: skip
    assert [(x.what, x.amount_minor) for x in whole.lines] == [
        ("Pallas 16 GB, into Memory B", 3000), ("For Memory B: screw", 40), ("Clean the fan", 250),
        ("Bench work, about 17 minutes", 1417), ("Credit for Orrin 8 GB", -800),
    ]  # fmt: skip
    assert sum(x.amount_minor for x in whole.lines) == whole.total_minor
    assert whole.lines[0].note == "from our shelf, used; unproven"
    assert quoted(changed(part="", part_name="", price_minor=0)).lines[0].what == "Memory B: taken out"
    assert not any("Bench work" in x.what for x in quoted(CHANGE, bench_seconds=0).lines)


@pytest.mark.parametrize(("days", "until"), [(0, ""), (3, "2026-11-30"), (4, "2026-12-01")])
def test_how_long_a_quote_holds(days: int, until: str) -> None:
    held = quoted(CHANGE, days=days)
    assert (held.made_on, held.holds_until) == ("2026-11-27", until)


COPY = CopyPath(path="usb10", says="", minutes=None, needs_gb=None, fits=None, buys=("enclosure ENC",))


@pytest.mark.parametrize(
    ("so", "not_so", "says"),
    [
        (quoted(CHANGE, copy_path=COPY), quoted(CHANGE), "To be bought besides: enclosure ENC."),
        (quoted(CHANGE, copy_path=COPY), quoted(CHANGE), "Data is not part of the offer"),
        (quoted(changed(credit_to_come_minor=1)), quoted(changed(credit_minor=1)), "still to prove itself"),
    ],
)
def test_what_a_quote_does_not_hold(so: Quote, not_so: Quote, says: str) -> None:
    assert says in " ".join(so.not_included) and says not in " ".join(not_so.not_included)


# -- since it was chosen ------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("then", "says"),
    [
        ({}, ()),
        ({"price_minor": 2500}, ("M-16: € 25.00 then, € 30.00 now.",)),
        (
            {"accessories": ("screw",), "accessories_minor": 40},
            ("Memory B: accessories screw for € 0.40 then, none for € 0.00 now.",),
        ),
        ({"verdict": "held_back", "short": "runs at 2933"}, ("Memory B: M-16 held back (runs at 2933) then, seats (runs at 3200) now.",)),
        ({"takes_out": "OLD"}, ("Memory B: OLD was to come out, and it is empty now.",)),
        ({"credit_minor": 800}, ("Memory B: credit € 8.00 then, € 0.00 now.",)),
    ],
)  # fmt: skip
def test_what_changed_since_is_told_line_by_line(then: dict[str, Any], says: tuple[str, ...]) -> None:
    asked = request([EIGHT, SIXTEEN], [MEMORY])
    today = best(plan(asked))
    (change,) = today.changes
    assert (change.part, change.short) == ("M-16", "runs at 3200")
    chosen = today.model_copy(update={"changes": (Change.model_validate(change.model_dump() | then),)})
    assert difference(Planner(asked), chosen).lines == says


def test_work_and_needs_that_changed_since_are_told_too() -> None:
    asked = request([EIGHT, SIXTEEN], [MEMORY], {"rate_minor_per_hour": 3000})
    today = best(plan(asked))  # 1020 s at 30.00 an hour: 8.50
    then = today.model_copy(update={"labour_minor": 700})
    assert difference(Planner(asked), then).lines == ("Bench work: € 7.00 then, € 8.50 now.",)
    (need,) = today.needs
    then = today.model_copy(update={"needs": (need.model_copy(update={"after": (16.0, 24.0)}),)})
    assert difference(Planner(asked), then).lines == (f"{need.label}: 16–24 GB expected then, 24 GB now.",)


def test_a_slot_that_was_to_be_emptied_stays_part_of_the_plan() -> None:
    asked = request([EIGHT, SIXTEEN], [MEMORY], fitted={"memory-b": EIGHT})
    emptied = changed(slot="memory-a", slot_name="Memory A", part="", part_name="", price_minor=0, takes_out="OLD")
    found = difference(Planner(asked), point(emptied, cost_minor=0, labour_minor=0))
    assert found.now_minor is not None and not any("Memory A" in line for line in found.lines)


# -- copying, typing, closing -------------------------------------------------------------------------
def test_where_no_system_drive_is_known_it_is_a_clean_install() -> None:
    planner = Planner(request([made.drive("ND", 6000)], []))
    moved = replace(planner.build.with_part("drive-1", made.drive("ND", 6000)), boot_slot="drive-1")
    found = copy_path(planner.build, planner.counted, moved, Use(used_gb=100), Terms(), planner.market)
    assert found is not None and found.says.startswith("A clean install") and (found.minutes, found.buys) == (None, ())
    known = Planner(request([], [], fitted={"drive-1": made.drive("OD", None)}))
    other = copy_path(
        known.build,
        known.counted,
        known.build.with_part("drive-1", made.drive("ND", 6000)),
        Use(),
        Terms(),
        known.market,
    )
    assert other is not None and "clean install" not in other.says


def test_a_typed_screen_says_what_was_typed_and_no_more() -> None:
    with pytest.raises(InputError, match="nothing was typed"):
        typed_reading(TypedScreen())
    speed = typed_reading(TypedScreen(speed_mts=2933))
    assert [(m.present, m.running_mts, m.size_mb) for m in speed.modules] == [(True, 2933, None)]
    assert speed.total_mb is None and speed.drives == ()
    sockets = typed_reading(TypedScreen(sockets={"memory-a": 8, "memory-b": 0}))
    assert [(m.present, m.size_mb) for m in sockets.modules] == [(True, 8192), (False, None)]
    # an empty list of drives was looked at; none typed was not
    assert typed_reading(TypedScreen(drives=())).understood != typed_reading(TypedScreen(total_gb=8)).understood


@pytest.mark.parametrize(
    ("slot", "part", "says", "so"),
    [
        ("drive-1", made.drive("ND"), "updates run on the new drive", True),
        ("memory-b", made.module("M"), "updates run on the new drive", False),
        ("radio", made.radio("NR", 2000), "networks entered again by the owner", True),
        ("memory-b", made.module("M"), "networks entered again by the owner", False),
        ("memory-b", made.module("M"), "encryption on again where it was", True),
    ],
)
def test_what_is_put_in_order_before_it_leaves(slot: str, part: Any, says: str, so: bool) -> None:
    assert (says in expect(made.build().with_part(slot, part)).closing) is so
    assert expect(made.build()).closing == ()  # nothing was changed


@pytest.mark.parametrize("switch", [True, False])
def test_firmware_settings_are_put_back_where_there_is_a_switch(switch: bool) -> None:
    laid = made.machine({"battery": {"firmware_switch": switch}})
    found = expect(made.build(laid).with_part("memory-b", made.module("M"))).closing
    assert ("firmware settings that were changed are put back" in found) is switch


def test_a_record_says_for_when_its_figures_are_reckoned() -> None:
    rate = SPACE.model_copy(update={"need": "drive_speed", "label": "Speed"})
    told = lambda years: [(f.label, f.says) for f in expected(point(CHANGE, needs=(SPACE, rate), years=years))]  # noqa: E731
    assert told(0) == [("Room", "100 → 400–612.3 GB"), ("Speed", "100 → 400–612.3 GB")]
    assert told(3) == [("Room in 3 years", "100 → 400–612.3 GB"), ("Speed", "100 → 400–612.3 GB")]


@pytest.mark.parametrize(
    ("kind", "ends", "says"),
    [
        ("runtime", (2.0, 4.5), "2 to 4.5 h"), ("runtime", (0.0, 111111.1), "not known"), ("runtime", (3.0, 111111.1), "3 h or more"),
        ("drive_space", (0.0, 16000.0), "not known yet"), ("runtime", (4.5, 4.5), "4.5 h"), ("runtime", (0.0, 5.0), "up to 5 h"),
        ("drive_space", (0.0, 0.0), "0 GB"), ("drive_space", (4.0, 16000.0), "4 to 16000 GB"),
    ],
)  # fmt: skip
def test_a_range_in_words(kind, ends, says) -> None:
    need = Need(kind=kind, floor=1, comfort=2, ceiling=4, weight=1)
    assert span(need, ends) == says


# -- the ladder ---------------------------------------------------------------------------------------
D128, D1000, FAST = (made.drive(n, 4000, capacity_gb=gb, read_mb_s=speed) for n, gb, speed in (("D-128", 128, 500), ("D-1000", 1000, 500), ("D-FAST", 1000, 3400)))  # fmt: skip
BAY = made.bay_drive("B-500", 3000, capacity_gb=500)
PACK = made.pack("AP-57", 6000, design_mwh=57000)
CARD = made.radio("R-AX", 1000, standard="ax")
OLD_DRIVE = made.drive("D-OLD", None, capacity_gb=250, read_mb_s=500)


def put(slot: str, number: str) -> Change:
    return Change(slot=slot, slot_name=slot.capitalize(), part=number, part_name=number, price_minor=4000)


@pytest.mark.parametrize(
    ("held", "before", "after", "says"),
    [
        ({}, [], [put("memory-b", "M-08")], "+ 8 GB memory"),
        ({}, [], [put("memory-a", "M-16"), put("memory-b", "M-16")], "+ 24 GB memory"),  # 8 of 32 were there
        ({}, [put("memory-b", "M-16")], [put("memory-b", "M-08")], "− 8 GB memory"),
        ({}, [put("memory-b", "M-8S")], [put("memory-b", "M-08")], "memory of grade 3200 instead of 2666"),
        ({}, [put("memory-b", "M-08")], [put("memory-b", "M-8S")], "other memory of the same size"),
        ({"unknown": ["memory-b"]}, [], [put("memory-b", "M-08")], "8 GB memory"),  # nobody knows what was there
        ({"drive-1": OLD_DRIVE}, [], [put("bay", "B-500")], "500 GB drive beside the old one"),
        ({}, [], [put("bay", "B-500")], "500 GB drive"),  # beside nothing
        (
            {"drive-1": OLD_DRIVE},
            [],
            [put("drive-1", "D-1000"), put("bay", "B-500")],
            "1 TB drive instead of 250 GB, 500 GB drive",
        ),
        ({"drive-1": OLD_DRIVE}, [put("drive-1", "D-128")], [put("drive-1", "D-1000")], "1 TB drive instead of 128 GB"),
        ({"drive-1": OLD_DRIVE}, [put("drive-1", "D-1000")], [put("drive-1", "D-FAST")], "faster 1 TB drive"),
        ({"drive-1": OLD_DRIVE}, [put("drive-1", "D-FAST")], [put("drive-1", "D-1000")], "another 1 TB drive"),
        ({}, [put("memory-b", "M-08")], [put("battery", "AP-57")], "battery of 57 Wh, Memory-b left as it is"),
        ({}, [], [put("radio", "R-AX")], "Wi-Fi card, 802.11ax"),
        ({}, [], [], "System drive moved"),
    ],
)
def test_a_tread_is_named_by_what_it_brings(held, before, after, says) -> None:
    slow = made.module("M-8S", 2500, capacity_gb=8, ranks=1, grade_mts=2666)
    more = {"unknown": held["unknown"]} if "unknown" in held else None
    fitted = {s: p for s, p in held.items() if s != "unknown"}
    planner = Planner(
        request([EIGHT, SIXTEEN, slow, D128, D1000, FAST, BAY, PACK, CARD], [MEMORY], fitted=fitted, more=more)
    )
    words, _ = step_words(planner.build, planner.market, point(*before), point(*after), "EUR")
    assert words == says
