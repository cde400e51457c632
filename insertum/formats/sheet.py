"""Spreadsheets (xlsx, ods) as text: the fullest sheet, a line a row, tabs between the cells."""

import io
import zipfile
import zlib
from typing import Any

from python_calamine import CalamineWorkbook

from ..core.base import InputError
from .bundle import METHODS, counted

#: What a workbook may unpack to, its rows and columns: a supplier's whole catalogue, and no bomb.
MOST_UNPACKED = 80 * 2**20
MOST_ROWS, MOST_COLUMNS, MOST_FILES = 100_000, 200, 1000


def is_sheet(data: bytes) -> bool:
    return data[:4] == b"PK\x03\x04"


def sheet_text(data: bytes, where: str) -> str:
    """The fullest sheet as tab-separated text. Raises :class:`InputError` for what is no workbook, or too large."""
    _look_inside(data, where)
    try:
        book = CalamineWorkbook.from_filelike(io.BytesIO(data))
        sheets = [book.get_sheet_by_name(name) for name in book.sheet_names[:20]]
        if not sheets:
            raise InputError("no sheet in it", where, "Save the list as a sheet of its own.")
        fullest = max(sheets, key=lambda s: s.total_height * s.total_width)
        if fullest.total_height > MOST_ROWS or fullest.total_width > MOST_COLUMNS:
            raise InputError("more rows or columns than are read", where, "Split the list.")
        rows: list[list[Any]] = fullest.to_python()
    except InputError:
        raise
    except Exception as error:  # the library's own errors are many, and all mean the same to a person
        raise InputError(
            f"the workbook cannot be read: {str(error)[:120]}", where, "Save it again, or as CSV."
        ) from error
    return "".join("\t".join(_cell(c) for c in row) + "\n" for row in rows)


def _look_inside(data: bytes, where: str) -> None:
    """Unpack by counted bytes before anything else does."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = archive.infolist()
            if len(infos) > MOST_FILES:
                raise InputError("more files in it than a workbook has", where, "Save it again.")
            left = MOST_UNPACKED
            for info in infos:
                if info.compress_type not in METHODS:
                    raise InputError(f"{info.filename[:80]} is packed in a way we do not open", where, "Save it again.")
                left -= len(counted(archive, info, left, where))
    except InputError:
        raise
    except (
        zipfile.BadZipFile,
        RuntimeError,
        NotImplementedError,
        OSError,
        EOFError,
        ValueError,
        LookupError,
        zlib.error,
    ) as error:
        raise InputError(f"the workbook cannot be opened: {error}", where, "Save it again, or as CSV.") from error


def _cell(value: Any) -> str:
    """A cell as a person reads it: 4.0 is 4, 29.900000000000002 is 29.9."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        text = f"{round(value, 4):.4f}".rstrip("0").rstrip(".")
        return text or "0"
    return " ".join(str(value).split())
