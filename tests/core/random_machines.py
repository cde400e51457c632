"""Complete machines and parts made at random, and the same with attributes hidden at random.

Machines keep the axioms (``insertum/core/known/axioms.py``): each place below that does names the one it keeps.
Nothing else of the deductions is used here. What is fitted was put in by the rules on complete facts: what runs fits,
and a maker's own fit does no harm.
"""

import random
from dataclasses import dataclass, replace
from typing import Any

from insertum.core.fit.build import Build
from insertum.core.fit.judge import judge
from insertum.core.known.axioms import AXIOMS, brought
from insertum.core.known.evidence import Grade, Signs
from insertum.core.known.limits import CAPS
from insertum.core.machine.attribute import attributes_of
from insertum.core.machine.claim import Fact, Limits
from insertum.core.machine.drive_parts import BayDrive, M2Drive
from insertum.core.machine.part import Fittable, MemoryModule, Pack
from insertum.core.machine.radio_parts import Cellular, Radio
from insertum.core.machine.shape import Configured, Machine
from insertum.core.standards import ddr, m2, pack
from insertum.core.standards.pcie import Link
from insertum.core.survey.current_build import build_today
from insertum.core.verdict import Verdict

PLACE = {"x_mm": 10, "y_mm": 10, "w_mm": 80, "h_mm": 22}
CODES = tuple(m2.HEIGHTS_UM.values())
SIZES = {3: (2, 4, 8), 4: (4, 8, 16, 32), 5: (8, 16, 24, 32, 48)}


def said(value: Any) -> dict[str, Any]:
    return {"value": value, "source": "documented"}


def axiom(name: str) -> None:
    """Marks a line that keeps an axiom; the list and this file cannot drift apart unseen."""
    assert name in AXIOMS, name


# -- parts --------------------------------------------------------------------------------------------
def module(r: random.Random, generation: int) -> MemoryModule:
    made = []
    for gb in SIZES[generation]:
        for ranks in ddr.SODIMM_RANKS:
            for width in ddr.SODIMM_WIDTHS:
                if ddr.density_gbit(gb, ranks, width) in ddr.DENSITIES[generation]:
                    made.append((gb, ranks, width))
    gb, ranks, width = r.choice(made)
    return MemoryModule(
        number=f"M{r.random()}", name="module", generation=generation, capacity_gb=gb, ranks=ranks, chip_width=width,
        grade_mts=r.choice(ddr.GRADES[generation]), module_type=r.choice("SSSSTU"), spreader_um=r.choice((0, 0, 500, 2000)),
        voltage_mv={3: r.choice((1350, 1500)), 4: 1200, 5: 1100}[generation], clock_driver=generation == 5 and r.random() < 0.2,
    )  # fmt: skip


def card(r: random.Random, keys: tuple[tuple[str, ...], ...], lengths: tuple[int, ...]) -> dict[str, Any]:
    above, below = r.choice(CODES)
    return {
        "number": f"C{r.random()}", "name": "card", "width_mm": r.choice((22, 22, 22, 30)), "length_mm": r.choice(lengths),
        "above_um": above, "below_um": below, "keys": r.choice(keys), "fru": f"F-{r.randrange(3)}",
    }  # fmt: skip


def drive(r: random.Random) -> M2Drive:
    plain = card(r, (("B",), ("M",), ("M",), ("B", "M")), (30, 42, 60, 80))
    return M2Drive(
        **plain, capacity_gb=r.choice((250, 1000, 2000, 4000)), read_mb_s=r.choice((500, 1700, 3400, 7000)),
        interface=r.choice(("pcie", "pcie", "sata")), generation=r.choice((1, 2, 3)) if r.random() < 0.5 else 3,
        lanes=r.choice((1, 2) if "B" in plain["keys"] else (1, 2, 4)), needs_cooling=r.random() < 0.3,
    )  # fmt: skip


#: Companion radios that lists name, by the generation of the host they need.
GENERATIONS = {"N1": 1, "N2": 2, "N3": 3}


def radio(r: random.Random) -> Radio:
    plain = card(r, (("A",), ("E",), ("A", "E")), (30, 30, 42))
    named = r.randint(1, 4) if r.random() < 0.5 else 0
    bus, any_of = r.choice(("pcie", "pcie", "cnvi")), r.choice((1, 2, 3))
    axiom("lists none newer")  # a radio of one number is of one generation
    return Radio(
        **plain | ({"number": f"N{named}"} if named else {}), bus=bus, host_generation=GENERATIONS.get(f"N{named}", any_of), tied_to=r.choice(("", "", "Corvane", "Other")), standard="ax",
        streams=r.choice((1, 2, 3)), channel_mhz=80, bands=r.choice((("2.4", "5"), ("2.4", "5", "6"))),
        bluetooth=r.choice(("", "5.2")), plug=r.choice(("MHF1", "MHF4")),
    )  # fmt: skip


def cellular(r: random.Random) -> Cellular:
    return Cellular(
        **card(r, (("B",),), (42, 52)),
        bus=r.choice(("usb", "pcie")),
        antennas=r.choice((1, 2, 4)),
        plug=r.choice(("MHF1", "MHF4")),
    )


def bay_drive(r: random.Random) -> BayDrive:
    height = r.choice((5000, 7000, 7000, 9500))
    return BayDrive(
        number=f"B{r.random()}", name="bay drive", capacity_gb=r.choice((500, 2000)), read_mb_s=r.choice((120, 550)),
        height_um=height, generation=r.choice((2, 3)), edge_connector=height == 5000 and r.random() < 0.5,
    )  # fmt: skip


#: Packs by number: nominal mV, and what they are charged to where one group alone prints that voltage.
PACKS = {
    "P0": (7400, 8400), "P1": (7600, 8700), "P2": (7680, 8800), "P3": (11100, 12600), "P4": (11250, 13050),
    "P5": (11400, 13050), "P6": (11460, None), "P7": (11520, 13200), "P8": (15200, 17400), "P9": (15440, 17600),
}  # fmt: skip


def battery(r: random.Random) -> Pack:
    axiom("a number is one pack")
    axiom("charged as its group")
    number = r.choice(tuple(PACKS))
    nominal, charged = PACKS[number]
    return Pack(
        number=number, name="pack", design_mwh=45000, voltage_mv=nominal, charge_mv=charged if r.random() < 0.5 else None,
        connector=r.choice(("6-way", "8-way")), safety_mark=r.random() < 0.9, fills_bay=r.random() < 0.3,
    )  # fmt: skip


def part_for(r: random.Random, kind: str, generation: int) -> Fittable:
    makers = {"m2_drive": drive, "radio": radio, "cellular": cellular, "bay": bay_drive, "battery": battery}
    return module(r, generation) if kind == "memory" else makers[kind](r)


# -- machines -----------------------------------------------------------------------------------------
def subset(r: random.Random, of: tuple[Any, ...], least: int = 0) -> list[Any]:
    return sorted(r.sample(of, r.randint(least, len(of))))


def socket(r: random.Random, keys: str) -> dict[str, Any]:
    key = r.choice(keys)
    posts = subset(r, (30, 42, 60, 80), 1)
    axiom("bus carries")
    lanes = r.choice([n for n in (0, 1, 2, 4) if n <= m2.KEY_LANES[key]])
    height, under = r.choice(tuple(m2.SOCKET_BELOW_UM)), r.choice(("bare", "parts"))
    axiom("bare board")
    room = m2.SOCKET_BELOW_UM[height]
    return {
        "key": key, "width_mm": r.choice((22, 22, 30)), "standoffs_mm": said(posts),
        "fixed_posts_mm": said([p for p in posts if r.random() < 0.1]), "bracket_mm": said(subset(r, (30, 42))),
        "socket_height": height, "board_below": under, "clearance_below_um": room if under == "bare" else r.randint(0, room),
        "clearance_above_um": r.choice((1100, 1350, 1500, 3000)), "pcie_lanes": lanes, "pcie_generation": r.choice((1, 2, 3, 4)),
        "card_policy": r.choice(("any", "any", "listed")), "listed_cards": said([f"F-{n}" for n in range(3) if r.random() < 0.5]),
    }  # fmt: skip


def machine(r: random.Random) -> Configured:
    """A complete machine: every attribute known."""
    generation = r.choice((3, 4, 4, 5))
    sockets = r.choice((1, 1, 2, 2, 4))
    limit = r.choice(SIZES[generation])
    axiom("like sockets")
    axiom("even share")
    soldered = r.choice((0, 0, 4, 8))
    top = r.choice(ddr.GRADES[generation])
    axiom("fewer is no slower")
    slower = [g for g in ddr.GRADES[generation] if g <= top]
    by = dict(zip((4, 3, 2, 1), sorted(r.choice(slower) for _ in range(4)), strict=True))
    least = min(
        int(d) for k in ddr.SODIMM_RANKS for w in ddr.SODIMM_WIDTHS
        if (d := ddr.density_gbit(limit, k, w)) in ddr.DENSITIES[generation]
    )  # fmt: skip
    axiom("density brings")
    densities = sorted({least, *r.sample(ddr.DENSITIES[generation], 1)})
    slots: list[dict[str, Any]] = [
        {
            "kind": "memory", "id": f"memory-{n}", "name": f"Memory {n}", "generation": generation, "channel": "AB"[n % 2],
            "limit_gb": limit, "room_above_um": r.choice((0, 1000, 3000)),
        }
        for n in range(sockets)
    ]  # fmt: skip
    for n in range(r.choice((1, 2))):
        slots.append({
            "kind": "m2_drive", "id": f"drive-{n}", "name": f"Drive {n}", **socket(r, "BMM"), "sata": r.choice((0, 2, 3)),
            "pad_below": r.choice(("none", "none", "removable", "stays")), "cooled": r.choice(("none", "above", "below", "both")),
            "pad": r.choice(("present", "missing")), "pad_gap_um": r.choice((800, 1000)), "drive_limit_gb": {"value": 10**8, "source": "controller"},
        })  # fmt: skip
    cnvi = subset(r, ("N1", "N2", "N3")) if r.random() < 0.5 else []
    slots.append({
        "kind": "radio", "id": "radio", "name": "Wi-Fi card", **socket(r, "AE"), "usb": r.random() < 0.7, "leads": r.choice((0, 1, 2, 2, 3)),
        "plug": r.choice(("MHF1", "MHF4")), "antenna_bands": subset(r, ("2.4", "5", "6"), 1), "cnvi": said(cnvi), "cnvi_wired": bool(cnvi),
        "host_generation": max([r.choice((1, 2, 3)), *(GENERATIONS[n] for n in cnvi)]),
    })  # fmt: skip
    slots.append({
        "kind": "cellular", "id": "cellular", "name": "Cellular", **socket(r, "B"), "usb": r.random() < 0.7, "leads": r.choice((0, 2, 4)),
        "plug": r.choice(("MHF1", "MHF4")), "sim_tray": r.choice(("present", "missing")),
    })  # fmt: skip
    slots.append({
        "kind": "bay", "id": "bay", "name": "Bay", "height_um": r.choice((7000, 9500)), "sata": r.choice((2, 3)),
        "drive_limit_gb": {"value": 10**8, "source": "controller"}, "spacer": r.choice(("present", "missing", "not_needed")),
        **{n: r.choice(("present", "present", "missing")) for n in ("caddy", "ribbon", "screws")},
    })  # fmt: skip
    nominal, charged = r.choice(tuple(PACKS.values()))
    slots.append({
        "kind": "battery", "id": "battery", "name": "Battery", "accepts": subset(r, tuple(PACKS), 1),
        "voltage_mv": nominal, "charge_mv": charged if r.random() < 0.5 else None, "connector": r.choice(("6-way", "8-way")), "held_by": "screws",
    })  # fmt: skip
    exclusions = []
    if r.random() < 0.5:
        effect = r.choice(("none", "off", "filled", "x1", "x2"))
        exclusions.append(
            {
                "when": "drive-0",
                "holds": r.choice(("anything", "sata", "pcie")),
                "on": r.choice(("bay", slots[-5]["id"])),
                "effect": effect,
            }
        )
    if exclusions and exclusions[0]["on"] == "drive-0":
        exclusions = []
    mode = r.choice(("plain", "plain", "raid"))
    whole = {
        "format": "insertum-machine/2", "id": "random", "maker": "Veyra", "name": "Random", "width_mm": 300, "depth_mm": 200,
        "memory": {
            "soldered": [{"capacity_gb": soldered, "rated_mts": r.choice(ddr.GRADES[generation]), "channel": "A"}] if soldered else [],
            "total_limit_gb": soldered + sockets * limit, "speed_mts": top, "speed_by_modules": by if r.random() < 0.5 else {},
            "density_gbit": [said(d) for d in densities], "module_types": r.choice((["S"], ["S", "T"])),
            "voltage_mv": {3: r.choice((1350, 1500)), 4: 1200, 5: 1100}[generation], "applies_profiles": False,
            "clock_drivers": r.random() < 0.5, "graphics_shares": True,
        },
        "boot": {
            "starts_nvme": r.random() < 0.7, "storage_mode": mode, "storage_mode_fixed": r.random() < 0.3,
            "mode_driver": mode == "plain" or r.random() < 0.5, "style": r.choice(("uefi", "uefi", "legacy")), "partitioning": r.choice(("gpt", "mbr")),
        },
        "slots": [{"place": PLACE, **s} for s in slots], "exclusions": exclusions, "boot_slot": "drive-0",
        "configurations": [{"id": "only", "name": "Random", "year": 2024, "processor": r.choice(("Corvane Rill 300", "Other 5"))}],
    }  # fmt: skip
    return Machine.model_validate(whole).configured("only")


@dataclass
class Sample:
    """One machine with all that is true of it and with some of it hidden, and what is in it."""

    truth: Build
    hidden: Build
    machine: Configured
    less: Configured


def fitted(r: random.Random, laid: Configured, generation: int, tries: int = 6) -> dict[str, Fittable | None]:
    """Contents that run there: what the rules on complete facts call usable, put in one by one."""
    axiom("what runs fits")
    axiom("makers fit")
    axiom("notch")
    axiom("works as wired")
    axiom("what runs is accepted")
    axiom("interface without end")
    held: dict[str, Fittable | None] = dict.fromkeys([s.id for s in laid.slots])
    for s in laid.slots:
        for _ in range(tries if r.random() < 0.7 else 0):
            candidate = part_for(r, s.kind, generation)
            found = judge(build_today(laid, held), s.id, candidate)
            axiom("wired in full")
            whole = not any(f.rule == "radio.bluetooth" and f.verdict is not Verdict.SEATS for f in found.findings)
            axiom("what boots is seen")
            sees = laid.boot.mode_driver.claims[0].value or s.id != laid.machine.boot_slot
            if found.verdict is not None and found.verdict.usable and whole and sees:
                held[s.id] = candidate
                break
    return held


def hide(r: random.Random, laid: Configured, share: float) -> Configured:
    """The machine with attributes hidden, each with all its claims."""

    def less(model: Any) -> Any:
        gone = {
            n: type(getattr(model, n))(())
            for n in attributes_of(type(model))
            if isinstance(getattr(model, n), Fact) and r.random() < share
        }
        if by := getattr(model, "speed_by_modules", None):
            gone["speed_by_modules"] = {n: Fact[int](()) if r.random() < share else f for n, f in by.items()}
        if chips := getattr(model, "soldered", ()):
            unread = {n: None for n in ("rated_mts", "channel") if r.random() < share}
            gone["soldered"] = tuple(c.model_copy(update=unread) for c in chips)
        return model.model_copy(update=gone)

    def weaker(model: Any) -> Any:
        """Some of what is left is told as a bound, or as one of several; a list by the processor, as the most there is."""
        told: dict[str, Any] = {}
        for n, words in attributes_of(type(model)).items():
            fact = getattr(model, n)
            if not isinstance(fact, Fact) or len(fact.claims) != 1 or r.random() > share / 3:
                continue
            claim = fact.claims[0]
            number = isinstance(claim.value, int) and not isinstance(claim.value, bool)
            if n == "cnvi":
                more = {"value": (*claim.value, "N4"), "source": "controller"}
            elif number and n not in CAPS and n != "density_gbit":
                more = {"value": max(claim.value + r.choice((0, 0, 1)), 0), "bound": "at_most"}
                if r.random() < 0.5:
                    more = {"value": max(claim.value - r.choice((0, 0, 1)), 0), "bound": "at_least"}
            elif words.kind == "choice":
                more = {"value": r.choice(words.values), "alternatives": (claim.value,)}
            else:
                continue
            told[n] = type(fact).model_validate([claim.model_dump() | more])
        return model.model_copy(update=told)

    laid = laid.model_copy(update={"slots": tuple(weaker(s) for s in laid.slots), "boot": weaker(laid.boot)})
    machine = laid.machine.model_copy(update={"exclusions": tuple(less(e) for e in laid.machine.exclusions)})
    return laid.model_copy(
        update={
            "machine": machine, "slots": tuple(less(s) for s in laid.slots), "memory": less(laid.memory), "boot": less(laid.boot),
            "configuration": laid.configuration.model_copy(update={"processor": ""}) if r.random() < share / 2 else laid.configuration,
        }
    )  # fmt: skip


def bare(r: random.Random, part: Fittable, share: float) -> Fittable:
    """The part with attributes left out."""
    gone = {n: None for n in attributes_of(type(part)) if n not in ("generation",) and r.random() < share}
    if isinstance(part, M2Drive | BayDrive) and r.random() < share:
        gone["generation"] = None
    return part.model_copy(update=gone)


def sample(r: random.Random) -> Sample:
    laid = machine(r)
    generation = laid.slots[0].generation.claims[0].value  # type: ignore[union-attr]
    delivered = fitted(r, laid, generation)
    with_fit = laid.model_copy(
        update={
            "slots": tuple(
                s.model_copy(update={"fitted": delivered[s.id], "looked": r.random() < 0.8}) for s in laid.slots
            )
        }
    )
    today = delivered if r.random() < 0.5 else fitted(r, laid, generation)
    share = r.choice((0.1, 0.3, 0.6, 0.9))
    less = hide(r, with_fit, share)
    unseen = [s.id for s in laid.slots if r.random() < share / 3]
    grades: dict[str, list[Grade]] = {}
    signs: dict[str, Signs] = {}
    for s in laid.slots:
        grades[s.id] = [g for g in (Grade.WORKS, Grade.SEEN) if r.random() < 0.6]
        part = today[s.id]
        if s.kind == "bay" and part is not None and Grade.SEEN in grades[s.id]:
            # A drive that was looked at in its caddy: only then do caddy, screws and spacer show.
            loose = {n: next(c.value for c in getattr(s, n).claims) for n in ("caddy", "screws", "spacer")}
            if "missing" in loose.values():
                grades[s.id].remove(Grade.SEEN)
        if s.kind == "radio" and isinstance(part, Radio):
            leads = next(c.value for c in s.leads.claims)  # type: ignore[union-attr]
            signs[s.id] = Signs(
                bluetooth=bool(part.bluetooth and (part.bus == "cnvi" or s.usb.claims[0].value)),  # type: ignore[union-attr]
                chains_dbm=tuple(-50 - 3 * n for n in range(min(leads, part.streams or 1))),
            )
        if Grade.SEEN in grades[s.id] and isinstance(part, M2Drive | Radio | Cellular) and r.random() < 0.7:
            counted = next(c.value for c in s.leads.claims) if s.kind in ("radio", "cellular") else None  # type: ignore[union-attr]
            beneath = s.pad_below.claims[0].value if s.kind == "m2_drive" else "none"  # type: ignore[union-attr]
            signs[s.id] = replace(
                signs.get(s.id, Signs()), lies_flat=beneath != "stays" and r.random() < 0.7, leads=counted
            )
        if isinstance(part, M2Drive) and part.interface == "pcie" and s.kind == "m2_drive":
            wired = Link(generation=s.pcie_generation.claims[0].value, lanes=s.pcie_lanes.claims[0].value)
            own = part.link
            assert own is not None
            signs[s.id] = replace(signs.get(s.id, Signs()), running=own.with_other(wired), port=wired)
    truth = build_today(with_fit, today, Limits.PROVEN)
    # What sits in the machine is often known by its number alone: its own attributes are hidden too.
    dark = r.choice((0.0, 0.0, 0.3, 0.6))
    hidden = build_today(
        less,
        {s: bare(r, p, dark) if p else None for s, p in today.items() if s not in unseen},
        Limits.PROVEN,
        unknown=unseen,
        grades=grades,
        signs=signs,
    )
    return Sample(truth, hidden, with_fit, less)


ALLOWED = {
    Verdict.SEATS: {Verdict.SEATS},
    Verdict.HELD_BACK: {Verdict.SEATS, Verdict.HELD_BACK},
    Verdict.MEASURE_FIRST: set(Verdict),
    Verdict.REFUSED: {Verdict.REFUSED, Verdict.HARM},
    Verdict.HARM: {Verdict.HARM},
}


def unsound(s: Sample, r: random.Random) -> list[str]:
    """What is said of the hidden machine and is not so of the true one."""
    found = []
    generation = s.machine.slots[0].generation.claims[0].value  # type: ignore[union-attr]
    for slot in s.machine.slots:
        part = part_for(r, slot.kind, generation if r.random() < 0.9 else r.choice((3, 4, 5)))
        if r.random() < 0.4 and (now := s.truth.now(slot.id)) is not None:
            part = now
        for _ in range(8 if r.random() < 0.6 else 0):  # a part that goes in tells more than one that never would
            if judge(s.truth, slot.id, part).verdict.usable:  # type: ignore[union-attr]
                break
            part = part_for(r, slot.kind, generation)
        less = bare(r, part, r.choice((0.0, 0.0, 0.3)))
        part_said, whole = judge(s.hidden, slot.id, less), judge(s.truth, slot.id, part)
        assert part_said.verdict is not None
        if whole.verdict not in ALLOWED[part_said.verdict]:
            found.append(
                f"{slot.id}: {part_said.verdict} ({part_said.short}) though truly {whole.verdict} "
                f"({[f.says for f in whole.findings if f.verdict is whole.verdict][:2]}) for {less!r}"
            )
    return found


def outside(s: Sample) -> list[str]:
    """Attributes whose true value is not in the domain that is left of them."""
    from insertum.core.known.domain import allows

    found = []
    for place, shape in [*((x.id, x) for x in s.machine.slots), ("memory", s.machine.memory), ("boot", s.machine.boot)]:
        for name in attributes_of(type(shape)):
            fact = getattr(shape, name)
            if not fact.claims:
                continue
            true = fact.claims[0].value
            if name in CAPS:
                caps = s.hidden.known.caps(place, name)
                if not caps[0].most <= true <= caps[-1].most and name != "drive_limit_gb":
                    found.append(f"{place}.{name}: {true} is not in {caps}")
            elif name == "density_gbit":
                extra = s.hidden.known.densities.sure - brought(c.value for c in fact.claims)
                if extra:
                    found.append(f"densities {extra} are said to run and do not")
            elif name == "voltage_mv" and place == "battery":
                left = s.hidden.known.domain(place, name)
                if not any(pack.alike(v, true) for v in left.values):  # one of each group stands for its group
                    found.append(f"{place}.{name}: {true} is like none of {left}")
            elif not allows(s.hidden.known.domain(place, name), true):
                found.append(
                    f"{place}.{name}: {true} is not in {s.hidden.known.domain(place, name)}: {s.hidden.known.explain(place, name).steps}"
                )
    return found
