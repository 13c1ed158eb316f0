"""Changing what leaves with the job: whom the owner calls, how labels read, where things hang."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.glossary import LabelId
from core.base.quantity import Text
from core.edits.edit import Catalogue, Edit, Entered
from core.edits.fields import typed_value
from core.job.job import Job
from core.job.leave import LeavePlan, OwnLabel, Place
from core.rules.leave.labels_alike import words_of

LongEntered = Annotated[str, Text("as typed", 0, 600)]


@dataclass(frozen=True, kw_only=True)
class SetHandOver(Edit):
    """Whom the owner calls, when it is looked at again, what the owner is told besides."""

    do: Literal["set_hand_over"] = "set_hand_over"
    customer: Entered = ""
    call_name: Entered = ""
    call_number: Entered = ""
    inspection_months: Entered = ""
    label_spacing_m: Entered = ""
    owner_note: LongEntered = ""
    of_house = True

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        known = {"labels": job.leave.labels, "places": job.leave.places}
        return replace(job, leave=typed_value(LeavePlan, self, **known))


@dataclass(frozen=True, kw_only=True)
class SetPlaceWords(Edit):
    """Where something hangs, in words for labels and the owner's pages; empty takes them away."""

    do: Literal["set_place_words"] = "set_place_words"
    of: Entered
    said: Entered
    of_house = True

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        others = tuple(one for one in job.leave.places if one.of != self.of.strip())
        made = (typed_value(Place, self),) if self.said.strip() else ()
        return replace(job, leave=replace(job.leave, places=(*others, *made)))


@dataclass(frozen=True, kw_only=True)
class SetLabel(Edit):
    """A label in the crew's own words, or why there is none; all empty: as the pack has it."""

    do: Literal["set_label"] = "set_label"
    id: LabelId
    of: Entered
    text: Entered = ""
    without: Entered = ""
    distance_m: Entered = ""
    of_house = True

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        if self.text.strip() and not words_of(self.text):
            raise Refused([problem("$.text", self.text, "words that can be read")])
        key = (self.id, self.of.strip())
        others = tuple(one for one in job.leave.labels if (one.id, one.of) != key)
        said = any(one.strip() for one in (self.text, self.without, self.distance_m))
        made = (typed_value(OwnLabel, self),) if said else ()
        return replace(job, leave=replace(job.leave, labels=(*others, *made)))


LeaveEdit = SetHandOver | SetPlaceWords | SetLabel
