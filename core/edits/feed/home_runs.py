"""Changing the ways of strings to the inverter."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from core.base.errors import Refused, problem
from core.base.glossary import (
    Laid,
    Material,
    SectionMm2,
)
from core.edits.edit import Catalogue, Edit, Entered, known
from core.edits.fields import typed, typed_value
from core.edits.strings import with_home_run
from core.job.feed import (
    HomeRun,
)
from core.job.job import Job


@dataclass(frozen=True, kw_only=True)
class SetHomeRun(Edit):
    """A string's way to the inverter, as measured."""

    do: Literal["set_home_run"] = "set_home_run"
    name: Entered
    length_m: Entered
    section_mm2: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_home_run(job, self.name, (typed_value(HomeRun, self),))


@dataclass(frozen=True, kw_only=True)
class PutHomePiece(Edit):
    """A piece of a string's home run, as typed; number None: one more."""

    do: Literal["put_home_piece"] = "put_home_piece"
    string: Entered
    number: int | None
    length_m: Entered
    section_mm2: Entered
    to: Entered
    laid: Laid
    air_c: Entered
    grouped: Entered
    material: Material
    outside_mm: Entered
    rated_v: Entered = ""

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_home_piece(job, self.string, self.number, typed_value(HomeRun, self))


@dataclass(frozen=True, kw_only=True)
class RemoveHomePiece(Edit):
    """A piece of a home run, counted from 1, out of it."""

    do: Literal["remove_home_piece"] = "remove_home_piece"
    string: Entered
    number: int

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_home_piece(job, self.string, self.number)


@dataclass(frozen=True, kw_only=True)
class SizeHome(Edit):
    """Another size in every piece of a home run."""

    do: Literal["size_home"] = "size_home"
    string: Entered
    section_mm2: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_home_size(
            job, self.string, typed(SectionMm2, self.section_mm2, "$.section_mm2")
        )


def with_home_piece(job: Job, string: str, number: int | None, piece: HomeRun) -> Job:
    """The job with one more piece of a home run at its inverter's end, or one of them anew."""
    pieces = _pieces(job, string)
    if number is None:
        return with_home_run(job, string, (*pieces, piece))
    _numbered(number, len(pieces))
    made = tuple(piece if at == number else one for at, one in enumerate(pieces, start=1))
    return with_home_run(job, string, made)


def without_home_piece(job: Job, string: str, number: int) -> Job:
    """The job without a piece of a home run."""
    pieces = _pieces(job, string)
    _numbered(number, len(pieces))
    left = tuple(one for at, one in enumerate(pieces, start=1) if at != number)
    return with_home_run(job, string, left)


def with_home_size(job: Job, string: str, section_mm2: float) -> Job:
    """The job with another size in every piece of a home run."""
    pieces = tuple(
        replace(one, section_mm2=section_mm2, outside_mm=None)
        if one.section_mm2 != section_mm2
        else one
        for one in _pieces(job, string)
    )
    return with_home_run(job, string, pieces)


def _pieces(job: Job, string: str) -> tuple[HomeRun, ...]:
    known("$.string", string, [one.name for one in job.strings])
    return next(one.home_run for one in job.strings if one.name == string)


def _numbered(number: int, count: int) -> None:
    if not 1 <= number <= count:
        allowed = f"1 to {count}" if count else "no piece is known yet"
        raise Refused([problem("$.number", number, allowed)])


HomeRunEdit = SetHomeRun | PutHomePiece | RemoveHomePiece | SizeHome
