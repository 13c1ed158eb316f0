"""Every judgement shows its sum: the numbers that stand there make the value that stands there."""

import math
import re
import unittest
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path

from core.assess import assess
from core.assessment.judgements import every_judgement
from core.base.judgement import Judgement
from core.base.trace import Call, followed
from core.explain.formula import NAME, figure_of, named_in, parts
from core.explain.sums import in_lines, run_with_sum, sum_of, sums
from core.figures.rule_packs import GENERIC, Figure
from core.files.job import read_job
from core.job.job import Job
from core.registry import data_sheet, rules

DEMO = Path(__file__).parents[2] / "server" / "demo" / "jobs"
# Enough of the rules that work something out; a formula of words alone is not worked out again.
LEAST_WORKED = 25


def demo_jobs() -> Iterator[Job]:
    return (read_job(file.read_bytes()) for file in sorted(DEMO.glob("*.json")))


def flat(calls: list[Call] | tuple[Call, ...]) -> Iterator[Call]:
    for call in calls:
        yield from flat(call.inside)
        yield call


def worked(text: str, call: Call) -> float | None:
    """A side of a formula worked out with the figures of a call; None where it is words."""

    def number(found: re.Match[str]) -> str:
        figure = figure_of(found.group(), call)
        return found.group() if figure is None else repr(figure[0])

    python = NAME.sub(number, text)
    for sign, meant in (("·", "*"), ("−", "-"), ("²", "**2"), ("[", "("), ("]", ")"), (" %", "")):
        python = python.replace(sign, meant)
    python = re.sub(r"\|([^|]+)\|", r"abs(\1)", python)
    if NAME.search(python.replace("abs", "")) or not python.strip():
        return None
    return float(eval(python, {"__builtins__": {}, "abs": abs}))


class Sums(unittest.TestCase):
    def test_following_changes_no_verdict(self) -> None:
        for job in demo_jobs():
            plain = assess(job)
            with followed():
                self.assertEqual(assess(job), plain)

    def test_the_formula_makes_the_value(self) -> None:
        """Worked out again from the very text that is shown, by another way than the rule's own."""
        seen = set()
        for job in demo_jobs():
            with followed() as calls:
                assess(job)
            for call in flat(calls):
                formula, _ = parts(call.rule)
                if "," in formula or ";" in formula or formula.count(" ≤ ") > 1:
                    continue
                sides = re.split(" [≤≥] ", formula)
                result = call.result
                if isinstance(result, Judgement):
                    wanted = [result.value, result.limit]
                    if result.value is None or "by_" in formula:
                        continue
                else:
                    wanted = [result if isinstance(result, float) else None]
                for side, due in zip(sides, wanted, strict=False):
                    found = worked(side, call)
                    if found is None or due is None:
                        continue
                    seen.add(call.rule)
                    self.assertTrue(
                        math.isclose(found, due, rel_tol=1e-9, abs_tol=1e-9),
                        f"{call.rule}: {side} is {found}, the rule says {due}",
                    )
        self.assertGreaterEqual(len(seen), LEAST_WORKED, sorted(seen))

    def test_a_formula_names_what_there_is(self) -> None:
        for name in rules():
            known = {one.name for one in data_sheet(name).parameters}
            for word in named_in(parts(name)[0]):
                first, _, rest = word.partition(".")
                if word != word.lower() or ("_" not in word and not rest):
                    continue
                section = getattr(GENERIC, first, None)
                is_figure = isinstance(getattr(section, rest, None), Figure) if rest else False
                self.assertTrue(
                    first in known or first in rules() or is_figure, f"{name}: {word} is nothing"
                )

    def test_every_figure_says_where_it_came_from(self) -> None:
        """The sheet, the reading, the pack: by the object itself, however often it is handed on."""
        job = read_job((DEMO / "beacon-row-7.json").read_bytes())
        by_rule = {one.rule_id: one for one in sums(job)}
        cold = by_rule["string_voc_cold"].steps[-1]
        origins = {one.name: one.origin for one in cold.inputs}
        assert job.module is not None and job.inverter is not None
        self.assertIn(job.module.model, origins["module open-circuit voltage at STC"])
        self.assertIn(job.inverter.model, origins["inverter maximum DC voltage"])
        factor = {one.name: one.origin for one in by_rule["string_voc_cold"].steps[0].inputs}
        self.assertEqual(factor["cell temperature"], "plan: coldest air")
        self.assertEqual(origins["cold factor"], "step 1")
        loop = {one.name: one.origin for one in by_rule["loop_trips"].steps[-1].inputs}
        self.assertIn("Ada Fenn", loop["loop impedance"])
        self.assertIn("IEC 60364", loop["Least supply voltage behind a loop, share of nominal"])
        numbers, whence = in_lines(by_rule["string_voc_cold"])
        self.assertIn("1.085 = 678.8", numbers)
        self.assertIn("plan: coldest air", whence)

    def test_what_is_judged_has_its_sum(self) -> None:
        for job in demo_jobs():
            known = {(one.rule_id, one.reason) for one in sums(job)}
            for found in every_judgement(assess(job)).values():
                if found.value is not None:
                    self.assertIn((found.rule_id, found.reason), known)

    def test_one_sum_by_its_words(self) -> None:
        job = next(demo_jobs())
        moment = datetime.fromisoformat("2026-11-20T12:00+00:00")
        one = sums(job, at=moment)[0]
        self.assertEqual(sum_of(job, one.rule_id, one.reason, at=moment), one)
        self.assertIsNone(sum_of(job, one.rule_id, "Nobody said this.", at=moment))

    def test_a_rule_that_is_run_shows_its_sum(self) -> None:
        given = {"power_w": 5000, "voltage_v": 250, "power_factor": 0.8}
        found = run_with_sum("design_current", given)
        (step,) = found["steps"]
        self.assertEqual(found["result"], 25.0)
        self.assertIn("5000\xa0W", step["numbers"])
        self.assertTrue(step["numbers"].endswith("= 25\xa0A"))
