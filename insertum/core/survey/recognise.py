"""Quick entry: what a typed or scanned label is, from the catalogue or from its standard code."""

import re
from collections.abc import Iterable
from typing import Any

from ..base import Frozen, InputError, whole_text
from ..identify.match import folded
from ..machine.part import AnyPart, card_from_code
from ..standards import m2
from ..standards.module_label import MOST_LABEL, MemoryLabel, has_code, names_module, read_label
from ..title import spins


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
    upper = text.upper()
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
            return (
                {"number": number, **drive},
                "drive label",
                tuple(k for k in ("read_mb_s", "below_um") if k not in drive),
            )
        if _SIZE.search(upper) and "SATA" in upper:
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


def module_fields(label: MemoryLabel) -> dict[str, Any]:
    """What a label proves of a module, as a part's fields; what it leaves open is not among them."""
    fields = ("generation", "capacity_gb", "ranks", "chip_width", "grade_mts", "cl", "module_type")
    voltage = {4: 1200, 5: 1100}.get(label.generation, {True: 1350, False: 1500, None: None}[label.low_voltage])
    proven = {f: getattr(label, f) for f in fields} | {"voltage_mv": voltage}
    return {f: value for f, value in proven.items() if value is not None}


#: "6 GB/S" is a link's rate and no size, and neither is what stands inside a number.
_SIZE = re.compile(r"(?<![\w.])(\d+(?:[.,]\d+)?)\s*(TB|GB)\b(?!\s*/\s*S|PS)")
_FLAT = re.compile(r"(?<![\d.,])2[.,]5\s*(?:-\s*)?(?:\"|''|IN\b|INCH|ZOLL)")
_PCIE = re.compile(r"(?:PCI-?E(?:XPRESS)?|NVME)?\s*(?:GEN\.?\s*)?([1-5])(?:\.0)?\s*[X×]\s*([124])\b")


def read_drive_label(text: str, kind: str = "") -> dict[str, Any] | None:
    """A drive's label has no standard: capacity, interface words and a size code are what it proves.
    ``kind`` is what the slot it was found in takes, "" when that is not known: SATA alone may be a
    card or a bay drive. None when it says no capacity, or not what it is. Raises
    :class:`InputError` for a capacity beyond reason."""
    if len(text) > MOST_LABEL:
        return None
    upper = " ".join(text.upper().split())
    size = _SIZE.search(upper)
    if not size:
        return None
    gb = round(float(size[1].replace(",", ".")) * (1000 if size[2] == "TB" else 1))
    if not 1 <= gb <= 200_000:
        raise InputError(f"{size[0]} is no drive size", f"label {text!r}", "Read it again.")
    found: dict[str, Any] = {"capacity_gb": gb}
    code = re.search(r"\b(?:NGFF\s*|M\.?2\s*)?((?:22|30)(?:30|42|60|80|110)(?:-[SD]\d)?(?:-[BM](?:\+|-)?M?)?)\b", upper)
    nvme, sata = "NVME" in upper or "PCIE" in upper.replace("-", ""), "SATA" in upper
    bay = re.search(r"(?<![\d.,])(5|7|9[.,]5|12[.,]5|15)\s*MM\b", upper)
    flat = kind == "bay_drive" or bool(bay) or bool(_FLAT.search(upper))
    card = kind == "m2_drive" and sata and not flat
    if card or code or nvme or "MSATA" in upper or "M.2" in upper or "NGFF" in upper:
        found["kind"] = "m2_drive"
        if code:
            found |= {k: v for k, v in card_from_code(m2.read_code(code[1].replace("+", "-"))).items() if v is not None}
        if "MSATA" in upper:
            found |= {"form": "mini", "interface": "sata", "generation": 3}
        elif nvme:
            link = _PCIE.search(upper)
            found["interface"] = "pcie"
            if link:
                found |= {"generation": int(link[1]), "lanes": int(link[2])}
        elif sata:
            found |= {"interface": "sata"}
    elif flat and (sata or bay):
        found["kind"] = "bay_drive"
        if spins(upper):
            found["spinning"] = True
        if bay:
            found["height_um"] = round(float(bay[1].replace(",", ".")) * 1000)
    else:
        return None
    word = f"{gb // 1000} TB" if gb % 1000 == 0 else f"{gb} GB"
    return found | {"name": f"{word} {'M.2 drive' if found['kind'] == 'm2_drive' else 'bay drive'}"}
