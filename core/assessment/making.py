"""What is said of things made by hand: the steps of each, and the serials of the modules."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from core.base.judgement import Judgement, Verdict
from core.job.reading_kinds import ReadingKind


@dataclass(frozen=True, kw_only=True)
class MakingStep:
    """One step that is ticked at every piece, with what to watch for, and its two answers."""

    kind: ReadingKind
    title: str
    caution: str
    answers: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class MadePiece:
    """One piece made by hand: which of its steps are done, which not good.

    subject: by what its steps are read. of: how many steps it has. by, at: who ticked the last of
    them, and when.
    """

    subject: str
    title: str
    done: tuple[ReadingKind, ...]
    wrong: tuple[ReadingKind, ...]
    of: int
    by: str
    at: datetime | None
    verdict: Verdict


@dataclass(frozen=True, kw_only=True)
class ModuleSerial:
    """One module by its place, and its serial once that is read. id: of the reading."""

    place: str
    serial: str
    id: str


@dataclass(frozen=True, kw_only=True)
class ModuleSerials:
    """The serials of the modules. wanted: by a warranty; next: the first place without one.

    modules: none listed while nobody asks for them and none is read.
    """

    wanted: bool
    modules: tuple[ModuleSerial, ...]
    of: int
    taken: int
    next: str
    judgements: tuple[Judgement, ...]
