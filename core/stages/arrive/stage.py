"""Stage 1, Arrive: the load-in sheet, the permit, the people, the nameplate, the supply."""

from __future__ import annotations

from core.assessment.common import Gate, RecordedReading
from core.assessment.site import ArriveStage, LoadInLine
from core.assessment.whole import Prompt
from core.base.csv_text import csv_text
from core.base.judgement import Judgement, Verdict, waiting, worst
from core.base.messages import figure, say
from core.base.stage_numbers import ARRIVE as STAGE
from core.base.trace import kept_ready
from core.job.house import house_rated_w
from core.job.job import Job
from core.job.microinverter import phase_a
from core.job.reading_kinds import KINDS, ReadingKind
from core.job.readings import INVERTER, Reading
from core.job.subjects import NAMEPLATE_KINDS
from core.planning.goods.load_list import load_in
from core.planning.goods.needed import Needed
from core.rules.ac.supply_safety import notification
from core.rules.ac.voltage_rise import PHASES
from core.rules.arrival.nameplate import (
    NAMEPLATE_SOURCE,
    LimitKind,
    form_words,
    nameplate_limit,
    nameplate_model,
    nameplate_nominal,
    nameplate_serial,
)
from core.rules.arrival.permit_people_goods import (
    GOODS_SOURCE,
    edition_counts,
    goods_counted,
    goods_here,
    licensed_present,
    next_visit,
    permit_export,
    permit_on_file,
)
from core.stages.reading_index import Readings, prompt

PERMIT_STEP = "permit"
INVERTER_LINE = "inverters"
# Lines judged lately: most stay as they are when one thing of a job changes.
LINES_KEPT = 2048


def arrive_stage(
    job: Job, readings: Readings, talk: tuple[Prompt, ...] = ()
) -> tuple[ArriveStage, tuple[Prompt, ...]]:
    """Every line of the load-in sheet judged, and the nameplate asked for.

    talk: what Talk asks for; its codes and roles are had before anybody sets out.
    """
    lines = tuple(_line(job, readings, needed) for needed in load_in(job))
    asks = tuple(_nameplate_prompt(job, readings, kind) for kind in nameplate_kinds(job))
    judgements = (*_judgements(job), _counted(lines))
    here = sum(line.judgement.verdict in ("clear", "watch") for line in lines)
    stage = ArriveStage(
        line=say("arrive", "counted", here=str(here), of=str(len(lines))),
        lines=lines,
        judgements=judgements,
        start=_start(job, lines, judgements, (*asks, *_to_be_had(talk))),
    )
    return stage, asks


def _to_be_had(talk: tuple[Prompt, ...]) -> tuple[Prompt, ...]:
    return tuple(one for one in talk if one.kind == "talk_ready")


def _line(job: Job, readings: Readings, needed: Needed) -> LoadInLine:
    return _judged_line(
        needed,
        readings.latest("goods_found", needed.id),
        readings.latest("goods_damaged", needed.id),
        (
            *readings.history("goods_found", needed.id),
            *readings.history("goods_damaged", needed.id),
        ),
        job.arrival.first_visit and needed.id == INVERTER_LINE,
    )


@kept_ready(LINES_KEPT)
def _judged_line(
    needed: Needed,
    found: Reading | None,
    damaged: Reading | None,
    history: tuple[RecordedReading, ...],
    comes_later: bool,
) -> LoadInLine:
    return LoadInLine(
        id=needed.id,
        group=needed.group,
        what=needed.what,
        unit=_counted_in(needed),
        needed=needed.count,
        because=needed.because,
        keep=needed.keep,
        must=needed.must,
        kind=needed.kind,
        found=found.number if found else None,
        damaged=damaged.number if damaged else None,
        judgement=_goods(needed, found, damaged, comes_later=comes_later),
        history=history,
    )


def _counted_in(needed: Needed) -> str:
    """The unit beside a count: of one it is told as of one."""
    of_one = needed.count == 1 and needed.unit == say("load_in", "pieces")
    return say("load_in", "piece") if of_one else needed.unit


def _goods(
    needed: Needed, found: Reading | None, damaged: Reading | None, *, comes_later: bool
) -> Judgement:
    if comes_later and not (found and found.number):
        return next_visit(what=needed.what)
    if needed.count is None:
        return waiting("goods_here", "", GOODS_SOURCE, (needed.because,))
    if found is None:
        return waiting("goods_here", "", GOODS_SOURCE, (say("needs", "count"),))
    return goods_here(
        needed=needed.count,
        found=found.number,
        damaged=damaged.number if damaged else 0.0,
        what=needed.what,
        unit=needed.unit,
        must=needed.must,
    )


def _counted(lines: tuple[LoadInLine, ...]) -> Judgement:
    """Whether every line that the work cannot do without was counted; said once for all."""
    uncounted = sum(line.judgement.verdict == "waiting" and line.must for line in lines)
    return goods_counted(uncounted=uncounted, lines=len(lines))


def _judgements(job: Job) -> tuple[Judgement, ...]:
    arrival, permit = job.arrival, job.arrival.permit
    document = any(one.step == PERMIT_STEP for one in job.evidence)
    found = [
        permit_on_file(
            reference=permit.reference if permit else "",
            operator=permit.operator if permit else "",
            document=document,
        )
    ]
    found.append(
        notification(phase_a=_phase_a(job), has_permit=permit is not None, rule_pack=job.rules)
    )
    if not job.rules.counts_on(job.day):
        found.append(edition_counts(day=job.day, rule_pack=job.rules))
    if permit is not None and permit.export_w is not None:
        found.append(permit_export(rated_ac_w=house_rated_w(job), granted_w=permit.export_w))
    licensed = [one.name for one in arrival.crew if one.present and one.licence.strip()]
    found.append(
        licensed_present(
            licensed=len(licensed), names=", ".join(licensed), anybody=bool(arrival.crew)
        )
    )
    return tuple(found)


def _phase_a(job: Job) -> float:
    """What feeds the fullest phase at full output: this plant, and all else that feeds the house.

    What is on a phase that nobody named is taken to be on the fullest.
    """
    source, feed = job.source, job.feed
    of_all = 3 if "three" in (source.service, feed.supply_service) else 1
    by_phase, unnamed_a = [0.0] * 3, 0.0
    if job.micro is not None:
        by_phase = list(phase_a(job.micro))
    else:
        own_a = source.rated_ac_w / (PHASES[source.service] * source.nominal_v)
        if source.service != "single":
            by_phase = [own_a] * 3
        elif feed.phase:
            by_phase[feed.phase - 1] = own_a
        else:
            unnamed_a = own_a
    for one in feed.others or ():
        others_a = one.breaker_a if one.output_va is None else one.output_va / source.nominal_v
        if one.phase:
            by_phase[one.phase - 1] += others_a
        else:
            by_phase = [each + others_a / of_all for each in by_phase]
    return max(by_phase) + unnamed_a


def _start(
    job: Job,
    lines: tuple[LoadInLine, ...],
    judgements: tuple[Judgement, ...],
    asks: tuple[Prompt, ...],
) -> Gate:
    """Work starts when goods and nameplate are checked; without a permit nothing is connected."""
    conditions = (
        *(one for one in judgements if one.rule_id == "licensed_present"),
        *(line.judgement for line in lines if line.must),
        *(j for one in asks if not one.optional for j in one.judgements),
    )
    # That the permission comes first is said with the permit itself.
    looked_at = [
        one.verdict
        for one in judgements
        if one.verdict == "watch" and one.rule_id != "notification"
    ]
    verdict = worst(("clear", *looked_at, *(one.verdict for one in conditions)))
    reason = _decisive((*judgements, *conditions), verdict)
    permit = next((one for one in judgements if one.rule_id == "permit_on_file"), None)
    is_permitted = permit is not None and permit.verdict != "waiting"
    note = "" if is_permitted else say("arrive", "no_permit")
    said = say("start", verdict, reason=reason)
    return Gate(verdict=verdict, line=f"{said} {note}".strip())


def _decisive(judgements: tuple[Judgement, ...], verdict: Verdict) -> str:
    """What decides; the permit last, for without it only connecting waits."""
    bad = [one for one in judgements if one.verdict == verdict]
    others = [one for one in bad if one.rule_id != "permit_on_file"]
    return next((one.reason for one in (*others, *bad)), "")


def _nameplate_prompt(job: Job, readings: Readings, kind: ReadingKind) -> Prompt:
    latest = readings.latest(kind, INVERTER)
    if latest is None:
        needs = (say("needs", "reading"),)
        judgement = waiting(kind, KINDS[kind].unit, NAMEPLATE_SOURCE, needs)
    else:
        judgement = _nameplate(job, kind, latest)
    return prompt(
        readings,
        STAGE,
        kind,
        INVERTER,
        (judgement,),
        expected_text=_planned_text(job, kind),
        optional=job.arrival.first_visit or KINDS[kind].optional,
    )


def nameplate_kinds(job: Job) -> tuple[ReadingKind, ...]:
    """What is read of a nameplate; serials of roof units stand on the map, one by one."""
    if job.micro is None:
        return NAMEPLATE_KINDS
    return tuple(kind for kind in NAMEPLATE_KINDS if kind != "nameplate_serial")


def planned_figures(job: Job) -> dict[ReadingKind, float]:
    """The figures of the sheet that stand on the nameplate too: the inverter's, or a unit's."""
    if job.micro is not None:
        unit = job.micro.unit
        return {
            "nameplate_max_dc": unit.max_input_v,
            "nameplate_isc": unit.max_short_circuit_a,
            "nameplate_power": unit.max_va,
            "nameplate_nominal": unit.nominal_v,
        }
    inverter = job.wall_inverter
    return {
        "nameplate_max_dc": inverter.dc.max_dc_v,
        "nameplate_isc": max(tracker.max_short_circuit_a for tracker in inverter.trackers),
        "nameplate_power": inverter.rated_ac_w,
        "nameplate_nominal": inverter.nominal_v,
    }


def _planned_text(job: Job, kind: ReadingKind) -> str:
    planned = planned_figures(job).get(kind)
    if planned is not None:
        return figure(planned, KINDS[kind].unit)
    return _model(job) if kind == "nameplate_model" else form_words(job.serial_form)


def _model(job: Job) -> str:
    """The model that should stand on the nameplate."""
    return job.micro.unit.model if job.micro else job.wall_inverter.model


LIMITS: dict[ReadingKind, LimitKind] = {
    "nameplate_max_dc": "nameplate_max_dc",
    "nameplate_isc": "nameplate_isc",
    "nameplate_power": "nameplate_power",
}


def _nameplate(job: Job, kind: ReadingKind, latest: Reading) -> Judgement:
    if kind == "nameplate_model":
        return nameplate_model(read=latest.text, planned=_model(job))
    if kind == "nameplate_serial":
        return nameplate_serial(serial=latest.text, form=job.serial_form)
    planned = planned_figures(job)[kind]
    if kind == "nameplate_nominal":
        return nameplate_nominal(read=latest.number, planned=planned)
    return nameplate_limit(
        kind=LIMITS[kind],
        read=latest.number,
        planned=planned,
        unit=KINDS[kind].unit,
    )


# The load-in sheet as a table: a column for each field, named as in the assessment.
CSV_FIELDS = ("group", "what", "needed", "unit", "found", "damaged", "because", "keep")


def load_in_csv(lines: tuple[LoadInLine, ...]) -> str:
    """The load-in sheet as CSV, to order by and to take along; empty where nothing is known."""
    return csv_text((CSV_FIELDS, *([getattr(one, name) for name in CSV_FIELDS] for one in lines)))
