"""The sum of each judgement: of one rule that was run, and of a whole job."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import fields, is_dataclass
from datetime import datetime
from typing import Any

from core.assess import assess
from core.base.form import hints, limits_of, write
from core.base.judgement import Judgement
from core.base.messages import say, table
from core.base.quantity import Quantity
from core.base.trace import Call, followed
from core.explain.formula import (
    arguments,
    figure_of,
    named_in,
    parts,
    spoken,
    thing_of,
    with_numbers,
    written,
)
from core.explain.origins import Origins
from core.explain.shape import Input, Step, Sum
from core.job.house import view
from core.job.job import Job
from core.registry import data_sheet, rule, run_rule

# A sum that reaches further back is shown from there on.
MOST_STEPS = 12


def run_with_sum(name: str, data: object) -> dict[str, Any]:
    """A rule run on a JSON object, with how its result was found. Raises Refused."""
    with followed() as calls:
        found = run_rule(name, data)
    steps = _Chain(calls, None).steps(calls[-1]) if calls else ()
    return found | {"steps": write(steps)}


def sums(job: Job, *, at: datetime | None = None) -> tuple[Sum, ...]:
    """How each judgement of a job's assessment was found, each rule and reason once."""
    if job.stations:
        return sums(view(job, job.id), at=at)
    with followed() as calls:
        assess(job, at=at)
    chain = _Chain(calls, Origins(job, job.grid_profile))
    found: dict[tuple[str, str], Sum] = {}
    for call in _flat(calls):
        made = call.result
        if isinstance(made, Judgement) and made.verdict != "waiting":
            key = (made.rule_id, made.reason)
            if key not in found:
                found[key] = Sum(rule_id=key[0], reason=key[1], steps=chain.steps(call))
    return tuple(found.values())


def sum_of(job: Job, rule_id: str, reason: str, *, at: datetime | None = None) -> Sum | None:
    """How one judgement was found; None where the job has none such."""
    every = sums(job, at=at)
    return next((one for one in every if (one.rule_id, one.reason) == (rule_id, reason)), None)


def in_lines(found: Sum) -> tuple[str, str]:
    """A sum as paper has room for it: its numbers, and where they came from."""
    numbers = " · ".join(step.numbers for step in found.steps if step.numbers)
    inputs = (one for step in found.steps for one in step.inputs)
    step = say("origins", "step", number="").strip()
    origins = (
        f"{one.name} {one.value}: {one.origin}" for one in inputs if not one.origin.startswith(step)
    )
    return numbers, "; ".join(dict.fromkeys(origins))


def _flat(calls: Iterable[Call]) -> Iterator[Call]:
    for call in calls:
        yield from _flat(call.inside)
        yield call


class _Chain:
    """Which call gave a figure: it is the very object that another call was given."""

    def __init__(self, calls: Iterable[Call], origins: Origins | None) -> None:
        self.origins = origins
        self.order: dict[int, int] = {}
        self.made: dict[int, Call] = {}
        for index, call in enumerate(_flat(calls)):
            self.order[id(call)] = index
            for value in _results(call.result):
                if origins is None or not origins.of(value):
                    self.made.setdefault(id(value), call)

    def _giver(self, value: Any, call: Call) -> Call | None:
        """The earlier call that gave a figure; what a rule only hands on is nobody's."""
        found = self.made.get(id(value)) if isinstance(value, float) else None
        is_earlier = found is not None and self.order[id(found)] < self.order[id(call)]
        return found if is_earlier else None

    def steps(self, last: Call) -> tuple[Step, ...]:
        """The steps that led to a call, in the order of working."""
        ordered: list[Call] = []
        self._before(last, ordered)
        shown = ordered[-MOST_STEPS:]
        number = {id(call): index for index, call in enumerate(shown, start=1)}
        return tuple(self._step(call, number) for call in shown)

    def _before(self, call: Call, ordered: list[Call]) -> None:
        """Every call that this one rests on, then itself."""
        if any(one is call for one in ordered):
            return
        for value in arguments(call).values():
            giver = self._giver(value, call)
            if giver is not None:
                self._before(giver, ordered)
        seen: set[str] = set()
        for inner in call.inside:
            # What is worked out again with other figures is no step of its own.
            if not isinstance(inner.result, Judgement) and inner.rule not in seen:
                self._before(inner, ordered)
            seen.add(inner.rule)
        if ordered and ordered[-1].result is call.result:
            # It only hands on what its part found: one step, not two.
            return
        ordered.append(call)

    def _step(self, call: Call, number: dict[int, int]) -> Step:
        formula, source = parts(call.rule)
        result = call.result
        is_judged = isinstance(result, Judgement)
        return Step(
            rule=call.rule,
            title=result.title if is_judged else data_sheet(call.rule).question.split(" [")[0],
            formula=formula,
            numbers=with_numbers(call),
            inputs=tuple(self._inputs(call, number)),
            source=result.source if is_judged else source,
        )

    def _inputs(self, call: Call, number: dict[int, int]) -> Iterator[Input]:
        """The figures of a step, but for those that an earlier one has and its formula has not."""
        named = set(named_in(parts(call.rule)[0]))
        before = {id(value) for one in call.inside for value in one.given.values()}
        taken = {
            name: value
            for name, value in arguments(call).items()
            if name in named or id(value) not in before
        }
        meanings = [self._meaning(call, name) for name in taken]
        for name, meaning in zip(taken, meanings, strict=True):
            found = figure_of(name, call)
            if found is not None:
                # Two of one meaning are told apart by their names.
                own = f"{meaning} ({spoken(name)})" if meanings.count(meaning) > 1 else meaning
                origin = self._origin(call, taken[name], number, name in call.given)
                origin = origin.removesuffix(f": {meaning}")
                yield Input(name=own, value=written(*found), origin=origin)
        for name in dict.fromkeys(named_in(parts(call.rule)[0])):
            found, thing = figure_of(name, call), thing_of(name, call)
            if name not in taken and found is not None and thing is not None:
                origin = self._origin(call, thing[0], number, True)
                yield Input(name=self._named(name), value=written(*found), origin=origin)

    def _meaning(self, call: Call, name: str) -> str:
        limits = limits_of(hints(rule(call.rule)).get(name))
        return limits.meaning if isinstance(limits, Quantity) else spoken(name)

    def _named(self, name: str) -> str:
        """A figure of the pack by its title; anything else by its name."""
        titles = table()["figures"]
        return titles[name] if name in titles else spoken(name.rpartition(".")[2])

    def _origin(self, call: Call, value: Any, number: dict[int, int], is_given: bool) -> str:
        if not is_given:
            return say("origins", "default")
        giver = self._giver(value, call) or next(
            (one for one in call.inside if one.result is value), None
        )
        if giver is not None and id(giver) in number:
            return say("origins", "step", number=str(number[id(giver)]))
        if self.origins is None:
            return say("origins", "given")
        return self.origins.of(value) or say("origins", "counted")


def _results(result: Any) -> Iterator[Any]:
    """The figures that a call gave: itself, or those of its shape."""
    if isinstance(result, Judgement):
        return
    if isinstance(result, float):
        yield result
    elif is_dataclass(result):
        yield from (
            v for one in fields(result) if isinstance(v := getattr(result, one.name), float)
        )
