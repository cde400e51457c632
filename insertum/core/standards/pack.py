"""Battery packs: energy, health, runtime. Energy in mWh, charge in mAh, voltage in mV."""


def energy_mwh(voltage_mv: int, charge_mah: int) -> int:
    """Wh = V × Ah, in whole mWh."""
    return voltage_mv * charge_mah // 1000


def health(full_mwh: int, design_mwh: int) -> float:
    """Full-charge capacity over design capacity; wear is one less this."""
    return full_mwh / design_mwh


def runtime_minutes(usable_mwh: int, average_mw: int) -> int:
    """Runtime at a measured or estimated average draw."""
    return usable_mwh * 60 // average_mw


#: Nominal volts a cell by what it is charged to (lithium-ion data sheets): 3.60 to 3.70 (4.20), 3.80 (4.35),
#: 3.85 to 3.88 (4.40 and more). Packs of unlike groups do not stand in for each other.
_CELL_MV = {"4.20": (3600, 3700), "4.35": (3800, 3800), "4.40": (3850, 3880)}
#: One nominal voltage of each number of cells in each group, 1 to 4 cells in series.
NOMINAL_MV = tuple(n * low for n in (1, 2, 3, 4) for low, _ in _CELL_MV.values())


def cells_of(voltage_mv: int) -> tuple[int, str] | None:
    """Cells in series and charging group of a nominal voltage: 11100 -> (3, "4.20"), 11400 -> (3, "4.35").

    None where the figure fits no number of like cells: such a figure tells nothing.
    """
    for count in range(1, 7):
        for group, (low, high) in _CELL_MV.items():
            if low * count <= voltage_mv <= high * count:
                return count, group
    return None


def alike(a_mv: int, b_mv: int) -> bool:
    """Do two nominal voltages, both told, name one number of cells of one group?"""
    return cells_of(a_mv) == cells_of(b_mv) is not None
