"""Decode a label: a memory label or an M.2 module code, whichever it is."""

from typing import Any

from .base import InputError
from .standards import ddr, m2


def decode(text: str) -> dict[str, Any]:
    """The fields a label proves, with its ``kind``. Raises :class:`InputError` for neither."""
    try:
        return {"kind": "m2_code", **m2.read_code(text).model_dump(mode="json")}
    except InputError as no_code:
        upper = text.upper()
        if "PC" in upper:
            return {"kind": "memory_label", **ddr.read_label(text).model_dump(mode="json")}
        if text.strip()[:4].isdigit() and "GB" not in upper:
            raise
        raise InputError(
            "neither a memory label nor an M.2 code",
            f"text {text!r}",
            "A label looks like 16GB 2Rx8 PC4-3200AA-SE1-11, a code like 2280-D2-B-M.",
        ) from no_code
