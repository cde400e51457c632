"""Small machines and parts for tests, each with every attribute known and as kind as can be.

A test changes the one thing it is about.
"""

from pathlib import Path
from typing import Any

from insertum.core.fit.build import Build
from insertum.core.machine.claim import Limits
from insertum.core.machine.drive_parts import BayDrive, M2Drive
from insertum.core.machine.part import Accessory, MemoryModule, Pack
from insertum.core.machine.part_base import Offer
from insertum.core.machine.radio_parts import Cellular, Radio
from insertum.core.machine.shape import Configured, Machine
from insertum.core.standards.m2 import KEY_LANES
from insertum.core.survey.current_build import build_today

DEMO = Path(__file__).resolve().parents[2] / "insertum" / "demo" / "data"
PLACE = {"x_mm": 10, "y_mm": 10, "w_mm": 80, "h_mm": 22}


def said(value: Any, source: str = "documented", **more: Any) -> dict[str, Any]:
    return {"value": value, "source": source, **more}


#: Slots a test asks for by name; the plain machine has none of them.
EXTRA: dict[str, dict[str, Any]] = {
    "mini": {
        "kind": "m2_drive", "name": "Mini slot", "form": "mini", "mini_sizes": ["full"], "pcie": "none", "sata": 3,
        "card_policy": "any", "drive_limit_gb": 2000, "reached_by": ["cover"],
    },
    "cellular": {
        "kind": "cellular", "name": "Cellular", "key": "B", "width_mm": 30, "standoffs_mm": [42, 52], "socket_height": "H2.8",
        "clearance_below_um": 700, "clearance_above_um": 1500, "pcie": "none", "usb": True, "leads": 2, "bracket_mm": said([]),
        "fixed_posts_mm": said([]), "board_below": "bare", "plug": "MHF4",
        "sim_tray": "present", "card_policy": "any", "listed_cards": {"value": [], "source": "documented"},
        "reached_by": ["cover"],
    },
}  # fmt: skip


def demo_machine(slug: str) -> Machine:
    return Machine.model_validate_json((DEMO / "machines" / f"{slug}.json").read_text())


def machine(slots: dict[str, dict[str, Any]] | None = None, **changes: Any) -> Configured:
    """One of each slot; ``slots`` patches them by id, ``memory_``-prefixed keywords the memory system."""
    plain: dict[str, dict[str, Any]] = {
        "memory-a": {
            "kind": "memory", "name": "Memory A", "generation": 4, "channel": "A", "limit_gb": 32, "room_above_um": 2000,
            "swap_seconds": 120, "reached_by": ["cover"],
        },
        "memory-b": {
            "kind": "memory", "name": "Memory B", "generation": 4, "channel": "B", "limit_gb": 32, "room_above_um": 2000,
            "swap_seconds": 120, "reached_by": ["cover"],
        },
        "drive-1": {
            "kind": "m2_drive", "name": "Drive 1", "key": "M", "width_mm": 22, "standoffs_mm": [42, 80], "socket_height": "H3.2",
            "clearance_below_um": 1350, "clearance_above_um": 1500, "pcie": {"generation": 3, "lanes": 4}, "sata": 3,
            "bracket_mm": said([]), "fixed_posts_mm": said([]), "board_below": "bare", "pad": "present", "pad_gap_um": 1000,
            "pad_below": "none", "cooled": "above", "card_policy": "any", "drive_limit_gb": 2000, "swap_seconds": 240,
            "reached_by": ["cover", "shield"],
        },
        "radio": {
            "kind": "radio", "name": "Wi-Fi card", "key": "E", "width_mm": 22, "standoffs_mm": [30], "socket_height": "H2.8",
            "clearance_below_um": 700, "clearance_above_um": 1500, "pcie": {"generation": 3, "lanes": 1}, "usb": True,
            "cnvi": said([]), "leads": 2, "plug": "MHF4", "antenna_bands": ["2.4", "5"], "bracket_mm": said([]), "board_below": "bare", "card_policy": "any",
            "listed_cards": said([]), "swap_seconds": 240, "reached_by": ["cover"],
        },
        "bay": {
            "kind": "bay", "name": "Bay", "height_um": 9500, "sata": 3, "drive_limit_gb": 2000, "caddy": "present",
            "ribbon": "present", "screws": "present", "spacer": "present", "swap_seconds": 300, "reached_by": ["cover"],
        },
        "battery": {
            "kind": "battery", "name": "Battery", "accepts": ["AP-45", "AP-57"], "voltage_mv": 11400, "connector": "6-way",
            "held_by": "screws", "swap_seconds": 200, "reached_by": ["cover"],
        },
    }  # fmt: skip
    for slot, patch in (slots or {}).items():
        plain[slot] = {**plain.get(slot, EXTRA.get(slot, {})), **patch}
        if isinstance(patch.get("key"), str) and "pcie" not in patch and isinstance(plain[slot].get("pcie"), dict):
            lanes = min(plain[slot]["pcie"]["lanes"], KEY_LANES[patch["key"]])  # no key carries more
            plain[slot]["pcie"] = {**plain[slot]["pcie"], "lanes": lanes}
        if patch.keys() & {"pcie_lanes", "pcie_generation"} and isinstance(
            wired := plain[slot].pop("pcie", None), dict
        ):
            plain[slot] = {f"pcie_{name}": value for name, value in wired.items()} | plain[slot]
    memory = {
        "total_limit_gb": 64, "speed_mts": 3200, "density_gbit": 16, "module_types": ["S"], "voltage_mv": 1200,
        "applies_profiles": False, "graphics_share_mb": 512, "firmware_reserve_mb": 100, "graphics_shares": True,
    }  # fmt: skip
    memory |= {k.removeprefix("memory_"): v for k, v in changes.items() if k.startswith("memory_")}
    whole = {
        "id": "test-machine",
        "maker": "Veyra",
        "name": "Test 14",
        "width_mm": 320,
        "depth_mm": 220,
        "memory": memory,
        "boot": {
            "starts_nvme": True,
            "storage_mode": "plain",
            "storage_mode_fixed": False,
            "mode_driver": False,
            "style": "uefi",
            "partitioning": "gpt",
        }
        | changes.get("boot", {}),
        "slots": [{"id": id, "place": PLACE, **slot} for id, slot in plain.items()],
        "exclusions": changes.get("exclusions", []),
        "obstacles": [
            {"id": "screws", "what": "screws", "name": "Cover screws", "tool": "PH0", "screws": 8, "seconds": 240},
            {"id": "cover", "what": "cover", "name": "Bottom cover", "after": ["screws"], "seconds": 120},
            {"id": "plug", "what": "battery", "name": "Battery plug", "after": ["cover"], "seconds": 60},
            {
                "id": "shield",
                "what": "shield",
                "name": "Drive shield",
                "after": ["cover"],
                "tool": "PH0",
                "seconds": 60,
            },
        ],
        "power_off": "plug",
        "boot_slot": changes.get("boot_slot", "drive-1"),
        "configurations": [
            {"id": "only", "name": "Test 14", "year": 2022, "processor": changes.get("processor", "Corvane Rill 300")}
        ],
    }
    return Machine.model_validate(whole).configured("only")


def build(laid: Configured | None = None, stance: Limits = Limits.PROVEN, firmware: str = "", **fitted: Any) -> Build:
    """Today's build: everything empty but what is named (``memory_a=...``)."""
    held = {slot.replace("_", "-"): part for slot, part in fitted.items()}
    return build_today(laid or machine(), held, stance, firmware)


def priced(price: int | None) -> tuple[Offer, ...]:
    return () if price is None else (Offer(shop="Quay Supply", price_minor=price, stock=3),)


def module(number: str = "M", price: int | None = 3000, **changes: Any) -> MemoryModule:
    plain: dict[str, Any] = {
        "name": number, "generation": 4, "capacity_gb": 16, "grade_mts": 3200, "ranks": 2, "chip_width": 8, "cl": 22,
        "module_type": "S", "voltage_mv": 1200, "spreader_um": 0, "clock_driver": False,
    }  # fmt: skip
    return MemoryModule.model_validate({"number": number, "offers": priced(price)} | plain | changes)


def drive(number: str = "D", price: int | None = 5000, **changes: Any) -> M2Drive:
    plain: dict[str, Any] = {
        "name": number, "width_mm": 22, "length_mm": 80, "above_um": 1500, "below_um": 0, "keys": ("M",), "capacity_gb": 1000,
        "read_mb_s": 3400, "interface": "pcie", "generation": 3, "lanes": 4, "needs_cooling": False,
    }  # fmt: skip
    return M2Drive.model_validate({"number": number, "offers": priced(price)} | plain | changes)


def radio(number: str = "R", price: int | None = 2000, **changes: Any) -> Radio:
    plain: dict[str, Any] = {
        "name": number, "width_mm": 22, "length_mm": 30, "above_um": 1200, "below_um": 0, "keys": ("A", "E"), "fru": "F-1",
        "bus": "pcie", "standard": "ax", "streams": 2, "channel_mhz": 80, "bands": ("2.4", "5"), "bluetooth": "5.2", "plug": "MHF4",
        "tied_to": "",
    }  # fmt: skip
    return Radio.model_validate({"number": number, "offers": priced(price)} | plain | changes)


def msata(number: str = "MS", price: int | None = 5000, **changes: Any) -> M2Drive:
    plain: dict[str, Any] = {
        "name": number, "form": "mini", "mini_size": "full", "capacity_gb": 500, "read_mb_s": 540, "interface": "sata",
        "generation": 3, "needs_cooling": False,
    }  # fmt: skip
    return M2Drive.model_validate({"number": number, "offers": priced(price)} | plain | changes)


def cellular(number: str = "C", price: int | None = 6000, **changes: Any) -> Cellular:
    plain: dict[str, Any] = {
        "name": number, "width_mm": 30, "length_mm": 42, "above_um": 1500, "below_um": 0, "keys": ("B",), "fru": "C-1",
        "bus": "usb", "antennas": 2, "plug": "MHF4", "generation": "4G",
    }  # fmt: skip
    return Cellular.model_validate({"number": number, "offers": priced(price)} | plain | changes)


def bay_drive(number: str = "B", price: int | None = 4000, **changes: Any) -> BayDrive:
    plain: dict[str, Any] = {
        "name": number, "capacity_gb": 1000, "read_mb_s": 550, "height_um": 9500, "generation": 3, "edge_connector": False,
    }  # fmt: skip
    return BayDrive.model_validate({"number": number, "offers": priced(price)} | plain | changes)


def pack(number: str = "AP-45", price: int | None = 4500, **changes: Any) -> Pack:
    plain: dict[str, Any] = {
        "name": number, "design_mwh": 45000, "voltage_mv": 11400, "connector": "6-way", "safety_mark": True, "fills_bay": False,
    }  # fmt: skip
    return Pack.model_validate({"number": number, "offers": priced(price)} | plain | changes)


def accessory(number: str, supplies: str, price: int = 400, **changes: Any) -> Accessory:
    return Accessory.model_validate(
        {"number": number, "name": number, "supplies": supplies, "offers": priced(price)} | changes
    )


PARTS = {"memory-a": module(), "drive-1": drive(), "radio": radio(), "bay": bay_drive(), "battery": pack()}
