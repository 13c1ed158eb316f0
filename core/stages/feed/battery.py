"""The battery by its sheet: on the list, how many, on the AC side or on an inverter's DC input."""

from __future__ import annotations

from core.base.errors import Refused
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import say
from core.equipment.battery import Battery, BatteryPort
from core.job.feed import BatteryLeads, BatteryPlan
from core.job.job import Job
from core.rules.ac.backup import (
    BATTERY_SOURCE,
    battery_approved,
    battery_breaker,
    battery_count,
)
from core.rules.ac.conductors import ac_resistance, conductor_ampacity
from core.rules.dc.battery_run import (
    BATTERY_RUN_SOURCE,
    BatteryBank,
    BatteryCable,
    BatteryInput,
    BatteryRun,
    battery_breaks,
    battery_cutoff,
    battery_fuse,
    battery_released,
    battery_run,
    battery_unit_current,
    battery_window,
)
from core.stages.feed.context import not_in_tables

# Out and back.
LOADED = 2


def battery_judgements(job: Job, plan: BatteryPlan | None) -> list[Judgement]:
    """Everything that is said of the battery."""
    if plan is None:
        return [waiting("battery_count", "", BATTERY_SOURCE, (say("needs", "battery"),))]
    sheet = plan.sheet
    if sheet is None:
        return [
            battery_approved(approved=plan.approved),
            battery_count(units=plan.units, most_units=plan.most_units),
            battery_breaker(breaker_a=plan.breaker_a, discharge_a=plan.discharge_a),
        ]
    most = min(plan.most_units, sheet.most_units)
    models = [one.model for one in sheet.works_with]
    listed = not models or job.source.model in models
    found = [
        battery_approved(approved=listed),
        battery_count(units=plan.units, most_units=most),
        battery_breaker(breaker_a=plan.breaker_a, discharge_a=plan.units * sheet.max_a),
    ]
    return [*found, *_on_input(job, plan, sheet)] if sheet.coupling == "dc" else found


def _on_input(job: Job, plan: BatteryPlan, sheet: Battery) -> tuple[Judgement, ...]:
    """A battery on the inverter's DC input: released, inside its window, its run and its fuse."""
    port = job.inverter.battery if job.inverter else None
    if port is None:
        model = job.source.label
        if job.inverter is not None and job.inverter.battery_ready:
            needs = (say("needs", "battery_port"),)
            return (waiting("battery_window", "V", BATTERY_RUN_SOURCE, needs),)
        return (holds("battery_input", False, BATTERY_RUN_SOURCE, inverter=model),)
    bank = _bank(plan, sheet)
    found = (
        battery_released(released=port.released),
        battery_window(
            v_min=bank.unit_v_min,
            v_max=bank.unit_v_max,
            input_v_min=port.v_min,
            input_v_max=port.v_max,
        ),
    )
    if plan.leads is None:
        needs = (say("needs", "battery_leads"),)
        return (*found, waiting("battery_fuse", "A", BATTERY_RUN_SOURCE, needs))
    try:
        cable = _cable(job, plan.leads)
        run = battery_run(bank=bank, input=_input(port), cable=cable)
    except Refused as refused:
        return (*found, not_in_tables("battery_fuse", "A", BATTERY_RUN_SOURCE, refused))
    return (*found, *_run_judged(plan.leads, sheet, port, run, cable.cable_iz_a))


def _bank(plan: BatteryPlan, sheet: Battery) -> BatteryBank:
    """Units side by side: each has the whole voltage, they share the current."""
    return BatteryBank(
        unit_v_min=sheet.unit_v_min or 0.0,
        unit_v_nominal=sheet.unit_v_nominal or 0.0,
        unit_v_max=sheet.unit_v_max or 0.0,
        unit_internal_ohm=sheet.internal_ohm or 0.0,
        unit_max_continuous_a=sheet.max_a,
        strings_in_parallel=plan.units,
    )


def _input(port: BatteryPort) -> BatteryInput:
    return BatteryInput(
        inverter_v_min=port.v_min,
        inverter_v_max=port.v_max,
        inverter_max_dc_a=port.max_a,
        inverter_efficiency=port.efficiency,
        inverter_power_w=port.max_w,
    )


def _cable(job: Job, leads: BatteryLeads) -> BatteryCable:
    """The two conductors as they work: laid on a wall, by the pack's tables. Raises Refused."""
    carried = conductor_ampacity(section_mm2=leads.section_mm2, loaded=LOADED, rule_pack=job.rules)
    return BatteryCable(
        one_way_length_m=leads.length_m,
        r_ohm_per_km=ac_resistance(
            section_mm2=leads.section_mm2,
            conductor_c=job.rules.ac.conductor_temp.value,
            rule_pack=job.rules,
        ),
        cable_iz_a=carried.iz_a,
    )


def _run_judged(
    leads: BatteryLeads, sheet: Battery, port: BatteryPort, run: BatteryRun, iz_a: float
) -> tuple[Judgement, ...]:
    # The input itself takes no more than its own limit.
    held = min(1.0, port.max_a / run.current_at_min_a)
    least_a = run.fuse_least_a * held
    return (
        battery_cutoff(inverter_v=run.inverter_v_at_min, input_v_min=port.v_min),
        battery_unit_current(current_a=run.current_per_string_at_min_a * held, most_a=sheet.max_a),
        battery_fuse(fuse_a=leads.fuse_a, least_a=least_a, cable_iz_a=iz_a),
        battery_breaks(
            prospective_a=run.prospective_a,
            breaking_capacity_a=leads.fuse_breaks_a,
            fuse_rated_v=leads.fuse_rated_v,
            v_max=run.v_max,
        ),
    )
