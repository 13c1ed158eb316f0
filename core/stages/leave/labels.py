"""The labels of a job: each with its words, how it lies on its sheet, and whether it is stuck."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace

from core.assessment.leave import LabelSize, LabelState
from core.assessment.wake import WakeStage
from core.assessment.whole import Prompt, StringStage
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import say
from core.base.stage_numbers import LEAVE
from core.base.trace import kept_ready
from core.job.job import Job
from core.job.sequences import SwitchId
from core.planning.leave.label_sheets import GUTTER_MM, HEAD_MM, MARGIN_MM, fits_a4, laid
from core.planning.leave.label_text import height_mm
from core.planning.leave.labels import Known, Labelled, label_key, labelled
from core.rules.leave.labels import (
    A4_MM,
    Label,
    LabelKind,
    ReadFrom,
    label_kinds,
    label_sheets,
    letter_mm,
    plant_labels,
)
from core.rules.leave.labels_alike import (
    AlikeLabels,
    LabelSaid,
    emergency_says,
    label_fits,
    label_says,
    labels_alike,
    labels_apart,
)
from core.rules.prove.yes_no_steps import step_seen, step_waits
from core.stages.permissions.dead import switch_title
from core.stages.reading_index import Readings, prompt

LABEL_SOURCE = "device sheets and plan; check against the code in force"
READ_BESIDE = 256
LAID_OUT = 256
# Kinds of which only one is thrown, so that another may not be taken for it.
SWITCHES = ("dc_switch", "ac_isolator", "emergency")


@dataclass(frozen=True, kw_only=True)
class Labels:
    """All that is said of a job's labels."""

    states: tuple[LabelState, ...]
    sizes: tuple[LabelSize, ...]
    sheets: int
    judgements: tuple[Judgement, ...]
    asks: tuple[Prompt, ...]


def known_of(strings: StringStage | None, woken: WakeStage) -> Known:
    """What the stages know that labels tell."""
    return Known(
        string_v=tuple(_volts(strings)) if strings else (),
        off=_off(woken),
    )


def _volts(stage: StringStage) -> Iterator[tuple[str, float]]:
    """The most that each string comes to: at the coldest air, or what its optimisers may hold."""
    held = stage.optimiser.fixed_string_v if stage.optimiser else None
    for one in stage.strings:
        cold = one.volts.voc_cold_v if one.volts else None
        if cold is not None:
            yield one.name, cold
        elif held is not None:
            yield one.name, max(held, stage.window.full_power_max_v)


def _off(woken: WakeStage) -> tuple[tuple[SwitchId, str], ...]:
    """The switches of an emergency in their order, each with its words."""
    switches = (step.switch for step in woken.emergency.steps)
    return tuple((one, switch_title(one)) for one in switches if one is not None)


def labels_of(job: Job, known: Known, readings: Readings) -> Labels:
    """Every label that the job needs, whether it says enough, and whether it is stuck."""
    found = labelled(job, known)
    far = tuple(
        ReadFrom(id=one.id, distance_m=one.distance_m)
        for one in job.leave.labels
        if one.distance_m is not None and not one.of
    )
    kinds = {one.id: one for one in label_kinds(job.rule_pack)}
    made = plant_labels(plant=found.plant, reading_distance_m=far, pack=job.rule_pack)
    rows = tuple(_own_words(job, one) for one in made)
    beside = _read_beside(
        tuple(_said(kinds[one.rule], one) for one in rows if one.rule in SWITCHES)
    )
    states, asks = [], []
    for row in rows:
        state, ask = _state(job, kinds[row.rule], row, beside, readings)
        states.append(state)
        if not state.without:
            asks.append(ask)
    sheets, sizes = _laid_out(
        tuple(
            (one.width_mm, one.height_mm)
            for one in states
            if not one.without
            for _ in range(one.count)
        )
    )
    return Labels(
        states=tuple(states),
        sizes=sizes,
        sheets=sheets,
        judgements=tuple(_judged(job, found, rows, beside)),
        asks=tuple(asks),
    )


def _own_words(job: Job, label: Label) -> Label:
    own = job.leave.own_label(label.rule, label.of)
    if own is None:
        return label
    high = letter_mm(reading_distance_m=own.distance_m) if own.distance_m else label.letter_mm
    return replace(label, text=own.text.strip() or label.text, letter_mm=high)


def _said(kind: LabelKind, label: Label) -> LabelSaid:
    name = f"{kind.title}, {label.of}"
    return LabelSaid(id=name[:60], text=label.text, act=label.act, act_words=kind.act_words)


@kept_ready(READ_BESIDE)
def _read_beside(labels: tuple[LabelSaid, ...]) -> AlikeLabels:
    """Labels held beside each other: a key pressed elsewhere finds it done."""
    found: AlikeLabels = labels_alike(labels=labels)
    return found


def _state(
    job: Job, kind: LabelKind, row: Label, beside: AlikeLabels, readings: Readings
) -> tuple[LabelState, Prompt]:
    own = job.leave.own_label(row.rule, row.of)
    subject = label_key(row.rule, row.of, row.text)
    latest = readings.latest("label_stuck", subject)
    stuck = (
        step_seen(step="label_stuck", sign=latest.sign)
        if latest
        else step_waits(step="label_stuck")
    )
    name = f"{kind.title}, {row.of}"
    ask = prompt(
        readings, LEAVE, "label_stuck", subject, (stuck,), shown_subject=name,
        expected_text=row.text, expected_because=kind.where,
    )  # fmt: skip
    says = label_says(
        label=name[:60], said=name[:60] not in beside.unsaid, wants=" · ".join(kind.act_words)
    )
    without = own.without.strip() if own else ""
    high = max(kind.height_mm, height_mm(row.text, kind.width_mm, row.letter_mm))
    fits = label_fits(
        label=name[:60], height_mm=high, most_mm=A4_MM[1] - 2 * MARGIN_MM - HEAD_MM,
    )  # fmt: skip
    judged = (says, fits) if without else (says, fits, *ask.judgements)
    return (
        LabelState(
            key=ask.key,
            id=row.rule,
            title=kind.title,
            of=row.of,
            where=kind.where,
            count=row.count,
            text=row.text,
            own=bool(own and own.text.strip()),
            without=without,
            letter_mm=row.letter_mm,
            width_mm=kind.width_mm,
            height_mm=high,
            colours=kind.colours,
            outdoors=kind.outdoors,
            source=kind.source,
            stuck=bool(latest and latest.is_good),
            verdict=worst(one.verdict for one in judged),
            judgements=judged,
        ),
        ask,
    )


@kept_ready(LAID_OUT)
def _laid_out(sizes: tuple[tuple[float, float], ...]) -> tuple[int, tuple[LabelSize, ...]]:
    """On how many sheets of A4 labels lie together, and how they lie size by size, in mm."""
    placed = laid(sizes)
    alike = Counter(size for size in sizes if fits_a4(*size))
    return (
        max((one.sheet + 1 for one in placed), default=0),
        tuple(_size(wide, high, count) for (wide, high), count in alike.items()),
    )


def _size(width_mm: float, height_mm: float, count: int) -> LabelSize:
    lie = label_sheets(
        labels=count,
        width_mm=width_mm,
        height_mm=height_mm,
        margin_mm=MARGIN_MM,
        gutter_mm=GUTTER_MM,
    )
    return LabelSize(
        width_mm=width_mm,
        height_mm=height_mm,
        labels=count,
        columns=lie.columns,
        rows=lie.rows,
        sheets=lie.sheets,
    )


def _judged(
    job: Job, found: Labelled, rows: tuple[Label, ...], beside: AlikeLabels
) -> Iterator[Judgement]:
    if found.missing:
        yield waiting("labels_known", "", LABEL_SOURCE, found.missing)
    by_name = {f"{label_title(job, one)}, {one.of}"[:60]: one for one in rows}
    for pair in beside.too_alike:
        first = by_name[pair.one]
        place = job.leave.place_of(first.of).upper()
        offered = say("labels_said", "offer", text=first.text, place=place)
        yield labels_apart(one=pair.one, other=pair.other, why=pair.why, offered=offered)
    for one in found.plant.emergency_switches:
        twin = bool(one.order) or not found.plant.dc_switches
        yield emergency_says(
            switch=one.name, dead=one.dead, stays_live=one.stays_live, twin_told=twin
        )


def label_title(job: Job, label: Label) -> str:
    """The title of a label's kind."""
    return next(one.title for one in label_kinds(job.rule_pack) if one.id == label.rule)
