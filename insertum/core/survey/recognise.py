"""Quick entry: what a typed or scanned label is, from the catalogue or from its standard code."""

from collections.abc import Iterable, Mapping
from typing import Any

from pydantic import TypeAdapter, ValidationError

from ..errors import InputError, whole_text
from ..frozen import Frozen
from ..machine.part import AnyPart, Part
from ..machine.part_base import card_from_code
from ..printed.drive import drive_words
from ..spelling import folded
from ..standards import m2
from ..standards.module_label import MOST_LABEL, has_code, names_module, read_label
from .label_fields import module_fields

_PART: TypeAdapter[AnyPart] = TypeAdapter(Part)


class Recognised(Frozen):
    """``known`` are catalogue parts the text names, best first. ``offered`` is a new part with what
    the label proves, as the parts format holds it; ``missing`` says what it does not prove."""

    known: tuple[str, ...]
    offered: dict[str, Any] | None
    decoded: str
    missing: tuple[str, ...] = ()
    problem: str = ""


def recognise(text: str, parts: Iterable[AnyPart], kind: str = "") -> Recognised:
    """What a label says, for a slot that takes ``kind`` ('' for any). Never raises: a text that is
    nothing has a problem that says so."""
    if len(text) > MOST_LABEL:
        return Recognised(known=(), offered=None, decoded="", problem="Longer than any label: type one label's line.")
    try:
        whole_text(text, "label")
    except InputError as error:
        return Recognised(known=(), offered=None, decoded="", problem=f"{error.what}: {error.mend}".capitalize())
    wanted = folded(text)
    fitting = [p for p in parts if p.kind != "accessory" and (not kind or p.kind == kind)]
    exact = [p for p in fitting if wanted in (folded(p.number), folded(str(getattr(p, "fru", None) or p.number)))]
    inside = sorted(
        (p for p in fitting if len(folded(p.number)) >= 5 and folded(p.number) in wanted),
        key=lambda p: -len(folded(p.number)),
    )
    starts = [p for p in fitting if len(wanted) >= 4 and folded(p.number).startswith(wanted)]
    known = tuple(dict.fromkeys(p.number for p in (*exact, *inside[:1], *starts)))[:8]
    if exact:
        return Recognised(known=known, offered=None, decoded="")
    try:
        offered, decoded, missing = _decoded(text, kind)
    except InputError as error:
        return Recognised(known=known, offered=None, decoded="", problem="" if known else str(error))
    return Recognised(known=known, offered=offered, decoded=decoded, missing=missing)


def _decoded(text: str, kind: str) -> tuple[dict[str, Any], str, tuple[str, ...]]:
    number = " ".join(text.split())[:60]
    if names_module(text) and (kind == "memory" or (kind == "" and (has_code(text) or not read_drive_label(text)))):
        label = read_label(text)
        if label.capacity_gb is None:
            raise InputError(
                "no capacity on it", f"label {text!r}", "Type the whole line: 16GB 2Rx8 PC4-3200AA-SE1-11."
            )
        if label.grade_mts is None:
            raise InputError("no speed on it", f"label {text!r}", "Type it with the rest: 8GB DDR4-3200.")
        name = f"{label.capacity_gb} GB DDR{label.generation}-{label.grade_mts}"
        offered = {"kind": "memory", "name": name, "number": number, **module_fields(label)}
        of = f", one module of a kit of {label.modules}" if label.modules > 1 else ""
        return offered, f"memory label{of}", label.missing
    if kind in ("", "m2_drive", "bay_drive"):
        drive = read_drive_label(text, kind)
        if drive:
            wanted = (
                ("interface", "read_mb_s", "below_um") if drive["kind"] == "m2_drive" else ("height_um", "read_mb_s")
            )
            return {"number": number, **drive}, "drive label", tuple(k for k in wanted if k not in drive)
        if (said := drive_words(text)).sizes_gb and said.sata:
            raise InputError(
                "SATA may be a card or a bay drive", f"label {text!r}", "Type M.2, mSATA, 2.5-inch or 7 mm with it."
            )
    code = m2.read_code(text)
    part_kind = kind or {"E": "radio", "A": "radio", "B": "cellular", "M": "m2_drive"}.get(
        code.keys[-1] if code.keys else "", "m2_drive"
    )
    card = {k: v for k, v in card_from_code(code).items() if v is not None}
    if part_kind == "m2_drive":
        raise InputError(
            "a card code alone tells no capacity", f"code {text!r}", "Type the capacity with it: 1TB NVMe 2280-S3-M."
        )
    return (
        # The code is the card's shape, printed on thousands: it is nobody's part number.
        {"kind": part_kind, "name": f"card {code}"} | card,
        "M.2 module code (PCI-SIG)",
        ("number", "fru"),
    )


def as_part(offered: Mapping[str, Any]) -> AnyPart:
    """What a label says as a part: all it does not say is unknown. Raises :class:`InputError` where it tells too little."""
    try:
        return _PART.validate_python(dict(offered))
    except ValidationError as error:
        raise InputError("the label tells too little of the part", "label", "Type its number as well.") from error


def read_drive_label(text: str, kind: str = "") -> dict[str, Any] | None:
    """A drive's label has no standard: capacity, interface words and a size code are what it proves.
    ``kind`` is what the slot it was found in takes, "" when that is not known: SATA alone may be a
    card or a bay drive. None when it says no capacity, or not what it is. Raises
    :class:`InputError` for a capacity beyond reason."""
    if len(text) > MOST_LABEL:
        return None
    said = drive_words(text)
    if not said.sizes_gb or said.server or said.ide or (said.pcie and said.sata):
        return None
    gb = said.sizes_gb[0]
    if not 1 <= gb <= 200_000:
        raise InputError(f"{gb} GB is no drive size", f"label {text!r}", "Read it again.")
    found: dict[str, Any] = {"capacity_gb": gb}
    flat = kind == "bay_drive" or said.height_um is not None or said.flat
    if (kind == "m2_drive" and said.sata and not flat) or said.is_card:
        found |= {"kind": "m2_drive"} | said.card
        if said.heights and said.width_mm and said.length_mm:
            code = m2.read_code(f"{said.width_mm}{said.length_mm}-{said.heights}")
            found |= {k: v for k, v in card_from_code(code).items() if v is not None}
        found |= {"form": "mini", "interface": "sata", "generation": 3} if said.msata else said.link
    elif flat and (said.sata or said.height_um is not None):
        found["kind"] = "bay_drive"
        found |= {"spinning": True} if said.spinning else {}
        found |= {"height_um": said.height_um} if said.height_um is not None else {}
    else:
        return None
    if said.read_mb_s:
        found["read_mb_s"] = said.read_mb_s
    word = f"{gb // 1000} TB" if gb % 1000 == 0 else f"{gb} GB"
    return found | {"name": f"{word} {'M.2 drive' if found['kind'] == 'm2_drive' else 'bay drive'}"}
