"""Edits of testers, switching order and the way to the settings, as they are sent."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Field

from core.edits.commission import (
    with_columns,
    with_current_test,
    with_hand_setting,
    with_instrument,
    with_sequence,
    without_instrument,
)
from core.job.job import Job
from core.job.testers import ColumnMap, CurrentTest, Instrument
from server.jobs.typed import Edit, Entered, typed_value


class ColumnIn(Edit):
    """One column of a tester's file; ours empty: left out."""

    theirs: Entered
    ours: Entered
    unit: Entered


class PutInstrument(Edit):
    """A tester, as typed; `was` names the one that it renews. Dates as 2026-05-14, or empty.

    columns: what its files' columns are, where that is known from another job.
    """

    do: Literal["put_instrument"]
    was: Entered | None
    name: Entered
    serial: Entered
    calibrated_on: Entered
    due_on: Entered
    columns: Annotated[list[ColumnIn], Field(max_length=60)] = []


class RemoveInstrument(Edit):
    """A tester without readings out of the list."""

    do: Literal["remove_instrument"]
    name: Entered


class MapColumns(Edit):
    """What the columns of a tester's files are."""

    do: Literal["map_columns"]
    instrument: Entered
    columns: Annotated[list[ColumnIn], Field(max_length=60)]


class ChooseCurrent(Edit):
    """Which current is measured in each string."""

    do: Literal["choose_current"]
    current: CurrentTest


class ChooseSequence(Edit):
    """The order in which the job is switched on; None: the one its plan leads to."""

    do: Literal["choose_sequence"]
    sequence: Entered | None


class SetByHand(Edit):
    """Whether the settings are made on the inverter's own display."""

    do: Literal["set_by_hand"]
    by_hand: bool


CommissionEdit = (
    PutInstrument | RemoveInstrument | MapColumns | ChooseCurrent | ChooseSequence | SetByHand
)


def commissioned(job: Job, edit: CommissionEdit) -> Job:
    """The job with an edit of its commissioning made. Raises Refused."""
    match edit:
        case PutInstrument():
            columns = tuple(ColumnMap(**one.dict()) for one in edit.columns)
            instrument = typed_value(Instrument, edit, columns=columns)
            return with_instrument(job, edit.was, instrument)
        case RemoveInstrument():
            return without_instrument(job, edit.name)
        case MapColumns():
            columns = tuple(ColumnMap(**one.dict()) for one in edit.columns)
            return with_columns(job, edit.instrument, columns)
        case ChooseCurrent():
            return with_current_test(job, edit.current)
        case ChooseSequence():
            return with_sequence(job, edit.sequence)
        case SetByHand():
            return with_hand_setting(job, by_hand=edit.by_hand)
