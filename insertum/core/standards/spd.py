"""Serial presence detect images of memory modules: DDR3 (JEDEC 21-C annex K), DDR4 (annex L).

An image is 128, 256 or 512 bytes. Times are counted in medium (125 ps for what is read here) and
fine timebase units; rates follow from the shortest clock period, CL from tAA at that period.
DDR2 and DDR5 images are recognised and refused by name: their layout is another one.
"""

import math
from fractions import Fraction

from ..base import Frozen, InputError
from . import ddr

_GENERATION = {0x08: 2, 0x0B: 3, 0x0C: 4, 0x12: 5}
#: Module type byte, low nibble, to the label's letter. 72-bit SO-DIMMs carry ECC.
_TYPE3 = {1: "R", 2: "U", 3: "S", 8: "T", 11: "L"}
_TYPE4 = {1: "R", 2: "U", 3: "S", 4: "L", 9: "T"}
_MTB_PS = 125


class Spd(Frozen):
    """What an image proves. ``crc_ok`` False means a byte was misread: nothing of it is to be
    trusted. ``remarks`` name fields outside the standard's values."""

    generation: int
    capacity_gb: int | None = None
    ranks: int | None = None
    chip_width: int | None = None
    density_gbit: int | None = None
    module_type: str | None = None
    ecc: bool = False
    grade_mts: int | None = None
    cl: int | None = None
    trfc_ns: int | None = None
    voltage_mv: int | None = None
    part_number: str = ""
    serial: str = ""
    crc_ok: bool = True
    remarks: tuple[str, ...] = ()


def crc16(data: bytes) -> int:
    """CRC-16 with polynomial 0x1021, initial value 0 (annex K clause 2, byte 126)."""
    crc = 0
    for byte in data:
        crc ^= byte << 8
        for _ in range(8):
            crc = (crc << 1) ^ 0x1021 if crc & 0x8000 else crc << 1
        crc &= 0xFFFF
    return crc


def from_hex(text: str) -> bytes:
    """Bytes of a hex dump: offsets, colons and an ASCII column may stand in it.

    Raises :class:`InputError` when a line holds anything else.
    """
    found = bytearray()
    for line in text.splitlines():
        body = line.split("|")[0].strip()
        words = body.replace(":", " ").replace(",", " ").split()
        if words and (line.strip()[: len(words[0]) + 1].endswith(":") or len(words[0]) > 2) and len(words) > 1:
            words = words[1:]  # the offset
        for word in words:
            word = word.removeprefix("0x")
            if len(word) % 2 or any(c not in "0123456789abcdefABCDEF" for c in word):
                break  # an ASCII column begins
            found += bytes.fromhex(word)
    if not found:
        raise InputError("no bytes in it", "SPD image", "Paste the hex dump of the module's EEPROM, or load its file.")
    return bytes(found)


def read_spd(data: bytes) -> Spd:
    """Read an image. Raises :class:`InputError` for what is no DDR3 or DDR4 image or too short."""
    if len(data) < 128:
        raise InputError(f"{len(data)} bytes, an image has at least 128", "SPD image", "Read the EEPROM again.")
    generation = _GENERATION.get(data[2])
    if generation is None:
        raise InputError(f"memory type 0x{data[2]:02x} is none we read", "SPD image, byte 2", "DDR3 is 0b, DDR4 is 0c.")
    if generation == 3:
        return _ddr3(data)
    if generation == 4:
        return _ddr4(data)
    raise InputError(f"a DDR{generation} image is recognised, not read", "SPD image, byte 2", "Type its label instead.")


def _ddr3(data: bytes) -> Spd:
    covered = 117 if data[0] & 0x80 else 126
    divisor = data[11] or 8
    mtb_ps = Fraction(1000 * (data[10] or 1), divisor)
    fine_ps = Fraction(data[9] >> 4, data[9] & 15) if data[9] & 15 else Fraction(1)
    volts = 1350 if data[6] & 2 else 1500 if not data[6] & 1 else None
    return _spd(
        3,
        data,
        density=data[4] & 15,
        width=data[7] & 7,
        ranks=(data[7] >> 3) & 7,
        bus=data[8],
        letter=_TYPE3.get(data[3] & 15),
        tck_ps=data[12] * mtb_ps + _signed(data[34]) * fine_ps,
        taa_ps=data[16] * mtb_ps + _signed(data[35]) * fine_ps,
        trfc_ps=(data[24] | data[25] << 8) * mtb_ps,
        volts=volts,
        crc_ok=crc16(data[:covered]) == data[126] | data[127] << 8,
        part=data[128:146],
        serial=data[122:126],
    )


def _ddr4(data: bytes) -> Spd:
    return _spd(
        4,
        data,
        density=data[4] & 15,
        width=data[12] & 7,
        ranks=(data[12] >> 3) & 7,
        bus=data[13],
        letter=_TYPE4.get(data[3] & 15),
        tck_ps=Fraction(data[18] * _MTB_PS + _signed(data[125])),
        taa_ps=Fraction(data[24] * _MTB_PS + _signed(data[123])),
        trfc_ps=Fraction((data[30] | data[31] << 8) * _MTB_PS),
        volts=1200,
        crc_ok=crc16(data[:126]) == data[126] | data[127] << 8,
        part=data[329:349],
        serial=data[325:329],
    )


def _signed(byte: int) -> int:
    return byte - 256 if byte > 127 else byte


def _spd(
    generation: int,
    data: bytes,
    density: int,
    width: int,
    ranks: int,
    bus: int,
    letter: str | None,
    tck_ps: Fraction,
    taa_ps: Fraction,
    trfc_ps: Fraction,
    volts: int | None,
    crc_ok: bool,
    part: bytes,
    serial: bytes,
) -> Spd:
    remarks: list[str] = []
    mbit = 256 << density if density < 8 else None
    gbit = mbit // 1024 if mbit and mbit >= 1024 else None
    if gbit is None or gbit not in ddr.DENSITIES[generation]:
        remarks.append(f"chip density code {density} is no DDR{generation} density")
        gbit = None
    chip = 4 << width if width < 3 else None
    if chip is None:
        remarks.append(f"chip width code {width} is none of x4, x8, x16")
    data_bits = 8 << (bus & 7) if bus & 7 < 4 else None
    if data_bits != 64:
        remarks.append(f"bus width code {bus & 7} is not 64 bits")
    count = ranks + 1
    # capacity in GB = density ÷ 8 × bus ÷ chip width × ranks
    whole = Fraction(gbit * 64 * count, 8 * chip) if gbit and chip and data_bits == 64 else None
    grade = _grade(generation, tck_ps)
    if grade is None:
        remarks.append(f"clock period {float(tck_ps):g} ps is no DDR{generation} grade")
    if letter is None:
        remarks.append(f"module type code {data[3] & 15} is none we know")
    ecc = bool(bus >> 3 & 3)
    return Spd(
        generation=generation,
        capacity_gb=int(whole) if whole and whole.denominator == 1 else None,
        ranks=count,
        chip_width=chip,
        density_gbit=gbit,
        module_type="T" if letter == "S" and ecc else letter,
        ecc=ecc,
        grade_mts=grade,
        # The annexes' rounding: up to 2.6 % of a clock is the timebase's own error, not another clock.
        cl=math.floor((taa_ps * 1000 / tck_ps + 974) / 1000) if grade and taa_ps > 0 else None,
        trfc_ns=round(trfc_ps / 1000) or None,
        voltage_mv=volts,
        part_number=_text(part),
        serial=serial.hex() if any(serial) and serial != b"\xff" * len(serial) else "",
        crc_ok=crc_ok,
        remarks=tuple(remarks),
    )


def _grade(generation: int, tck_ps: Fraction) -> int | None:
    """The grade whose clock period is this one, within the fine timebase's rounding."""
    if tck_ps <= 0:
        return None
    return next((g for g in ddr.GRADES[generation] if abs(Fraction(2_000_000) / ddr.exact_mts(g) - tck_ps) <= 2), None)


def _text(raw: bytes) -> str:
    return "".join(chr(b) for b in raw if 32 <= b < 127).strip()


def image(spd: Spd) -> bytes:
    """The image of a module, as its EEPROM would hold it: what :func:`read_spd` reads back."""
    if spd.generation not in (3, 4) or not (
        spd.density_gbit and spd.chip_width and spd.ranks and spd.grade_mts and spd.cl and spd.module_type
    ):
        raise InputError("not enough is known for an image", "SPD image")
    data = bytearray(256 if spd.generation == 3 else 512)
    tck = Fraction(2_000_000) / ddr.exact_mts(spd.grade_mts)
    taa = tck * spd.cl
    density = (spd.density_gbit * 1024 // 256).bit_length() - 1
    width = {4: 0, 8: 1, 16: 2}[spd.chip_width]
    bus = 3 | (8 if spd.ecc or spd.module_type == "T" else 0)
    types = {v: k for k, v in (_TYPE3 if spd.generation == 3 else _TYPE4).items()}
    trfc = round((spd.trfc_ns or 0) * 1000 / _MTB_PS)
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
        data[24], data[25] = trfc & 255, trfc >> 8
        data[122:126] = serial
        data[128:146] = spd.part_number.encode("ascii", "replace")[:18].ljust(18)
        covered = 117 if data[0] & 0x80 else 126
    else:
        data[12], data[13] = (spd.ranks - 1) << 3 | width, bus
        data[18], data[125] = _periods(tck)
        data[24], data[123] = _periods(taa)
        data[30], data[31] = trfc & 255, trfc >> 8
        data[325:329] = serial
        data[329:349] = spd.part_number.encode("ascii", "replace")[:20].ljust(20)
        covered = 126
    crc = crc16(bytes(data[:covered]))
    data[126], data[127] = crc & 255, crc >> 8
    return bytes(data)


def _periods(ps: Fraction) -> tuple[int, int]:
    """Medium units rounded up and the fine correction in ps, as the annexes ask."""
    medium = math.ceil(ps / _MTB_PS)
    return medium, round(ps - medium * _MTB_PS) & 255
