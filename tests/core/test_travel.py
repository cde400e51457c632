"""Another workshop's library: its claims beside ours as reports, nothing of ours changed."""

import pytest

from insertum.core.errors import InputError
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.processor import Processor
from insertum.core.machine.shape import Machine
from insertum.core.machine.travel import unpack

from . import made

CAIRN = Machine.model_validate_json((made.DEMO / "machines" / "veyra-cairn-14.json").read_text())
STRAND = Machine.model_validate_json((made.DEMO / "machines" / "veyra-strand-15.json").read_text())
RILL = Processor(id="rill-340", maker="Corvane", name="Corvane Rill 340", total_limit_gb=64)


def changed(machine: Machine, change) -> Machine:
    data = machine.model_dump(mode="json")
    change(data)
    return Machine.model_validate(data)


def bring(theirs, ours=(CAIRN, STRAND), processors=(), ours_p=(RILL,)):
    return unpack(theirs, processors, ours, ours_p, "Tern Lane")


def test_the_same_library_changes_nothing() -> None:
    parcel = bring([CAIRN, STRAND], processors=[RILL])
    assert (parcel.machines, parcel.processors, parcel.lines) == ((), (), ())


def test_what_they_say_otherwise_stands_beside_ours_as_reported_with_who() -> None:
    def more(data):
        data["memory"]["total_limit_gb"] = [{"value": 128, "source": "proven", "count": 3, "note": "two 64 GB"}]

    parcel = bring([changed(CAIRN, more)])
    kept = Machine.model_validate(parcel.machines[0])
    old = CAIRN.configured("rill-340").memory.total_limit_gb.claims
    new = kept.configured("rill-340").memory.total_limit_gb.claims
    assert new[: len(old)] == old
    assert [(c.value, c.source, c.who, c.note) for c in new[len(old) :]] == [
        (128, "reported", "Tern Lane", "proven: two 64 GB")
    ]
    assert [(x.label, x.value, x.comes_in) for x in parcel.lines] == [("Memory: in all at most", "128 GB", True)]
    again = bring([changed(CAIRN, more)], ours=[kept])
    assert again.machines == () and again.lines == ()


def test_what_they_say_of_one_configuration_stays_of_that_one() -> None:
    def more(data):
        second = data["configurations"][1]
        second["differs"].setdefault("memory", {})["graphics_share_mb"] = [{"value": 3072, "source": "documented"}]

    kept = Machine.model_validate(bring([changed(STRAND, more)]).machines[0])
    first, second = (kept.configured(c.id).memory.graphics_share_mb.claims for c in kept.configurations)
    assert 3072 not in [c.value for c in first]
    assert [c.source for c in second if c.value == 3072] == ["reported"]


def test_slots_and_configurations_that_only_they_have_are_shown_and_not_drawn() -> None:
    def more(data):
        data["slots"].append({**data["slots"][-1], "id": "their-slot", "name": "Their slot"})
        data["configurations"].append({**data["configurations"][0], "id": "other", "processor": "Corvane Rill 999"})

    parcel = bring([changed(CAIRN, more)])
    assert parcel.machines == ()
    assert {(x.label, x.comes_in) for x in parcel.lines} == {("Slot", False), ("Configuration", False)}


def test_another_processor_under_the_same_id_is_another_configuration() -> None:
    def more(data):
        data["configurations"][0]["processor"] = "Corvane Beck 450"
        data["memory"]["total_limit_gb"] = [{"value": 128, "source": "documented"}]

    parcel = bring([changed(CAIRN, more)])
    assert parcel.machines == () and [x.label for x in parcel.lines] == ["Configuration"]


def test_a_machine_we_lack_comes_in_whole_every_claim_a_report() -> None:
    parcel = bring([CAIRN], ours=[])
    kept = Machine.model_validate(parcel.machines[0])
    assert kept.draft
    claims = kept.configured("rill-340").memory.total_limit_gb.claims
    assert [c.value for c in claims] == [c.value for c in CAIRN.configured("rill-340").memory.total_limit_gb.claims]
    assert {c.source for c in claims} == {"reported"}


def test_no_claim_of_a_machine_we_lack_keeps_a_source_of_theirs_however_short_it_was_written() -> None:
    for path in sorted((made.DEMO / "machines").glob("*.json")):
        whole = Machine.model_validate_json(path.read_text())
        kept = Machine.model_validate(bring([whole], ours=[]).machines[0])
        for c in kept.configurations:
            laid = kept.configured(c.id)
            shapes = (laid.memory, laid.boot, *laid.slots)
            facts = [getattr(s, n) for s in shapes for n in attributes_of(type(s))] + list(
                laid.memory.speed_by_modules.values()
            )
            assert {x.source for f in facts for x in f.claims} == {"reported"}, whole.id


def test_a_processor_of_theirs_never_changes_ours() -> None:
    theirs = [
        RILL.model_copy(update={"total_limit_gb": 32}),
        Processor(id="new", maker="Corvane", name="Corvane Rill 350", note="sheet"),
    ]
    parcel = bring([], processors=theirs)
    assert [(p.id, p.note) for p in parcel.processors] == [("new", "sheet; reported by Tern Lane")]
    assert [(x.label, x.value, x.ours, x.comes_in) for x in parcel.lines] == [
        ("Total limit gb", "32", "64", False), ("Processor", "new", "", True),
    ]  # fmt: skip


def test_nobody_s_library_is_refused() -> None:
    with pytest.raises(InputError, match="whose"):
        unpack([CAIRN], [], [], [], " ")
