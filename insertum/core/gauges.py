"""Gauges: label readers and calculators that work without a job. Each shows its formula filled in,
and the standard it comes from. Adding one is adding one decorated function."""

from collections.abc import Callable

from .errors import InputError
from .gauge import REGISTER, Field, Gauge, Line, Shown, Values, gauge, lines_of, number
from .standards import clone as copying
from .standards import ddr, m2, pack, pad, sata, spd, wlan
from .standards.module_label import read_label
from .standards.pcie import GT_S, Link
from .survey.recognise import read_drive_label


def gauges() -> tuple[Gauge, ...]:
    """Every gauge, in the order the bench lists them."""
    return tuple(e.gauge for e in REGISTER.values())


def show(id: str, values: Values) -> Shown:
    """What a gauge says of the values; a field left out keeps its example.

    Raises :class:`InputError` for an unknown gauge or a value that is none.
    """
    entry = REGISTER.get(id)
    if entry is None:
        raise InputError(f"no gauge {id!r}", "gauges", f"There are {', '.join(REGISTER)}.")
    given = {f.name: values.get(f.name, f.example) for f in entry.gauge.fields}
    for f in entry.gauge.fields:
        if f.options and given[f.name] not in f.options:
            raise InputError(f"{given[f.name]!r} is none of them", f.label, f"Choose {', '.join(f.options)}.")
    return entry.run(given)


# -- labels and codes ---------------------------------------------------------------------------
#: Pieces of a label whose field is named with its unit.
_PIECES = {"capacity_gb": "capacity", "grade_mts": "grade", "spd_revision": "SPD revision"}


@gauge(
    "memory_label",
    "Memory label",
    "chip density = capacity × 8 × chip width ÷ (ranks × 64)",
    "JEDEC module label: JESD21-C, JESD401",
    Field(name="label", label="Label", kind="text", example="16GB 2Rx8 PC4-3200AA-SE1-11"),
)
def _memory_label(values: Values) -> Shown:
    read = read_label(values["label"])
    chips = f"{read.ranks}Rx{read.chip_width}" if read.ranks else None
    total = ""
    if read.capacity_gb and read.ranks and read.chip_width:
        total = f"{read.capacity_gb} × 8 × {read.chip_width} ÷ ({read.ranks} × 64) = {read.density_gbit} Gbit"
    return Shown(
        lines=lines_of(
            generation=f"DDR{read.generation}",
            capacity=f"{read.capacity_gb} GB" if read.capacity_gb else None,
            modules=f"a kit of {read.modules}" if read.modules > 1 else None,
            ranks_and_width=chips,
            grade=f"{read.grade_mts} MT/s" if read.grade_mts else None,
            CL=read.cl,
            type=read.module_type_name,
            raw_card=read.raw_card,
            chip_density=f"{read.density_gbit} Gbit" if read.density_gbit else None,
        ),
        sum=total,
        remarks=(
            *(
                [f"not on it: {', '.join(_PIECES.get(m, m.replace('_', ' ')) for m in read.missing)}"]
                if read.missing
                else []
            ),
            *([f"could not be read: {', '.join(read.unread)}"] if read.unread else []),
        ),
    )


@gauge(
    "m2_code",
    "M.2 module code",
    "width and length in mm, component heights, keys",
    "PCI-SIG M.2, module nomenclature",
    Field(name="code", label="Code", kind="text", example="2280-D2-B-M"),
)
def _m2_code(values: Values) -> Shown:
    code = m2.read_code(values["code"])
    below = "" if code.below_um is None else f"{code.below_um / 1000:.2f} mm"
    return Shown(
        lines=lines_of(
            size=f"{code.width_mm} × {code.length_mm} mm",
            above_the_board=None if code.above_um is None else f"{code.above_um / 1000:.2f} mm",
            below_the_board=below,
            sides={0: "single-sided"}.get(code.below_um or 0, "double-sided") if code.below_um is not None else None,
            keys="+".join(code.keys) or "not stated",
            enters="sockets with key " + " or ".join(code.keys) if code.keys else None,
        ),
        remarks=(*code.remarks, "Notches say nothing about SATA or PCIe: the wiring decides."),
    )


def _mm(um: int) -> str:
    return f"{um / 1000:.2f} mm" if um else "nothing"


#: What a drive's label tells, in the order it is shown: its name and how its value is said.
_DRIVE_LINES: dict[str, tuple[str, Callable[..., str]]] = {
    "capacity_gb": ("Capacity", "{} GB".format),
    "kind": ("Kind", {"m2_drive": "card drive", "bay_drive": "bay drive"}.__getitem__),
    "form": ("Form", {"m2": "M.2", "mini": "mSATA"}.__getitem__),
    "interface": ("Interface", {"pcie": "PCIe", "sata": "SATA"}.__getitem__),
    "generation": ("Generation", str),
    "lanes": ("Lanes", "×{}".format),
    "width_mm": ("Width", "{} mm".format),
    "length_mm": ("Length", "{} mm".format),
    "above_um": ("Above the board", _mm),
    "below_um": ("Below the board", _mm),
    "keys": ("Key", "+".join),
    "height_um": ("Height", lambda um: f"{um / 1000:g} mm"),
}


@gauge(
    "drive_label",
    "Drive label",
    "capacity, interface words, size code",
    "no standard: only what stands there is taken",
    Field(name="label", label="Label", kind="text", example="1TB NVMe PCIe 4 x4 M.2 2280-S3-M"),
)
def _drive_label(values: Values) -> Shown:
    read = read_drive_label(values["label"])
    if read is None:
        raise InputError("no capacity with an interface or a size on it", "label", "It looks like 1TB NVMe 2280.")
    shown = [Line(label=name, value=say(read[k])) for k, (name, say) in _DRIVE_LINES.items() if k in read]
    return Shown(lines=tuple(shown), remarks=("What is not listed is unknown: it is measured first.",))


@gauge(
    "spd",
    "SPD image",
    "capacity = density ÷ 8 × 64 ÷ chip width × ranks; CL = tAA ÷ clock period",
    "JEDEC 21-C annex K (DDR3), annex L (DDR4)",
    Field(name="image", label="Hex dump", kind="long", example=""),
)
def _spd(values: Values) -> Shown:
    if not values["image"].strip():
        raise InputError(
            "no image yet", "SPD image", "Paste the hex dump of a module's EEPROM, with or without offsets."
        )
    read = spd.read_spd(spd.from_hex(values["image"]))
    capacity = (
        f"{read.density_gbit} ÷ 8 × 64 ÷ {read.chip_width} × {read.ranks} = {read.capacity_gb} GB"
        if read.capacity_gb
        else ""
    )
    return Shown(
        lines=lines_of(
            generation=f"DDR{read.generation}",
            capacity=f"{read.capacity_gb} GB" if read.capacity_gb else None,
            ranks_and_width=f"{read.ranks}Rx{read.chip_width}",
            grade=f"{read.grade_mts} MT/s" if read.grade_mts else None,
            CL=read.cl,
            refresh_time=f"{read.trfc_ns} ns" if read.trfc_ns else None,
            type=ddr.MODULE_TYPES.get(read.module_type or ""),
            part_number=read.part_number,
            checksum="right" if read.crc_ok else "wrong",
        ),
        sum=capacity,
        remarks=(
            *([] if read.crc_ok else ["The checksum is wrong: a byte was misread. Trust nothing of it."]),
            *read.remarks,
        ),
    )


# -- links and rates ----------------------------------------------------------------------------
_GENERATIONS = ("1", "2", "3", "4", "5")


@gauge(
    "pcie",
    "PCIe link",
    "rate = GT/s × coding ÷ 8 × lanes, with the lesser generation and the fewer lanes",
    "PCI-SIG PCI Express base: 8b/10b to generation 2, 128b/130b from 3",
    Field(name="generation", label="Slot generation", kind="choice", example="3", options=_GENERATIONS),
    Field(name="lanes", label="Slot lanes", kind="choice", example="4", options=("1", "2", "4")),
    Field(name="card_generation", label="Card generation", kind="choice", example="4", options=_GENERATIONS),
    Field(name="card_lanes", label="Card lanes", kind="choice", example="4", options=("1", "2", "4")),
    Field(name="rating", label="Drive's rating", unit="MB/s", example="7000"),
)
def _pcie(values: Values) -> Shown:
    slot = Link(generation=int(values["generation"]), lanes=int(values["lanes"]))
    link = slot.with_other(Link(generation=int(values["card_generation"]), lanes=int(values["card_lanes"])))
    rating = number(values, "rating")
    coding = "8 ÷ 10" if link.generation < 3 else "128 ÷ 130"
    binds = "the link" if link.mb_s < rating else "the drive"
    return Shown(
        lines=lines_of(
            link=link,
            carries=f"{link.mb_s} MB/s",
            what_you_get=f"{min(round(rating), link.mb_s)} MB/s",
            what_binds=binds,
        ),
        sum=f"{GT_S[link.generation]:g} × 1000 × {coding} ÷ 8 × {link.lanes} = {link.mb_s} MB/s",
    )


@gauge(
    "sata",
    "SATA link",
    "rate = Gb/s × 8 ÷ 10 ÷ 8",
    "SATA-IO Serial ATA: 8b/10b coded",
    Field(name="slot", label="Slot", kind="choice", unit="Gb/s", example="6", options=("1.5", "3", "6")),
    Field(name="drive", label="Drive", kind="choice", unit="Gb/s", example="6", options=("1.5", "3", "6")),
    Field(name="rating", label="Drive's rating", unit="MB/s", example="560"),
)
def _sata(values: Values) -> Shown:
    by_rate = {"1.5": 1, "3": 2, "6": 3}
    rate = min(by_rate[values["slot"]], by_rate[values["drive"]])
    carries, rating = sata.MB_S[rate], number(values, "rating")
    return Shown(
        lines=lines_of(
            link=f"{sata.GBIT_S[rate]:g} Gb/s", carries=f"{carries} MB/s", what_you_get=f"{min(round(rating), carries)} MB/s",
            what_binds="the link" if carries < rating else "the drive",
        ),
        sum=f"{sata.GBIT_S[rate]:g} × 1000 × 8 ÷ 10 ÷ 8 = {carries} MB/s",
    )  # fmt: skip


@gauge(
    "bandwidth",
    "Memory bandwidth",
    "GB/s = MT/s × 8 × channels ÷ 1000",
    "JEDEC: 64 data bits a channel",
    Field(name="mts", label="Running rate", unit="MT/s", example="3200"),
    Field(name="channels", label="64-bit channels", kind="choice", example="2", options=("1", "2", "4")),
)
def _bandwidth(values: Values) -> Shown:
    mts, channels = number(values, "mts", 100, 20000), int(values["channels"])
    rate = mts * 8 * channels / 1000  # of the rate as it was typed, not of the grade it is near
    return Shown(lines=lines_of(peak=f"{rate:.1f} GB/s"), sum=f"{mts:g} × 8 × {channels} ÷ 1000 = {rate:.1f} GB/s")


@gauge(
    "latency",
    "Memory latency",
    "ns = CL × 2000 ÷ MT/s, with CL = ⌈tAA ÷ clock period⌉ at the running rate",
    "JEDEC JESD79 speed bins; DDR5 CL is even",
    Field(name="generation", label="Generation", kind="choice", example="4", options=("3", "4", "5")),
    Field(name="cl", label="CL at its rating", example="22"),
    Field(name="rated", label="Rated", unit="MT/s", example="3200"),
    Field(name="running", label="Runs at", unit="MT/s", example="2666"),
)
def _latency(values: Values) -> Shown:
    generation, cl = int(values["generation"]), round(number(values, "cl", 3, 120))
    rated, running = (round(number(values, n, 400, 20000)) for n in ("rated", "running"))
    running = min(rated, running)
    here = ddr.cl_at(cl, rated, running, generation)
    return Shown(
        lines=lines_of(
            at_its_rating=f"{ddr.latency_ns(cl, rated):.2f} ns",
            CL_at_the_running_rate=here,
            at_the_running_rate=f"{ddr.latency_ns(here, running):.2f} ns",
        ),
        sum=f"{here} × 2000 ÷ {float(ddr.exact_mts(running)):g} = {ddr.latency_ns(here, running):.2f} ns",
    )


@gauge(
    "radio",
    "Wi-Fi rate",
    "Mb/s = streams × data tones × bits × code rate ÷ symbol µs; 60 to 70 % of it reaches the owner, capped by the line",
    "IEEE 802.11n, ac, ax, be; short guard",
    Field(name="standard", label="Standard", kind="choice", example="ax", options=wlan.STANDARDS),
    Field(name="streams", label="Streams", kind="choice", example="2", options=("1", "2", "3", "4")),
    Field(
        name="width", label="Width", kind="choice", unit="MHz", example="80", options=("20", "40", "80", "160", "320")
    ),
    Field(name="band", label="Band", kind="choice", unit="GHz", example="5", options=("2.4", "5", "6")),
    Field(name="line", label="Line into the house", unit="Mb/s", example="250"),
)
def _radio(values: Values) -> Shown:
    standard, streams, width, band = values["standard"], int(values["streams"]), int(values["width"]), values["band"]
    if width not in wlan.TONES[standard] or not wlan.exists(standard, width, band):
        raise InputError(f"802.11{standard} has no {width} MHz at {band} GHz", "radio", "Choose another width or band.")
    mode = wlan.Mode(standard=standard, streams=streams, width_mhz=width, band=band)
    rate = wlan.phy_mbit_s(standard, streams, width)
    line = number(values, "line")
    low, high = (min(rate * float(s), line) for s in (wlan.DELIVERED[0], wlan.DELIVERED[2]))
    reach = f"{low:.0f}" if round(low) == round(high) else f"{low:.0f} to {high:.0f}"
    return Shown(
        lines=lines_of(mode=mode, PHY_rate=f"{rate:.1f} Mb/s", reaches_the_owner=f"{reach} Mb/s",
                     what_binds="the line" if line < rate * float(wlan.DELIVERED[1]) else "the Wi-Fi card"),
        sum=wlan.sum_of(standard, streams, width),
    )  # fmt: skip


# -- work ---------------------------------------------------------------------------------------
@gauge(
    "clone",
    "Clone time",
    "minutes = amount ÷ min(source read, target write, path) × (1 + overhead) ÷ 60",
    f"a file copy wants {copying.ROOM_PERCENT} % of room; overhead {copying.OVERHEAD_PERCENT} %",
    Field(name="used", label="Used data", unit="GB", example="190"),
    Field(name="source", label="Source drive", unit="GB", example="256"),
    Field(name="read", label="Source reads", unit="MB/s", example="1600"),
    Field(name="target", label="Target drive", unit="GB", example="1000"),
    Field(name="write", label="Target writes", unit="MB/s", example="3000"),
    Field(name="path", label="Path", kind="choice", example="usb10", options=("slot", "usb5", "usb10")),
    Field(name="method", label="Copies", kind="choice", example="files", options=("files", "sectors")),
)
def _clone(values: Values) -> Shown:
    used, source, target, read, write = (
        number(values, n, 0, 1e6) for n in ("used", "source", "target", "read", "write")
    )
    method: copying.Method = "files" if values["method"] == "files" else "sectors"
    made = copying.clone(used, round(source), round(target), round(read), round(write), values["path"], method)
    amount = used if method == "files" else source
    return Shown(
        lines=lines_of(takes=f"{made.minutes} min, unattended", what_binds=f"{made.bound_by}, {made.rate_mb_s} MB/s",
                     target_must_hold=f"{made.needs_gb:g} GB", target_holds_it="yes" if made.fits else "no"),
        sum=f"{amount:g} × 1000 ÷ {made.rate_mb_s} × 1.{copying.OVERHEAD_PERCENT} ÷ 60 = {made.minutes} min",
        remarks=("An encrypted source wants its recovery key first. Locked volumes are copied by sectors.",),
    )  # fmt: skip


@gauge(
    "runtime",
    "Runtime on battery",
    "hours = usable Wh ÷ average W; Wh = V × Ah",
    "measured average watts under the owner's own work",
    Field(name="wh", label="Full charge", unit="Wh", example="41"),
    Field(name="design", label="Design", unit="Wh", example="52"),
    Field(name="watts", label="Average draw", unit="W", example="9"),
)
def _runtime(values: Values) -> Shown:
    wh, design, watts = (
        number(values, "wh", 0, 500),
        number(values, "design", 1, 500),
        number(values, "watts", 0.1, 500),
    )
    minutes = pack.runtime_minutes(round(wh * 1000), round(watts * 1000))
    wear = 1 - pack.health(round(wh * 1000), round(design * 1000))
    return Shown(
        lines=lines_of(runs=f"{minutes // 60} h {minutes % 60:02d} min", wear=f"{wear:.0%}"),
        sum=f"{wh:g} ÷ {watts:g} = {wh / watts:.2f} h",
        remarks=("Free power settings first: brightness, power mode, programs that never rest.",),
    )


@gauge(
    "endurance",
    "Drive endurance",
    "years = TBW × 1000 ÷ (GB a day × 365)",
    "JEDEC JESD218: terabytes written",
    Field(name="tbw", label="Rated TBW", unit="TB", example="600"),
    Field(name="daily", label="Written a day", unit="GB", example="30"),
)
def _endurance(values: Values) -> Shown:
    tbw, daily = number(values, "tbw", 0, 1e6), number(values, "daily", 0.01, 1e6)
    years = tbw * 1000 / (daily * 365)
    return Shown(lines=lines_of(lasts=f"{years:.1f} years"), sum=f"{tbw:g} × 1000 ÷ ({daily:g} × 365) = {years:.1f}")


@gauge(
    "pad",
    "Thermal pad",
    "gap = thickness × (1 − compression), compression 10 to 30 %, nearest to 20 %",
    "pad makers' compression window",
    Field(name="gap", label="Gap", unit="mm", example="1.0"),
)
def _pad(values: Values) -> Shown:
    gap = number(values, "gap", 0.05, 10)
    size = pad.pad_for(round(gap * 1000))
    if size is None:
        return Shown(
            lines=lines_of(pad="none on sale fits"),
            remarks=("No thickness is squeezed by 10 to 30 % in this gap. Do not stack pads.",),
        )
    squeezed = float(pad.compression(round(gap * 1000), size))
    return Shown(
        lines=lines_of(pad=f"{size / 1000:g} mm", squeezed_by=f"{squeezed:.0%}"),
        sum=f"1 − {gap:g} ÷ {size / 1000:g} = {squeezed:.0%}",
        remarks=("Too thick presses on the board.",),
    )
