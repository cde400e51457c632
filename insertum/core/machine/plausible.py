"""What a laptop or a part cannot be: one check on the shapes themselves, and so at every door.

Labels, columns, JSON, machine files, the editor, edits and readings all end in these shapes; what stands here is
refused at each of them in the same words (rules.md section 3).
"""

from typing import Any

from pydantic import BaseModel

from ..standards import ddr, m2, wlan
from ..standards import pack as packs
from .attribute import Attribute, attributes_of, shown
from .claim import Fact, Source


def look_over(place: BaseModel) -> None:
    """Raises :class:`ValueError` for a claim no laptop can make true, naming attribute and range."""
    name = getattr(place, "id", type(place).__name__.lower())
    for field, words in attributes_of(type(place)).items():
        fact = getattr(place, field)
        if isinstance(fact, Fact):
            for claim in fact.claims:
                # The standard itself may say there is no limit one will meet.
                if claim.source is not Source.CONTROLLER or not words.is_limit:
                    for value in (claim.value, *claim.alternatives):
                        look_at(f"{name}.{field}", words, value)
    for count, fact in getattr(place, "speed_by_modules", {}).items():
        if not 1 <= count <= 8:
            raise ValueError(f"{name}: {count} modules are no population a laptop has")
        for claim in fact.claims:
            look_at(f"{name}.speed_by_modules", attributes_of(type(place))["speed_mts"], claim.value)


def look_at(where: str, words: Attribute, value: Any) -> None:
    """Raises :class:`ValueError` for one value no laptop has, naming the place and what it could be."""
    if words.kind == "choice" and isinstance(value, str) and value not in words.values:
        raise ValueError(f"{where}: {words.label} {value!r} is none of {', '.join(map(str, words.values))}")
    if isinstance(value, bool) or not isinstance(value, int | float | tuple):
        return
    if isinstance(value, tuple):
        for one in value:
            if isinstance(one, int) and not 1 <= one <= 200:
                raise ValueError(f"{where}: {words.label} {one} {words.unit} is nothing a laptop has")
        if len(value) > 500:
            raise ValueError(f"{where}: a list of {len(value)} is longer than any")
        return
    low, high = words.low, words.high
    if low is None and high is None and words.values and isinstance(words.values[0], int):
        low, high = min(words.values), max(words.values)
        if not words.unit and value not in words.values:
            raise ValueError(f"{where}: {words.label} {value} is none of {', '.join(map(str, words.values))}")
    if (low is not None and value < low) or (high is not None and value > high):
        least = shown(low, words.scale) if low is not None else "0"
        raise ValueError(
            f"{where}: {words.label} {shown(value, words.scale)} {words.unit} is nothing a laptop has "
            f"({least} to {shown(high, words.scale)})".replace("  ", " ")
        )


def module_is_real(module: Any) -> None:
    """Raises :class:`ValueError` for a memory module that cannot be: 7 GB, DDR4-3100, 3Rx5, 24 GB as 2Rx8."""
    generation = module.generation
    if generation not in (2, 3, 4, 5):
        raise ValueError(f"there is no DDR{generation} SO-DIMM")
    if module.capacity_gb not in ddr.CAPACITIES_GB:
        raise ValueError(f"no module has {module.capacity_gb} GB")
    if generation > 2 and not any(ddr.same_grade(g, module.grade_mts) for g in ddr.GRADES[generation]):
        raise ValueError(f"DDR{generation}-{module.grade_mts} is no grade")
    if module.ranks is not None and module.ranks not in ddr.RANKS:
        raise ValueError(f"{module.ranks} ranks: a module has 1, 2, 4 or 8")
    if module.chip_width is not None and module.chip_width not in ddr.WIDTHS:
        raise ValueError(f"x{module.chip_width} chips: there are x4, x8 and x16")
    if generation > 2 and module.ranks and module.chip_width:
        chips = ddr.density_gbit(module.capacity_gb, module.ranks, module.chip_width)
        if chips not in ddr.DENSITIES[generation]:
            raise ValueError(
                f"{module.capacity_gb} GB as {module.ranks}Rx{module.chip_width} would take {chips} Gbit chips, "
                f"and DDR{generation} has {', '.join(map(str, ddr.DENSITIES[generation]))}"
            )
    if module.profile_mts is not None and not module.grade_mts <= module.profile_mts <= 12_000:
        raise ValueError(f"a profile of {module.profile_mts} is none above the base grade {module.grade_mts}")
    if module.voltage_mv is not None and not 900 <= module.voltage_mv <= 1800:
        raise ValueError(f"{module.voltage_mv / 1000:g} V is no memory voltage")


def card_is_real(card: Any) -> None:
    """Raises :class:`ValueError` for keys there are not, or more lanes than a card's notches leave."""
    if card.keys is not None:
        if odd := [k for k in card.keys if k not in m2.KEY_PINS]:
            raise ValueError(f"no key {odd[0]}: keys in use are A, B, E and M")
        if len(card.keys) > 2:
            raise ValueError("a card has one key or two, and a soldered one none")
    lanes = getattr(card, "lanes", None)
    if lanes is not None and lanes not in (1, 2, 4):
        raise ValueError(f"×{lanes}: a card has 1, 2 or 4 lanes")
    if lanes is not None and card.keys and card.form == "m2" and lanes > max(m2.KEY_LANES[k] for k in card.keys):
        raise ValueError(f"key {'+'.join(card.keys)} carries no ×{lanes}")


def radio_is_real(radio: Any) -> None:
    """Raises :class:`ValueError` for bands there are not, or a channel its standard has in none of its bands."""
    bands = wlan.BANDS if radio.bands is None else radio.bands
    if not bands or (odd := [b for b in bands if b not in wlan.BANDS]):
        raise ValueError(f"bands are {', '.join(wlan.BANDS)} GHz" + (f", not {odd[0]}" if bands else ": name one"))
    if radio.channel_mhz is not None:
        if radio.channel_mhz not in wlan.WIDTHS:
            raise ValueError(f"channels are {', '.join(map(str, wlan.WIDTHS))} MHz wide, not {radio.channel_mhz}")
        if radio.standard and not any(wlan.exists(radio.standard, radio.channel_mhz, b) for b in bands):
            raise ValueError(f"{radio.standard} has no channel of {radio.channel_mhz} MHz at {', '.join(bands)} GHz")


def pack_is_real(pack: Any) -> None:
    """Raises :class:`ValueError` for a pack that holds twice its design (mWh and mAh mixed up), or is charged to what its cells are not."""
    if pack.full_mwh is not None and pack.full_mwh > 2 * pack.design_mwh:
        raise ValueError(f"full at {pack.full_mwh / 1000:g} Wh, of a design of {pack.design_mwh / 1000:g} Wh")
    if pack.charge_mv is not None:
        cells, nominal = packs.charged_cells(pack.charge_mv), packs.cells_of(pack.voltage_mv or 0)
        if cells is None or (nominal is not None and nominal[0] != cells):
            stated = f" in a pack of {pack.voltage_mv / 1000:g} V" if nominal else ""
            raise ValueError(f"no number of cells is charged to {pack.charge_mv / 1000:g} V{stated}")


def accessory_is_real(accessory: Any) -> None:
    """Raises :class:`ValueError` for a bracket or spacer that shortens."""
    start, end = accessory.from_mm, accessory.to_mm
    if accessory.supplies in ("bracket", "spacer") and start is not None and end is not None and start > end:
        raise ValueError(f"a {accessory.supplies} from {start:g} to {end:g} mm makes nothing longer: the smaller first")
