"""Changing what else feeds the house: what is there already, and what comes beside this job."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from core.edits.edit import Catalogue, Edit, Entered, known
from core.edits.feed.whole import with_feed
from core.edits.fields import typed_value
from core.job.feed import OtherSource, SourceKind
from core.job.job import Job


@dataclass(frozen=True, kw_only=True)
class PutOtherSource(Edit):
    """Something else that feeds the house, as typed; `was` names the one that it replaces."""

    do: Literal["put_other_source"] = "put_other_source"
    was: Entered | None
    name: Entered
    kind: SourceKind
    board: Entered
    breaker_a: Entered
    phase: Entered
    output_va: Entered
    comes: bool

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        others, made = job.feed.others or (), typed_value(OtherSource, self)
        if self.was is None:
            return with_others(job, (*others, made))
        known("$.was", self.was, [one.name for one in others])
        return with_others(job, tuple(made if one.name == self.was else one for one in others))


@dataclass(frozen=True, kw_only=True)
class RemoveOtherSource(Edit):
    """Something that feeds the house no longer."""

    do: Literal["remove_other_source"] = "remove_other_source"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        others = job.feed.others or ()
        known("$.name", self.name, [one.name for one in others])
        return with_others(job, tuple(one for one in others if one.name != self.name))


@dataclass(frozen=True, kw_only=True)
class NothingElseFeeds(Edit):
    """Somebody looked: nothing else feeds the house."""

    do: Literal["nothing_else_feeds"] = "nothing_else_feeds"

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_others(job, ())


def with_others(job: Job, others: tuple[OtherSource, ...]) -> Job:
    """The job beside these other sources."""
    return with_feed(job, replace(job.feed, others=others))


OtherSourceEdit = PutOtherSource | RemoveOtherSource | NothingElseFeeds
