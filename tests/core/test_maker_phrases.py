"""Phrases of specification pages in three languages, one claim each, and phrases that look alike and claim nothing."""

import pytest

from insertum.core.maker_text.read import read_spec

SAYS = [
    # memory
    ("It has two SO-DIMM slots.", "memory.sockets", 2), ("SODIMM sockets: 4", "memory.sockets", 4),
    ("1x SO-DIMM slot (user accessible)", "memory.sockets", 1), ("Vier SO-DIMM-Steckplätze", "memory.sockets", 4),
    ("Speichersteckplätze: 2", "memory.sockets", 2), ("RAM-Steckplätze: 1", "memory.sockets", 1),
    ("deux emplacements SO-DIMM", "memory.sockets", 2), ("Emplacements mémoire : 2", "memory.sockets", 2),
    ("Mémoire : 16 Go soudés, sans emplacement", "memory.sockets", 0), ("Arbeitsspeicher: 8 GB verlötet, kein Steckplatz", "memory.sockets", 0),
    ("Memory: 8 GB soldered, not upgradeable", "memory.sockets", 0), ("Memory slots: none", "memory.sockets", 0),
    ("8 GB of memory on the board", "memory.soldered_gb", 8), ("Soldered memory: 16 GB", "memory.soldered_gb", 16),
    ("16 GB Arbeitsspeicher fest verlötet", "memory.soldered_gb", 16), ("8 Go de mémoire vive soudée", "memory.soldered_gb", 8),
    ("RAM: 4GB onboard", "memory.soldered_gb", 4), ("32 GB LPDDR5X-7500, soldered", "memory.soldered_mts", 7500),
    ("Maximum memory: 64 GB", "memory.total_limit_gb", 64), ("Memory: max. 32 GB, 2 sockets", "memory.total_limit_gb", 32),
    ("Memory is expandable to 24 GB", "memory.total_limit_gb", 24), ("Arbeitsspeicher: maximal 48 GB", "memory.total_limit_gb", 48),
    ("Arbeitsspeicher erweiterbar auf 64 GB", "memory.total_limit_gb", 64), ("Mémoire vive : 32 Go maximum", "memory.total_limit_gb", 32),
    ("Mémoire extensible à 64 Go", "memory.total_limit_gb", 64), ("La mémoire est limitée à 16 Go", "memory.total_limit_gb", 16),
    ("Each memory socket takes modules of up to 32 GB", "memory.socket_limit_gb", 32), ("Arbeitsspeicher: bis zu 16 GB pro Steckplatz", "memory.socket_limit_gb", 16),
    ("Mémoire : 32 Go maximum par emplacement", "memory.socket_limit_gb", 32), ("Memory: 16GB per slot", "memory.socket_limit_gb", 16),
    ("Memory speed: 2933 MT/s", "memory.speed_mts", 2933), ("Der Speicher läuft mit 4800 MT/s.", "memory.speed_mts", 4800),
    ("La mémoire fonctionne à 5600 MT/s.", "memory.speed_mts", 5600), ("Memory: 2 SO-DIMM sockets, DDR4-2666", "memory.speed_mts", 2666),
    ("Memory type: DDR5", "memory.generation", 5), ("Speichertyp: DDR4 (2 Steckplätze)", "memory.generation", 4),
    ("With four modules memory runs at 3600 MT/s.", "memory.speed_by_modules", "4:3600"), ("Zwei Module laufen mit 5600 MT/s.", "memory.speed_by_modules", "2:5600"),
    ("Memory: SO-DIMM without ECC", "memory.module_types", ["S"]), ("Speicher: DDR4 SO-DIMM, kein ECC", "memory.module_types", ["S"]),
    ("Memory chips of up to 16 Gbit", "memory.density_gbit", 16), ("Memory: DDR3L, 1,35 V", "memory.voltage_mv", 1350),
    # drives
    ("Drive slot: M.2 2242/2280", "drive-1.standoffs_mm", [42, 80]), ("M.2-Steckplatz für 2230 oder 2280", "drive-1.standoffs_mm", [30, 80]),
    ("Emplacement M.2 2280", "drive-1.standoffs_mm", [80]), ("M.2 slot, M key", "drive-1.key", "M"), ("M.2 slot keyed B", "drive-1.key", "B"),
    ("Emplacement M.2 2280 à clé M", "drive-1.key", "M"), ("M.2 2280 slot, PCI Express Gen 4 x4", "drive-1.pcie_generation", 4),
    ("M.2 2280 slot, PCIe Gen3x4", "drive-1.pcie_lanes", 4), ("M.2-Steckplatz (2280), PCIe 5.0 mit vier Lanes", "drive-1.pcie_lanes", 4),
    ("Emplacement M.2 2280, PCIe 4.0, quatre lignes", "drive-1.pcie_lanes", 4), ("M.2 2280 slot, SATA III", "drive-1.sata", 3),
    ("M.2 2280 slot, SATA 3 Gb/s", "drive-1.sata", 2), ("M.2 2280 slot, PCIe only", "drive-1.sata", 0), ("M.2-Steckplatz 2280, kein SATA", "drive-1.sata", 0),
    ("M.2 2242 slot, SATA only", "drive-1.pcie_lanes", 0), ("Emplacement M.2 2242, uniquement SATA", "drive-1.pcie_lanes", 0),
    ("3 M.2 slots (2280)", "m2_drive.count", 3), ("Drei M.2-Steckplätze (2280)", "m2_drive.count", 3), ("trois emplacements M.2 2280", "m2_drive.count", 3),
    ("M.2 2280 slot, drives up to 4 TB", "drive-1.drive_limit_gb", 4000), ("2.5-inch bay, 9.5 mm", "bay.height_um", 9500),
    ("2,5-Zoll-Schacht, 7 mm", "bay.height_um", 7000), ("Baie 2,5 pouces, 7 mm, SATA 6 Gb/s", "bay.sata", 3), ("No 2.5-inch bay", "bay.count", 0),
    ("kein Laufwerksschacht", "bay.count", 0), ("128 GB eMMC, soldered", "emmc.count", 1), ("mSATA: half-size mini card slot", "msata.mini_sizes", "half"),
    # radio, cellular, battery, processor
    ("Wi-Fi 7, 2x2", "radio.standard", "be"), ("WLAN: 802.11n", "radio.standard", "n"), ("Wireless: Wi-Fi 5 3x3", "radio.streams", 3),
    ("Das WLAN ist verlötet.", "radio.form", "soldered"), ("La carte Wi-Fi est soudée.", "radio.form", "soldered"), ("Wi-Fi card in an M.2 2230 slot", "radio.form", "m2"),
    ("WWAN: M.2 3052 slot, key B", "cellular.standoffs_mm", [52]), ("Mobilfunk: keine", "cellular.count", 0), ("WWAN: M.2 3042 slot, SIM tray", "cellular.sim_tray", "present"),
    ("Battery: 71.5 Wh", "battery.design_mwh", 71500), ("Akku: 50 Wh, 11,55 V", "battery.voltage_mv", 11550), ("Batterie : 45 Wh, vissée", "battery.held_by", "screws"),
    ("Der Akku ist verklebt.", "battery.held_by", "glue"), ("Battery options: 42 Wh, 63 Wh", "battery.options", [42000, 63000]),
    ("Battery: AP-WE56 (56 Wh)", "battery.accepts", "AP-WE56"), ("Processor: Corvane Rill 340, 4 cores", "processor.cores", 4),
    ("Prozessor: Corvane Beck 450 mit 8 Kernen", "processor.name", "Corvane Beck 450"),
    # the way in
    ("1. Remove the seven cross-head 0 screws and lift off the bottom cover.", "step-1.tool", "PH0"), ("1) Lösen Sie die fünf Schrauben (M2 x 5 mm) und nehmen Sie die Bodenplatte ab.", "step-1.screws", 5),
    ("1. Débranchez la batterie.", "step-1.what", "cable"), ("1. Entfernen Sie die Gummifüße.", "step-1.what", "feet"), ("1. Retirez le capot inférieur.", "step-1.what", "cover"),
]  # fmt: skip

NOTHING = [
    "Memory above 16 GB voids nothing.", "Up to 10 GB of free cloud storage.", "The memory of an elephant.", "Speicherkarten bis 512 GB (SDXC)",
    "Graphics: 8 GB GDDR6 memory", "Supports external drives up to 4 TB.", "Dock: two M.2 2280 slots", "M.2 SSD upgrade kit, 1 TB, PCIe 4.0 x4",
    "The Beck platform takes two SO-DIMMs and 96 GB.", "Ab Werk mit 16 GB DDR5-5600 bestückt.", "Livré avec 8 Go DDR4-3200 et un SSD M.2 2280 PCIe 4.0 x4.",
    "Select 8, 16 or 32 GB of memory when you order.", "Kühlung: 2 x Lüfter, 1 x Heatpipe", "Bluetooth 5.2, LTE optional", "Wi-Fi 5 or Wi-Fi 6",
    "Charger: 65 W, 20 V, 3.25 A", "The bay door is spring-loaded: 2 screws", "Key M opens the menu.", "M2.5 x 4 screws, 2280 of them in a box",
    "Some versions have a second M.2 slot.", "Je nach Modell 2 SO-DIMM-Steckplätze", "Selon le modèle, une baie 2,5 pouces de 7 mm",
    "Its predecessor ran memory at 2933 MT/s.", "USB 3.2 Gen 2 x2, Gen 4 x4 hub", "PCIe 4.0 x16 for graphics", "5G-ready design, up to 20 hours",
]  # fmt: skip


@pytest.mark.parametrize(("text", "about", "value"), SAYS)
def test_it_says_so(text: str, about: str, value: object) -> None:
    assert (about, value) in [(s.about, s.value) for s in read_spec(text).stated]


@pytest.mark.parametrize("text", NOTHING)
def test_it_says_nothing_of_this_machine(text: str) -> None:
    assert not [s.about for s in read_spec(text).stated if s.name != "named"]
