"""Spreadsheets (xlsx, ods) as text: the fullest sheet, a line a row, tabs between the cells."""

import json
import subprocess
import sys
from pathlib import Path

from ..core.errors import InputError
from .archive import unpacked

#: What a workbook may unpack to, and its files: a supplier's whole catalogue, and no bomb.
MOST_UNPACKED, MOST_FILES = 80 * 2**20, 1000
LONGEST_S = 60
_READER = Path(__file__).with_name("sheet_reader.py")
_MEND = "Save it again, or as CSV."


def is_sheet(data: bytes) -> bool:
    """Do the bytes begin like a spreadsheet's (a ZIP archive)?"""
    return data[:4] == b"PK\x03\x04"


def sheet_text(data: bytes, where: str) -> str:
    """The fullest sheet as tab-separated text. Raises :class:`InputError` for what is no workbook, or too large.

    It is counted as it unpacks first, and then read in a process of its own: a cell that says it stands in the last
    column of the last row makes the library's reader claim all memory there is, and abort.
    """
    unpacked(data, where, MOST_UNPACKED, MOST_FILES, _MEND)
    call = [sys.executable, "-I", str(_READER)]
    try:
        done = subprocess.run(call, input=data, capture_output=True, timeout=LONGEST_S, check=False)
    except subprocess.TimeoutExpired as error:
        raise InputError("the workbook takes too long to read", where, _MEND) from error
    if done.returncode == 2:
        raise InputError(
            done.stderr.decode(errors="replace").strip()[:200], where, "Split the list, or save it as CSV."
        )
    if done.returncode:
        raise InputError("the workbook cannot be read", where, _MEND)
    return "".join("\t".join(row) + "\n" for row in json.loads(done.stdout))
