"""Decode a label: a memory label, an M.2 module code or a drive's label, whichever it is."""

from typing import Any

from .errors import InputError
from .standards import m2
from .standards.module_label import has_code, names_module, read_label
from .survey.recognise import read_drive_label


def decode(text: str) -> dict[str, Any]:
    """The fields a label proves, with its ``kind``. Raises :class:`InputError` for none of them."""
    try:
        return {"kind": "m2_code", **m2.read_code(text).model_dump(mode="json")}
    except InputError as no_code:
        # A drive may have DDR4 for its own cache; nothing but a module carries JEDEC's code.
        if not has_code(text) and (drive := read_drive_label(text)):
            return {"kind": "drive_label", "drive": drive}
        if names_module(text):
            return {"kind": "memory_label", **read_label(text).model_dump(mode="json")}
        if text.strip()[:4].isdigit() and "GB" not in text.upper():
            raise
        raise InputError(
            "neither a memory label, a drive's label nor an M.2 code",
            f"text {text!r}",
            "It looks like 16GB 2Rx8 PC4-3200AA-SE1-11, 1TB NVMe M.2 2280 or 2280-D2-B-M.",
        ) from no_code
