"""What ran while the reading was taken: its word size, its load, what it was started from."""

import re
from typing import Any

from ...core.reading import ReadLoad
from .junk import lines_of, words_of

Facts = dict[str, Any]

#: File systems a live system's root is made of.
_LIVE = ("overlay", "aufs", "squashfs", "tmpfs", "ramfs", "rootfs", "unionfs")


def read_uname(text: str) -> Facts:
    """``word_bits`` of the running system, of ``uname -a``; {} where it tells none."""
    text = text[:1000]
    if "x86_64" in text or "aarch64" in text:
        return {"word_bits": 64}
    return {"word_bits": 32} if re.search(r"\bi[3-6]86\b", text) else {}


def read_vmstat(text: str) -> Facts:
    """vmstat with an interval: the first line is the average since start and is left out."""
    names: list[str] = []
    rows: list[dict[str, int]] = []
    for line in lines_of(text):
        words = line.split()
        if "swpd" in words and "id" in words:
            names = words
        elif names and len(words) == len(names) and all(re.fullmatch(r"\d{1,12}", w) for w in words):
            rows.append(dict(zip(names, map(int, words), strict=True)))
    rows = rows[1:] or rows
    if not rows:
        return {}
    idle = [r["id"] for r in rows if r["id"] <= 100]
    paging = [r.get("si", 0) + r.get("so", 0) for r in rows]
    busy = 100 - sum(idle) // len(idle) if idle else None
    return {"load": ReadLoad(paging_kb_s=max(paging), processor_busy_percent=busy)}


def read_free(text: str) -> Facts:
    """free -m, taken at the owner's busiest: used memory and swap."""
    memory, swap = None, None
    for line in lines_of(text):
        if found := re.match(r"(Mem|Swap):\s+(\d{1,9})\s+(\d{1,9})", line):
            if found[1] == "Mem":
                memory = memory or int(found[3])
            elif swap is None:
                swap = int(found[3])
    if memory is None:
        return {}
    # A cut text without its swap tells no peak: part of it may lie there.
    peak = memory + swap if swap is not None else None
    return {"load": ReadLoad(peak_memory_mb=peak, swap_used_mb=swap)}


def read_df(text: str) -> Facts:
    """df -P -k: what the mounted file systems hold, by device; and what the root is made of."""
    held: dict[str, tuple[int, int]] = {}
    told: Facts = {}
    for line in lines_of(text):
        found = re.match(r"(\S{1,200})\s+(\d{1,15})\s+(\d{1,15})\s+\d{1,15}\s+\S{1,6}\s+(/.*)$", line)
        if not found:
            continue
        name, size, used = found[1], int(found[2]), int(found[3])
        if found[4] == "/":
            told = _root(name, name)
        if name.startswith("/dev/") and not name.startswith("/dev/loop") and used <= size:
            held[name.removeprefix("/dev/")] = (size * 1024, used * 1024)
    return told | ({"held": held} if held else {})


def read_root(text: str) -> Facts:
    """The root's line of /proc/mounts as the gather script keeps it: ``source / kind``."""
    for line in lines_of(text):
        words = line.split()
        if len(words) >= 3 and words[1] == "/":
            return _root(words[0], words[2])
    return {}


def _root(source: str, kind: str) -> Facts:
    if any(kind.startswith(k) for k in _LIVE):
        return {"live": True}
    found = re.match(r"/dev/([\w./-]{1,80})", source)
    return {"roots": [words_of(found[1])]} if found else {}
