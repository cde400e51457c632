"""Processors: what naming one brings, what it leaves alone, and figures no data sheet holds."""

import json

import pytest
from pydantic import ValidationError

from insertum.core.known.known import as_delivered
from insertum.core.machine.claim import Limits
from insertum.core.machine.processor import Processor, dressed, named_by
from insertum.core.machine.shape import Configuration, Machine
from insertum.core.survey.new_machine import Started, started

from . import made

DEMO = [Processor.model_validate(p) for p in json.loads((made.DEMO / "processors.json").read_text())]
BECK = Processor(
    id="beck", maker="Corvane", name="Corvane Beck 540", cores=8, memory_generations=(5,), total_limit_gb=128, module_limit_gb=32,
    speed_mts=4800, speeds_by_modules={4: 3600}, densities_gbit=(16,), companion_radios=("TL-1",), host_radio_generation=2,
)  # fmt: skip


def machine(processor: str) -> Machine:
    data, _ = started(
        Started(maker="Brannock", name="Weir 14", processor=processor, seen={"memory": 2, "radio": 1}), None, (), set()
    )
    return Machine.model_validate(data)


@pytest.mark.parametrize(
    ("said", "found"),
    [("Corvane Beck 540", True), ("corvane beck-540", True), ("Beck 540", True), ("540", False), ("Beck 541", False),
     ("Corvane Beck 540 II", False), ("unknown", False), ("", False)],
)  # fmt: skip
def test_a_configuration_names_it(said: str, found: bool) -> None:
    assert (named_by(Configuration(id="c", name="c", processor=said), [BECK]) is not None) == found


def test_of_two_that_could_be_meant_none_is() -> None:
    other = BECK.model_copy(update={"id": "other", "name": "Another Beck 540"})
    short = Configuration(id="c", name="c", processor="Beck 540")
    assert named_by(short, [BECK, other]) is None
    assert named_by(short.model_copy(update={"processor": "Another Beck 540"}), [BECK, other]) == other


def test_naming_it_brings_its_claims_to_memory_sockets_and_radio() -> None:
    m = dressed(machine("Beck 540"), [BECK])
    laid = m.configured(m.configurations[0].id)
    known = as_delivered(laid, Limits.CONTROLLER)
    assert known.value("memory", "total_limit_gb") == 128
    assert [c.value for c in laid.memory.speed_by_modules[4].claims] == [3600]
    assert laid.configuration.cores == 8
    sockets = [s for s in laid.slots if s.kind == "memory"]
    assert [[c.value for c in s.generation.claims] for s in sockets] == [[5], [5]]
    assert [[c.value for c in s.limit_gb.claims] for s in sockets] == [[32], [32]]
    radio = next(s for s in laid.slots if s.kind == "radio")
    assert [c.value for c in radio.cnvi.claims] == [("TL-1",)]
    assert {
        c.source
        for s in (*sockets, radio)
        for f in (getattr(s, n, ()) for n in ("limit_gb", "cnvi"))
        if f
        for c in f.claims
    } == {"controller"}


def test_two_generations_leave_the_sockets_open_and_an_unknown_list_is_not_none() -> None:
    both = BECK.model_copy(
        update={"memory_generations": (4, 5), "companion_radios": None, "host_radio_generation": None}
    )
    laid = dressed(machine("Beck 540"), [both]).configured("beck-540")
    assert not any(s.generation.claims for s in laid.slots if s.kind == "memory")
    assert not next(s for s in laid.slots if s.kind == "radio").cnvi.claims


def test_it_takes_the_place_of_older_controller_claims_and_of_no_other() -> None:
    m = machine("Beck 540")
    data = m.model_dump(mode="json")
    data["memory"]["total_limit_gb"] = [
        {"value": 64, "source": "documented"}, {"value": 96, "source": "controller"}, {"value": 80, "source": "reported"},
    ]  # fmt: skip
    m = Machine.model_validate(data)
    laid = dressed(m, [BECK]).configured("beck-540")
    assert [(c.value, c.source) for c in laid.memory.total_limit_gb.claims] == [
        (64, "documented"), (80, "reported"), (128, "controller"),
    ]  # fmt: skip
    assert m.configured("beck-540").memory.total_limit_gb.claims[1].value == 96  # the file stays as it was
    changed = BECK.model_copy(update={"total_limit_gb": 192})
    assert dressed(m, [changed]).configured("beck-540").memory.total_limit_gb.claims[-1].value == 192


def test_a_machine_that_names_none_of_them_is_left_as_it_is() -> None:
    m = machine("Rill 999")
    assert dressed(m, DEMO) is m


def test_every_demo_machine_carries_its_processors() -> None:
    for path in sorted((made.DEMO / "machines").glob("*.json")):
        m = dressed(Machine.model_validate_json(path.read_text()), DEMO)
        for c in m.configurations:
            assert named_by(c, DEMO), (m.id, c.processor)
            m.configured(c.id)


@pytest.mark.parametrize(
    ("change", "sound"),
    [({"speeds_by_modules": {4: 4800}}, True), ({"speeds_by_modules": {4: 4801}}, False), ({"speeds_by_modules": {9: 3600}}, False),
     ({"speed_mts": 8800}, True), ({"speed_mts": 8801}, False), ({"total_limit_gb": 512}, True), ({"total_limit_gb": 513}, False),
     ({"total_limit_gb": 0}, False), ({"memory_generations": (6,)}, False), ({"densities_gbit": (12,)}, False),
     ({"host_radio_generation": None}, False), ({"pcie_generation": 6}, False), ({"name": ""}, False)],
)  # fmt: skip
def test_figures_no_data_sheet_holds_are_refused(change: dict[str, object], sound: bool) -> None:
    data = BECK.model_dump() | change
    if sound:
        Processor.model_validate(data)
    else:
        with pytest.raises(ValidationError):
            Processor.model_validate(data)


def test_naming_a_processor_takes_nothing_away_that_follows_from_the_maker_s_total() -> None:
    """32 GB in all for two like sockets: each takes 16 at least, whatever the controller could do (rules.md section 2)."""
    data = machine("Beck 540").model_dump(mode="json")
    data["memory"]["total_limit_gb"] = [{"value": 32, "source": "documented"}]
    plain = Machine.model_validate(data)
    for m in (plain, dressed(plain, [BECK])):
        known = as_delivered(m.configured("beck-540"), Limits.PROVEN)
        assert [known.limit(s.id, "limit_gb").at_least for s in known.sockets] == [16, 16]
    known = as_delivered(dressed(plain, [BECK]).configured("beck-540"), Limits.CONTROLLER)
    assert [known.limit(s.id, "limit_gb").value for s in known.sockets] == [32, 32]
    data["slots"][0]["limit_gb"] = [{"value": 8, "source": "documented"}]  # a claim that tells them apart
    apart = as_delivered(dressed(Machine.model_validate(data), [BECK]).configured("beck-540"), Limits.PROVEN)
    assert [apart.limit(s.id, "limit_gb").at_least for s in apart.sockets] == [0, 0]
