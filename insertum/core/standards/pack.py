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


#: Nominal mV a cell by what it is charged to (lithium-ion data sheets; rules.md section 6): 3.60 to 3.70 V (4.20),
#: 3.75 to 3.82 (4.30 to 4.35), 3.83 to 3.90 (4.40 and more). 3.82 and 3.83 are printed on packs of either neighbour.
_CELL_MV = {"4.20": (3600, 3700), "4.35": (3750, 3830), "4.40": (3820, 3900)}
_USUAL_MV = (3600, 3800, 3850)
#: mV a cell of lithium-ion is charged to.
_CHARGED_MV = (4100, 4550)
#: So far apart, in mV a cell, two charging voltages are one.
_SAME_CHARGE_MV = 30
#: One nominal voltage of each number of cells in each group, 1 to 4 cells in series.
NOMINAL_MV = tuple(n * mv for n in (1, 2, 3, 4) for mv in _USUAL_MV)


def cells_of(voltage_mv: int) -> tuple[int, frozenset[str]] | None:
    """Cells in series and charging groups of a nominal voltage: 11100 -> (3, {"4.20"}), 11460 -> (3, {"4.35", "4.40"}).

    None where the figure fits no number of like cells: such a figure tells nothing.
    """
    for count in range(1, 7):
        groups = [g for g, (low, high) in _CELL_MV.items() if low * count <= voltage_mv <= high * count]
        if groups:
            return count, frozenset(groups)
    return None


def charged_cells(charge_mv: int) -> int | None:
    """Cells in series of a charging voltage: 13050 -> 3. None where no number of cells is charged to it."""
    low, high = _CHARGED_MV
    return next((n for n in range(1, 7) if low * n <= charge_mv <= high * n), None)


def alike(a_mv: int, b_mv: int) -> bool | None:
    """Do two nominal voltages name one number of cells of one group? None where one of them fits no group and they are
    not the same to the millivolt."""
    if a_mv == b_mv:
        return True
    a, b = cells_of(a_mv), cells_of(b_mv)
    return None if a is None or b is None else a[0] == b[0] and bool(a[1] & b[1])


def charged_alike(a_mv: int | None, b_mv: int | None) -> bool | None:
    """Are two packs charged to one voltage, within 0.03 V a cell? None where it is not told of both."""
    cells = charged_cells(a_mv) if a_mv is not None else None
    if a_mv is None or b_mv is None or cells is None or (other := charged_cells(b_mv)) is None:
        return None
    return cells == other and abs(a_mv - b_mv) <= _SAME_CHARGE_MV * cells
