"""Expectations: what a proved machine will say of itself, derived from the build."""

from collections.abc import Iterator, Sequence
from typing import Literal

from ..fit.build import Build
from ..fit.figures import memory_gb, running_mts, split
from ..frozen import Frozen
from ..kinds.all import kind_of
from ..kinds.base import Expectation
from ..kinds.base import expect as expect_
from ..machine.bay_and_battery import BatterySlot
from ..machine.card_sockets import RadioSlot
from ..plan.request import TaskOffer


class Expected(Frozen):
    """The expectations of one job, as ``prove`` takes them from a file."""

    format: Literal["insertum-expected/1"] = "insertum-expected/1"
    title: str
    system: str = ""
    sockets: tuple[str, ...] = ()
    expectations: tuple[Expectation, ...]
    regression: tuple[str, ...] = ()
    closing: tuple[str, ...] = ()


_DISTURBED = {"keyboard": ("keys", "pad", "lights"), "under": ("ports", "fans", "charging", "sound")}


def expect(build: Build, tasks: Sequence[TaskOffer] = ()) -> Expected:
    """What the build should show: memory, each drive and its link, radio, battery; and what the tasks done leave to
    check."""
    changed = set(build.changed())
    found = list(_memory(build))
    for slot in build.machine.slots:
        part = build.now(slot.id)
        if part is not None:
            here = {"slot": slot.id, "changed": slot.id in changed}
            found += [e.model_copy(update=here) for e in kind_of(part).expects(build, slot, part)]
    machine, opened = build.machine, bool(changed) or any(not t.outside for t in tasks)
    disturbed = _DISTURBED[machine.machine.opens] + (("camera",) if machine.machine.opens == "keyboard" else ())
    return Expected(
        title=machine.title,
        system=machine.system_name,
        sockets=tuple(s.id for s in build.memory_slots),
        expectations=tuple(found),
        regression=tuple(dict.fromkeys([*(disturbed if opened else ()), *(c for t in tasks for c in t.checks)])),
        closing=tuple(dict.fromkeys([*_closing(build, changed, opened), *(c for t in tasks for c in t.closing)])),
    )


def _closing(build: Build, changed: set[str], opened: bool) -> Iterator[str]:
    """What is put back in order before the machine leaves: encryption, updates, networks, settings."""
    if not opened:
        return
    yield "encryption on again where it was"
    moved = build.boot_slot in changed
    if moved:
        yield "updates run on the new drive"
    if moved or any(isinstance(build.machine.slot(s), RadioSlot) for s in changed):
        yield "networks entered again by the owner"
    if any(build.known.value(s.id, "firmware_switch") for s in build.machine.slots if isinstance(s, BatterySlot)):
        yield "firmware settings that were changed are put back"


def _memory(build: Build) -> Iterator[Expectation]:
    """The memory as a whole: fitted, seen by the system, running speed."""
    total, most = memory_gb(build)
    if not total or total != most:
        return  # what nobody looked into is no expectation
    known = build.known
    yield expect_("memory.total", "memory_total", "Memory fitted", f"{total} GB", figure=total, unit="GB")
    share, reserve = (known.value("memory", n) for n in ("graphics_share_mb", "firmware_reserve_mb"))
    if share is not None and reserve is not None:
        visible = total * 1024 - share - reserve
        wanted = f"{visible} MB: {share} MB go to graphics, {reserve} MB to firmware"
        yield expect_("memory.visible", "memory_visible", "Memory the system sees", wanted, figure=visible, unit="MB")
    speed, parts = running_mts(build), split(build)
    if speed:
        channel = f", {parts.interleaved_gb} GB of it in two channels" if parts and parts.interleaved_gb else ""
        yield expect_(
            "memory.speed", "memory_speed", "Memory runs at", f"{speed} MT/s{channel}", figure=speed, unit="MT/s"
        )
