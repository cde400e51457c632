"""What hangs on PCI Express and USB: lspci, lsusb, and the kernel's own lists as the gather script writes them."""

import re
from dataclasses import dataclass, field
from typing import Any

from ...core.reading import ReadBluetooth, ReadPort, ReadRadio
from ...core.standards.pcie import Link, generation_of
from .junk import is_cut, lines_of, pci_address, words_of

Facts = dict[str, Any]

_HEAD = re.compile(
    r"((?:[0-9a-f]{4,8}:)?[0-9a-f]{2}:[0-9a-f]{2}\.[0-7])\s+([^:\[]{1,80}?)(?:\s*\[([0-9a-f]{4})\])?:\s*(.+)"
)
_LINK = re.compile(r"Speed\s+([\d.]{1,6})\s*GT/s(?:\s*\([a-z]+\))?,\s*Width\s+x(\d{1,2})\b")
_BUSES = re.compile(r"Bus:\s*primary=([0-9a-f]{2}),\s*secondary=([0-9a-f]{2}),\s*subordinate=([0-9a-f]{2})")
#: PCI class codes (PCI code and ID assignment): NVM Express, network and wireless controllers, bridge.
_NVME, _RADIO, _MODEM, _BRIDGE = "0108", "0280", "0d40", "0604"


@dataclass
class Device:
    """One PCI function: its address, class, name, links at both ends, driver; of a bridge also what lies behind."""

    pci: str
    kind: str
    code: str
    name: str
    ident: str = ""
    subsystem: str = ""
    driver: str = ""
    capable: Link | None = None
    running: Link | None = None
    behind: tuple[str, ...] = ()
    lines: list[str] = field(default_factory=list)


def read_lspci(text: str) -> Facts:
    """Verbose lspci: radios, modems, ports, and each function's link, by address."""
    devices: dict[str, Device] = {}
    now: Device | None = None
    clash = False
    for line in lines_of(text):
        if head := _HEAD.match(line):
            now = _device(head)
            known = devices.setdefault(now.pci, now)
            clash |= (known.kind, known.name, known.ident) != (now.kind, now.name, now.ident)
        elif not line.strip():
            now = None
        elif now is not None:
            _told(devices[now.pci], line.strip())
    if clash:
        return {"problems": ["two things at one address: it is of two machines, and nothing of it is taken"]}
    if not devices:
        return {}
    before = {bus: d for d in devices.values() for bus in d.behind}

    def port_of(d: Device) -> Device | None:
        return before.get(d.pci.rpartition(":")[0])

    def radio(d: Device) -> ReadRadio:
        port = port_of(d)
        return ReadRadio(
            name=d.name, id=f"{d.ident} {d.subsystem}".strip(), driver=d.driver, bus="pcie", pci=d.pci,
            capable=d.capable, running=d.running, port=port.capable if port else None, port_pci=port.pci if port else "",
        )  # fmt: skip

    found: Facts = {
        "radios": tuple(radio(d) for d in devices.values() if d.code == _RADIO or "Network controller" in d.kind),
        "modems": tuple(
            radio(d) for d in devices.values() if d.code == _MODEM or re.search(r"cellular|\bmodem\b", d.name, re.I)
        ),
        "links": {
            d.pci: (d.capable, d.running, port_of(d))
            for d in devices.values()
            if d.code == _NVME or "Non-Volatile memory" in d.kind
        },
        "ports": tuple(
            ReadPort(pci=d.pci, capable=d.capable, holds=next((o.pci for o in devices.values() if port_of(o) is d), ""))
            for d in devices.values()
            if d.behind and d.capable
        ),
    }
    return found | ({"cut": True} if is_cut(text) else {})


def _device(head: re.Match[str]) -> Device:
    title = re.sub(r"\s*\((?:rev|prog-if)[^)]{0,60}\)", "", head[4])
    ident = re.search(r"\[([0-9a-f]{4}:[0-9a-f]{4})\]", title)
    return Device(
        pci=pci_address(head[1]),
        kind=head[2],
        code=head[3] or "",
        name=re.sub(r"\s*\[[0-9a-f]{4}:[0-9a-f]{4}\]\s*", "", title).strip(),
        ident=ident[1] if ident else "",
    )


def _told(d: Device, line: str) -> None:
    word, colon, rest = line.partition(":")
    if not colon:
        return
    if word == "LnkCap" and d.capable is None:
        d.capable = _link(rest)
    elif word == "LnkSta" and d.running is None:
        d.running = _link(rest)
    elif word == "Subsystem" and not d.subsystem:
        d.subsystem = re.sub(r"\s*\[[0-9a-f:]{1,20}\]", "", rest).strip()
    elif word == "Kernel driver in use":
        d.driver = rest.strip()[:60]
    elif word == "Bus" and d.code in ("", _BRIDGE) and (buses := _BUSES.match(line)):
        # What hangs on the secondary bus is behind this port; a switch further down has ports of its own.
        d.behind = (f"{d.pci.partition(':')[0]}:{buses[2]}",)


def _link(text: str) -> Link | None:
    found = _LINK.search(text)
    if not found:
        return None
    try:
        generation = generation_of(float(found[1]))
    except ValueError:
        return None
    lanes = int(found[2])
    # A port without a card shows a width of 0; a speed of 64 GT/s and more is none a laptop's slot is planned with.
    return Link(generation=generation, lanes=lanes) if generation and 0 < lanes <= 16 else None


_USB = re.compile(r"Bus (\d{3}) Device (\d{3}): ID ([0-9a-f]{4}:[0-9a-f]{4})(?: (.*))?$")


def read_lsusb(text: str) -> Facts:
    """lsusb: modems, and Bluetooth where a name says so. No word of it is "not seen", never "missing"."""
    seen: dict[str, tuple[str, str]] = {}
    for line in lines_of(text):
        if found := _USB.match(line):
            seen.setdefault(f"{found[1]}.{found[2]}", (found[3], words_of(found[4])))
    if not seen:
        return {}
    told: Facts = {
        "modems": tuple(
            ReadRadio(name=name, id=ident, bus="usb")
            for ident, name in seen.values()
            if re.search(r"cellular|\bmodem\b", name, re.IGNORECASE)
        )
    }
    if any("bluetooth" in name.lower() for _, name in seen.values()):
        told["bluetooth"] = ReadBluetooth()
    return told


#: USB base class, subclass and protocol of a Bluetooth controller (USB defined class codes, E0h).
_BLUETOOTH = "e0/01/01"


def read_usb(text: str) -> Facts:
    """The kernel's list of USB interfaces as the gather script writes it: one line each, ``place vendor:product
    fixed|removable|unknown class/subclass/protocol driver|- name``."""
    fixed: list[bool | None] = []
    driven: list[bool] = []
    seen = False
    for line in lines_of(text):
        words = line.split(None, 5)
        if len(words) < 5 or not re.fullmatch(r"[0-9a-f]{4}:[0-9a-f]{4}", words[1]):
            continue
        seen = True
        if words[3].lower() == _BLUETOOTH:
            fixed.append({"fixed": True, "removable": False}.get(words[2]))
            driven.append(words[4] != "-")
    if not seen:
        return {}
    # A stick with Bluetooth in it says nothing of the machine; of several, only the machine's own counts.
    mine = [(f, d) for f, d in zip(fixed, driven, strict=True) if f is not False]
    if not mine:
        return {"bluetooth": None}  # looked, and saw none of the machine's
    best = next(((f, d) for f, d in mine if f), mine[0])
    return {"bluetooth": ReadBluetooth(fixed=best[0], driver=any(d for f, d in mine if f == best[0]))}


def read_net(text: str) -> Facts:
    """Wireless interfaces and where they hang, as the gather script writes them: ``name sysfs-path``."""
    found = {}
    for line in lines_of(text):
        name, _, path = line.partition(" ")
        if path.startswith("/"):
            found[name] = address_in(path)
    return {"interfaces": found} if found else {}


def address_in(path: str) -> str:
    """The address of the last PCI function on a sysfs path, "" for a device on USB or none."""
    if "/usb" in path:
        return ""
    return next((a for step in reversed(path.split("/")) if (a := pci_address(step))), "")


def read_iw(text: str) -> Facts:
    """iw station dump: the signal on each antenna chain, by interface."""
    found: dict[str, tuple[int, ...]] = {}
    name = ""
    for line in lines_of(text):
        if head := re.match(r"Station [0-9a-f:]{17} \(on (\S{1,40})\)", line):
            name = head[1]
        elif (signal := re.match(r"\s*signal(?: avg)?:\s*-?\d{1,3}\s*\[([-\d,\s]{1,60})\]\s*dBm", line)) and name:
            chains = tuple(int(v) for v in signal[1].split(",") if re.fullmatch(r"\s*-\d{1,3}\s*", v))
            # The average of a station tells more than its last frame.
            if chains and ("avg" in line or name not in found):
                found[name] = chains
    return {"chains": found} if found else {}
