"""A job held in the hand: what the server kept, what was pressed since, and what they come to."""

from __future__ import annotations

import hashlib
import re
from dataclasses import dataclass, replace
from datetime import datetime

from core.assess import ask_of, assess
from core.assessment.whole import Prompt
from core.base.errors import Refused, problem
from core.base.form import as_text
from core.base.messages import say
from core.files.touches import touches
from core.hand.meeting import Met, meetings
from core.hand.press import Hand, Press, noted, pressed, typed, with_reading
from core.job.house import View, view
from core.job.job import KEPT_APART, KEPT_OF_HOUSE, Job
from core.job.readings import Reading
from core.shown import Shown, shown

WHOLE = re.compile(r"(?<=\d)\.0(?=[,}\]])")


def digest(made: Shown) -> str:
    """By what two places that judged the same job at the same moment compare what they found."""
    return hashlib.sha256(whole_as_whole(as_text(made)).encode()).hexdigest()


def whole_as_whole(text: str) -> str:
    """JSON text with whole numbers written alike: 1500 and 1500.0 are one value, and which of the
    two a place remembers depends on what it was asked before."""
    return WHOLE.sub("", text)


def kept_count(job: Job) -> int:
    """How much is kept of a job and of the inverters beside it: by it a change is noticed."""
    sisters = job.sisters if isinstance(job, View) else ()
    names = (*KEPT_APART, *KEPT_OF_HOUSE)
    return sum(len(getattr(one, name)) for one in (job, *sisters) for name in names)


def kept_ids(house: Job) -> frozenset[str]:
    """The identities of everything that was read of a house."""
    read = (*house.readings, *(one for station in house.stations for one in station.readings))
    return frozenset(reading.id for reading in read)


@dataclass(frozen=True, kw_only=True)
class Contest:
    """A press that meets what somebody else did meanwhile. met: where; refused: why it cannot be
    made there at all; verdicts: of the job with mine, and with theirs."""

    id: str
    met: tuple[Met, ...]
    refused: str
    mine: str
    theirs: str


@dataclass(frozen=True, kw_only=True)
class Held:
    """base: the house as the server has it, at a revision of its plan; waiting: what was pressed
    since and is not known to be there, in order."""

    base: Job
    revision: int
    of: str
    hand: Hand
    waiting: tuple[Press, ...] = ()
    house: Job

    @property
    def job(self) -> Job:
        """The inverter in the hand, with everything that was pressed."""
        return view(self.house, self.of)

    @property
    def kept_count(self) -> int:
        """How much the server keeps of it, as far as is known here."""
        return kept_count(view(self.base, self.of))

    def shown(self, at: datetime) -> Shown:
        """What the screen shows of it."""
        return shown(self.job, at)

    def pressed(self, press: Press) -> Held:
        """With one press more. Raises Refused; then it is as it was."""
        house = pressed(self.house, self.of, press, self.hand)
        return replace(self, house=house, waiting=(*self.waiting, press))

    def tried(self, press: Press) -> Prompt:
        """What would be said of a reading; nothing is kept. Raises Refused."""
        reading = noted(self.job, press, self.hand)
        job = view(with_reading(self.house, self.of, reading), self.of)
        key = f"{reading.kind}/{reading.subject}"
        found = ask_of(job, key, at=press.at)
        if found is None:
            allowed = say("hand", "asked_for")
            raise Refused([problem("$.subject", typed(press).subject, allowed)])
        return found

    def confirmed(self, press_id: str, reading: Reading | None) -> Held:
        """The first of what waits is kept by the server, a reading as it was kept there."""
        press = next((one for one in self.waiting if one.id == press_id), None)
        if press is None:
            return self
        if reading is not None and press_id in kept_ids(self.base):
            base = self.base
        elif reading is None:
            base = pressed(self.base, self.of, press, self.hand)
        else:
            base = with_reading(self.base, self.of, reading)
        revision = self.revision + 1 if press.of_plan else self.revision
        waiting = tuple(one for one in self.waiting if one.id != press_id)
        return replace(self, base=base, revision=revision).with_waiting(waiting)

    def without(self, press_id: str) -> Held:
        """Without a press that the server did not take."""
        return self.with_waiting(tuple(one for one in self.waiting if one.id != press_id))

    def with_waiting(self, waiting: tuple[Press, ...]) -> Held:
        """With these presses made on what the server has; one that cannot be made is left out."""
        house, made = self.base, []
        for press in waiting:
            try:
                house = pressed(house, self.of, press, self.hand)
            except Refused:
                continue
            made.append(press)
        return replace(self, house=house, waiting=tuple(made))

    def rebased(
        self, base: Job, revision: int, arrived: frozenset[str], at: datetime
    ) -> tuple[Held, tuple[Contest, ...]]:
        """Over a newer state of the server: what touches nothing that others changed applies there,
        the rest is contested and waits for somebody to choose. arrived: presses that are in it."""
        was = self.base
        for press in self.waiting:
            was = self._made(was, press)[0] if press.id in arrived else was
        changed_there = touches(was, base)
        mine, theirs = self.base, base
        waiting: list[Press] = []
        contests: list[Contest] = []
        for press in self.waiting:
            before, mine = mine, self._made(mine, press)[0]
            if press.id in arrived:
                continue
            made, refused = self._made(theirs, press)
            met = meetings(touches(before, mine), changed_there) if press.of_plan else ()
            if press.of_plan and (met or refused):
                ours = "" if refused else self._verdict(made, at)
                there = self._verdict(theirs, at)
                contests.append(
                    Contest(id=press.id, met=met, refused=refused, mine=ours, theirs=there)
                )
                continue
            theirs = made
            waiting.append(press)
        moved = replace(self, base=base, revision=revision, house=theirs, waiting=tuple(waiting))
        return moved, tuple(contests)

    def _made(self, house: Job, press: Press) -> tuple[Job, str]:
        """The house after a press; where it cannot be made, as it was, and why."""
        try:
            return pressed(house, self.of, press, self.hand), ""
        except Refused as error:
            return house, " ".join(one.message for one in error.problems)

    def _verdict(self, house: Job, at: datetime) -> str:
        return assess(view(house, self.of), at=at).verdict
