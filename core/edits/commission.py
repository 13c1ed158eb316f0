"""Changing how a job is proved, woken and set: its testers, its order, its way to the settings."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Refused, problem
from core.base.quantity import Items
from core.edits.edit import Catalogue, Edit, Entered
from core.edits.fields import typed_value
from core.job.job import Job
from core.job.sequences import Waking
from core.job.tester_columns import KNOWN
from core.job.testers import ColumnMap, CurrentTest, Instrument
from core.planning.wake.order import fitting


@dataclass(frozen=True, kw_only=True)
class PutInstrument(Edit):
    """A tester, as typed; `was` names the one that it renews. Dates as 2026-05-14, or empty.

    columns: what its files' columns are, where that is known from another job.
    """

    do: Literal["put_instrument"] = "put_instrument"
    was: Entered | None
    name: Entered
    serial: Entered
    calibrated_on: Entered
    due_on: Entered
    columns: Annotated[tuple[ColumnMap, ...], Items("columns", 0, 60)] = ()

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_instrument(job, self.was, typed_value(Instrument, self))


@dataclass(frozen=True, kw_only=True)
class RemoveInstrument(Edit):
    """A tester without readings out of the list."""

    do: Literal["remove_instrument"] = "remove_instrument"
    name: Entered

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return without_instrument(job, self.name)


@dataclass(frozen=True, kw_only=True)
class MapColumns(Edit):
    """What the columns of a tester's files are."""

    do: Literal["map_columns"] = "map_columns"
    instrument: Entered
    columns: Annotated[tuple[ColumnMap, ...], Items("columns", 0, 60)]

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_columns(job, self.instrument, self.columns)


@dataclass(frozen=True, kw_only=True)
class ChooseCurrent(Edit):
    """Which current is measured in each string."""

    do: Literal["choose_current"] = "choose_current"
    current: CurrentTest

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_current_test(job, self.current)


@dataclass(frozen=True, kw_only=True)
class ChooseSequence(Edit):
    """The order in which the job is switched on; None: the one its plan leads to."""

    do: Literal["choose_sequence"] = "choose_sequence"
    sequence: Entered | None

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_sequence(job, self.sequence)


@dataclass(frozen=True, kw_only=True)
class SetByHand(Edit):
    """Whether the settings are made on the inverter's own display."""

    do: Literal["set_by_hand"] = "set_by_hand"
    by_hand: bool

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_hand_setting(job, by_hand=self.by_hand)


def with_instrument(job: Job, was: str | None, instrument: Instrument) -> Job:
    """The job with one more tester, or one of them (`was`) renewed; its mapping of columns stays.

    Raises Refused when its name is another's, or readings were taken under the name that goes.
    """
    known = job.testing.instruments
    old = job.testing.instrument(was) if was is not None else None
    if was is not None and old is None:
        raise Refused([problem("$.was", was, " · ".join(one.name for one in known))])
    if old is not None and old.name != instrument.name:
        _refuse_used(job, old.name, "$.name")
    columns = instrument.columns or (old.columns if old else ())
    made = replace(instrument, columns=columns)
    kept = tuple(made if one is old else one for one in known)
    return _with(job, kept if old else (*known, made))


def without_instrument(job: Job, name: str) -> Job:
    """The job without a tester. Raises Refused while readings were taken with it."""
    if job.testing.instrument(name) is None:
        known = " · ".join(one.name for one in job.testing.instruments)
        raise Refused([problem("$.name", name, known or "no tester is listed")])
    _refuse_used(job, name, "$.name")
    return _with(job, tuple(one for one in job.testing.instruments if one.name != name))


def _refuse_used(job: Job, name: str, path: str) -> None:
    if any(reading.instrument == name for reading in job.readings):
        said = f"Readings were taken with {name}: it stays as it is named."
        raise Refused([problem(path, name, "a tester without readings", said)])


def with_columns(job: Job, name: str, columns: tuple[ColumnMap, ...]) -> Job:
    """The job with what the columns of a tester's files are. Raises Refused for unknown ones."""
    instrument = job.testing.instrument(name)
    if instrument is None:
        known = " · ".join(one.name for one in job.testing.instruments)
        raise Refused([problem("$.instrument", name, known or "no tester is listed")])
    for index, column in enumerate(columns):
        if column.ours and column.ours not in KNOWN:
            raise Refused([problem(f"$.columns[{index}].ours", column.ours, " · ".join(KNOWN))])
    made = replace(instrument, columns=columns)
    return _with(job, tuple(made if one is instrument else one for one in job.testing.instruments))


def _with(job: Job, instruments: tuple[Instrument, ...]) -> Job:
    return replace(job, testing=replace(job.testing, instruments=instruments))


def with_current_test(job: Job, current: CurrentTest) -> Job:
    """The job with the other current measured; what was read of the first stays."""
    return replace(job, testing=replace(job.testing, current=current))


def with_sequence(job: Job, sequence: str | None) -> Job:
    """The job with a sequence of its own, or (None) the one its plan leads to. Raises Refused."""
    fits = fitting(job)
    if sequence is not None and sequence not in fits:
        raise Refused([problem("$.sequence", sequence, " · ".join(fits))])
    return replace(job, waking=Waking(sequence=sequence))


def with_hand_setting(job: Job, *, by_hand: bool) -> Job:
    """The job set on the inverter's own display, or over its open port."""
    return replace(job, grid=replace(job.grid, by_hand=by_hand))


CommissionEdit = (
    PutInstrument | RemoveInstrument | MapColumns | ChooseCurrent | ChooseSequence | SetByHand
)
