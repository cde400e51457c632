"""Questions without a job: what is meant, what is asked instead, and what is answered. Worked by hand from the demo world."""

import pytest

from insertum.core.ask.answer import Seat, says, seats
from insertum.core.ask.ask import MOST_PLACES, House
from insertum.core.ask.meaning import MOST_CHARACTERS, understand
from insertum.core.catalogue import Catalogue
from insertum.core.find import listed
from insertum.core.identify.library import Library
from insertum.core.job.fit_desk import FitDesk
from insertum.core.job.shape import FitChoice, Identified, Job
from insertum.core.machine.claim import Limits
from insertum.core.machine.shape import Machine
from insertum.core.verdict import Verdict
from insertum.formats.parts import read_csv

from . import made

MACHINES = [Machine.model_validate_json(p.read_text()) for p in sorted((made.DEMO / "machines").glob("*.json"))]
PARTS = Catalogue(read_csv((made.DEMO / "parts.csv").read_text()))
LIBRARY, LISTED = Library(MACHINES), listed(PARTS)
BY_ID = {m.id: m for m in MACHINES}


def desk_of(machine: str, configuration: str, limits: Limits = Limits.PROVEN) -> FitDesk:
    job = Job(number=1, identify=Identified(machine=machine, configuration=configuration), fit=FitChoice(limits=limits))
    return FitDesk(job, BY_ID[machine], PARTS)


HOUSE = House(LIBRARY, PARTS, LISTED, desk_of)
DROVER, MK1, MK2 = "veyra-drover-14/rill-320", "veyra-strand-15/mk1-rill-310", "veyra-strand-15/mk2-rill-430"

#: Question; machines; parts, or the size of a part read off a label; kind.
MEANT = [
    ("Drover 14, WH4-1T0-80M", (DROVER,), ("WH4-1T0-80M",), ""),
    ("WH4-1T0-80M Drover 14", (DROVER,), ("WH4-1T0-80M",), ""),
    ("drover14 wh41t080m", (DROVER,), ("WH4-1T0-80M",), ""),
    ("Veyra Drover 14\nWH4-1T0-80M", (DROVER,), ("WH4-1T0-80M",), ""),
    ("will the WH4-1T0-80M fit in a Drover 14?", (DROVER,), ("WH4-1T0-80M",), ""),
    ("4VD320 QK2-1T0-80M", (DROVER,), ("QK2-1T0-80M",), ""),
    ("Drover 14 WH4-1T0-80M 1 TB NVMe", (DROVER,), ("WH4-1T0-80M",), ""),
    ("Strand 15, QT7-1T0", (MK1, MK2), ("QT7-1T0",), ""),
    ("Strand 15 mk II QT7-1T0", (MK2,), ("QT7-1T0",), ""),
    ("Strand 15 Rill 430 QT7-1T0", (MK2,), ("QT7-1T0",), ""),  # a processor tells apart what is named
    ("VB-S15 rev 3", (MK2,), (), ""),
    ("Drover 14", (DROVER,), (), ""),
    ("what memory does a Drover 14 take?", (DROVER,), (), "memory"),
    ("which wifi card goes in the Drover 14", (DROVER,), (), "radio"),
    ("WH4-1T0-80M", (), ("WH4-1T0-80M",), ""),
    ("Drover 14 AP-DR45", (DROVER,), ("AP-DR45",), ""),  # a battery's number beside a machine is a part
    ("part AP-DR45", (), ("AP-DR45",), ""),
    ("part ap dr45", (), ("AP-DR45",), ""),
    ("Ｄｒｏｖｅｒ 14, WH4‑1T0‑80M", (DROVER,), ("WH4-1T0-80M",), ""),  # wide letters, hyphens that do not break
]


@pytest.mark.parametrize(("text", "machines", "parts", "kind"), MEANT)
def test_a_model_and_a_part_are_understood_in_any_order(
    text: str, machines: tuple[str, ...], parts: tuple[str, ...], kind: str
) -> None:
    found = understand(text, LIBRARY, LISTED)
    assert not found.is_open, (found.unread, found.says)
    assert (found.machines, found.parts, found.kind) == (machines, parts, kind)


#: Question; what is said or left unread; the ways out of it that are offered.
ASKED = [
    # A near name is another model, whatever stands beside it.
    ("Drover 15, WH4-1T0-80M", "Drover 15", ("Veyra Drover 14, WH4-1T0-80M",)),
    ("VD14-R4 16GB 3200", "VD14-R3", ("Veyra Cairn 14, 16GB 3200", "Veyra Drover 14, 16GB 3200")),
    ("Drover 14 Mk3, WH4-1T0-80M", "Mk3", ("Drover 14, WH4-1T0-80M",)),
    ("Halden Drover 14, WH4-1T0-80M", "Halden", ("Drover 14, WH4-1T0-80M",)),
    # A label is read no further than a number is: what stands beside it may be another thing.
    ("Drover 14 Mk3 16GB DDR4-3200", "Mk3", ("Drover 14, 16GB DDR4-3200",)),
    ("Drover 14, no 16GB DDR4-3200", "no", ()),
    ("Drover 14, Zorvex 1TB NVMe M.2 2280", "Zorvex", ("Drover 14, 1TB NVMe M.2 2280",)),
    ("Drover 14, 16GB DDR4-3200 1.35V", "1.35V", ("Drover 14, 16GB DDR4-3200",)),  # DDR4 runs at 1.2 V
    ("part AP-DR45 not", "not", ()),
    # Words that take back, and two machines on one line.
    ("not a Drover 14, WH4-1T0-80M", "not", ()),
    ("Drover 14 without WH4-1T0-80M", "without", ()),
    ("Drover 14, Strand 15, WH4-1T0-80M", "No machine here is", ("Veyra Drover 14, WH4-1T0-80M", "Veyra Strand 15, WH4-1T0-80M")),
    ("Drover 14 Rill 430", "No machine here is", ("Veyra Drover 14", "Veyra Strand 15")),
    # What is said of a part must be so of it.
    ("Drover 14 WH4-1T0-80M 2TB", "2TB", ("Drover 14, WH4-1T0-80M",)),
    # Meant two ways.
    ("AP-DR45", "tells a machine as well", ("part AP-DR45", "Veyra Drover 14")),
    ("Tern", "may be a machine or a part", ("Halden Tern 13", "part Tern")),
    ("Rill 320", "A processor names no machine", ("Veyra Drover 14",)),
    # Nothing, or too much.
    ("", "Say a machine", ()),
    (" , ?", "Say a machine", ()),
    ("memory", "Say which machine", ()),
    ("Frobnicator 3000", "Nothing here is called", ()),
    ("Drover 14, 2280", "say more", ()),
    ("x" * (MOST_CHARACTERS + 1), "longer than a question", ()),
]  # fmt: skip


@pytest.mark.parametrize(("text", "says_", "ways"), ASKED)
def test_what_is_not_understood_is_asked_and_never_answered_past(text: str, says_: str, ways: tuple[str, ...]) -> None:
    found = HOUSE.ask(text)
    assert found.meaning.is_open
    assert says_ in found.meaning.says or says_ in " ".join(found.meaning.unread)
    assert tuple(w.ask for w in found.meaning.ways) == ways
    assert not (found.seats or found.places or found.machines or found.says)
    for way in found.meaning.ways:  # every way out is a question that means one thing
        again = understand(way.ask, LIBRARY, LISTED)
        assert not again.is_open or again.unread, (way.ask, again.says)


def test_a_word_no_machine_or_part_has_never_leaves_a_verdict() -> None:
    for text, machines, parts, _ in MEANT:
        if machines and parts:
            for stranger in ("Zorvex", "Mk9", "QX-000", "not"):
                for asked in (f"{text} {stranger}", f"{stranger} {text}"):
                    assert not HOUSE.ask(asked).seats, asked


# -- answers --------------------------------------------------------------------------------------
def test_the_answer_is_what_fit_says_place_by_place() -> None:
    # 80 mm long; the Drover 14's farthest standoff is at 60.
    no = HOUSE.ask("Drover 14, WH4-1T0-80M")
    assert no.says == "No: 80 mm long; the farthest standoff is at 60 mm."
    assert [(s.places, s.verdict) for s in no.seats] == [(("Drive 1",), Verdict.REFUSED)]
    # 5000 MB/s on PCIe 3 ×4, 3938 MB/s; Drive 2 is SATA alone. The same in both configurations.
    held = HOUSE.ask("Strand 15, WH4-1T0-80M")
    assert held.says.startswith("Yes, held back: Wherry H4 1 TB, 2280 key M goes in Drive 1. Rated 5000 MB/s")
    assert [(s.places, s.verdict, s.configurations) for s in held.seats] == [
        (("Drive 1",), Verdict.HELD_BACK, ()),
        (("Drive 2",), Verdict.REFUSED, ()),
    ]
    # Of a part that does not go in only why is said: nothing of how fast it would run.
    assert [f.says for f in no.seats[0].findings] == ["80 mm long; the farthest standoff is at 60 mm."]
    assert [c.name for c in held.configurations] == ["Strand 15 mk I", "Strand 15 mk II"]
    for found, names in ((no, [DROVER]), (held, [MK1, MK2])):
        for seat in found.seats:
            for name in names:
                machine, _, configuration = name.partition("/")
                desk = desk_of(machine, configuration)
                slots = [s.id for s in desk.configured.slots if s.name in seat.places]
                assert {desk.why(s, seat.part).judgement.verdict for s in slots} == {seat.verdict}


def test_like_sockets_are_said_once_and_places_for_other_things_not_at_all() -> None:
    found = HOUSE.ask("Drover 14 OM4S-16G26")
    assert [(s.places, s.verdict) for s in found.seats] == [(("Memory A", "Memory B"), Verdict.SEATS)]
    assert found.says == "Yes: Orrin 16 GB DDR4-2666 seats in Memory A and Memory B."
    radio = HOUSE.ask("Drover 14 LR-AX2-E30")
    assert [s.places for s in radio.seats] == [("Wi-Fi card",)]  # no word of the drive slot a card could be pushed into


def test_a_label_says_what_it_proves_and_the_rest_is_open() -> None:
    bare = HOUSE.ask("Drover 14, 16GB DDR4-3200")
    assert bare.meaning.decoded == "memory label" and bare.seats[0].verdict is Verdict.MEASURE_FIRST
    assert bare.says.startswith("Not known yet for Memory A and Memory B: settle module type, densest chips")
    # Another generation is refused, whatever else its label leaves out.
    assert HOUSE.ask("Drover 14, 16GB DDR5-4800").says.startswith("No: ")


def test_a_machine_alone_tells_its_places_and_a_part_alone_its_machines() -> None:
    drover = HOUSE.ask("Drover 14")
    assert [p.name for p in drover.places] == ["Memory A, Memory B", "Drive 1", "2.5-inch bay", "Wi-Fi card", "Battery"]
    assert drover.ceilings == ("Memory: 32 GB in all.",)
    assert all(b.verdict.usable for p in drover.places for b in p.buys)
    assert [p.name for p in HOUSE.ask("what memory does the Drover 14 take").places] == ["Memory A, Memory B"]
    # Two configurations: what both have is said once, the rest with whose it is (mk I: 16 GB and 80 mm alone).
    strand = HOUSE.ask("Strand 15")
    by_name = {(p.name, p.configurations) for p in strand.places}
    assert ("Battery", ()) in by_name and ("Wi-Fi card", ()) in by_name
    assert {c for n, c in by_name if n == "Memory B"} == {("Strand 15 mk I",), ("Strand 15 mk II",)}
    assert strand.ceilings == (
        "Strand 15 mk I. Memory: 16 GB in all.", "Strand 15 mk II. Memory: 24 GB in all.", "Memory: 8 GB on the board.",
    )  # fmt: skip
    # What is in it already, and what is no more than that, is no buy.
    by_place = {p.name: p for p in strand.places}
    assert by_place["Wi-Fi card"].holds == "Larkfield AC1, 2230 key E" and by_place["Wi-Fi card"].buys == ()
    # Its card policy is unknown: better cards wait for it, and are not said to be none.
    assert by_place["Wi-Fi card"].waiting > 0 and by_place["Battery"].waiting == 0
    tern = {p.name: p for p in HOUSE.ask("Tern 13 8 GB").places}
    assert (
        tern["Cellular"].buys == () and tern["Cellular"].waiting == 0
    )  # no SIM tray: none goes in, whatever is looked at
    assert [b.part for b in by_place["Battery"].buys] == ["AP-ST52"]  # 52 Wh new, where the worn one holds 41
    (drive,) = (p for p in drover.places if p.name == "Drive 1")
    assert all(PARTS.by_number[b.part].capacity_gb > 256 for b in drive.buys)  # type: ignore[union-attr]
    alone = HOUSE.ask("WH4-1T0-80M")
    assert len(alone.machines) <= MOST_PLACES and all(g.verdict.rank <= 2 for g in alone.machines)
    assert not any(g.machine == "veyra-drover-14" for g in alone.machines)
    ranks = [g.verdict.rank for g in alone.machines]
    assert ranks == sorted(ranks)


def test_words_that_several_parts_answer_to_are_judged_one_by_one() -> None:
    found = HOUSE.ask("Drover 14 16GB DDR4")
    assert len(found.parts) > 3 and {s.part for s in found.seats} == {p.number for p in found.parts}
    assert not found.says  # no sentence says of all what holds for one
    cheapest = [s for s in found.seats if s.verdict is Verdict.SEATS]
    assert cheapest[0].part == "OM4S-16G26"  # € 28.40, before the other at € 29.10
    assert HOUSE.ask("1TB SATA").parts and not HOUSE.ask("1TB SATA").machines


def test_the_sentence_names_configurations_only_where_they_differ() -> None:
    def seat(verdict: Verdict, *configurations: str) -> Seat:
        return Seat(
            part="P", name="Part", verdict=verdict, places=("Drive 1",), findings=(), accessories=(), extra_minor=0,
            price_minor=None, configurations=configurations,
        )  # fmt: skip

    assert says([seat(Verdict.SEATS)], "Part", "M 1") == "Yes: Part seats in Drive 1."
    told = says([seat(Verdict.SEATS, "mk II"), seat(Verdict.MEASURE_FIRST, "mk I")], "Part", "M 1")
    assert told == "Yes: Part seats in Drive 1 of the mk II. It differs by configuration."
    assert says([], "Part", "M 1") == "No: no place for Part is known in M 1."


def test_configurations_of_one_name_are_told_apart_and_one_without_the_place_is_not_passed_over() -> None:
    """Two of one name, as the Drover 14 is delivered with two processors; and a bay that only one of two has."""

    def desks(second: dict) -> list[FitDesk]:
        data = BY_ID["veyra-drover-14"].model_dump(mode="json")
        twin = {**data["configurations"][0], "id": "twin", "processor": "Corvane Rill 330", "differs": second}
        machine = Machine.model_validate({**data, "configurations": [data["configurations"][0], twin]})
        jobs = (
            Job(number=1, identify=Identified(machine=machine.id, configuration=c.id)) for c in machine.configurations
        )
        return [FitDesk(job, machine, PARTS) for job in jobs]

    module = PARTS.by_number["OM4S-16G26"]
    alike = seats(desks({}), [module])  # type: ignore[list-item]
    assert [(s.verdict, s.configurations) for s in alike] == [(Verdict.SEATS, ())]
    other = {"fitted": None, "generation": [{"value": 3, "source": "documented"}]}
    ddr3 = dict.fromkeys(("memory-a", "memory-b"), other)
    rows = seats(desks(ddr3), [module])  # type: ignore[list-item]
    assert [(s.verdict, s.configurations) for s in rows] == [
        (Verdict.SEATS, ("Drover 14, Corvane Rill 320",)),
        (Verdict.REFUSED, ("Drover 14, Corvane Rill 330",)),
    ]
    told = says(rows, module.name, "Veyra Drover 14")
    assert told.startswith("Yes: ") and told.endswith(
        "of the Drover 14, Corvane Rill 320. It differs by configuration."
    )
    # One configuration has no such place: the other's is not said as if it were both's.
    drive = PARTS.by_number["QT7-1T0"]
    first, second = desks({})
    second.configured.__dict__["slots"] = tuple(s for s in second.configured.slots if s.kind != "bay")
    found = seats([first, second], [drive])  # type: ignore[list-item]
    assert {s.configurations for s in found} == {("Drover 14, Corvane Rill 320",)}
    assert says(found, drive.name, "Veyra Drover 14").endswith("It differs by configuration.")


def test_an_accessory_goes_into_no_slot() -> None:
    number = PARTS.accessories[0].number
    found = HOUSE.ask(f"Drover 14, {number}")
    assert found.says == "An accessory goes into no slot by itself." and not found.seats
