"""The script for the customer's machine: it runs under a plain shell and what it writes is a bundle."""

import os
import shutil
import signal
import subprocess
import time
from pathlib import Path

import pytest

from insertum.core.survey.current_build import build_today
from insertum.demo import laptop
from insertum.demo.laptop.tree import Tree, tree
from insertum.formats.bundle import files_of
from insertum.formats.readings import read_bundle
from insertum.gather import SCRIPT

from ..core import made

#: What a stick has beside the tools that are asked.
PLAIN = ["awk", "basename", "cat", "dd", "grep", "head", "id", "kill", "mkdir", "mktemp", "mv", "od", "readlink", "rm", "sed", "sh", "sleep", "tail", "timeout",
    "tr", "true", "uname"]  # fmt: skip
SHELLS = [s for s in (["dash"], ["bash"], ["busybox", "sh"]) if shutil.which(s[0])]
HARROW = build_today(made.demo_machine("brannock-harrow-16").configured("beck-450"))


def kernel(t: Tree, files: dict[str, str], root: Path) -> None:
    """The parts of /sys and /proc the script reads, made for a device tree."""
    sys, proc = root / "sys", root / "proc"
    (sys / "block").mkdir(parents=True)
    proc.mkdir()
    for d in t.disks:
        folder = root / d.path.lstrip("/")
        (folder / "device").mkdir(parents=True)
        (folder / "device" / "type").write_text("MMC\n" if d.card == "MMC" else "0\n")
        (sys / "block" / d.name).symlink_to(folder)
    for u in t.usb:
        device = sys / "bus/usb/devices" / u.place.partition(":")[0]
        device.mkdir(parents=True, exist_ok=True)
        vendor, product = u.ident.split(":")
        for name, text in (
            ("idVendor", vendor),
            ("idProduct", product),
            ("removable", u.removable),
            ("product", u.name),
        ):
            (device / name).write_text(text + "\n")
        face = sys / "bus/usb/devices" / u.place
        face.mkdir(exist_ok=True)
        for name, text in zip(
            ("bInterfaceClass", "bInterfaceSubClass", "bInterfaceProtocol"), u.code.split("/"), strict=True
        ):
            (face / name).write_text(text + "\n")
        if u.driver != "-":
            (sys / "drivers" / u.driver).mkdir(parents=True, exist_ok=True)
            (face / "driver").symlink_to(sys / "drivers" / u.driver)
    for line in files["net.txt"].splitlines():
        name, path = line.split()
        folder = root / path.lstrip("/")
        (folder / "wireless").mkdir(parents=True)
        (sys / "class/net").mkdir(parents=True)
        (sys / "class/net" / name).symlink_to(folder)
    for block in files["power.txt"].split("POWER_SUPPLY_NAME=")[1:]:
        supply = sys / "class/power_supply" / block.partition("\n")[0]
        supply.mkdir(parents=True)
        (supply / "uevent").write_text(f"POWER_SUPPLY_NAME={block}")
    ids = sys / "class/dmi/id"
    ids.mkdir(parents=True)
    for name, text in (
        ("sys_vendor", "Brannock"),
        ("product_name", "Harrow 16"),
        ("board_name", "BB-H16"),
        ("bios_version", "1.07"),
    ):
        (ids / name).write_text(text + "\n")
    (proc / "cpuinfo").write_text("processor\t: 0\nmodel name\t: Corvane Beck 450\n")
    (proc / "meminfo").write_text(files["meminfo.txt"])
    (proc / "mounts").write_text("proc /proc proc rw 0 0\n" + files["root.txt"])


def tools_of(files: dict[str, str]) -> dict[str, str]:
    names = {"dmidecode.txt": "dmidecode", "lspci.txt": "lspci", "lsblk.json": "lsblk", "lsusb.txt": "lsusb", "vmstat.txt": "vmstat",
             "df.txt": "df", "free.txt": "free", "iw-wlan0.txt": "iw", "efibootmgr.txt": "efibootmgr"}  # fmt: skip
    return {tool: files[name] for name, tool in names.items()}


def bench(tmp_path: Path, tools: dict[str, str], t: Tree, files: dict[str, str]) -> dict[str, str]:
    """Stand-ins for the tools, the plain commands beside them and nothing else, and a made kernel."""
    folder = tmp_path / "bin"
    folder.mkdir()
    for name in PLAIN:
        (folder / name).symlink_to(shutil.which(name) or "/bin/false")
    for name, text in tools.items():
        (folder / f"{name}.out").write_text(text)
        (folder / name).write_text(f'#!/bin/sh\ncat "{folder}/{name}.out"\n')
        (folder / name).chmod(0o755)
    kernel(t, files, tmp_path)
    return {"PATH": str(folder), "INSERTUM_SYS": str(tmp_path / "sys"), "INSERTUM_PROC": str(tmp_path / "proc")}


def run(shell: list[str], env: dict[str, str], out: Path, cwd: Path) -> tuple[dict[str, str], str]:
    call = [shutil.which(shell[0]) or shell[0], *shell[1:], str(SCRIPT), str(out)]
    done = subprocess.run(call, env=env, cwd=cwd, capture_output=True, text=True, check=True, timeout=120)
    return {n: b.decode() for n, b in files_of(out.read_bytes()).items()}, done.stderr


@pytest.mark.parametrize("shell", SHELLS, ids=lambda s: s[0])
def test_what_it_gathers_reads_as_the_machine(tmp_path, shell) -> None:
    """Two drives, packs, radio: joined by the addresses the script writes, under each shell."""
    load = laptop.SimulatedLoad()
    files = laptop.bundle(HARROW, load=load)
    tools = tools_of(files) | {
        "lspci": files["lspci.txt"] + '\tDeviceName: "a \\ b"\n'
    }  # quotes and backslashes do no harm
    got, says = run(shell, bench(tmp_path, tools, tree(HARROW, load=load), files), tmp_path / "out.json", tmp_path)
    assert "Written" in says
    real, ours = read_bundle(got), read_bundle(files)
    assert not real.not_understood
    for key in ("bluetooth", "packs", "adapter", "radios", "ports", "own_system", "visible_mb"):
        assert getattr(real, key) == getattr(ours, key), key
    health = {"temperature_c", "worn_percent"}  # no nvme tool here
    assert [d.model_dump(exclude=health) for d in real.drives] == [
        d.model_dump(exclude=health) | {"firmware": r.firmware} for d, r in zip(ours.drives, real.drives, strict=True)
    ]
    if os.geteuid() == 0:
        assert (real.system, len(real.modules)) == ("Harrow 16", 2)
    else:
        assert "Root would add" in says


def test_without_dmidecode_it_gets_what_the_kernel_gives(tmp_path) -> None:
    files = laptop.bundle(HARROW)
    tools = {n: t for n, t in tools_of(files).items() if n != "dmidecode"}
    env = bench(tmp_path, tools, tree(HARROW), files)
    for silent in (None, "# dmidecode 3.4\nScanning /dev/mem for entry point.\n"):  # not here, or not let at the table
        if silent:
            (tmp_path / "bin" / "dmidecode").write_text(f"#!/bin/sh\nprintf '{silent}'\n")
            (tmp_path / "bin" / "dmidecode").chmod(0o755)
        got, _ = run(["sh"], env, tmp_path / "out.json", tmp_path)
        reading = read_bundle(got)
        assert (reading.maker, reading.system, reading.board, reading.firmware, reading.processor) == (
            "Brannock", "Harrow 16", "BB-H16", "1.07", "Corvane Beck 450",
        )  # fmt: skip
        assert reading.memory_mb is None and reading.devices is None  # what the table alone tells stays unknown


def test_without_timeout_it_ends_by_itself_too(tmp_path) -> None:
    files = laptop.bundle(HARROW)
    env = bench(tmp_path, {"lspci": files["lspci.txt"], "lsblk": files["lsblk.json"]}, tree(HARROW), files)
    (tmp_path / "bin" / "timeout").unlink()
    got, _ = run(["sh"], env, tmp_path / "out.json", tmp_path)
    assert len(read_bundle(got).drives) == 1


@pytest.mark.parametrize(("how", "code"), [(signal.SIGINT, 130), (signal.SIGTERM, 143)])
def test_stopped_half_way_it_leaves_the_earlier_bundle_alone(tmp_path, how, code) -> None:
    """At once, though a tool is still at work; what it was started under may ignore a stop, so that is put right."""
    files = laptop.bundle(HARROW)
    env = bench(tmp_path, tools_of(files), tree(HARROW), files)
    slow = tmp_path / "bin" / "vmstat"
    slow.write_text(f'#!/bin/sh\ntouch "{tmp_path}/begun"\nsleep 30\n')
    (tmp_path / "bin" / "touch").symlink_to(shutil.which("touch") or "/bin/false")
    out = tmp_path / "out.json"
    out.write_text("the earlier one")
    child = subprocess.Popen(
        ["sh", str(SCRIPT), str(out)], env=env, cwd=tmp_path, stderr=subprocess.DEVNULL,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),
    )  # fmt: skip
    while not (tmp_path / "begun").exists():
        time.sleep(0.05)
    child.send_signal(how)
    assert child.wait(timeout=25) == code  # before the tool's 30 s are over
    assert out.read_text() == "the earlier one" and not list(tmp_path.glob("*.part"))


def test_a_woken_drive_is_read_and_left_again(tmp_path) -> None:
    files = laptop.bundle(HARROW)
    env = bench(tmp_path, tools_of(files), tree(HARROW), files) | {"INSERTUM_DEV": str(tmp_path / "dev")}
    (tmp_path / "dev").mkdir()
    (tmp_path / "dev" / "nvme0n1").write_bytes(b"x" * 4096)
    hangs = tmp_path / "bin" / "dd"
    hangs.unlink()
    hangs.write_text(f'#!/bin/sh\necho "$@" >>"{tmp_path}/asked"\nsleep 50\n')
    hangs.chmod(0o755)
    if os.geteuid() == 0:  # the look comes while the drive reads, however late this machine starts the reader
        looks = tmp_path / "bin" / "lspci"
        looks.write_text(f'#!/bin/sh\nwhile [ ! -s "{tmp_path}/asked" ]; do sleep 0.1; done\ncat "{looks}.out"\n')
    call = ["sh", str(SCRIPT), "--wake", str(tmp_path / "out.json")]
    subprocess.run(
        call, env=env, cwd=tmp_path, stderr=subprocess.DEVNULL, stdout=subprocess.DEVNULL, check=True, timeout=40
    )
    if os.geteuid() == 0:
        asked = (tmp_path / "asked").read_text()
        assert f"if={tmp_path}/dev/nvme0n1 of=/dev/null bs=1M count=1024" in asked  # bounded, and thrown away
    assert "lspci.txt" in files_of((tmp_path / "out.json").read_bytes())


def test_a_folder_that_cannot_be_written_is_said(tmp_path) -> None:
    files = laptop.bundle(HARROW)
    env = bench(tmp_path, tools_of(files), tree(HARROW), files)
    call = ["sh", str(SCRIPT), str(tmp_path / "nowhere" / "out.json")]
    done = subprocess.run(call, env=env, cwd=tmp_path, capture_output=True, text=True, timeout=120)
    assert done.returncode == 1 and "Could not write" in done.stderr


def test_it_never_reads_what_a_user_keeps_and_is_clean() -> None:
    text = SCRIPT.read_text()
    assert "/home" not in text and "$HOME" not in text and "mount " not in text.replace("mounts nothing", "")
    if check := shutil.which("shellcheck"):
        assert subprocess.run([check, str(SCRIPT)], capture_output=True, text=True).stdout == ""
