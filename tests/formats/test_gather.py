"""The script for the customer's machine: it runs under a plain shell and what it writes is a bundle."""

import json
import os
import subprocess
from pathlib import Path

from insertum.demo import laptop
from insertum.formats.bundle import files_of
from insertum.formats.readings import read_bundle
from insertum.gather import SCRIPT
from tests.core import made
from tests.core.made import demo_machine

from insertum.core.survey.bench import build_today  # isort: skip


def gathered(tmp_path: Path, tools: dict[str, str]) -> tuple[dict, str]:
    """Run it with stand-ins for the tools first in the path; each prints a file."""
    folder = tmp_path / "bin"
    folder.mkdir()
    for name, text in tools.items():
        (folder / f"{name}.out").write_text(text)
        (folder / name).write_text(f'#!/bin/sh\ncat "{folder}/{name}.out"\n')
        (folder / name).chmod(0o755)
    env = os.environ | {"PATH": f"{folder}:{os.environ['PATH']}"}
    run = subprocess.run(
        ["sh", SCRIPT, tmp_path / "out.json"], env=env, capture_output=True, text=True, check=True, timeout=60
    )
    return json.loads((tmp_path / "out.json").read_text()), run.stderr


def test_it_gathers_what_the_tools_say_and_the_bundle_is_read(tmp_path: Path) -> None:
    build = build_today(demo_machine("brannock-harrow-16").configured("beck-450"))
    files = laptop.bundle(build, load=laptop.SimulatedLoad())
    odd = files["lspci.txt"] + '\tDeviceName: "a \\ b"\n'  # quotes and backslashes do no harm
    tools = {
        "dmidecode": files["dmidecode.txt"],
        "lspci": odd,
        "lsblk": files["lsblk.json"],
        "nvme": files["nvme.json"],
        "lsusb": files["lsusb.txt"],
        "vmstat": files["vmstat.txt"],
    }
    data, says = gathered(tmp_path, tools)
    assert data["format"] == "insertum-bundle/1" and "Written" in says
    reading = read_bundle(files_of(json.dumps(data).encode()))
    if os.geteuid() == 0:
        assert (reading.system, len(reading.modules)) == ("Harrow 16", 2)
    else:
        assert "Root would add" in says
    assert [d.model for d in reading.drives] == ["Wherry WH2-512-80M"]
    assert reading.load is not None and reading.load.processor_busy_percent == 22


def test_it_never_reads_what_a_user_keeps() -> None:
    text = SCRIPT.read_text()
    assert "/home" not in text and "$HOME" not in text and "mount " not in text.replace("mounts nothing", "")
    assert made.DEMO.exists()
