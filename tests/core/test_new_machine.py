"""A machine started inside a job: from texts, from a reading, and as another configuration of a known shell."""

import pytest
from pydantic import ValidationError

from insertum.core.errors import InputError
from insertum.core.fit.judge import judge_equipped
from insertum.core.identify.identify import identify
from insertum.core.identify.library import Library
from insertum.core.known.known import as_delivered
from insertum.core.machine.opening import Mark
from insertum.core.machine.shape import Machine
from insertum.core.reading import ReadDrive, Reading, ReadModule
from insertum.core.survey.current_build import build_today
from insertum.core.survey.new_machine import Started, offered, started

from . import made

DEMO = [Machine.model_validate_json(p.read_text()) for p in sorted((made.DEMO / "machines").glob("*.json"))]
LIBRARY = Library(DEMO)
WEIR = ["Brannock Weir 14", "BW14-A7", "Corvane Beck 450"]
READ = Reading(
    maker="Brannock", system="Weir 14", board="BB-W14 rev 2", processor="Corvane Beck 450 @ 2.10GHz",
    modules=(ReadModule(locator="DIMM 0", present=True, size_mb=8192, soldered=False, generation=5),
             ReadModule(locator="DIMM 1", present=False, soldered=False)),
    drives=(ReadDrive(name="nvme0n1", model="X", transport="nvme"),),
)  # fmt: skip


#: 8 GB on the board, and all of it told.
EIGHT = Reading(
    modules=(ReadModule(locator="U1", present=True, size_mb=8192, soldered=True, rated_mts=2933, channel="A"),),
    memory_complete=True,
)


def start(said: Started, reading: Reading | None = None, taken=(), shell=None) -> tuple[Machine, str]:
    data, configuration = started(said, reading, [], taken, shell)
    return Machine.model_validate(data), configuration


def test_the_form_is_filled_in_from_what_was_typed() -> None:
    form = offered(WEIR, None, LIBRARY, ["brannock-harrow-16"])
    assert (form.maker, form.name, form.processor) == ("Brannock", "Weir 14", "Corvane Beck 450")
    assert [(m.kind, m.text) for m in form.marks] == [("product", "BW14-A7")]
    assert form.shells == {"brannock-harrow-16": "Brannock Harrow 16"} and not any(form.seen.values())
    read = offered([], READ, LIBRARY)
    assert (read.maker, read.name, read.processor) == ("Brannock", "Weir 14", "Corvane Beck 450")
    assert [(m.kind, m.text) for m in read.marks] == [("board", "BB-W14 rev 2")]
    assert {t: n for t, n in read.seen.items() if n} == {"memory": 2, "m2_drive": 1}


def test_it_is_found_by_name_and_code_from_the_first_minute_and_knows_nothing_more() -> None:
    marks = (Mark(kind="product", text="BW14-A7"),)
    said = Started(
        maker="Brannock",
        name="Weir 14",
        processor="Corvane Beck 450",
        marks=marks,
        seen={"memory": 2, "m2_drive": 1, "radio": 1},
    )
    machine, configuration = start(said)
    assert (machine.id, configuration, machine.draft) == ("brannock-weir-14", "corvane-beck-450", True)
    library = Library([*DEMO, machine])
    for text in ("Brannock Weir 14", "BW14-A7"):
        assert identify([text], library).remaining == ("brannock-weir-14/corvane-beck-450",)
    laid = machine.configured(configuration)
    assert [s.kind for s in laid.slots] == ["memory", "memory", "m2_drive", "radio"]
    assert laid.configuration.year is None
    for slot in laid.slots:  # the job goes on at once, and nothing seats before somebody has looked
        for part in (made.module(), made.drive(), made.radio()):
            verdict = judge_equipped(build_today(laid), slot.id, part, []).verdict
            assert verdict is None or not verdict.usable


def test_a_reading_and_a_look_are_one_machine() -> None:
    machine, configuration = start(Started(maker="Brannock", name="Weir 14", seen={"memory": 2, "bay": 1}), READ)
    assert [s.kind for s in machine.slots] == ["memory", "memory", "m2_drive", "bay"]  # the sockets read are those seen
    assert machine.slots[0].generation.claims[0].source == "read"
    assert {m.text for m in machine.marks} >= {"Brannock Weir 14", "BB-W14 rev 2"}
    assert machine.configured(configuration).configuration.processor == "Corvane Beck 450"
    again, _ = start(Started(maker="Brannock", name="Weir 14"), READ, taken=["brannock-weir-14"])
    assert again.id == "brannock-weir-14-2"


def test_another_configuration_knows_nothing_where_the_known_ones_differ() -> None:
    strand = next(m for m in DEMO if m.id == "veyra-strand-15")
    machine, configuration = start(Started(of=strand.id, processor="Corvane Rill 450"), EIGHT, shell=strand)
    assert [c.id for c in machine.configurations] == [*(c.id for c in strand.configurations), configuration]
    new, old = as_delivered(machine.configured(configuration)), as_delivered(machine.configured("mk2-rill-430"))
    told = {
        (p, n)
        for c in strand.configurations
        for p, patch in c.differs.items()
        for n in patch
        if n not in ("soldered", "kind", "fitted")
    }
    assert told
    for place, name in told:
        if name in old.attributes(place):
            assert not getattr(
                machine.configured(configuration).slot(place)
                if place not in ("memory", "boot")
                else getattr(machine.configured(configuration), place),
                name,
            ).claims
    assert not any(s.looked for s in machine.configured(configuration).slots)  # what is delivered in it nobody said
    assert new.value("drive-1", "key") == old.value("drive-1", "key") == "M"  # the shell's own stays
    assert identify(["Rill 450", "Veyra Strand 15"], Library([machine])).remaining[0].endswith(configuration)


@pytest.mark.parametrize(
    "said",
    [
        Started(),
        Started(maker="Brannock"),
        Started(name="Weir"),
        Started(maker=" ", name="x"),
        Started(maker="a", name="b", seen={"tower": 1}),
    ],
)
def test_what_is_missing_is_said(said) -> None:
    with pytest.raises(InputError):
        start(said)
    with pytest.raises(InputError):
        start(said, shell=DEMO[0])


def test_the_empty_socket_of_a_read_machine_is_of_the_like_ones_generation() -> None:
    """Like sockets of one memory system take like modules (axioms): one DDR5 module read tells the other socket."""
    machine, configuration = start(Started(maker="Brannock", name="Weir 14"), READ)
    known = as_delivered(machine.configured(configuration))
    assert [known.value(s.id, "generation") for s in machine.slots if s.kind == "memory"] == [5, 5]
    mixed = READ.model_copy(
        update={
            "modules": (
                *READ.modules[:1],
                READ.modules[0].model_copy(update={"locator": "DIMM 2", "generation": 4}),
                READ.modules[1],
            )
        }
    )
    odd, configuration = start(Started(maker="Brannock", name="Weir 14"), mixed)
    known = as_delivered(odd.configured(configuration))
    assert [known.value(s.id, "generation") for s in odd.slots if s.kind == "memory"] == [5, 4, None]


def test_what_is_on_another_ones_board_is_read_and_never_taken_over() -> None:
    """The Tern's configurations differ in soldered memory: a third is begun only with a reading that tells all of it."""
    tern = next(m for m in DEMO if m.id == "halden-tern-13")
    said = Started(of=tern.id, processor="Corvane Rill 580")
    chips = ReadModule(locator="U1", present=True, size_mb=16384, soldered=True, rated_mts=4266, channel="A")
    whole = Reading(modules=(chips,), memory_complete=True)
    for unsure in (
        None, Reading(), Reading(modules=(chips,)), Reading(modules=(chips.model_copy(update={"soldered": None}),), memory_complete=True),
    ):  # fmt: skip
        with pytest.raises(InputError, match="memory on its board"):
            start(said, unsure, shell=tern)
    machine, configuration = start(said, whole, shell=tern)
    assert [s.capacity_gb for s in machine.configured(configuration).memory.soldered] == [16]
    assert [s.capacity_gb for s in machine.configured("rill-520").memory.soldered] == [
        s.capacity_gb for s in tern.configured("rill-520").memory.soldered
    ]


@pytest.mark.parametrize(
    "said",
    [
        {"maker": "///", "name": "***"}, {"maker": "A\0B", "name": "x"}, {"maker": "A", "name": "x\ny"}, {"maker": "A", "name": "n" * 81},
        {"maker": "A", "name": "x", "marks": [{"kind": "board", "text": " "}]}, {"maker": "A", "name": "x", "marks": [{"kind": "board", "text": "b" * 101}]},
        {"maker": "A", "name": "x", "marks": [{"kind": "board", "text": "--"}]}, {"maker": "A", "name": "x", "seen": {"memory": 9}},
    ],
)  # fmt: skip
def test_what_is_no_word_of_a_label_is_refused(said) -> None:
    with pytest.raises(ValidationError):
        Started.model_validate(said)
