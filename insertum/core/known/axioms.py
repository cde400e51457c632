"""The axioms of the house: what every machine keeps to, in one list with names.

The deductions rest on them, and the generator of random machines (``tests/core/random_machines.py``) makes only
machines that keep them: it uses this list and nothing else of the deductions.
"""

from collections.abc import Iterable
from fractions import Fraction

AXIOMS: dict[str, str] = {
    "like sockets": "Like sockets of one memory system take like modules unless a claim tells the sockets apart.",
    "even share": "Of n like sockets each takes (total − soldered) ÷ n.",
    "notch": "A notch matches its key: what lies in a socket has a notch for the socket's key.",
    "makers fit": "A maker's own fit does no harm: what was delivered in a machine clears its board, case and shields.",
    "wired in full": "A maker wires what its own card uses: a delivered radio's Bluetooth has its USB.",
    "works as wired": "What works by an interface is wired for it, and the link it runs at is one its slot has.",
    "what runs fits": "A module or drive that runs is within what its socket and machine take.",
    "what runs is accepted": "A card that works is one the firmware accepts.",
    "what boots is seen": "A system that started from a drive sees drives in the storage mode that is set.",
    "bus carries": "A key carries at most the lanes the standard gives it.",
    "bare board": "Over bare board a connector leaves the room its height says.",
    "fewer is no slower": "Fewer modules never run slower than more of the same.",
    "interface without end": "The interface itself sets no limit of size that a drive on sale meets.",
    "a number is one pack": "Packs of one number have one voltage.",
    "charged as its group": "Packs of one group of nominal voltages are charged to one voltage, within 0.03 V a cell.",
    "lists none newer": "A host's list of companion radios names none that is newer than the host.",
    "density brings": "Of 1, 2, 4, 8, 16 and 32 Gbit each density brings the ones below it; 24 brings 16 and below.",
}

_ORDER = (1, 2, 4, 8, 16, 32)


def brings(density: int) -> frozenset[int]:
    """The densities a machine runs that runs this one. Not one order: 24 follows only from 24, 32 only from 32."""
    if density == 24:
        return frozenset((24, *(d for d in _ORDER if d <= 16)))
    return frozenset((density, *(d for d in _ORDER if d <= density)))


def brought(densities: Iterable[int]) -> frozenset[int]:
    """All densities these bring together."""
    return frozenset(d for one in densities for d in brings(one))


def share(total_gb: int, soldered_gb: int, sockets: int) -> Fraction:
    """What each of n like sockets takes of a total, in GB."""
    return Fraction(total_gb - soldered_gb, sockets)
