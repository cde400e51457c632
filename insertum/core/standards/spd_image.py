"""An SPD image written from what a module says: the reader's other direction, for the simulated laptop and round trips."""

import math
from fractions import Fraction

from ..errors import InputError
from . import ddr
from .spd import CLOCKED5, DENSITY5, MTB_PS, SIZE5, TYPE3, TYPE4, TYPE5, Spd, crc16


def image(spd: Spd) -> bytes:
    """The image of a module, as its EEPROM would hold it: what :func:`read_spd` reads back."""
    if spd.generation not in (3, 4, 5) or not (
        spd.density_gbit and spd.chip_width and spd.ranks and spd.grade_mts and spd.cl and spd.module_type
    ):
        raise InputError("not enough is known for an image", "SPD image")
    if spd.generation == 5:
        return _image5(spd)
    data = bytearray(256 if spd.generation == 3 else 512)
    tck = Fraction(2_000_000) / ddr.exact_mts(spd.grade_mts)
    taa = tck * spd.cl
    density = (spd.density_gbit * 1024 // 256).bit_length() - 1
    width = {4: 0, 8: 1, 16: 2}[spd.chip_width]
    bus = 3 | (8 if spd.ecc or spd.module_type == "T" else 0)
    types = {v: k for k, v in (TYPE3 if spd.generation == 3 else TYPE4).items()}
    trfc = round((spd.trfc_ns or 0) * 1000 / MTB_PS)
    serial = bytes.fromhex(spd.serial or "00000000")[:4]
    data[0], data[2], data[3], data[4] = (
        0x92 if spd.generation == 3 else 0x23,
        8 + spd.generation,
        types[spd.module_type],
        density,
    )
    if spd.generation == 3:
        data[6] = 2 if spd.voltage_mv == 1350 else 0
        data[7], data[8], data[9], data[10], data[11] = (spd.ranks - 1) << 3 | width, bus, 0x11, 1, 8
        data[12], data[34] = _periods(tck)
        data[16], data[35] = _periods(taa)
        data[14], data[15] = 1 << spd.cl - 4 & 255, 1 << spd.cl - 4 >> 8
        data[24], data[25] = trfc & 255, trfc >> 8
        data[122:126] = serial
        data[128:146] = spd.part_number.encode("ascii", "replace")[:18].ljust(18)
        covered = 117 if data[0] & 0x80 else 126
    else:
        data[12], data[13] = (spd.ranks - 1) << 3 | width, bus
        data[18], data[125] = _periods(tck)
        data[24], data[123] = _periods(taa)
        data[20:24] = (1 << spd.cl - 7).to_bytes(4, "little")
        data[30], data[31] = trfc & 255, trfc >> 8
        data[325:329] = serial
        data[329:349] = spd.part_number.encode("ascii", "replace")[:20].ljust(20)
        covered = 126
    crc = crc16(bytes(data[:covered]))
    data[126], data[127] = crc & 255, crc >> 8
    return bytes(data)


def _image5(spd: Spd) -> bytes:
    if not (spd.density_gbit and spd.chip_width and spd.ranks and spd.grade_mts and spd.cl and spd.module_type):
        raise InputError("not enough is known for an image", "SPD image")
    data = bytearray(SIZE5)
    tck = 2_000_000 // spd.grade_mts  # the standard writes whole picoseconds, rounded down
    plain = {v: k for k, v in TYPE5.items() if k not in CLOCKED5.values()}
    densities = {v: k for k, v in DENSITY5.items()}
    letter = "S" if spd.module_type == "T" else spd.module_type
    data[0], data[2], data[3] = 0x30, 0x12, (CLOCKED5 if spd.clock_driver else plain)[letter]
    data[4] = densities[spd.density_gbit]
    data[6] = {4: 0, 8: 1, 16: 2}[spd.chip_width] << 5
    data[20:22] = tck.to_bytes(2, "little")
    data[24:29] = (1 << (spd.cl - 20) // 2).to_bytes(5, "little")
    data[30:32] = (tck * spd.cl).to_bytes(2, "little")
    data[42:44] = (spd.trfc_ns or 0).to_bytes(2, "little")
    data[234] = spd.ranks - 1 << 3
    data[235] = 1 << 5 | (2 << 3 if spd.ecc or spd.module_type == "T" else 0) | 2
    data[517:521] = bytes.fromhex(spd.serial or "00000000")[:4]
    data[521:551] = spd.part_number.encode("ascii", "replace")[:30].ljust(30)
    data[510:512] = crc16(bytes(data[:510])).to_bytes(2, "little")
    return bytes(data)


def _periods(ps: Fraction) -> tuple[int, int]:
    """Medium units rounded up and the fine correction in ps, as the annexes ask."""
    medium = math.ceil(ps / MTB_PS)
    return medium, round(ps - medium * MTB_PS) & 255
