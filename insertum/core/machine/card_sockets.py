"""Places for M.2 and mini cards: drives, the Wi-Fi card and the modem."""

from typing import Annotated, Literal

from pydantic import Field

from ..standards import m2
from .attribute import Attribute
from .claim import Fact
from .slot_base import CLAY, MOST_ABOVE_UM, MOST_BELOW_UM, AboveUm, BelowUm, Presence, SlotBase


class CardSocket(SlotBase):
    """What drive, radio and cellular places share. ``form`` is how a card gets in: an M.2 socket
    with a key, a mini card socket (mSATA and mini PCIe share its connector; ``mini_sizes`` are the
    hold-downs there), or not at all, because the thing is soldered. ``listed_cards`` are the ids
    firmware takes where ``card_policy`` is "listed". ``pcie_lanes`` are those wired, 0 for none;
    ``fixed_posts_mm`` are hold-downs that do not come out: they stand as high as a card lies."""

    form: Literal["m2", "mini", "soldered"] = "m2"
    pci: str = Field("", max_length=40, description="PCI address of the port behind it, as the system names it")
    mini_sizes: Annotated[
        Fact[tuple[Literal["half", "full"], ...]],
        Attribute(
            label="Mini cards held",
            kind="list",
            values=("half", "full"),
            where="cover",
            tool="rule",
            how="Posts 27 mm (half) and 51 mm (full) from the contacts.",
        ),
    ] = Fact[tuple[Literal["half", "full"], ...]]()
    key: Annotated[
        Fact[str],
        Attribute(
            label="Key",
            kind="choice",
            values=("A", "B", "E", "M"),
            where="cover",
            tool="eyes",
            how="The socket's bar sits at pins 8-15 A, 12-19 B, 24-31 E, 59-66 M.",
        ),
    ] = Fact[str]()
    width_mm: Annotated[
        Fact[int],
        Attribute(
            label="Width",
            unit="mm",
            values=m2.WIDTHS,
            listed=True,
            where="cover",
            tool="rule",
            how="Across the place, between what stands beside it.",
        ),
    ] = Fact[int]()
    standoffs_mm: Annotated[
        Fact[tuple[int, ...]],
        Attribute(
            label="Standoffs at",
            kind="numbers",
            unit="mm",
            values=m2.LENGTHS,
            where="cover",
            tool="rule",
            how="Threaded posts behind the socket, measured from its contacts: 30, 42, 60, 80.",
        ),
    ] = Fact[tuple[int, ...]]()
    fixed_posts_mm: Annotated[
        Fact[tuple[int, ...]],
        Attribute(
            label="Posts that stay at",
            kind="numbers",
            unit="mm",
            values=m2.LENGTHS,
            where="cover",
            tool="fingers",
            how="A post shorter than the card that does not unscrew: try each by hand.",
        ),
    ] = Fact[tuple[int, ...]]()
    bracket_mm: Annotated[
        Fact[tuple[int, ...]],
        Attribute(
            label="Brackets there for",
            kind="numbers",
            unit="mm",
            values=m2.LENGTHS,
            after="standoffs_mm",
            where="cover",
            tool="eyes",
            how="Look at the fitted card and in the owner's box.",
        ),
    ] = Fact[tuple[int, ...]]()
    socket_height: Annotated[
        Fact[str],
        Attribute(
            label="Socket height",
            kind="choice",
            values=tuple(m2.SOCKET_BELOW_UM),
            where="cover",
            tool="calliper",
            how="From the board to the top of the socket.",
        ),
    ] = Fact[str]()
    board_below: Annotated[
        Fact[Literal["bare", "parts"]],
        Attribute(
            label="Board under the card",
            kind="choice",
            values=("bare", "parts"),
            where="cover",
            tool="torch",
            how="Look under the card along its length: bare board, or parts on it?",
        ),
    ] = Fact[Literal["bare", "parts"]]()
    clearance_below_um: Annotated[
        Fact[BelowUm],
        Attribute(
            label="Room below",
            unit="mm",
            scale=1000,
            low=0,
            high=MOST_BELOW_UM,
            where="cover",
            tool="feeler gauges",
            how="Between what lies on the board and the underside of a card in the socket.",
        ),
    ] = Fact[BelowUm]()
    clearance_above_um: Annotated[
        Fact[AboveUm],
        Attribute(
            label="Room above",
            unit="mm",
            scale=1000,
            low=0,
            high=MOST_ABOVE_UM,
            where="cover",
            tool=CLAY,
            how="Clay on the card, close shield or cover, measure what is left.",
        ),
    ] = Fact[AboveUm]()
    pcie_lanes: Annotated[
        Fact[int],
        Attribute(
            label="PCIe lanes",
            values=(0, 1, 2, 4),
            where="software",
            tool="running system",
            how="The lanes of the fitted card's link and of its port, or the manual; 0 where none are wired.",
        ),
    ] = Fact[int]()
    pcie_generation: Annotated[
        Fact[int],
        Attribute(
            label="PCIe generation",
            values=(1, 2, 3, 4, 5),
            where="software",
            tool="running system",
            how="The link of the fitted card read under load and the port's own figure, or the manual.",
        ),
    ] = Fact[int]()
    card_policy: Annotated[
        Fact[Literal["any", "listed"]],
        Attribute(
            label="Card policy",
            kind="choice",
            values=("any", "listed"),
            tool="manual",
            how="Manual or sightings: does the firmware refuse cards it does not list?",
            returnable=True,
        ),
    ] = Fact[Literal["any", "listed"]]()
    listed_cards: Annotated[
        Fact[tuple[str, ...]],
        Attribute(
            label="Listed cards",
            kind="list",
            after="card_policy",
            tool="manual",
            how="The maker's list of card ids (FRU).",
        ),
    ] = Fact[tuple[str, ...]]()


class DriveSlot(CardSocket):
    """``cooled`` names the sides something cools; ``pad`` is the pad that does it from above and
    ``pad_gap_um`` the gap it has to fill. ``sata`` is the generation wired, 0 for none."""

    kind: Literal["m2_drive"] = "m2_drive"
    sata: Annotated[
        Fact[int],
        Attribute(
            label="SATA generation",
            values=(0, 1, 2, 3),
            where="software",
            tool="running system",
            how="The rate of the fitted drive (1.5, 3, 6 Gb/s are 1, 2, 3), or the manual; 0 where none is wired.",
        ),
    ] = Fact[int]()
    pad_below: Annotated[
        Fact[Literal["none", "removable", "stays"]],
        Attribute(
            label="Pad below",
            kind="choice",
            values=("none", "removable", "stays"),
            where="cover",
            tool="torch",
            how="Lift the fitted card, or look under the shield.",
        ),
    ] = Fact[Literal["none", "removable", "stays"]]()
    cooled: Annotated[
        Fact[Literal["none", "above", "below", "both"]],
        Attribute(
            label="Cooled from",
            kind="choice",
            values=("none", "above", "below", "both"),
            where="cover",
            tool="eyes",
            how="A pad or shield that touches the drive, and on which side.",
        ),
    ] = Fact[Literal["none", "above", "below", "both"]]()
    pad: Annotated[
        Fact[Presence],
        Attribute(
            label="Pad to the shield",
            kind="choice",
            values=tuple(Presence),
            where="cover",
            tool="eyes",
            how="Lift the shield: is a pad on it, and is it whole?",
        ),
    ] = Fact[Presence]()
    pad_gap_um: Annotated[
        Fact[AboveUm],
        Attribute(
            label="Gap for a pad",
            unit="mm",
            scale=1000,
            low=0,
            high=MOST_ABOVE_UM,
            where="cover",
            tool=CLAY,
            how="Clay on the chips, close the shield, measure it.",
        ),
    ] = Fact[AboveUm]()
    drive_limit_gb: Annotated[
        Fact[int],
        Attribute(
            label="Largest drive",
            unit="GB",
            low=1,
            high=1_000_000_000,
            tool="manual",
            how="Service manual; the interface itself sets no limit you will meet.",
            is_limit=True,
        ),
    ] = Fact[int]()


class Aerials(CardSocket):
    """What a place with antennas has."""

    usb: Annotated[
        Fact[bool],
        Attribute(
            label="USB",
            kind="flag",
            where="software",
            tool="running system",
            how="See if the fitted card's Bluetooth or modem shows up.",
            returnable=True,
        ),
    ] = Fact[bool]()
    leads: Annotated[
        Fact[int],
        Attribute(
            label="Antenna leads",
            values=(0, 1, 2, 3, 4),
            where="cover",
            tool="eyes",
            how="Count them at the fitted card, and look for taped-down spares.",
        ),
    ] = Fact[int]()
    plug: Annotated[
        Fact[str],
        Attribute(
            label="Lead plugs",
            kind="choice",
            values=("MHF1", "MHF4"),
            where="cover",
            tool="calliper",
            how="About 3 mm across is MHF1, about 2 mm MHF4.",
        ),
    ] = Fact[str]()


class RadioSlot(Aerials):
    """``cnvi`` lists the companion radios the slot takes, ``host_generation`` is the host radio's own
    generation; a host without one has an empty list. ``cnvi_wired``: a processor that could take a companion radio does
    not wire the slot for it."""

    kind: Literal["radio"] = "radio"
    cnvi_wired: Annotated[
        Fact[bool],
        Attribute(
            label="Wired for companion radios (CNVi)",
            kind="flag",
            tool="manual",
            how="The manual's word on the slot, or a companion radio that works in it. A processor's list does not tell.",
        ),
    ] = Fact[bool]()
    cnvi: Annotated[
        Fact[tuple[str, ...]],
        Attribute(
            label="Companion radios",
            kind="list",
            after="cnvi_wired",
            tool="manual",
            how="The maker's list for this slot; none where the host has no radio. A processor's list says the most there is.",
        ),
    ] = Fact[tuple[str, ...]]()
    host_generation: Annotated[
        Fact[int],
        Attribute(
            label="Host radio generation", values=tuple(range(1, 10)), tool="manual", how="The processor's radio list."
        ),
    ] = Fact[int]()
    antenna_bands: Annotated[
        Fact[tuple[str, ...]],
        Attribute(
            label="Antennas made for",
            kind="list",
            values=("2.4", "5", "6"),
            unit="GHz",
            where="cover",
            tool="eyes",
            how="The print on the antenna.",
        ),
    ] = Fact[tuple[str, ...]]()


class CellularSlot(Aerials):
    """A place for a cellular card. It may exist without antennas or a SIM tray, because the machine
    was ordered without."""

    kind: Literal["cellular"] = "cellular"
    sim_tray: Annotated[
        Fact[Presence],
        Attribute(
            label="SIM tray",
            kind="choice",
            values=tuple(Presence),
            where="label",
            tool="eyes",
            how="Along the edges and under the battery: a tray, or its blank?",
        ),
    ] = Fact[Presence]()
