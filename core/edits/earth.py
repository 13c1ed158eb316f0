"""Changing the earth path: its ways, its things, its steps."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from core.base.glossary import (
    Pole,
    RoofEarth,
)
from core.edits.edit import Catalogue, Edit, Entered, known, retired
from core.edits.fields import typed_value
from core.job.earthing import Earthing, EarthLink, EarthNode, How, NodeKind
from core.job.job import Job
from core.planning.earth.path import proposed


@dataclass(frozen=True, kw_only=True)
class ProposePath(Edit):
    """An earth path made from the plan."""

    do: Literal["propose_path"] = "propose_path"

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_proposed_path(job)


@dataclass(frozen=True, kw_only=True)
class ChooseEarthing(Edit):
    """The ways of earthing."""

    do: Literal["choose_earthing"] = "choose_earthing"
    roof: RoofEarth
    array_pole: Pole
    lightning: bool

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_methods(job, self.roof, self.array_pole, lightning=self.lightning)


@dataclass(frozen=True, kw_only=True)
class PutLink(Edit):
    """A step of the earth path, as typed; `was` names the one that it replaces."""

    do: Literal["put_link"] = "put_link"
    was: Entered | None
    name: Entered
    start: Entered
    end: Entered
    how: How
    length_m: Entered
    section_mm2: Entered
    joints: Entered
    stud_mm: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_link(job, self.was, typed_value(EarthLink, self))


@dataclass(frozen=True, kw_only=True)
class RemoveLink(Edit):
    """A step out of the earth path."""

    do: Literal["remove_link"] = "remove_link"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_link(job, self.name)


@dataclass(frozen=True, kw_only=True)
class AddNode(Edit):
    """One more thing that is bonded."""

    do: Literal["add_node"] = "add_node"
    name: Entered
    kind: NodeKind

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_node(job, typed_value(EarthNode, self))


@dataclass(frozen=True, kw_only=True)
class RemoveNode(Edit):
    """A bonded thing and its steps out of the path."""

    do: Literal["remove_node"] = "remove_node"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_node(job, self.name)


def with_proposed_path(job: Job) -> Job:
    """The job with an earth path made from its plan; what was read of an older one stays."""
    return _with_earthing(job, proposed(job))


def with_methods(job: Job, roof: RoofEarth, array_pole: Pole, *, lightning: bool) -> Job:
    """The job with other ways of earthing; its path, where there is one, is made anew."""
    earthing = replace(job.earthing, roof=roof, array_pole=array_pole, lightning=lightning)
    if not earthing.nodes or (roof, lightning) == (job.earthing.roof, job.earthing.lightning):
        return replace(job, earthing=earthing)
    made = proposed(replace(job, earthing=earthing))
    kept = {link.name: link for link in earthing.links}
    links = tuple(_as_measured(link, kept.get(link.name)) for link in made.links)
    return _with_earthing(job, replace(made, links=links))


def _as_measured(link: EarthLink, was: EarthLink | None) -> EarthLink:
    """A step made anew with the length that was measured on the old one."""
    return link if was is None or was.length_m is None else replace(link, length_m=was.length_m)


def with_link(job: Job, was: str | None, link: EarthLink) -> Job:
    """The job with one more step of the path, or one of them (`was`) made anew."""
    earthing = job.earthing
    if was is None:
        return replace(job, earthing=replace(earthing, links=(*earthing.links, link)))
    known("$.was", was, [one.name for one in earthing.links], "no path is drawn yet")
    links = tuple(link if one.name == was else one for one in earthing.links)
    return _with_earthing(job, replace(earthing, links=links))


def without_link(job: Job, name: str) -> Job:
    """The job without a step of the path; what was read of it stays."""
    earthing = job.earthing
    known("$.name", name, [one.name for one in earthing.links], "no path is drawn yet")
    links = tuple(one for one in earthing.links if one.name != name)
    return _with_earthing(job, replace(earthing, links=links))


def with_node(job: Job, node: EarthNode) -> Job:
    """The job with one more thing that is bonded. Raises Refused when the name is taken."""
    nodes = (*job.earthing.nodes, node)
    return replace(job, earthing=replace(job.earthing, nodes=nodes))


def without_node(job: Job, name: str) -> Job:
    """The job without a bonded thing and the steps that led to it and from it."""
    earthing = job.earthing
    known("$.name", name, [node.name for node in earthing.nodes], "no path is drawn yet")
    nodes = tuple(node for node in earthing.nodes if node.name != name)
    links = tuple(link for link in earthing.links if name not in (link.start, link.end))
    return _with_earthing(job, replace(earthing, nodes=nodes, links=links))


def _with_earthing(job: Job, earthing: Earthing) -> Job:
    """The job with another path; names of steps that were read and are gone are kept with it."""
    gone = {link.name for link in job.earthing.links} - {link.name for link in earthing.links}
    return replace(job, earthing=earthing, retired=retired(job, frozenset(gone)))


EarthEdit = ProposePath | ChooseEarthing | PutLink | RemoveLink | AddNode | RemoveNode
