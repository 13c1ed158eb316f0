"""The earth path as it is planned: what is bonded to what, by which conductor."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import EarthMm2, Joints, LengthM, Name, Pole, RoofEarth, StudMm
from core.base.quantity import Items

NodeKind = Literal["frames", "rails", "inverter", "units", "terminal", "electrode", "other"]
How = Literal["washer", "clamp", "wire", "core"]


@dataclass(frozen=True, kw_only=True)
class EarthNode(Checked):
    """One thing that is bonded, or that it is bonded to."""

    name: Name
    kind: NodeKind


@dataclass(frozen=True, kw_only=True)
class EarthLink(Checked):
    """One step of the path, from a thing towards the electrode.

    how: a washer or clamp bites through; a wire or a cable's core runs. joints: contacts on the
    way, both ends among them. stud_mm: the stud that a ring lug goes on.
    """

    name: Name
    start: Name
    end: Name
    how: How
    length_m: LengthM | None = None
    section_mm2: EarthMm2 | None = None
    joints: Joints = 2
    stud_mm: StudMm | None = None


@dataclass(frozen=True, kw_only=True)
class Earthing(Checked):
    """The earth path of a job. roof: how frames are bonded. lightning: the house has rods."""

    roof: RoofEarth = "washer"
    array_pole: Pole = "none"
    lightning: bool = False
    nodes: Annotated[tuple[EarthNode, ...], Items("things bonded", 0, 60)] = ()
    links: Annotated[tuple[EarthLink, ...], Items("steps of the earth path", 0, 80)] = ()

    def contradictions(self) -> Iterator[Problem]:
        names = [node.name for node in self.nodes]
        for index, link in enumerate(self.links):
            for field in ("start", "end"):
                if getattr(link, field) not in names:
                    path = f"$.links[{index}].{field}"
                    yield problem(path, getattr(link, field), " · ".join(names))
            if link.start == link.end:
                yield problem(f"$.links[{index}].end", link.end, "another thing than its start")
            if link.name in [one.name for one in self.links[:index]]:
                yield problem(f"$.links[{index}].name", link.name, "each name once")
        for index, name in enumerate(names):
            if name in names[:index]:
                yield problem(f"$.nodes[{index}].name", name, "each name once")


NOTHING_BONDED = Earthing()
