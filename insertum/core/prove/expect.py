"""Expectations: what a proved machine will say of itself, derived from the build."""

from typing import Literal

from ..base import Frozen
from ..claim import settle
from ..fit.build import Build
from ..fit.m2 import drive_link
from ..fit.memory import channel_split, running_speed, total_gb
from ..machine import DriveSlot, MemorySlot, RadioSlot
from ..part import BayDrive, M2Drive, MemoryModule, Pack, Radio
from ..standards.pcie import Link


class Expectation(Frozen):
    """One thing to find. ``figure`` in ``unit`` where it is a number; ``number`` is the part's."""

    id: str
    what: Literal[
        "memory_total", "memory_visible", "memory_socket", "memory_speed", "drive", "drive_link", "radio",
        "bluetooth", "battery",
    ]  # fmt: skip
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


_DISTURBED = {
    "keyboard": ("keys", "pad", "lights"),
    "under": ("ports", "fans", "charging", "sound"),
}


def expect(build: Build) -> Expected:
    """What the build should show: memory, each drive and its link, radio, battery."""
    machine, changed = build.machine, set(build.changed())
    found: list[Expectation] = []
    total = total_gb(build)
    if total:
        found.append(
            Expectation(
                id="memory.total",
                what="memory_total",
                title="Memory fitted",
                wanted=f"{total} GB",
                figure=total,
                unit="GB",
            )
        )
        lost = [
            settle(machine.memory.graphics_share_mb).value,
            settle(machine.memory.firmware_reserve_mb).value,
        ]
        if None not in lost:
            visible = total * 1024 - sum(v or 0 for v in lost)
            found.append(
                Expectation(
                    id="memory.visible",
                    what="memory_visible",
                    title="Memory the system sees",
                    wanted=f"{visible} MB: {lost[0]} MB go to graphics, {lost[1]} MB to firmware",
                    figure=visible,
                    unit="MB",
                )
            )
        speed, parts = running_speed(build).mts, channel_split(build)
        if speed:
            channel = f", {parts.interleaved_gb} GB of it in two channels" if parts and parts.interleaved_gb else ""
            found.append(
                Expectation(
                    id="memory.speed",
                    what="memory_speed",
                    title="Memory runs at",
                    wanted=f"{speed} MT/s{channel}",
                    figure=speed,
                    unit="MT/s",
                )
            )
    for slot in machine.slots:
        part = build.now(slot.id)
        mine = {"slot": slot.id, "changed": slot.id in changed}
        match slot, part:
            case MemorySlot(), MemoryModule():
                found.append(
                    Expectation.model_validate(
                        {
                            "id": f"{slot.id}.size",
                            "what": "memory_socket",
                            "title": slot.name,
                            "wanted": f"{part.capacity_gb} GB",
                            "figure": part.capacity_gb,
                            "unit": "GB",
                            "number": part.number,
                        }
                        | mine
                    )
                )
            case _, M2Drive() | BayDrive():
                found.append(
                    Expectation.model_validate(
                        {
                            "id": f"{slot.id}.drive",
                            "what": "drive",
                            "title": slot.name,
                            "wanted": part.name,
                            "figure": part.capacity_gb,
                            "unit": "GB",
                            "number": part.number,
                        }
                        | mine
                    )
                )
                agreed = drive_link(slot, part) if isinstance(slot, DriveSlot) and isinstance(part, M2Drive) else None
                if agreed:
                    found.append(
                        Expectation.model_validate(
                            {
                                "id": f"{slot.id}.link",
                                "what": "drive_link",
                                "title": f"{slot.name} link",
                                "wanted": str(agreed),
                                "number": part.number,
                                "link": agreed,
                            }
                            | mine
                        )
                    )
            case RadioSlot(), Radio():
                found.append(
                    Expectation.model_validate(
                        {
                            "id": f"{slot.id}.radio",
                            "what": "radio",
                            "title": slot.name,
                            "wanted": part.name,
                            "number": part.number,
                        }
                        | mine
                    )
                )
                if part.bluetooth and settle(slot.usb).value:
                    found.append(
                        Expectation.model_validate(
                            {
                                "id": f"{slot.id}.bluetooth",
                                "what": "bluetooth",
                                "title": "Bluetooth",
                                "wanted": f"Bluetooth {part.bluetooth}",
                                "number": part.number,
                            }
                            | mine
                        )
                    )
            case _, Pack():
                full = part.full_mwh or part.design_mwh
                found.append(
                    Expectation.model_validate(
                        {
                            "id": f"{slot.id}.full",
                            "what": "battery",
                            "title": slot.name,
                            "wanted": f"{full / 1000:g} Wh full charge",
                            "figure": full / 1000,
                            "unit": "Wh",
                            "number": part.number,
                        }
                        | mine
                    )
                )
    disturbed = _DISTURBED[machine.machine.opens] + (("camera",) if machine.machine.opens == "keyboard" else ())
    return Expected(
        title=machine.title,
        system=f"{machine.machine.maker} {machine.configuration.name}",
        sockets=tuple(s.id for s in build.memory_slots),
        expectations=tuple(found),
        regression=disturbed if changed else (),
    )
