"""Which sequences fit a plant, which of their steps it has, and which is taken by default."""

from __future__ import annotations

from core.base.glossary import WakeMethod
from core.equipment.lights import LightPattern
from core.job.job import Job
from core.job.sequences import Fitted, Phase, Sequence, Step, Wait, known_sequences, known_steps

EMERGENCY = "emergency"
PLAIN: tuple[str, ...] = ("dc_first", "ac_first", "no_sun")
S_PER_MIN = 60.0
AC_OFF_STEPS = ("ac_off", "breaker_off")


def fitting(job: Job) -> tuple[str, ...]:
    """The sequences that fit this plant, the one that its plan leads to first."""
    if job.micro is not None:
        return ("micro",) if job.feed.backup is None else ("micro_backup",)
    found = []
    if job.feed.backup is not None:
        found.append("backup")
    if "safety_switch" in fitted(job):
        found.append("safety_switch")
    if job.optimiser is not None:
        found.append("optimisers")
    if found:
        return tuple(found)
    first = by_sheet(job) or job.rules.wake.school
    return (first, *(one for one in PLAIN if one != first))


def by_sheet(job: Job) -> WakeMethod | None:
    """The order that the inverter's own sheet asks for; None where it leaves it open."""
    return job.inverter.switch_on if job.inverter else None


def chosen(job: Job) -> Sequence:
    """The sequence that this job takes: its own choice while that still fits the plant."""
    fits = fitting(job)
    own = job.waking.sequence
    return known_sequences()[own if own in fits else fits[0]]


def fitted(job: Job) -> frozenset[Fitted]:
    """What of the parts that only some plants have this one has."""
    school, backup = job.feed.dc.school, job.feed.backup
    found: dict[Fitted, bool] = {
        "roof_isolator": school in ("manual", "both"),
        "safety_switch": school in ("automatic", "both"),
        "ac_isolator": any(one.kind == "isolator" for one in job.feed.devices),
        "battery": backup is not None and backup.battery is not None,
        "dc_switch": job.inverter is not None,
        "optimisers": job.optimiser is not None,
    }
    return frozenset(name for name, has in found.items() if has)


def steps(job: Job, sequence: Sequence, phase: Phase) -> tuple[Step, ...]:
    """The steps of a phase that this plant has, in their order."""
    has = fitted(job)
    every = [known_steps()[step_id] for step_id in sequence.phase(phase)]
    if phase != "on" and job.inverter is not None and job.inverter.switch_off == "dc_first":
        every = _dc_first(every)
    return tuple(step for step in every if step.fitted is None or step.fitted in has)


def _dc_first(every: list[Step]) -> list[Step]:
    """Switching off as a device's sheet asks where it differs from the usual: DC before AC."""
    dc = [step for step in every if step.move is not None and step.move.switch == "dc"]
    first = next((at for at, step in enumerate(every) if step.id in AC_OFF_STEPS), None)
    if first is None or not dc:
        return every
    left = [step for step in every if step not in dc]
    return [*left[:first], *dc, *left[first:]]


def wait_s(job: Job, step: Step) -> float:
    """How long a step waits after the one before it: by its own figure, or by what has it."""
    if step.wait is None:
        return step.wait_s or 0.0
    return _wait(job, step.wait)


def _wait(job: Job, wait: Wait) -> float:
    if wait == "observe":
        observe_s = job.grid_profile.value("observe_s") if job.grid_profile else None
        return observe_s or 0.0
    if wait == "charge":
        safety = job.feed.dc.safety
        return safety.charge_s if safety else 0.0
    if wait == "discharge":
        return discharge_min(job) * S_PER_MIN
    if wait == "report":
        # Units report one after the other: the gateway is looked at, nobody waits out the time.
        return 0.0
    return max(one.wait_min for one in job.micro.unit_types) * S_PER_MIN if job.micro else 0.0


def discharge_min(job: Job) -> float:
    """How long capacitors hold: by the device's own sheet, else by the rule pack."""
    own = job.inverter.discharge_min if job.inverter else None
    return job.rules.wake.discharge.value if own is None else own


def lights(job: Job) -> tuple[LightPattern, ...]:
    """The light patterns of the device, as its sheet has them."""
    if job.micro is None:
        return job.wall_inverter.lights
    return tuple(dict.fromkeys(light for one in job.micro.unit_types for light in one.lights))
