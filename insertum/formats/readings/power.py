"""Packs and the plugged-in supply: upower, and the kernel's uevents."""

import re
from collections.abc import Iterator
from typing import Any

from ...core.reading import ReadAdapter, ReadBattery
from .junk import lines_of, whole, words_of

Facts = dict[str, Any]


def read_upower(text: str) -> Facts:
    """upower's text on one device or on all: the machine's own packs that are there, and its supply."""
    packs, online = [], None
    seen = False
    for block in _devices(text):
        values = block.values
        seen |= "power supply" in values
        if values.get("power supply", "yes") != "yes":
            continue  # a mouse's battery
        if block.path.endswith("/DisplayDevice"):
            continue  # what a desktop shows of all packs together
        if "online" in values and "line-power" in block.kinds:
            online = {"yes": True, "no": False}.get(values["online"])
        if values.get("present") == "no":
            continue
        design, full = _mwh(values.get("energy-full-design")), _mwh(values.get("energy-full"))
        if design is None and full is None:
            continue
        volts = re.match(r"(\d{1,3}(?:[.,]\d{1,3})?)\s*V", values.get("voltage-min-design", ""))
        packs.append(
            ReadBattery(
                name=words_of(values.get("native-path")).rpartition("/")[2],
                maker=words_of(values.get("vendor")),
                model=words_of(values.get("model")),
                design_mwh=design or None,
                full_mwh=full,
                cycles=whole(values.get("charge-cycles")) or None,
                voltage_mv=round(float(volts[1].replace(",", ".")) * 1000) or None if volts else None,
                status=words_of(values.get("state")).capitalize(),
            )
        )
    told: Facts = {"packs": tuple(packs)} if packs or seen else {}
    return told | ({"adapter": ReadAdapter(online=online)} if online is not None else {})


class _Device:
    def __init__(self, path: str = "") -> None:
        self.path = path
        self.values: dict[str, str] = {}
        self.kinds: set[str] = set()


def _devices(text: str) -> Iterator[_Device]:
    now = _Device()
    for line in lines_of(text):
        if line.startswith("Device:"):
            yield now
            now = _Device(line.partition(":")[2].strip())
            continue
        name, colon, value = line.strip().partition(":")
        if colon:
            now.values.setdefault(name.strip(), value.strip())
        elif name:
            now.kinds.add(name)
    yield now


def _mwh(text: str | None) -> int | None:
    found = re.match(r"(\d{1,6}(?:[.,]\d{1,6})?)\s*Wh", text or "")
    return round(float(found[1].replace(",", ".")) * 1000) if found else None


def read_power(text: str) -> Facts:
    """The kernel's uevents of packs and supplies, one after another: µWh, or µAh with the design voltage in µV."""
    packs: list[ReadBattery] = []
    told: Facts = {}
    online: list[bool] = []
    most: list[int] = []
    absent: list[str] = []
    for values in _uevents(text):
        kind = values.get("TYPE", "Battery")
        if values.get("SCOPE") == "Device":
            continue  # a mouse's or a headset's
        if kind in ("Mains", "USB", "USB_C"):
            if values.get("ONLINE") in ("0", "1"):
                online.append(values["ONLINE"] == "1")
            volts, amps = whole(values.get("VOLTAGE_MAX")), whole(values.get("CURRENT_MAX"))
            if volts and amps and values.get("ONLINE") == "1":
                most.append(volts * amps // 10**9)
        elif kind == "Battery" and values.get("PRESENT") == "0":
            absent.append(values.get("NAME", ""))
        elif kind == "Battery" and (pack := _pack(values)):
            packs.append(pack)
    if packs:
        told["packs"] = tuple(packs)
    if absent := [name for name in absent if name]:
        told["absent_packs"] = tuple(absent)
    if online:
        told["adapter"] = ReadAdapter(online=any(online), most_mw=max(most, default=None))
    return told


def _uevents(text: str) -> Iterator[dict[str, str]]:
    """Blocks of values: a name seen again begins the next device."""
    now: dict[str, str] = {}
    for line in lines_of(text):
        found = re.match(r"POWER_SUPPLY_(\w{1,40})=(.*)$", line)
        if not found:
            continue
        name, value = found[1], found[2].strip()
        if name == "NAME" and now and now.get("NAME") != value or (name in now and now[name] != value):
            yield now
            now = {}
        now[name] = value
    if now:
        yield now


def _pack(values: dict[str, str]) -> ReadBattery | None:
    volts = whole(values.get("VOLTAGE_MIN_DESIGN"))

    def mwh(energy: str, charge: str) -> int | None:
        if (micro := whole(values.get(energy))) is not None:
            return micro // 1000
        amps = whole(values.get(charge))
        return amps * volts // 10**9 if amps is not None and volts else None

    design, full = mwh("ENERGY_FULL_DESIGN", "CHARGE_FULL_DESIGN"), mwh("ENERGY_FULL", "CHARGE_FULL")
    if design is None and full is None:
        return None
    return ReadBattery(
        name=words_of(values.get("NAME")),
        maker=words_of(values.get("MANUFACTURER")),
        model=words_of(values.get("MODEL_NAME")),
        design_mwh=design or None,
        full_mwh=full,
        cycles=whole(values.get("CYCLE_COUNT")) or None,
        voltage_mv=volts // 1000 or None if volts else None,
        status=words_of(values.get("STATUS")),
    )
