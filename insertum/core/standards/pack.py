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
