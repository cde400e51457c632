"""What the simulated laptop says of its drives: partitions, file systems, NVMe and SMART."""

import json
from typing import Any

from .tree import Tree, Volume


def df_output(t: Tree, locale: str) -> str:
    """``df`` of the mounted volumes, in the words of a locale."""
    head = "Dateisystem    1024-Blöcke   Benutzt Verfügbar Kapazität Eingehängt auf" if locale == "de" else (
        "Filesystem     1024-blocks      Used Available Capacity Mounted on"
    )  # fmt: skip
    rows = [] if t.own else ["overlay        4000000 40000 3960000 1% /"]
    for v in (v for d in t.disks for v in d.volumes if v.mounted):
        size, used = v.size // 1024, (v.used or 0) // 1024
        rows.append(f"/dev/{v.name}    {size} {used} {size - used}      {100 * used // size}% {v.mounted}")
    return "\n".join([head, *rows, "tmpfs          4000000 0 4000000 0% /run"]) + "\n"


# -- drives -------------------------------------------------------------------------------------
def lsblk_output(t: Tree) -> str:
    """``lsblk --json --bytes``: disks with their volumes."""
    devices: list[dict[str, Any]] = []
    for d in t.disks:
        row = {
            "name": d.name, "type": "disk", "size": d.size, "model": d.model if d.card == "-" else None, "serial": d.serial,
            "tran": d.transport, "rota": d.spinning, "rm": d.removable, "rev": None if d.transport == "nvme" else d.firmware,
            "fstype": None, "parttype": None, "partuuid": None, "fssize": None, "fsused": None, "mountpoint": None,
        }  # fmt: skip
        row["model"] = d.model
        devices.append(row | {"children": [_volume(v, d.spinning) for v in d.volumes]})
        if d.card == "MMC":
            devices += [
                row | {"name": f"{d.name}boot{n}", "size": 4 * 2**20, "model": None, "serial": None} for n in (0, 1)
            ]
    return json.dumps({"blockdevices": devices}, indent=3)


def _volume(v: Volume, spinning: bool) -> dict[str, Any]:
    esp = "c12a7328-f81f-11d2-ba4b-00a0c93ec93b"
    return {
        "name": v.name, "type": "part", "size": v.size, "model": None, "serial": None, "tran": None, "rota": spinning,
        "rm": False, "rev": None, "fstype": v.kind, "parttype": esp if v.loader else "0fc63daf-8483-4772-8e79-3d69d8477de4",
        "partuuid": v.guid, "fssize": str(v.size) if v.mounted else None,
        "fsused": str(v.used or 0) if v.mounted else None, "mountpoint": v.mounted or None,
    }  # fmt: skip


def places_output(t: Tree) -> str:
    """Each disk with its kind and its path in sysfs."""
    rows = [f"{d.name} {d.card} {d.path}" for d in t.disks]
    rows += [f"{d.name}boot{n} MMC {d.path}boot{n}" for d in t.disks if d.card == "MMC" for n in (0, 1)]
    return "".join(f"{row}\n" for row in rows)


def nvme_output(t: Tree) -> str:
    """``nvme list --output-format=json``."""
    devices = [
        {
            "NameSpace": 1, "DevicePath": f"/dev/{d.name}", "Firmware": d.firmware, "ModelNumber": d.model,
            "SerialNumber": d.serial, "UsedBytes": d.size // 2, "PhysicalSize": d.size, "SectorSize": 512,
        }
        for d in t.disks
        if d.transport == "nvme"
    ]  # fmt: skip
    return json.dumps({"Devices": devices}, indent=2)


def smart_output(name: str) -> str:
    """A health log as JSON."""
    log = {"temperature": 314, "avail_spare": 100, "percent_used": 7}
    return json.dumps({"device_name": f"/dev/{name}", "log": log}, indent=2)
