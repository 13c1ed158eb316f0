"""Edits of the earth path, as they are sent: one shape for each, one way to make them."""

from __future__ import annotations

from typing import Literal

from core.base.glossary import Pole, RoofEarth
from core.edits.earth import (
    with_link,
    with_node,
    with_proposed_path,
    with_schools,
    without_link,
    without_node,
)
from core.job.earthing import EarthLink, EarthNode, How, NodeKind
from core.job.job import Job
from server.jobs.typed import Edit, Entered, typed_value


class ProposePath(Edit):
    """An earth path made from the plan."""

    do: Literal["propose_path"]


class ChooseEarthing(Edit):
    """The ways of earthing."""

    do: Literal["choose_earthing"]
    roof: RoofEarth
    array_pole: Pole
    lightning: bool


class PutLink(Edit):
    """A step of the earth path, as typed; `was` names the one that it replaces."""

    do: Literal["put_link"]
    was: Entered | None
    name: Entered
    start: Entered
    end: Entered
    how: How
    length_m: Entered
    section_mm2: Entered
    joints: Entered
    stud_mm: Entered


class RemoveLink(Edit):
    """A step out of the earth path."""

    do: Literal["remove_link"]
    name: Entered


class AddNode(Edit):
    """One more thing that is bonded."""

    do: Literal["add_node"]
    name: Entered
    kind: NodeKind


class RemoveNode(Edit):
    """A bonded thing and its steps out of the path."""

    do: Literal["remove_node"]
    name: Entered


EarthEdit = ProposePath | ChooseEarthing | PutLink | RemoveLink | AddNode | RemoveNode


def earthed(job: Job, edit: EarthEdit) -> Job:
    """The job with an edit of its earth path made. Raises Refused."""
    match edit:
        case ProposePath():
            return with_proposed_path(job)
        case ChooseEarthing():
            return with_schools(job, edit.roof, edit.array_pole, lightning=edit.lightning)
        case PutLink():
            return with_link(job, edit.was, typed_value(EarthLink, edit))
        case RemoveLink():
            return without_link(job, edit.name)
        case AddNode():
            return with_node(job, typed_value(EarthNode, edit))
        case RemoveNode():
            return without_node(job, edit.name)
