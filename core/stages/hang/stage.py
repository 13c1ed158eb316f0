"""Stage 2, Hang: the wall, what hangs on it, what is seen and read around the drill."""

from __future__ import annotations

from dataclasses import replace

from core.assessment.common import Gate
from core.assessment.site import HangStage, HungDevice
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, Verdict, waiting, worst
from core.base.messages import figure, say
from core.base.stage_numbers import HANG as STAGE
from core.base.trace import kept_ready
from core.equipment.body import Body
from core.equipment.inverter import Inverter
from core.figures.rule_packs import RulePack, WallRule
from core.job.job import Job
from core.job.microinverter import MicroPlan
from core.job.reading_kinds import ReadingKind
from core.job.subjects import HUNG_KINDS
from core.job.talk import PLACES
from core.job.wall import DeviceKind, Rect, Wall, WallDevice, WallObject
from core.planning.roof.edges import plane_edges
from core.planning.roof.tape import tape_rows
from core.planning.wall.device import Hung, hung
from core.planning.wall.space import body_of
from core.rules.microinverter.unit_fit import UNIT_SOURCE
from core.rules.prove.yes_no_steps import STEPS, Step, step_seen, step_waits
from core.rules.wall.clearances import objects_apart
from core.rules.wall.hole_marks import LEVEL_SOURCE, mounted_level
from core.rules.wall.wall_fixings import LIFT_SOURCE, Lift, lift, lift_people
from core.stages.reading_index import Kept, Readings, prompt

# What is looked at, in the order of the work, by what hangs there.
BEFORE_DRILL: tuple[ReadingKind, ...] = ("services", "level")
AFTER_DRILL: dict[DeviceKind, tuple[ReadingKind, ...]] = {
    "inverter": ("hooks", "locked"),
    "isolator": ("holes_first", "way_up", "entry_side"),
    "safety_switch": ("holes_first", "way_up", "entry_side"),
    "battery": ("hooks", "locked"),
    "meter": ("way_up",),
    "trunking": ("holes_first",),
    "other": (),
}
UNREAD_KEPT = 512
WALLS_KEPT = 32
HUNG = frozenset(HUNG_KINDS)
MOST_OVERLAPS = 5


def hang_stage(job: Job, readings: Readings) -> tuple[HangStage, tuple[Prompt, ...]]:
    """The wall judged, what is seen and read at each device, and the rails of the roof."""
    stage, asks = _wall_stage(job, readings)
    edges = plane_edges(job)
    said = tuple(one for plane in edges for one in plane.judgements)
    off = next((one.reason for one in said if one.verdict == "stop"), stage.line)
    judgements = (*stage.judgements, *said)
    made = replace(stage, line=off, judgements=judgements, edges=edges, tape=tape_rows(job))
    return made, asks


def _wall_stage(job: Job, readings: Readings) -> tuple[HangStage, tuple[Prompt, ...]]:
    """A roof of microinverters needs no wall: its units hang on the roof."""
    if job.wall is None and job.micro is not None:
        return _roof_alone(job.micro), ()
    if job.wall is None:
        return _not_drawn(), ()
    here = sum(member.present for member in job.arrival.crew)
    return _judged(job.wall, job.inverter, here, job.rules, readings.of_kinds(HUNG))


@kept_ready(WALLS_KEPT)
def _judged(
    wall: Wall, inverter: Inverter | None, here: int, pack: RulePack, read: Kept
) -> tuple[HangStage, tuple[Prompt, ...]]:
    """One wall with what was read at it; a key pressed elsewhere in the job finds it ready."""
    readings, rules = Readings(read), pack.wall
    devices, asks = [], list[Prompt]()
    for device in wall.devices:
        body = body_of(device, inverter)
        own = _prompts(rules, readings, device)
        asks += own
        if body is not None:
            devices.append(_device(wall, inverter, here, pack, device, body, tuple(own)))
    overall = _wall_judgements(wall, frozenset(one.name for one in devices), inverter is not None)
    verdict = worst(("clear", *(one.verdict for one in devices), *(one.verdict for one in overall)))
    stage = HangStage(
        line=_line(tuple(devices), verdict),
        studs_mm=wall.studs_mm,
        top_mm=wall.top_mm,
        devices=tuple(devices),
        judgements=overall,
    )
    return stage, tuple(asks)


def after_signal(stage: HangStage, talk: tuple[Prompt, ...]) -> HangStage:
    """The stage with no hole drilled for a device that would hear nothing where it hangs."""
    deaf = [
        one
        for one in talk
        if one.kind == "signal_dbm"
        and one.subject == PLACES[0]
        and one.verdict in ("stop", "waiting")
    ]
    if not deaf:
        return stage
    devices = tuple(
        replace(one, drill=_shut(one.drill, deaf[0], one.name)) if one.kind == "inverter" else one
        for one in stage.devices
    )
    return replace(stage, devices=devices)


def _shut(gate: Gate, ask: Prompt, name: str) -> Gate:
    if gate.verdict == "stop" or (gate.verdict == "waiting" and ask.verdict != "stop"):
        return gate
    reason = next(one.reason for one in ask.judgements if one.verdict == ask.verdict)
    line = say("drill", ask.verdict, name=name, reason=f"{ask.title}: {reason}")
    return Gate(verdict=ask.verdict, line=line)


def _roof_alone(plan: MicroPlan) -> HangStage:
    planes = ", ".join(dict.fromkeys(unit.modules[0].plane for unit in plan.units))
    line = (
        say("branches", "roof_hung", units=str(len(plan.units)), planes=planes)
        if planes
        else say("branches", "none_hung")
    )
    said = () if plan.units else (waiting("roof_planned", "", UNIT_SOURCE, ()),)
    return HangStage(line=line, studs_mm=(), top_mm=0.0, devices=(), judgements=said)


def _not_drawn() -> HangStage:
    judgement = waiting("wall_drawn", "", "the wall as drawn", ())
    return HangStage(
        line=judgement.reason, studs_mm=(), top_mm=0.0, devices=(), judgements=(judgement,)
    )


def _line(devices: tuple[HungDevice, ...], verdict: Verdict) -> str:
    wrong = [one for one in devices if one.verdict in ("stop", "watch")]
    if not devices:
        return say("hang", "empty")
    if wrong:
        return say("hang", "wrong", name=wrong[0].name, reason=wrong[0].line)
    return say("hang", "fits", count=str(len(devices)))


def _wall_judgements(wall: Wall, judged: frozenset[str], on_wall: bool) -> tuple[Judgement, ...]:
    """What is said of the wall as a whole: objects over each other, sheets without a body."""
    found = list(_overlapping(wall.objects))
    if on_wall and not any(device.kind == "inverter" for device in wall.devices):
        found.append(waiting("inverter_placed", "", "the wall as drawn", ()))
    found += [
        waiting("device_body", "", "device sheet", (say("needs", "body", name=device.name),))
        for device in wall.devices
        if device.name not in judged
    ]
    return tuple(found)


@kept_ready(16)
def _overlapping(objects: tuple[WallObject, ...]) -> tuple[Judgement, ...]:
    """Objects drawn over each other: a slip of the tape more often than a wall like that."""
    rects: list[tuple[str, Rect]] = [
        (thing.name, thing.rect) for thing in objects if thing.kind != "backing"
    ]
    rects.sort(key=lambda one: one[1].x)
    found = []
    for index, (name, rect) in enumerate(rects):
        for other, other_rect in rects[index + 1 :]:
            if other_rect.x >= rect.right:
                break
            if rect.overlaps(other_rect):
                found.append(objects_apart(name=name, other=other))
    return tuple(found[:MOST_OVERLAPS])


def _device(
    wall: Wall,
    inverter: Inverter | None,
    here: int,
    pack: RulePack,
    device: WallDevice,
    body: Body,
    asks: tuple[Prompt, ...],
) -> HungDevice:
    rules = pack.wall
    found = hung(wall, device, body, inverter, pack)
    needs = lift(
        mass_kg=body.mass_kg,
        two_people_kg=rules.two_people.value,
        lifting_aid_kg=rules.lifting_aid.value,
    )
    judgements = (
        *found.judgements,
        _lifted(body, needs, here),
        *_fixing_known(device, body, rules),
    )
    verdict = worst(one.verdict for one in judgements)
    decisive = next(one for one in judgements if one.verdict == verdict)
    fixing = device.fixing
    return HungDevice(
        name=device.name,
        kind=device.kind,
        label=inverter.label if inverter and device.kind == "inverter" else device.label,
        x_mm=found.rect.x,
        y_mm=found.rect.y,
        width_mm=found.rect.w,
        height_mm=found.rect.h,
        display_mm=found.display_mm,
        sides=found.sides,
        holes=found.holes,
        diagonal_mm=found.marks.diagonal_mm if found.marks else None,
        fixing=fixing.label if fixing else "",
        drill_mm=fixing.drill_mm if fixing else None,
        hole_mm=fixing.hole_mm if fixing else None,
        load=found.load,
        lift=needs,
        judgements=judgements,
        verdict=verdict,
        line=_device_line(found, verdict, decisive),
        drill=_gate("drill", device.name, judgements, asks, BEFORE_DRILL),
        lock=(
            _gate("lock", device.name, (), asks, (*BEFORE_DRILL, "hooks"))
            if "hooks" in AFTER_DRILL[device.kind]
            else _gate("mount", device.name, (), asks, (*BEFORE_DRILL, "holes_first"))
        ),
    )


def _device_line(found: Hung, verdict: Verdict, decisive: Judgement) -> str:
    if verdict in ("stop", "watch"):
        return decisive.reason
    tightest = min(found.sides, key=lambda side: side.free_mm - side.needed_mm)
    spare = figure(tightest.free_mm - tightest.needed_mm, "mm", 0)
    return say("hang", "spare", spare=spare, side=say("sides", tightest.side))


def _lifted(body: Body, needed: Lift, here: int) -> Judgement:
    if not here and needed.people > 1:
        return waiting("lift_people", "", LIFT_SOURCE, (say("needs", "people"),))
    return lift_people(
        mass_kg=body.mass_kg,
        needed=needed.people,
        present=max(here, 1),
        with_aid=needed.with_aid,
    )


def _fixing_known(device: WallDevice, body: Body, rules: WallRule) -> tuple[Judgement, ...]:
    """What is heavy waits for its bracket, what has one for its fixing: neither is clear."""
    if body.bracket is None and body.mass_kg > rules.board_most.value:
        needs = (say("needs", "bracket", name=device.name),)
        return (waiting("fixings_hold", "%", "device sheet", needs),)
    if body.bracket is None or device.fixing is not None:
        return ()
    return (waiting("fixings_hold", "%", "fixing sheet", (say("needs", "fixing"),)),)


def _prompts(rules: WallRule, readings: Readings, device: WallDevice) -> list[Prompt]:
    kinds = (*BEFORE_DRILL, *AFTER_DRILL[device.kind])
    return [
        _level_prompt(rules, readings, device.name)
        if kind == "level"
        else _step_prompt(readings, kind, device.name)
        for kind in kinds
    ]


def _level_prompt(rules: WallRule, readings: Readings, subject: str) -> Prompt:
    most = rules.level.value
    latest = readings.latest("level", subject)
    if latest is None:
        return _unread_level(subject, most)
    judgement = mounted_level(out_mm_per_m=latest.number, most_mm_per_m=most)
    return prompt(
        readings,
        STAGE,
        "level",
        subject,
        (judgement,),
        expected=(-most, most),
        expected_text=say("level", "expected", most=figure(most, "mm/m")),
    )


@kept_ready(UNREAD_KEPT)
def _unread_level(subject: str, most: float) -> Prompt:
    judgement = waiting("mounted_level", "mm/m", LEVEL_SOURCE, (say("needs", "reading"),))
    return prompt(
        Readings(Kept(())),
        STAGE,
        "level",
        subject,
        (judgement,),
        expected=(-most, most),
        expected_text=say("level", "expected", most=figure(most, "mm/m")),
    )


def step_of(kind: ReadingKind) -> Step:
    """The step that a kind of reading answers."""
    return next(step for step in STEPS if step == kind)


def _step_prompt(readings: Readings, kind: ReadingKind, subject: str) -> Prompt:
    latest = readings.latest(kind, subject)
    if latest is None:
        return _unseen(kind, subject)
    judgement = step_seen(step=step_of(kind), sign=latest.sign)
    return prompt(readings, STAGE, kind, subject, (judgement,))


@kept_ready(UNREAD_KEPT)
def _unseen(kind: ReadingKind, subject: str) -> Prompt:
    return prompt(Readings(Kept(())), STAGE, kind, subject, (step_waits(step=step_of(kind)),))


def _gate(
    gate: str,
    name: str,
    planned: tuple[Judgement, ...],
    asks: tuple[Prompt, ...],
    kinds: tuple[ReadingKind, ...],
) -> Gate:
    """Nothing says "drill" until place, fixing, hidden services and level all allow it."""
    conditions = [one for one in planned if one.verdict in ("stop", "waiting")]
    conditions += [j for one in asks if one.kind in kinds for j in one.judgements]
    verdict = worst(("clear", *(one.verdict for one in conditions)))
    decisive = next((one for one in conditions if one.verdict == verdict), None)
    reason = decisive.reason if decisive else ""
    return Gate(verdict=verdict, line=say(gate, verdict, name=name, reason=reason))
