"""A module's label as the fields of a part."""

from typing import Any

from ..standards.module_label import MemoryLabel


def module_fields(label: MemoryLabel) -> dict[str, Any]:
    """What a label proves of a module, as a part's fields; what it leaves open is not among them."""
    fields = ("generation", "capacity_gb", "ranks", "chip_width", "grade_mts", "cl", "module_type")
    voltage = {4: 1200, 5: 1100}.get(label.generation, {True: 1350, False: 1500, None: None}[label.low_voltage])
    proven = {f: getattr(label, f) for f in fields} | {"voltage_mv": voltage}
    return {f: value for f, value in proven.items() if value is not None}
