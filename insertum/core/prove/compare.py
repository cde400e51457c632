"""Compare what was expected with a reading: as expected, better, worse with causes, not seen."""

from collections.abc import Sequence
from enum import StrEnum

from ..errors import InputError
from ..frozen import Frozen
from ..kinds.base import Expectation
from ..reading import ReadDrive, Reading, ReadModule, ReadRadio
from ..spelling import folded
from ..standards import ddr
from .expect import Expected
from .typed import SCREEN


class Outcome(StrEnum):
    AS_EXPECTED = "as_expected"
    BETTER = "better"
    WORSE = "worse"
    NOT_SEEN = "not_seen"


class Proof(Frozen):
    """One expectation against the reading. ``causes`` are probable causes in order."""

    id: str
    title: str
    wanted: str
    found: str
    outcome: Outcome
    causes: tuple[str, ...] = ()
    note: str = ""


class ProofReport(Frozen):
    proofs: tuple[Proof, ...]
    proved: bool
    says: str
    not_understood: tuple[str, ...] = ()


_NOT_HOME = "The module is not fully home: reseat it until both clips click."
_CAUSES: dict[str, tuple[str, ...]] = {
    "memory_total": (_NOT_HOME, "A module sits in the wrong socket.", "The firmware lists another maximum: read its screen."),
    "memory_visible": ("Less memory is fitted than planned: look at that first.", "Graphics borrow more than stated: read the firmware setting.", "A 32-bit system stops near 4 GB."),
    "memory_socket": (_NOT_HOME, "The module sits in the wrong socket.", "The module is faulty: try it alone."),
    "memory_speed": ("The firmware holds the speed down, or a profile is not applied: read its setting.", "One module is of a slower grade than its label."),
    "drive": ("The drive is not home in its socket.", "The storage mode hides it.", "Shared lanes switch its slot off.", "New drives show up only when initialised and formatted."),
    "drive_link": ("The link idles at a lower generation: read it again under load.", "The card is not fully home: a lane has no contact.", "Shared lanes narrow it."),
    "radio": ("The card is not home.", "The firmware's card list blocks it.", "Its driver is missing."),
    "cellular": ("The card is not home.", "The firmware's card list blocks it.", "The slot's USB is off in firmware, or its driver is missing."),
    "signal": ("A lead is off or loose: press each plug on and read again with traffic at two places.", "Main and aux leads are swapped.", "The aerial of that lead is broken, or the card's driver tells its chains wrong."),
    "bluetooth": ("Its own driver is missing.", "The slot's USB is off in firmware.", "The card's USB contacts are not home."),
    "supply": ("The supply is too weak for this machine: read its label.", "The machine does not take this supply: try its own.", "The charging port is loose or dirty."),
    "battery": ("The gauge has not seen a full cycle yet: charge and discharge once.", "The pack is worn."),
}  # fmt: skip


def same_machine(system: str, reading: Reading) -> None:
    """Raises :class:`InputError` when the reading names another machine than ``system``."""
    read = f"{reading.maker} {reading.system}"
    if system and reading.system and folded(system) != folded(read):
        raise InputError(
            f"this reading is from another machine: {read}",
            "reading",
            f"The job is for {system}. Check which machine the bundle was gathered on.",
        )


def compare(expected: Expected, reading: Reading) -> ProofReport:
    """Compare a job's expectations with a reading of the same machine.

    Raises :class:`InputError` when the reading names another machine.
    """
    same_machine(expected.system, reading)
    proofs = tuple(_prove(e, expected, reading) for e in expected.expectations)
    worse = [p for p in proofs if p.outcome is Outcome.WORSE]
    unseen = [p for p in proofs if p.outcome is Outcome.NOT_SEEN]
    if worse:
        says = f"{len(worse)} worse than expected. Do not close yet: start with the first cause."
    elif unseen:
        says = f"Nothing is worse; {len(unseen)} not seen in this reading."
    else:
        says = "Everything is as expected or better."
    return ProofReport(proofs=proofs, proved=not worse and not unseen, says=says, not_understood=reading.not_understood)


def _prove(e: Expectation, expected: Expected, reading: Reading) -> Proof:
    found, outcome, note = _look(e, expected, reading)
    return Proof(
        id=e.id,
        title=e.title,
        wanted=e.wanted,
        found=found,
        outcome=outcome,
        note=note,
        causes=_CAUSES[e.what] if outcome is Outcome.WORSE else (),
    )


Seen = tuple[str, Outcome, str]
_NOTHING: Seen = ("not in the reading", Outcome.NOT_SEEN, "")


def _look(e: Expectation, expected: Expected, reading: Reading) -> Seen:
    match e.what:
        case "memory_total":
            return _NOTHING if reading.memory_mb is None else _figure(reading.memory_mb / 1024, e, 0)
        case "memory_visible":
            if reading.visible_mb is None:
                return _NOTHING
            if reading.word_bits == 32 and reading.visible_mb < 4200:
                return (
                    f"{reading.visible_mb} MB",
                    Outcome.AS_EXPECTED,
                    "A 32-bit system sees no more than about 4 GB.",
                )
            # Kernels keep 1 to 3 % for themselves before they count.
            return _figure(reading.visible_mb, e, 0.03)
        case "memory_socket":
            module = _module_in(e.slot, expected, reading.modules)
            if module is None or (module.present is not False and module.size_mb is None):
                return _NOTHING
            return _figure((module.size_mb or 0) / 1024, e, 0)
        case "memory_speed":
            return _speed(e, reading.modules)
        case "drive":
            return _drive(e, expected, reading)
        case "drive_link":
            return _link(e, expected, reading.drives)
        case "radio":
            # A card that a whole list of the bus lacks is missing; a list of adapters may leave it out.
            if not reading.radios and not _listed(reading, "lspci"):
                return _NOTHING
            return _card(e, reading.radios, "no Wi-Fi card")
        case "cellular":
            # A modem may be seen only by tools that list USB: no word from them is not "missing".
            if not reading.modems and not (_listed(reading, "lsusb") or _listed(reading, "usb")):
                return _NOTHING
            return _card(e, reading.modems, "no modem")
        case "supply":
            return _supply(reading)
        case "signal":
            return _signal(reading.radios)
        case "bluetooth":
            if reading.bluetooth is None:
                return _NOTHING  # switched off or absent: no word is not "missing"
            if reading.bluetooth.driver is False:
                return ("seen, and no driver drives it", Outcome.WORSE, "")
            return ("present", Outcome.AS_EXPECTED, "")
        case _:
            return _pack(e, expected, reading)


#: Chains this many dB apart name a lead that is off or loose; half of it is worth a look (rules.md section 10).
APART_DB, LOOK_DB = 15, 8


def _signal(cards: Sequence[ReadRadio]) -> Seen:
    """How far the antenna chains are apart, where the driver tells them."""
    told = [r.chains_dbm for r in cards if len(r.chains_dbm) > 1]
    if not told:
        return _NOTHING
    apart = max(max(c) - min(c) for c in told)
    text = f"{', '.join(f'{c} dBm' for c in told[0])}: {apart} dB apart"
    if apart >= APART_DB:
        return (text, Outcome.WORSE, "")
    return (text, Outcome.AS_EXPECTED, "Look at the plugs." if apart >= LOOK_DB else "")


def _supply(reading: Reading) -> Seen:
    """Plugged in, and the pack still drains: then the supply does not carry the machine."""
    if reading.adapter is None or not reading.adapter.online or not any(p.status for p in reading.packs):
        return _NOTHING
    drains = any(p.status == "Discharging" for p in reading.packs)
    watts = f", {reading.adapter.most_mw / 1000:g} W" if reading.adapter.most_mw else ""
    return (
        f"plugged in{watts}: {'it drains' if drains else 'it does not drain'}",
        Outcome.WORSE if drains else Outcome.AS_EXPECTED,
        "",
    )


def _listed(reading: Reading, tool: str) -> bool:
    """Did a tool give its list, to the end?"""
    return any(n.rpartition("/")[2].startswith(tool) and n not in reading.cut_off for n in reading.understood)


def _pack(e: Expectation, expected: Expected, reading: Reading) -> Seen:
    """The pack of that number; where none names it (gauges seldom do), the only one of a machine with one."""
    named = [p for p in reading.packs if e.number and folded(p.model) == folded(e.number)]
    alone = sum(x.what == "battery" for x in expected.expectations) == 1
    packs = named or (reading.packs if alone else ())
    if len(packs) != 1 or packs[0].full_mwh is None:
        return _NOTHING
    return _figure(packs[0].full_mwh / 1000, e, 0.05)


def _card(e: Expectation, cards: Sequence[ReadRadio], nothing: str) -> Seen:
    card = next((r for r in cards if folded(e.number) in folded(f"{r.name} {r.id}")), None)
    if card:
        return (card.name, Outcome.AS_EXPECTED, "")
    other = ", ".join(r.name for r in cards)
    return (other or nothing, Outcome.WORSE, "Another card than the one planned." if other else "")


def _figure(found: float, e: Expectation, tolerance: float) -> Seen:
    wanted = e.figure or 0
    text = f"{found:g} {e.unit}"
    if found < wanted * (1 - tolerance):
        return (text, Outcome.WORSE, "")
    if found > wanted * (1 + tolerance):
        return (text, Outcome.BETTER, "")
    return (text, Outcome.AS_EXPECTED, "")


def _module_in(slot_id: str, expected: Expected, modules: Sequence[ReadModule]) -> ReadModule | None:
    """The socketed device of a slot: by name in its locator, else by order when the counts agree."""
    sockets = [m for m in modules if m.soldered is False]
    named = [m for m in sockets if folded(slot_id) in folded(m.locator)]
    if named:
        return named[0]
    if len(sockets) == len(expected.sockets) and slot_id in expected.sockets:
        return sockets[expected.sockets.index(slot_id)]
    return None


def _speed(e: Expectation, modules: Sequence[ReadModule]) -> Seen:
    running = [m.running_mts for m in modules if m.present and m.running_mts]
    if not running:
        return _NOTHING
    found, wanted = ddr.exact_mts(min(running)), ddr.exact_mts(int(e.figure or 0))
    if abs(found * 2 - wanted) <= 2:
        return (f"{min(running)} MHz", Outcome.AS_EXPECTED, f"Shown as half of {e.figure:g} MT/s.")
    text = f"{min(running)} MT/s"
    if found == wanted:
        return (text, Outcome.AS_EXPECTED, "")
    return (text, Outcome.BETTER if found > wanted else Outcome.WORSE, "")


def _drive_of(e: Expectation, expected: Expected, drives: Sequence[ReadDrive]) -> ReadDrive | None:
    """The drive an expectation is about; of equal drives each expectation has one of its own."""
    same = [x.slot for x in expected.expectations if x.what == e.what and x.number == e.number]
    named = [d for d in drives if e.number and folded(e.number) in folded(d.model)]
    turn = same.index(e.slot) if e.slot in same else 0
    return named[turn] if turn < len(named) else None


def _drive(e: Expectation, expected: Expected, reading: Reading) -> Seen:
    if not (_listed(reading, "lsblk") or _listed(reading, "nvme") or _listed(reading, SCREEN)):
        return _NOTHING
    drive = _drive_of(e, expected, reading.drives)
    if drive is None:
        names = ", ".join(d.model or d.name for d in reading.drives)
        return (f"only {names}" if names else "no drive", Outcome.WORSE, "")
    if drive.size_bytes is None:
        return (f"{drive.model}, size not read", Outcome.AS_EXPECTED, "")
    gb, gib = drive.size_bytes / 1e9, drive.size_bytes / 2**30
    text = f"{drive.model}, {gb:.0f} GB"
    # Makers count 10**9 bytes; a terabyte drive shows as 931 GiB. Sizes agree within 5 %.
    if abs(gb - (e.figure or 0)) <= 0.05 * (e.figure or 0):
        return (text, Outcome.AS_EXPECTED, f"{gib:.0f} GiB in tools that count by 1024.")
    return (text, Outcome.WORSE if gb < (e.figure or 0) else Outcome.BETTER, "Another size than planned.")


def _link(e: Expectation, expected: Expected, drives: Sequence[ReadDrive]) -> Seen:
    drive = _drive_of(e, expected, drives)
    if drive is None or drive.running is None or e.link is None:
        return _NOTHING
    text = str(drive.running)
    if drive.running == e.link:
        return (text, Outcome.AS_EXPECTED, "")
    if drive.running.lanes >= e.link.lanes and drive.running.generation < e.link.generation:
        return (text, Outcome.WORSE, "A link may idle at a lower generation: read it under load first.")
    better = drive.running.mb_s > e.link.mb_s
    return (text, Outcome.BETTER if better else Outcome.WORSE, "")
