"""What happened at a job, as the job JSON keeps it (rules.md section 12): ticks, fates, measurements, a stop."""

from typing import Literal

from pydantic import Field

from ..frozen import Frozen


class Tick(Frozen):
    """One step done: who and when, and what it was, as the sheet said it then. Written by the server beside the tick."""

    at: str
    who: str = ""
    text: str = ""
    slot: str = ""
    slot_name: str = ""
    number: str = ""
    part: str = ""


class StepSaid(Frozen):
    """What was noted at a step: words, a number that was found on something (an id of ``machine.numbered``), and the
    serial of the piece that went in, as its code said it."""

    note: str = Field("", max_length=2000)
    number: str = Field("", max_length=80)
    serial: str = Field("", max_length=80)
    of: str = Field("part", pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=80)


Fate = Literal["returned", "shelf", "erased"]


class Gone(Frozen):
    """What became of a part that was taken out of a slot."""

    fate: Fate
    number: str = ""
    part: str = ""
    note: str = Field("", max_length=600)
    at: str = ""
    who: str = ""


Measures = Literal[
    "radio", "radio_far", "wire", "drive_read", "drive_write", "runtime", "start", "temperature", "noise"
]
#: Unit of each thing measured; noise is told in words.
MEASURED_UNITS: dict[str, str] = {
    "radio": "Mb/s", "radio_far": "Mb/s", "wire": "Mb/s", "drive_read": "MB/s", "drive_write": "MB/s", "runtime": "h", "start": "s",
    "temperature": "°C", "noise": "",
}  # fmt: skip
MEASURED_LABELS: dict[str, str] = {
    "radio": "Wi-Fi", "radio_far": "Wi-Fi, far away", "wire": "On the wire", "drive_read": "Drive, reading", "drive_write": "Drive, writing",
    "runtime": "Off mains", "start": "Start", "temperature": "Temperature", "noise": "Noise",
}  # fmt: skip
#: Where more is better; elsewhere less is, but for noise, which has no figure.
MORE_IS_BETTER = ("radio", "radio_far", "wire", "drive_read", "drive_write", "runtime")


class Measurement(Frozen):
    """One measurement with its conditions. ``when`` is before or after the work; later ones may come after closing."""

    what: Measures
    when: Literal["before", "after", "later"]
    value: float | None = Field(None, ge=0, le=1_000_000)
    words: str = Field("", max_length=300)
    place: str = Field("", max_length=120)
    ran: str = Field("", max_length=120)
    power: str = Field("", max_length=120)
    at: str = ""
    who: str = ""


class Stopped(Frozen):
    """The job was stopped: at which station, why, when, and who said so."""

    station: str
    why: str = Field(min_length=1, max_length=600)
    at: str = ""
    who: str = ""
