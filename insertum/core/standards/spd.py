"""Serial presence detect images of memory modules: DDR3 (JEDEC 21-C annex K), DDR4 (annex L), DDR5 (JESD400-5).

An image is 128, 256, 512 or (DDR5) 1,024 bytes. Before DDR5 times are counted in medium (125 ps for what is read
here) and fine timebase units; DDR5 counts picoseconds. Rates follow from the shortest clock period, CL is the
smallest of the module's own set that is no shorter than tAA at that period. DDR2 images are recognised and refused by
name: their layout is another one.

Left unknown on purpose, because this reader is not certain of them: of DDR5 the profiles of the end user's block, the
second chip type of modules built of two, and stacked chips' own heights; of all generations what manufacturers put
into their own bytes.
"""

import math
import re
from fractions import Fraction

from ..errors import InputError
from ..frozen import Frozen
from . import ddr

_GENERATION = {0x08: 2, 0x0B: 3, 0x0C: 4, 0x12: 5}
#: Module type byte, low nibble, to the label's letter. 72-bit SO-DIMMs carry ECC.
TYPE3 = {1: "R", 2: "U", 3: "S", 8: "T", 11: "L"}
TYPE4 = {1: "R", 2: "U", 3: "S", 4: "L", 9: "T"}
#: JESD400-5 byte 3, low nibble: registered, unbuffered, SO-DIMM, load-reduced, then clocked UDIMM and SO-DIMM.
TYPE5 = {1: "R", 2: "U", 3: "S", 4: "L", 5: "U", 6: "S"}
CLOCKED5 = {"U": 5, "S": 6}
#: JESD400-5 bytes 4 and 8, bits 4 to 0: chip density in Gbit.
DENSITY5 = {1: 4, 2: 8, 3: 12, 4: 16, 5: 24, 6: 32, 7: 48, 8: 64}
#: JESD400-5 byte 4, bits 7 to 5: dies a package; 2 upwards are stacks.
_DIES5 = {0: 1, 1: 2}
MTB_PS = 125
SIZE5 = 1024


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
    clock_driver: bool | None = None
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

    A dump's last line is the offset of its end and no data; a line of ``*`` stands for lines like the one before, as
    many as the next offset tells. Raises :class:`InputError` when a line holds anything else.
    """
    found = bytearray()
    lines = text[:_LONGEST_DUMP].splitlines()
    offsets = any(len(w := line.replace(":", " ").split()) > 1 and len(w[0]) > 4 for line in lines)
    like_before = False
    for line in lines:
        body = line.split("|")[0].strip()
        if body == "*":
            like_before = True
            continue
        words = body.replace(":", " ").replace(",", " ").split()
        if words and (body[: len(words[0]) + 1].endswith(":") or len(words[0]) > 2) and (len(words) > 1 or offsets):
            if like_before:
                found += _repeated(found, words[0])
            words, like_before = words[1:], False
            # "00000000: 9211 0b03 …  ....": what stands behind two blanks is the printed column.
            if body[len(body.split()[0]) - 1] == ":":
                words = re.split(r"\s{2,}", body.split(":", 1)[1].strip())[0].replace(":", " ").split()
            words = words[:_BYTES_A_LINE]
        for word in words:
            word = word.removeprefix("0x")
            if len(word) % 2 or any(c not in "0123456789abcdefABCDEF" for c in word):
                break  # an ASCII column begins
            found += bytes.fromhex(word)
    if not found:
        raise InputError("no bytes in it", "SPD image", "Paste the hex dump of the module's EEPROM, or load its file.")
    return bytes(found)


#: No dump writes more words of bytes to a line; behind them stands what prints.
_BYTES_A_LINE = 32
#: Characters of the longest dump of 1,024 bytes, and more.
_LONGEST_DUMP = 20_000


def _repeated(found: bytearray, offset: str) -> bytes:
    """The lines a dump left out, up to an offset: hexadecimal, or octal as od writes it (seven digits)."""
    try:
        end = int(offset, 8 if len(offset) == 7 else 16)
    except ValueError:
        end = -1
    missing = end - len(found)
    if len(found) < 16 or missing <= 0 or missing % 16 or end > SIZE5:
        raise InputError("lines left out, and nothing tells how many", "SPD image", "Dump it with every line written.")
    return bytes(found[-16:]) * (missing // 16)


def read_spd(data: bytes) -> Spd:
    """Read an image. Raises :class:`InputError` for what is no DDR3, DDR4 or DDR5 image or too short."""
    if len(data) < 128:
        raise InputError(f"{len(data)} bytes, an image has at least 128", "SPD image", "Read the EEPROM again.")
    generation = _GENERATION.get(data[2])
    if generation is None:
        raise InputError(
            f"memory type 0x{data[2]:02x} is none we read", "SPD image, byte 2", "DDR3 is 0b, DDR4 is 0c, DDR5 is 12."
        )
    if generation == 3:
        return _ddr3(data)
    if generation == 4:
        return _ddr4(data)
    if generation == 5:
        return _ddr5(data)
    raise InputError(f"a DDR{generation} image is recognised, not read", "SPD image, byte 2", "Type its label instead.")


def _ddr3(data: bytes) -> Spd:
    covered = 117 if data[0] & 0x80 else 126
    divisor = data[11] or 8
    mtb_ps = Fraction(1000 * (data[10] or 1), divisor)
    fine_ps = Fraction(data[9] >> 4, data[9] & 15) if data[9] & 15 else Fraction(1)
    volts = 1350 if data[6] & 2 else 1500 if not data[6] & 1 else None
    supported = data[14] | data[15] << 8
    return _spd(
        3,
        data,
        density=data[4] & 15,
        width=data[7] & 7,
        ranks=(data[7] >> 3) & 7,
        bus=data[8],
        letter=TYPE3.get(data[3] & 15),
        latencies=[4 + bit for bit in range(15) if supported >> bit & 1],
        tck_ps=data[12] * mtb_ps + _signed(data[34]) * fine_ps,
        taa_ps=data[16] * mtb_ps + _signed(data[35]) * fine_ps,
        trfc_ps=(data[24] | data[25] << 8) * mtb_ps,
        volts=volts,
        crc_ok=crc16(data[:covered]) == data[126] | data[127] << 8,
        part=_whole(data, 128, 146),
        serial=data[122:126],
    )


def _ddr4(data: bytes) -> Spd:
    supported = int.from_bytes(data[20:24], "little")
    lowest = 23 if supported >> 31 else 7  # bit 7 of byte 23: the low or the high range
    # The second block has a sum of its own (bytes 254 and 255 over 128 to 253); an image cut before it has none.
    second = len(data) < 256 or crc16(data[128:254]) == data[254] | data[255] << 8
    return _spd(
        4,
        data,
        latencies=[lowest + bit for bit in range(30) if supported >> bit & 1],
        mixed=bool(data[12] >> 6 & 1),
        density=data[4] & 15,
        width=data[12] & 7,
        ranks=(data[12] >> 3) & 7,
        bus=data[13],
        letter=TYPE4.get(data[3] & 15),
        tck_ps=Fraction(data[18] * MTB_PS + _signed(data[125])),
        taa_ps=Fraction(data[24] * MTB_PS + _signed(data[123])),
        trfc_ps=Fraction((data[30] | data[31] << 8) * MTB_PS),
        volts=1200,
        crc_ok=crc16(data[:126]) == data[126] | data[127] << 8 and second,
        part=_whole(data, 329, 349),
        serial=_whole(data, 325, 329),
    )


def _ddr5(data: bytes) -> Spd:
    """JESD400-5: bytes 0 to 509 under one sum (510, 511), the maker's block from 512."""
    if len(data) < 512:
        raise InputError(f"{len(data)} bytes, a DDR5 image has {SIZE5}", "SPD image", "Read the whole EEPROM.")
    remarks: list[str] = []
    gbit, dies = DENSITY5.get(data[4] & 31), _DIES5.get(data[4] >> 5)
    if gbit is None:
        remarks.append(f"chip density code {data[4] & 31} is none we know")
    if dies is None:
        remarks.append("stacked chips: their number is not read")
    width = {0: 4, 1: 8, 2: 16, 3: 32}.get(data[6] >> 5)
    if width is None:
        remarks.append(f"chip width code {data[6] >> 5} is none of x4, x8, x16, x32")
    two_kinds = bool(data[234] & 0x40)
    if two_kinds:
        remarks.append("two kinds of chips: its capacity is not read")
    ranks = (data[234] >> 3 & 7) + 1
    lanes = {0: 8, 1: 16, 2: 32, 3: 64}.get(data[235] & 7)
    ecc_bits = {0: 0, 1: 4, 2: 8}.get(data[235] >> 3 & 3)
    channels = {0: 1, 1: 2, 2: 4}.get(data[235] >> 5 & 3)
    whole = None
    if gbit and dies and width and lanes and channels and not two_kinds:
        # capacity in GB = sub-channels × their width ÷ chip width × dies × density ÷ 8 × ranks
        whole = Fraction(channels * lanes * dies * gbit * ranks, width * 8)
    tck, taa = data[20] | data[21] << 8, data[30] | data[31] << 8
    grade = _grade(5, Fraction(tck))
    if grade is None:
        remarks.append(f"clock period {tck} ps is no DDR5 grade")
    supported = int.from_bytes(data[24:29], "little")
    least = math.floor((Fraction(taa * 997, tck) + 1000) / 1000) if grade and taa else None
    # JESD400-5's rounding: 0.3 % of a clock is the timebase's own error; latencies are even.
    cl = _latency(least, [20 + 2 * b for b in range(40) if supported >> b & 1], remarks)
    letter = TYPE5.get(data[3] & 15)
    if letter is None:
        remarks.append(f"module type code {data[3] & 15} is none we know")
    serial = data[517:521] if len(data) >= 521 else b""
    return Spd(
        generation=5,
        capacity_gb=int(whole) if whole and whole.denominator == 1 else None,
        ranks=ranks if not two_kinds else None,
        chip_width=width,
        density_gbit=gbit,
        module_type="T" if letter == "S" and ecc_bits else letter,
        ecc=bool(ecc_bits),
        clock_driver=data[3] & 15 in CLOCKED5.values() if letter else None,
        grade_mts=grade,
        cl=cl,
        trfc_ns=(data[42] | data[43] << 8) or None,
        voltage_mv=1100 if data[16] == 0 else None,
        part_number=_text(data[521:551]) if len(data) >= 551 else "",
        serial=serial.hex() if any(serial) and serial != b"\xff" * len(serial) else "",
        crc_ok=crc16(data[:510]) == data[510] | data[511] << 8,
        remarks=tuple(remarks),
    )


def _latency(least: int | None, supported: list[int], remarks: list[str]) -> int | None:
    """The module's own latency that is no shorter: None, with a remark, where it lists none."""
    if least is None:
        return None
    found = next((cl for cl in sorted(supported) if cl >= least), None)
    if found is None:
        remarks.append(f"no latency of its own set reaches {least} clocks")
    return found


def _signed(byte: int) -> int:
    return byte - 256 if byte > 127 else byte


def _chips(
    generation: int, density: int, width: int, bus: int, remarks: list[str]
) -> tuple[int | None, int | None, int | None]:
    """Density in Gbit, chip width and data bits from their codes; None, and a remark, for a code that is none."""
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
    return gbit, chip, data_bits


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
    latencies: list[int],
    mixed: bool = False,
) -> Spd:
    remarks: list[str] = []
    if mixed:
        remarks.append("its ranks are of two kinds: capacity, width and ranks are not read")
    gbit, chip, data_bits = _chips(generation, density, width, bus, remarks)
    count = ranks + 1
    # capacity in GB = density ÷ 8 × bus ÷ chip width × ranks
    whole = Fraction(gbit * 64 * count, 8 * chip) if gbit and chip and data_bits == 64 else None
    grade = _grade(generation, tck_ps)
    if grade is None:
        remarks.append(f"clock period {float(tck_ps):g} ps is no DDR{generation} grade")
    if letter is None:
        remarks.append(f"module type code {data[3] & 15} is none we know")
    # The annexes' rounding: up to 2.6 % of a clock is the timebase's own error, not another clock.
    least = math.floor((taa_ps * 1000 / tck_ps + 974) / 1000) if grade and taa_ps > 0 else None
    cl = _latency(least, latencies, remarks)
    ecc = bool(bus >> 3 & 3)
    return Spd(
        generation=generation,
        capacity_gb=int(whole) if whole and whole.denominator == 1 and not mixed else None,
        ranks=None if mixed else count,
        chip_width=None if mixed else chip,
        density_gbit=None if mixed else gbit,
        module_type="T" if letter == "S" and ecc else letter,
        ecc=ecc,
        grade_mts=grade,
        cl=cl,
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


def _whole(data: bytes, start: int, end: int) -> bytes:
    """A field of an image, nothing where the image was cut inside it: half a number is another number."""
    return data[start:end] if len(data) >= end else b""


def _text(raw: bytes) -> str:
    return "".join(chr(b) for b in raw if 32 <= b < 127).strip()
