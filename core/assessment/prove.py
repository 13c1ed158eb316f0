"""The shape of stage 7: every test of the record, and the testers that they were made with."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from core.assessment.common import Gate
from core.base.judgement import Judgement, Verdict


@dataclass(frozen=True, kw_only=True)
class TestState:
    """One test: what is expected, what was read, with what, by whom, when, and what it means.

    key: of what is read for it. stage: the stage that asks for it. retests: readings that a later
    one superseded. judgements: of the reading, and of the tester.
    """

    key: str
    stage: int
    title: str
    expected_text: str
    read_text: str
    instrument: str
    serial: str
    due_on: date | None
    by: str
    at: datetime | None
    retests: int
    verdict: Verdict
    line: str
    judgements: tuple[Judgement, ...]


@dataclass(frozen=True, kw_only=True)
class TestGroup:
    """The tests of one string, run, device, or of the supply."""

    title: str
    verdict: Verdict
    clear: int
    tests: tuple[TestState, ...]


@dataclass(frozen=True, kw_only=True)
class InstrumentState:
    """One tester of the job: in date on the day of the job or not, what it read."""

    name: str
    serial: str
    calibrated_on: date | None
    due_on: date | None
    readings: int
    mapped: int
    judgement: Judgement


@dataclass(frozen=True, kw_only=True)
class ProveStage:
    """Stage 7: the test record after IEC 62446-1, category 1.

    note: what is not tested on this kind of job, and what stands in its place. gate: whether
    tests on live parts may begin.
    """

    gate: Gate
    groups: tuple[TestGroup, ...]
    instruments: tuple[InstrumentState, ...]
    tests: int
    clear: int
    note: str
    judgements: tuple[Judgement, ...]
