"""Drives: what they are apart from where they sit, cards and 2.5-inch ones."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from ..frozen import Frozen
from ..standards.pcie import Link
from .attribute import Attribute
from .part_base import SHEET, CardBase, PartBase


class Drive(Frozen):
    """What every drive has. ``read_mb_s`` is the maker's sequential read rating."""

    capacity_gb: int = Field(gt=0, le=1_000_000)
    read_mb_s: Annotated[
        int | None,
        Attribute(
            label="Drive's rating",
            unit="MB/s",
            low=0,
            high=100_000,
            where="seller",
            how="Its data sheet states sequential read.",
        ),
    ] = Field(None, ge=1, le=100_000)
    write_mb_s: int | None = Field(None, ge=1, le=100_000)
    tbw: int | None = Field(None, ge=0, le=1_000_000)
    spinning: bool = False


class M2Drive(CardBase, Drive):
    kind: Literal["m2_drive"] = "m2_drive"
    interface: Annotated[
        Literal["pcie", "sata", "emmc"] | None,
        Attribute(
            label="Drive's interface",
            kind="choice",
            values=("pcie", "sata"),
            where="seller",
            how="Its data sheet says SATA or PCIe (NVMe); the notches do not.",
        ),
    ] = None
    generation: Annotated[
        int | None, Attribute(label="Drive's link generation", values=(1, 2, 3, 4, 5), where="seller", how=SHEET)
    ] = Field(None, ge=1, le=5, description="PCIe or SATA generation")
    lanes: Annotated[int | None, Attribute(label="Drive's lanes", values=(1, 2, 4), where="seller", how=SHEET)] = None
    needs_cooling: Annotated[
        bool | None,
        Attribute(
            label="Needs cooling", kind="flag", where="seller", how="See its data sheet for a heat sink requirement."
        ),
    ] = None

    @property
    def link(self) -> Link | None:
        if self.interface != "pcie" or self.generation is None or self.lanes is None:
            return None
        return Link(generation=self.generation, lanes=self.lanes)


class BayDrive(PartBase, Drive):
    could_meet: ClassVar[tuple[str, ...]] = ("bay",)
    kind: Literal["bay_drive"] = "bay_drive"
    height_um: Annotated[
        int | None,
        Attribute(
            label="Drive's height",
            unit="mm",
            scale=1000,
            values=(5000, 7000, 9500, 12500, 15000),
            where="seller",
            how="Its data sheet, or a calliper: 5, 7 or 9.5 mm.",
        ),
    ] = Field(None, ge=1000, le=30_000)
    generation: Annotated[
        int | None, Attribute(label="Drive's SATA generation", values=(1, 2, 3), where="seller", how=SHEET)
    ] = Field(None, ge=1, le=3)
    edge_connector: Annotated[
        bool | None,
        Attribute(
            label="Edge connector",
            kind="flag",
            where="seller",
            how="Look at the drive's plug: an edge, or the usual SATA one.",
        ),
    ] = Field(None, description="a 5 mm drive with another connector")
