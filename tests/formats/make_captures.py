#!/usr/bin/env python3
"""What the real tools print of the simulated laptop's device trees, for tests/formats/captures.

Needs dmidecode, pciutils and util-linux. For a few demo machines it writes an SMBIOS table (DSP0134 3.4), PCI
configuration spaces in a made sysfs and block devices in another, and lets dmidecode, lspci and lsblk read them: so
the readers are tested on the tools' own words and not on the laptop's. Run it again when the trees change.
"""

import json
import shutil
import struct
import subprocess
import sys
import tempfile
from pathlib import Path

HERE = Path(__file__).resolve().parents[2]
sys.path.insert(0, str(HERE))
OUT = HERE / "tests" / "formats" / "captures"

from insertum.core.machine.shape import Machine  # noqa: E402
from insertum.core.standards.pcie import Link  # noqa: E402
from insertum.core.survey.current_build import build_today  # noqa: E402
from insertum.demo.laptop.tree import Disk, Function, SimulatedLoad, Tree, tree  # noqa: E402

#: Machine, configuration, whether the owner's system ran.
WANTED = [
    ("veyra-strand-15", "mk2-rill-430", True),
    ("brannock-fell-17", "beck-540", False),
    ("halden-wick-11", "fen-210", False),
    ("halden-almanac-12", "rill-110", True),
]


# -- the SMBIOS table ---------------------------------------------------------------------------
class Table:
    def __init__(self) -> None:
        self.data, self.handle = b"", 0

    def add(self, kind: int, form: str, *values: object) -> int:
        """One structure: texts among the values become its strings."""
        texts: list[bytes] = []
        packed = []
        for v in values:
            if v == "":
                packed.append(0)  # no text at all
            elif isinstance(v, str):
                texts.append(v.encode())
                packed.append(len(texts))
            else:
                packed.append(v)
        body = struct.pack("<" + form, *packed)
        strings = b"".join(t + b"\0" for t in texts) + b"\0" if texts else b"\0\0"
        self.data += struct.pack("<BBH", kind, len(body) + 4, self.handle) + body + strings
        self.handle += 1
        return self.handle - 1


def dump_of(t: Tree) -> bytes:
    m, c = t.build.machine.machine, t.build.machine.configuration
    board = next((k.text for k in (*c.marks, *m.marks) if k.kind == "board"), "Board")
    system = next((k.text for k in (*c.marks, *m.marks) if k.kind == "system"), f"{m.maker} {c.name}")
    s = Table()
    s.add(
        0, "BBHBBQBBBBBB", m.maker, t.build.firmware or "1.02", 0xE000, "01/02/2024", 0xFF, 0x08, 3, 0, 1, 2, 0xFF, 0xFF
    )
    s.add(
        1,
        "BBBB16sBBB",
        m.maker,
        system.removeprefix(m.maker).strip(),
        "Not Specified",
        "-1",
        bytes(range(16)),
        6,
        "SKU",
        m.name,
    )
    s.add(2, "BBBBBBBHBB", m.maker, board, "rev", "-1", "none", 9, "Inside", 3, 10, 0)
    s.add(4, "BBBBQBBHHHBBHHHBBBBBBH", "U3E1", 3, 0x02, "Corvane", 0x1234, f"{c.processor} @ 2.40GHz   ", 0x8B, 100, 4000, 2400,
          0x41, 1, 0xFFFF, 0xFFFF, 0xFFFF, "-1", "none", "none", 4, 4, 8, 0xFC)  # fmt: skip
    count = len(t.sockets) + len(t.soldered)
    main = s.add(16, "BBBIHHQ", 3, 3, 3, 64 * 2**20, 0xFFFE, count, 0)
    flash = s.add(16, "BBBIHHQ", 3, 5, 3, 32 * 2**10, 0xFFFE, 1, 0)
    device = "HHHHHBBBBBHHBBBBBIHHHH"

    def memory(array: int, mb: int, form: int, where: str, bank: str, kind: int, rate: int, maker: str, part: str, rank: int,
               running: int) -> None:  # fmt: skip
        size, extended = (mb, 0) if mb < 0x7FFF else (0x7FFF, mb)
        s.add(17, device, array, 0xFFFE, 64 if mb else 0xFFFF, 64 if mb else 0xFFFF, size, form, 0, where, bank, kind, 0x80,
              rate, maker, "-1", "none", part, rank, extended, running, 0, 0, 1200 if mb else 0)  # fmt: skip

    memory(flash, 32, 5, "SYSTEM ROM", "Not Specified", 9, 0, "Plinth", "PR25F32", 0, 0)
    generation = t.build.known.value(t.sockets[0][0].id, "generation") if t.sockets else 4
    kinds = {3: 24, 4: 26, 5: 34} if t.sockets else {3: 29, 4: 30, 5: 35}
    for n, chip in enumerate(t.soldered):
        bank = f"P0 CHANNEL {chip.channel}" if chip.channel else "Not Specified"
        memory(main, chip.capacity_gb * 1024, 11, f"Onboard {n}", bank, kinds[generation or 4], chip.rated_mts or 0, "Unknown",
               "Not Specified", 0, t.running_mts)  # fmt: skip
    for slot, module in t.sockets:
        where = slot.locator or slot.name
        if module is None:
            memory(main, 0, 13, where, "Not Specified", 2, 0, "Not Specified", "Not Specified", 0, 0)
        else:
            memory(main, module.capacity_gb * 1024, 13, where, "Not Specified", {3: 24, 4: 26, 5: 34}[module.generation],
                   module.profile_mts or module.grade_mts, module.maker, f"{module.number}      ", module.ranks or 0,
                   t.running_mts)  # fmt: skip
    for slot in t.build.machine.slots:
        if slot.kind in ("m2_drive", "radio", "cellular") and slot.form == "m2":
            pci = t.slots.get(slot.id, "")
            at = (
                (int(pci[:4], 16), int(pci[5:7], 16), int(pci[8:10], 16) << 3 | int(pci[11], 16))
                if pci
                else (0xFFFF, 0xFF, 0xFF)
            )
            s.add(9, "BBBBBHBBHBB", slot.name, 0x17, 8, 4 if t.build.now(slot.id) else 3, 3, 0, 0x0C, 0, *at)
    for name, pack in t.packs:
        s.add(22, "BBBBBBHHBBHHBBI", "Inside", pack.maker, "", "", pack.number, 2, min(pack.design_mwh // 10, 0xFFFF), pack.voltage_mv or 11400,
              "1.1", 0xFF, 0, 0, "Li-ion", 10, 0)  # fmt: skip
        _ = name
    s.add(127, "")
    entry = bytearray(struct.pack("<5sBBBBBBBIQ", b"_SM3_", 0, 24, 3, 4, 0, 1, 0, len(s.data), 32))
    entry[5] = -sum(entry) & 255
    return bytes(entry).ljust(32, b"\0") + s.data


# -- PCI ----------------------------------------------------------------------------------------
def config_of(f: Function) -> bytes:
    data = bytearray(256)
    vendor, device = (int(x, 16) for x in f.ident.split(":"))
    bridge = f.code == "0604"
    prog = {"0108": 2}.get(f.code, 0)
    struct.pack_into(
        "<HHHHBBBBBBBB",
        data,
        0,
        vendor,
        device,
        7,
        0x10,
        1,
        prog,
        int(f.code[2:], 16),
        int(f.code[:2], 16),
        0,
        0,
        int(bridge),
        0,
    )
    data[0x34] = 0x40
    if bridge:
        data[0x18], data[0x19], data[0x1A] = 0, f.secondary or 0, f.secondary or 0
    elif f.subsystem:
        struct.pack_into("<HH", data, 0x2C, vendor, 1)
    if f.capable:
        kind = 4 if bridge else 0
        struct.pack_into("<BBH", data, 0x40, 0x10, 0, 2 | kind << 4 | (0x100 if bridge else 0))
        struct.pack_into("<I", data, 0x4C, f.capable.generation | f.capable.lanes << 4 | 2 << 10)
        running = f.running or Link(generation=1, lanes=0)
        struct.pack_into("<H", data, 0x52, running.generation | running.lanes << 4 | 1 << 12)
    else:
        data[0x34] = 0
        data[6] = 0
    return bytes(data)


def lspci_of(t: Tree, work: Path) -> str:
    devices = work / "bus" / "pci" / "devices"
    ids: dict[str, dict[str, str]] = {}
    classes = "C 06  Bridge\n\t00  Host bridge\n\t04  PCI bridge\n\t\t00  Normal decode\nC 01  Mass storage controller\n" \
              "\t04  RAID bus controller\n\t06  SATA controller\n\t08  Non-Volatile memory controller\n\t\t02  NVM Express\n" \
              "C 02  Network controller\n\t80  Network controller\nC 0d  Wireless controller\n\t40  Wireless controller\n"  # fmt: skip
    drivers = work / "bus" / "pci" / "drivers"
    for f in t.functions:
        folder = devices / f.pci
        folder.mkdir(parents=True)
        vendor, device = f.ident.split(":")
        maker, _, name = f.name.partition(" ")
        below = f"\n\t\t{vendor} 0001  {f.subsystem.partition(' ')[2]}" if f.subsystem else ""
        ids.setdefault(f"{vendor}  {maker}", {})[device] = name + below
        (folder / "config").write_bytes(config_of(f))
        (folder / "vendor").write_text(f"0x{vendor}\n")
        (folder / "device").write_text(f"0x{device}\n")
        (folder / "class").write_text(f"0x{f.code}{'02' if f.code == '0108' else '00'}\n")
        (folder / "irq").write_text("0\n")
        (folder / "resource").write_text("0x0 0x0 0x0\n" * 7)
        if f.driver:
            (drivers / f.driver).mkdir(parents=True, exist_ok=True)
            (folder / "driver").symlink_to(drivers / f.driver)
    listed = work / "pci.ids"
    names = "".join(
        f"{maker}\n" + "".join(f"\t{d}  {n}\n" for d, n in sorted(of.items())) for maker, of in sorted(ids.items())
    )
    listed.write_text(names + classes)
    call = ["lspci", "-O", f"sysfs.path={work / 'bus' / 'pci'}", "-i", str(listed), "-D", "-vv", "-nn"]
    return subprocess.run(call, capture_output=True, text=True, check=True).stdout


# -- block devices (without how full they are: lsblk would ask this machine's own file systems) ------------------------------------------------------------------------------
_COLUMNS = "NAME,TYPE,SIZE,MODEL,SERIAL,TRAN,ROTA,RM,REV,PKNAME,FSTYPE,PARTTYPE,PARTUUID,MOUNTPOINT"


def lsblk_of(t: Tree, work: Path) -> str:
    for n, d in enumerate(t.disks):
        _block(work, d, n)
    call = ["lsblk", "--sysroot", str(work), "-J", "-b", "-o", _COLUMNS]
    return subprocess.run(call, capture_output=True, text=True, check=True).stdout


def _block(work: Path, d: Disk, n: int) -> None:
    folder = work / d.path.lstrip("/")
    folder.mkdir(parents=True)
    major = 259 if d.transport == "nvme" else 179 if d.card == "MMC" else 8
    names = [(d.name, d.size, "", 16 * n)] + [(v.name, v.size, v.guid, 16 * n + i + 1) for i, v in enumerate(d.volumes)]
    for extra in (0, 1) if d.card == "MMC" else ():
        names.append((f"{d.name}boot{extra}", 4 * 2**20, "", 16 * n + 8 + extra))
    (work / "sys" / "block").mkdir(parents=True, exist_ok=True)
    (work / "sys" / "dev" / "block").mkdir(parents=True, exist_ok=True)
    (work / "dev").mkdir(exist_ok=True)
    for name, size, guid, minor in names:
        inner = folder / name if guid else folder if name == d.name else folder.parent / name
        inner.mkdir(exist_ok=True)
        (inner / "size").write_text(f"{size // 512}\n")
        (inner / "dev").write_text(f"{major}:{minor}\n")
        (inner / "removable").write_text(f"{int(d.removable)}\n")
        (inner / "ro").write_text("0\n")
        (work / "sys" / "dev" / "block" / f"{major}:{minor}").symlink_to(inner)
        facts = {"DEVTYPE": "partition" if guid else "disk"}
        if guid:
            (inner / "partition").write_text(f"{minor % 16}\n")
            v = next(v for v in d.volumes if v.name == name)
            esp = "c12a7328-f81f-11d2-ba4b-00a0c93ec93b"
            facts |= {
                "ID_FS_TYPE": v.kind,
                "ID_PART_ENTRY_UUID": guid,
                "ID_PART_ENTRY_TYPE": esp if v.loader else "0fc63daf-8483-4772-8e79-3d69d8477de4",
            }
        else:
            (inner / "queue").mkdir(exist_ok=True)
            (inner / "queue" / "rotational").write_text(f"{int(d.spinning)}\n")
            (work / "sys" / "block" / name).symlink_to(inner)
            if name == d.name:
                device = inner / "device"
                device.mkdir(exist_ok=True)
                (device / "rev").write_text(f"{d.firmware}\n")
                (device / "model").write_text(d.model + "\n")
                (device / "vendor").write_text("ATA\n")
                (device / "type").write_text("MMC\n" if d.card == "MMC" else "0\n")
                facts |= {"ID_MODEL": d.model, "ID_SERIAL_SHORT": d.serial}
        (work / "dev" / name).write_text("".join(f"{k}={v}\n" for k, v in facts.items()))
    mounts = work / "proc" / "self"
    mounts.mkdir(parents=True, exist_ok=True)
    lines = [
        f"{30 + i} 1 {major}:{16 * n + i + 1} / {v.mounted} rw - {v.kind} /dev/{v.name} rw\n"
        for i, v in enumerate(d.volumes)
        if v.mounted
    ]
    with (mounts / "mountinfo").open("a") as out:
        out.writelines(lines)


def main() -> None:
    if missing := [x for x in ("dmidecode", "lspci", "lsblk") if not shutil.which(x)]:
        sys.exit(f"not here: {', '.join(missing)}")
    data = HERE / "insertum" / "demo" / "data" / "machines"
    for machine_id, configuration, own in WANTED:
        machine = Machine.model_validate(json.loads((data / f"{machine_id}.json").read_text()))
        t = tree(build_today(machine.configured(configuration)), load=SimulatedLoad() if own else None)
        folder = OUT / f"{machine_id}.{configuration}"
        folder.mkdir(parents=True, exist_ok=True)
        with tempfile.TemporaryDirectory() as tmp:
            work = Path(tmp)
            (work / "dump.bin").write_bytes(dump_of(t))
            table = subprocess.run(
                ["dmidecode", "--from-dump", str(work / "dump.bin")], capture_output=True, text=True, check=True
            )
            (folder / "dmidecode.txt").write_text(
                "\n".join(line for line in table.stdout.splitlines() if tmp not in line) + "\n"
            )
            (folder / "lspci.txt").write_text(lspci_of(t, work / "pci"))
            (folder / "lsblk.json").write_text(lsblk_of(t, work / "root"))
        print(folder.relative_to(HERE))


if __name__ == "__main__":
    main()
