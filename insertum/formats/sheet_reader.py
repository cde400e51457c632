"""Reads one workbook in a process of its own: a workbook made to break its reader breaks this one and nobody else.

Called as a file by :mod:`insertum.formats.sheet`: the workbook on standard input, the fullest sheet's rows as JSON on
standard output, or one line on standard error and exit 2.
"""

import io
import json
import resource
import sys
from typing import Any

from python_calamine import CalamineWorkbook

#: What this process may use, in bytes and seconds of processor time; cells of the largest list anybody sends.
MOST_MEMORY, MOST_SECONDS = 2 * 2**30, 30
MOST_ROWS, MOST_COLUMNS, MOST_CELLS = 100_000, 200, 4_000_000


def _cell(value: Any) -> str:
    """A cell as a person reads it: 4.0 is 4, 29.900000000000002 is 29.9."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{round(value, 4):.4f}".rstrip("0").rstrip(".") or "0"
    return " ".join(str(value).split())


def main() -> int:
    """Read a spreadsheet from standard input under bounds of memory and time, and print its rows as JSON."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (MOST_SECONDS, MOST_SECONDS))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    book = CalamineWorkbook.from_filelike(io.BytesIO(sys.stdin.buffer.read()))
    sheets = [book.get_sheet_by_name(name) for name in book.sheet_names[:20]]
    if not sheets:
        print("no sheet in it", file=sys.stderr)
        return 2
    fullest = max(sheets, key=lambda s: s.total_height * s.total_width)
    height, width = fullest.total_height, fullest.total_width
    if height > MOST_ROWS or width > MOST_COLUMNS or height * width > MOST_CELLS:
        print(f"{height} rows of {width} columns are more than are read", file=sys.stderr)
        return 2
    json.dump([[_cell(c) for c in row] for row in fullest.to_python()], sys.stdout)
    return 0


if __name__ == "__main__":
    sys.exit(main())
