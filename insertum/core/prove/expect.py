"""Expectations: what a proved machine will say of itself, derived from the build."""

from collections.abc import Iterator
from typing import Any, Literal

from ..base import Frozen
from ..fit.build import Build
from ..fit.measured import link, memory_gb, running_mts, split
from ..machine.part import BayDrive, Cellular, M2Drive, MemoryModule, Pack, Radio
from ..machine.shape import CellularSlot, MemorySlot, RadioSlot, Slot
from ..standards.pcie import Link

What = Literal[
    "memory_total", "memory_visible", "memory_socket", "memory_speed", "drive", "drive_link", "radio", "cellular", "bluetooth", "battery"
]  # fmt: skip


class Expectation(Frozen):
    """One thing to find. ``figure`` in ``unit`` where it is a number; ``number`` is the part's."""

    id: str
    what: What
    title: str
    wanted: str
    figure: float | None = None
    unit: str = ""
    number: str = ""
    slot: str = ""
    link: Link | None = None
    changed: bool = False


class Expected(Frozen):
    """The expectations of one job, as ``prove`` takes them from a file."""

    format: Literal["insertum-expected/1"] = "insertum-expected/1"
    title: str
    system: str = ""
    sockets: tuple[str, ...] = ()
    expectations: tuple[Expectation, ...]
    regression: tuple[str, ...] = ()


_DISTURBED = {"keyboard": ("keys", "pad", "lights"), "under": ("ports", "fans", "charging", "sound")}


def expect(build: Build) -> Expected:
    """What the build should show: memory, each drive and its link, radio, battery."""
    changed = set(build.changed())
    found = list(_memory(build))
    for slot in build.machine.slots:
        found += [e.model_copy(update={"slot": slot.id, "changed": slot.id in changed}) for e in _slot(build, slot)]
    machine = build.machine
    disturbed = _DISTURBED[machine.machine.opens] + (("camera",) if machine.machine.opens == "keyboard" else ())
    return Expected(
        title=machine.title,
        system=machine.system_name,
        sockets=tuple(s.id for s in build.memory_slots),
        expectations=tuple(found),
        regression=disturbed if changed else (),
    )


def _memory(build: Build) -> Iterator[Expectation]:
    """The memory as a whole: fitted, seen by the system, running speed."""
    total, most = memory_gb(build)
    if not total or total != most:
        return  # what nobody looked into is no expectation
    known = build.known
    yield _expect("memory.total", "memory_total", "Memory fitted", f"{total} GB", figure=total, unit="GB")
    share, reserve = (known.value("memory", n) for n in ("graphics_share_mb", "firmware_reserve_mb"))
    if share is not None and reserve is not None:
        visible = total * 1024 - share - reserve
        wanted = f"{visible} MB: {share} MB go to graphics, {reserve} MB to firmware"
        yield _expect("memory.visible", "memory_visible", "Memory the system sees", wanted, figure=visible, unit="MB")
    speed, parts = running_mts(build), split(build)
    if speed:
        channel = f", {parts.interleaved_gb} GB of it in two channels" if parts and parts.interleaved_gb else ""
        yield _expect(
            "memory.speed", "memory_speed", "Memory runs at", f"{speed} MT/s{channel}", figure=speed, unit="MT/s"
        )


def _slot(build: Build, slot: Slot) -> Iterator[Expectation]:
    part = build.now(slot.id)
    if part is None:
        return
    more: dict[str, Any] = {"number": part.number}
    match slot, part:
        case MemorySlot(), MemoryModule():
            gb = part.capacity_gb
            yield _expect(f"{slot.id}.size", "memory_socket", slot.name, f"{gb} GB", figure=gb, unit="GB", **more)
        case _, M2Drive() | BayDrive():
            gb = part.capacity_gb
            yield _expect(f"{slot.id}.drive", "drive", slot.name, part.name, figure=gb, unit="GB", **more)
            agreed = link(build, slot.id)
            if agreed:
                yield _expect(f"{slot.id}.link", "drive_link", f"{slot.name} link", str(agreed), link=agreed, **more)
        case RadioSlot(), Radio():
            yield _expect(f"{slot.id}.radio", "radio", slot.name, part.name, **more)
            if part.bluetooth and (part.bus == "cnvi" or build.known.value(slot.id, "usb")):
                yield _expect(f"{slot.id}.bluetooth", "bluetooth", "Bluetooth", f"Bluetooth {part.bluetooth}", **more)
        case CellularSlot(), Cellular():
            yield _expect(f"{slot.id}.modem", "cellular", slot.name, part.name, **more)
        case _, Pack():
            wh = (part.full_mwh or part.design_mwh) / 1000
            yield _expect(
                f"{slot.id}.full", "battery", slot.name, f"{wh:g} Wh full charge", figure=wh, unit="Wh", **more
            )
        case _:
            pass


def _expect(id: str, what: What, title: str, wanted: str, **more: Any) -> Expectation:
    return Expectation(id=id, what=what, title=title, wanted=wanted, **more)
