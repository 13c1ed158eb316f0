"""The volts and verdicts of every count of modules in series, each found once."""

from __future__ import annotations

from functools import cache

from core.assessment.whole import CountStep
from core.base.judgement import Judgement, Verdict, worst
from core.base.messages import figure, say
from core.base.trace import kept_ready
from core.equipment.inverter import DcWindow
from core.equipment.module import Module
from core.figures.rule_packs import RulePack
from core.job.job import Job
from core.rules.dc.expected_reading import CellFrom, ExpectedVoc, IrradianceBasis, expected_voc
from core.rules.dc.string_voltage import (
    SeriesCount,
    StringVolts,
    series_count,
    string_full_power_cold,
    string_full_power_hot,
    string_start,
    string_track_cold,
    string_track_hot,
    string_voc_cold,
    string_volts,
)

# Steps offered on either side of the counts that fit, so that the bounds can be seen.
STEPS_BEYOND = 2
MOST_IN_SERIES = 100
# Moments of sun and temperature for which the expected volts are kept ready.
MOMENTS_KEPT = 512
# Plans judged lately; the next reading on one of them, or the next step, finds it ready.
PLANS_KEPT = 32


@kept_ready(PLANS_KEPT)
def planner_for(
    module: Module, dc: DcWindow, t_air_min_c: float, t_air_max_c: float, rule_pack: RulePack
) -> StringPlanner:
    """The planner of one module on one inverter in one climate."""
    return StringPlanner(module, dc, t_air_min_c, t_air_max_c, rule_pack)


def planner_on(job: Job, plane: str) -> StringPlanner:
    """The planner of a plane's modules on the job's inverter, in its climate."""
    site = job.site
    dc, module = job.wall_inverter.dc, job.module_on(plane)
    return planner_for(module, dc, site.t_air_min_c, site.t_air_max_c, job.rules)


class StringPlanner:
    """The volts and verdicts of any count, by mounting; each is computed once."""

    def __init__(
        self,
        module: Module,
        dc: DcWindow,
        t_air_min_c: float,
        t_air_max_c: float,
        rules: RulePack,
    ) -> None:
        self.module, self.dc, self.pack = module, dc, rules
        self.t_air_min_c, self.t_air_max_c = t_air_min_c, t_air_max_c
        self.judged = cache(self._judged)
        self.volts = cache(self._volts)
        self.count = cache(self._count)
        self.line = cache(self._line)
        self.expected = kept_ready(MOMENTS_KEPT)(self._expected)
        self.steps = cache(self._steps)

    def hot_cell_c(self, mounting: str) -> float:
        """Cell temperature on the hottest day, by how the modules are mounted."""
        hot = self.pack.hot
        rise = {
            "close": hot.rise_close,
            "raised": hot.rise_raised,
            "open": hot.rise_open,
            "in_roof": hot.rise_in_roof,
        }
        return self.t_air_max_c + rise[mounting].value

    def _volts(self, count: int, mounting: str) -> StringVolts:
        return string_volts(
            module=self.module,
            modules_in_series=count,
            t_air_min_c=self.t_air_min_c,
            t_cell_hot_c=self.hot_cell_c(mounting),
            school=self.pack.cold.school,
            rule_pack=self.pack,
        )

    def _count(self, mounting: str) -> SeriesCount:
        return series_count(
            module=self.module,
            dc=self.dc,
            t_air_min_c=self.t_air_min_c,
            t_cell_hot_c=self.hot_cell_c(mounting),
            school=self.pack.cold.school,
            start_on=self.pack.hot.start_on,
            building_most_v=self.pack.cold.building_most.value,
            rule_pack=self.pack,
        )

    def _judged(self, count: int, mounting: str) -> tuple[Judgement, ...]:
        module, dc = self.module, self.dc
        volts = self.volts(count, mounting)
        return (
            string_voc_cold(
                modules_in_series=count,
                voc_v=module.voc_v,
                beta_voc_pct_per_k=module.beta_voc_pct_per_k,
                t_air_min_c=self.t_air_min_c,
                max_dc_v=dc.max_dc_v,
                max_system_v=module.max_system_v,
                building_most_v=self.pack.cold.building_most.value,
                school=self.pack.cold.school,
                rule_pack=self.pack,
            ),
            string_start(
                vmp_hot_v=volts.vmp_hot_v,
                voc_hot_v=volts.voc_hot_v,
                start_v=dc.start_v,
                start_on=self.pack.hot.start_on,
            ),
            string_track_hot(vmp_hot_v=volts.vmp_hot_v, track_min_v=dc.track_min_v),
            string_full_power_hot(vmp_hot_v=volts.vmp_hot_v, full_power_min_v=dc.full_power_min_v),
            string_full_power_cold(
                vmp_cold_v=volts.vmp_cold_v, full_power_max_v=dc.full_power_max_v
            ),
            string_track_cold(vmp_cold_v=volts.vmp_cold_v, track_max_v=dc.track_max_v),
        )

    def _line(self, count: int, mounting: str) -> tuple[Verdict, str]:
        """The verdict of a count and the one sentence that says why."""
        judgements = self.judged(count, mounting)
        verdict = worst(j.verdict for j in judgements)
        decisive = next(j for j in judgements if j.verdict == verdict)
        cold = judgements[0]
        room = figure(cold.margin, "V", 0) if cold.margin is not None else ""
        return verdict, say(
            "string_line", verdict, count=str(count), room=room, reason=decisive.reason
        )

    def _expected(
        self,
        count: int,
        irradiance_w_per_m2: float,
        basis: IrradianceBasis,
        t_cell_c: float,
        cell_from: CellFrom,
    ) -> ExpectedVoc:
        return expected_voc(
            module=self.module,
            modules_in_series=count,
            irradiance_w_per_m2=irradiance_w_per_m2,
            t_cell_c=t_cell_c,
            basis=basis,
            cell_from=cell_from,
            rule_pack=self.pack,
        )

    def _steps(self, mounting: str) -> tuple[CountStep, ...]:
        bounds = self.count(mounting)
        most = bounds.most or bounds.least
        low = min(max(1, min(bounds.least, most) - STEPS_BEYOND), MOST_IN_SERIES)
        steps = []
        high = min(max(bounds.least, most) + STEPS_BEYOND, MOST_IN_SERIES)
        for count in range(low, high + 1):
            verdict, line = self.line(count, mounting)
            steps.append(CountStep(count=count, verdict=verdict, line=line))
        return tuple(steps)
