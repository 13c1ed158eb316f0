"""The readings of a job, found by what they are of and when they were taken."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime, timedelta
from itertools import chain
from typing import NamedTuple

from core.assessment.common import RecordedReading
from core.assessment.whole import MetCorrection, PastReading, Prompt
from core.base.judgement import Judgement, holds, waiting, worst
from core.base.messages import figure, say
from core.base.trace import kept_ready
from core.job.fingerprints import past_ids
from core.job.job import Job
from core.job.reading_kinds import KINDS, ReadingKind
from core.job.reading_values import BEYOND, Answer, Measured, Said
from core.job.readings import Reading, superseded_ids
from core.rules.dc.diagnosis import Cause


class Kept(NamedTuple):
    """Readings as they were kept. past: identities of those of what is no longer there."""

    readings: tuple[Reading, ...]
    past: frozenset[str] = frozenset()


def kept_of(job: Job) -> Kept:
    """All readings of a job, with which of them are past."""
    return Kept(job.readings, past_ids(job))


class Readings:
    """Readings by kind and subject; corrections take the place of what they correct, and what was
    read of another part than stands there now counts no more."""

    def __init__(self, kept: Kept) -> None:
        readings, self._past = kept
        self._by: dict[tuple[ReadingKind, str], list[Reading]] = defaultdict(list)
        for reading in readings:
            self._by[reading.kind, reading.subject].append(reading)
        self._superseded = superseded_ids(readings)
        self._latest: dict[tuple[ReadingKind, str], Reading] = {}
        for reading in readings:
            if reading.id not in self._superseded and reading.id not in self._past:
                known = self._latest.setdefault((reading.kind, reading.subject), reading)
                # Of two taken at one moment the one kept later counts.
                if reading.taken_at >= known.taken_at:
                    self._latest[reading.kind, reading.subject] = reading
        self._met = {key: one for key, one in self._latest.items() if one.unseen}
        for key in self._met:
            del self._latest[key]
        self._corrected_by = {r.supersedes: r.id for r in readings if r.supersedes}

    def latest(self, kind: ReadingKind, subject: str) -> Reading | None:
        """The last taken of the readings that still count."""
        return self._latest.get((kind, subject))

    def counting(self, kind: ReadingKind, subject: str) -> tuple[Reading, ...]:
        """Every reading of a thing that no later one corrects; none while one is to be chosen."""
        if (kind, subject) in self._met:
            return ()
        return tuple(
            one
            for one in self._by.get((kind, subject), ())
            if one.id not in self._superseded and one.id not in self._past and not one.unseen
        )

    def met(self, kind: ReadingKind, subject: str) -> tuple[Reading, ...]:
        """Two people's corrections of one reading, of which one is to be chosen."""
        last = self._met.get((kind, subject))
        if last is None:
            return ()
        other = next(one for one in self._by[kind, subject] if one.id == last.supersedes)
        return (other, last)

    def nearest(
        self, kind: ReadingKind, subject: str, at: datetime | None, within: timedelta
    ) -> Reading | None:
        """The reading taken nearest to a moment and not further from it than `within`.

        Without a moment, the latest.
        """
        if at is None:
            return self.latest(kind, subject)
        near = [one for one in self.counting(kind, subject) if abs(one.taken_at - at) <= within]
        return min(near, key=lambda r: abs(r.taken_at - at), default=None)

    def history(self, kind: ReadingKind, subject: str) -> tuple[RecordedReading, ...]:
        """Every reading of a thing in the order in which it was kept, superseded ones too."""
        return tuple(
            kept(reading, self._corrected_by.get(reading.id), is_past=reading.id in self._past)
            for reading in self._by.get((kind, subject), ())
        )

    def of_kinds(self, kinds: frozenset[ReadingKind]) -> Kept:
        """Every reading of some kinds, superseded and past ones too."""
        found = tuple(
            one for (kind, _), group in self._by.items() if kind in kinds for one in group
        )
        past = self._past and self._past.intersection(one.id for one in found)
        return Kept(found, past)

    def past(self, asked: frozenset[str]) -> tuple[PastReading, ...]:
        """Every reading of what is no longer asked for: kept, and still to be seen."""
        return tuple(
            PastReading(title=say("asks", kind, subject=subject), reading=one)
            for kind, subject in self._by
            if prompt_key(kind, subject) not in asked
            for one in self.history(kind, subject)
        )


def prompt_key(kind: ReadingKind, subject: str) -> str:
    """Kind and subject of a reading in one word."""
    return f"{kind}/{subject}"


# Readings never change: each is made ready for the user once.
KEPT_READY = 16_384


@kept_ready(KEPT_READY)
def kept(reading: Reading, superseded_by: str | None, *, is_past: bool = False) -> RecordedReading:
    """A reading as the user sees it."""
    return RecordedReading(
        id=reading.id,
        value=reading.value.number if isinstance(reading.value, Measured) else None,
        text=shown_text(reading),
        basis=reading.basis,
        taken_at=reading.taken_at,
        kept_at=reading.kept_at,
        by=reading.by,
        instrument=reading.instrument,
        note=reading.note,
        supersedes=reading.supersedes,
        superseded_by=superseded_by,
        is_past=is_past,
        retest=reading.retest,
        learner=reading.learner,
    )


def shown_text(reading: Reading) -> str:
    """A reading as it is shown: its text, its figure, or that it was beyond the tester's range."""
    match reading.value:
        case Said():
            return reading.value.text
        case Answer():
            return say(reading.kind, str(reading.sign))
        case Measured():
            beyond = BEYOND if reading.value.beyond else ""
            return f"{beyond}{number_text(reading.kind, reading.value.number)}"


def typed_text(reading: Reading) -> str:
    """A reading as it is typed to be read the same."""
    match reading.value:
        case Said():
            return reading.value.text
        case Answer():
            return str(reading.sign)
        case Measured():
            return f"{BEYOND if reading.value.beyond else ''}{reading.value.number!r}"


def number_text(kind: ReadingKind, number: float) -> str:
    """A figure of this kind with its unit."""
    spec = KINDS[kind]
    if spec.of == "anything":
        return say(kind, "text", count=figure(number, digits=2))
    return figure(number, spec.unit, spec.digits)


CORRECTION_SOURCE = "IEC 62446-1:2016, 5.4: a record that another can trust"


def _correction(
    history: tuple[RecordedReading, ...],
    latest: Reading | None,
    expected: tuple[float, float] | None,
) -> tuple[Judgement, ...]:
    """What is said of a good value over a bad one that nobody gave a reason for."""
    if latest is None or latest.supersedes is None or latest.retest or latest.note.strip():
        return ()
    was = next((one for one in history if one.id == latest.supersedes), None)
    if was is None or not _was_bad(was, latest, expected):
        return ()
    return (holds("correction_said", False, CORRECTION_SOURCE, bad="watch", was=was.text),)


def _chosen(met: tuple[Reading, ...]) -> tuple[Judgement, ...]:
    """Two people corrected one reading, neither knowing of the other: neither counts by itself."""
    if not met:
        return ()
    said = " · ".join(f"{shown_text(one)} ({one.by})" for one in met)
    return (waiting("one_chosen", "", CORRECTION_SOURCE, (say("needs", "choice", said=said),)),)


def _choices(met: tuple[Reading, ...]) -> tuple[MetCorrection, ...]:
    last = met[-1:]
    return tuple(
        MetCorrection(reading=kept(one, None), entered=typed_text(one), supersedes=last[0].id)
        for one in met
    )


def _countersign(latest: Reading | None) -> tuple[Judgement, ...]:
    """What a learner measured waits for somebody who answers for it; a tick of theirs counts."""
    if latest is None or not latest.learner or not isinstance(latest.value, Measured):
        return ()
    needs = (say("needs", "countersign", by=latest.by),)
    return (waiting("countersigned", "", CORRECTION_SOURCE, needs),)


def _was_bad(was: RecordedReading, latest: Reading, expected: tuple[float, float] | None) -> bool:
    """Whether what was corrected was the bad answer, or lay outside what was expected."""
    if KINDS[latest.kind].form == "answer":
        return latest.is_good and was.text == say(latest.kind, "-1")
    if was.value is None or expected is None:
        return False
    low, high = expected
    return low <= latest.number <= high and not low <= was.value <= high


def prompt(
    readings: Readings,
    stage: int,
    kind: ReadingKind,
    subject: str,
    judgements: tuple[Judgement, ...],
    *,
    shown_subject: str | None = None,
    unit: str | None = None,
    expected: tuple[float, float] | None = None,
    expected_text: str = "",
    expected_because: str = "",
    causes: tuple[Cause, ...] = (),
    optional: bool | None = None,
    also_at: tuple[int, ...] = (),
    caution: str | None = None,
) -> Prompt:
    """One thing to read, with everything that is known of it so far."""
    latest = readings.latest(kind, subject)
    history = readings.history(kind, subject)
    fitting = [cause for cause in causes if cause.fits]
    met = readings.met(kind, subject)
    said_besides = (_correction(history, latest, expected), _countersign(latest), _chosen(met))
    judgements = (*judgements, *chain.from_iterable(said_besides))
    return Prompt(
        key=prompt_key(kind, subject),
        stage=stage,
        kind=kind,
        subject=subject,
        title=say("asks", kind, subject=shown_subject or subject),
        unit=KINDS[kind].unit if unit is None else unit,
        caution=say("ask_cautions", kind) if caution is None else caution,
        optional=KINDS[kind].optional if optional is None else optional,
        is_text=KINDS[kind].form == "said",
        may_be_beyond=KINDS[kind].ranged,
        also_at=also_at,
        expected_low=expected[0] if expected else None,
        expected_high=expected[1] if expected else None,
        expected_text=expected_text,
        expected_because=expected_because,
        verdict=worst(j.verdict for j in judgements),
        judgements=judgements,
        reading=next((k for k in history if latest and k.id == latest.id), None),
        history=history,
        choices=_choices(met),
        causes=causes,
        look_next=causes[0].look_next if causes else "",
        not_told_apart=tuple(cause.title for cause in fitting[1:]) if fitting else (),
        answers=(say(kind, "1"), say(kind, "-1")) if KINDS[kind].form == "answer" else (),
    )
