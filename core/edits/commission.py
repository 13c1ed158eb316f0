"""Changing how a job is proved, woken and set: its testers, its order, its way to the settings."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from core.base.errors import Problem, Refused, problem
from core.base.form import Checked
from core.base.quantity import Items
from core.base.units import parse_quantity
from core.edits.edit import Catalogue, Edit, Entered
from core.edits.fields import typed_value
from core.figures.grid_profiles import ProfilePoint, point_kinds, profile
from core.job.grid import LETTER, OperatorLetter
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


@dataclass(frozen=True, kw_only=True)
class LetterPoint(Checked):
    """A setting as the operator's letter has it; typed empty: it sets none."""

    id: Entered
    entered: Entered


@dataclass(frozen=True, kw_only=True)
class PutLetter(Edit):
    """The grid profile from the operator's letter, point by point, as typed.

    based_on: the shipped profile whose points stand where none is given here; empty for a blank
    one, which then needs nominal voltage and frequency. by, licence: of who fills it in.
    """

    do: Literal["put_letter"] = "put_letter"
    operator: Entered
    reference: Entered
    dated: Entered
    by: Entered = ""
    licence: Entered = ""
    based_on: Entered = ""
    nominal_v: Entered = ""
    nominal_hz: Entered = ""
    points: Annotated[tuple[LetterPoint, ...], Items("settings", 0, 80)] = ()

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        return with_letter(job, self)


@dataclass(frozen=True, kw_only=True)
class RemoveLetter(Edit):
    """The profile of the operator's letter taken out of the plan."""

    do: Literal["remove_letter"] = "remove_letter"

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        chosen = None if job.grid.profile == LETTER else job.grid.profile
        return replace(job, grid=replace(job.grid, letter=None, profile=chosen))


def with_letter(job: Job, typed_letter: PutLetter) -> Job:
    """The job with the profile of the operator's letter, chosen. Raises Refused."""
    base_id = typed_letter.based_on.strip()
    base = profile(base_id) if base_id else None
    points = {one.id: one.value for one in base.points} if base else {}
    found: list[Problem] = []
    for index, one in enumerate(typed_letter.points):
        path = f"$.points[{index}]"
        kind = point_kinds().get(one.id)
        if kind is None:
            found.append(problem(f"{path}.id", one.id, "a known setting"))
        elif not one.entered.strip():
            points.pop(one.id, None)
        else:
            try:
                points[one.id] = parse_quantity(one.entered, kind.quantity, f"{path}.entered")
            except Refused as refused:
                found.extend(refused.problems)
    if found:
        raise Refused(found)
    nominal = {"nominal_v": base.nominal_v, "nominal_hz": base.nominal_hz} if base else {}
    ordered = tuple(ProfilePoint(id=k, value=points[k]) for k in point_kinds() if k in points)
    letter = typed_value(
        OperatorLetter, typed_letter, **nominal, based_on=base_id or None, points=ordered
    )
    return replace(job, grid=replace(job.grid, letter=letter, profile=LETTER))


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
    PutInstrument
    | RemoveInstrument
    | MapColumns
    | ChooseCurrent
    | ChooseSequence
    | SetByHand
    | PutLetter
    | RemoveLetter
)
