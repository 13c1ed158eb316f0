"""Every public rule of the core by name, its data sheet, and a way to run one on JSON."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
from collections.abc import Callable
from dataclasses import dataclass, is_dataclass
from functools import cache
from typing import Any

import core.rules
from core.base.errors import Refused, problem
from core.base.form import construct, describe, fields_read, hints, limits_of, write
from core.base.quantity import Quantity
from core.base.rule import is_rule

Rule = Callable[..., Any]


@dataclass(frozen=True, kw_only=True)
class Parameter:
    """One parameter of a rule as its data sheet shows it."""

    name: str
    meaning: str
    allowed: str
    default: object | None
    required: bool
    limited: bool


@dataclass(frozen=True, kw_only=True)
class DataSheet:
    """What a rule answers, what it takes, how it computes and where that comes from."""

    name: str
    subject: str
    question: str
    notes: str
    parameters: tuple[Parameter, ...]
    gives: str


@cache
def rules() -> dict[str, Rule]:
    """All public rules: what is marked as one in the modules under core.rules."""
    found: dict[str, Rule] = {}
    for info in pkgutil.walk_packages(core.rules.__path__, "core.rules."):
        module = importlib.import_module(info.name)
        here = (one for one in vars(module).values() if is_rule(one))
        found |= {one.__name__: one for one in here if one.__module__ == module.__name__}
    return dict(sorted(found.items()))


def rule(name: str) -> Rule:
    """The rule of that name. Raises Refused when there is none."""
    if name not in rules():
        raise Refused([problem("$rule", name, "one of " + ", ".join(rules()))])
    return rules()[name]


def data_sheet(name: str) -> DataSheet:
    """The data sheet of a rule, from its signature and docstring."""
    function = rule(name)
    question, _, notes = inspect.cleandoc(function.__doc__ or "").partition("\n\n")
    return DataSheet(
        name=name,
        subject=function.__module__.removeprefix("core.rules."),
        question=question.replace("\n", " "),
        notes=notes,
        parameters=tuple(
            _parameter(parameter, hints(function)[parameter.name])
            for parameter in inspect.signature(function).parameters.values()
        ),
        gives=_gives(hints(function)["return"]),
    )


def _parameter(parameter: inspect.Parameter, hint: Any) -> Parameter:
    limits = limits_of(hint)
    required = parameter.default is inspect.Parameter.empty
    return Parameter(
        name=parameter.name,
        meaning=limits.meaning if limits else "",
        allowed=describe(hint),
        default=None if required else getattr(parameter.default, "id", parameter.default),
        required=required,
        limited=limits is not None,
    )


def _gives(hint: Any) -> str:
    limits = limits_of(hint)
    if isinstance(limits, Quantity):
        return f"{limits.meaning} [{limits.unit}]" if limits.unit else limits.meaning
    return getattr(hint, "__name__", str(hint))


def run_rule(name: str, data: object) -> dict[str, Any]:
    """Run a rule on a JSON object of its parameters; gives the rule's name, unit and result.

    Raises Refused with the JSON path of each problem.
    """
    function = rule(name)
    if not isinstance(data, dict):
        raise Refused([problem("$", data, "an object of the rule's parameters")])
    known = {key: hint for key, hint in hints(function).items() if key != "return"}
    signature = inspect.signature(function).parameters.values()
    required = frozenset(p.name for p in signature if p.default is inspect.Parameter.empty)
    result = construct(function, fields_read(known, required), data, "$")
    limits = limits_of(hints(function)["return"])
    unit = {"unit": limits.unit} if isinstance(limits, Quantity) else {}
    is_shape = is_dataclass(result) or isinstance(result, tuple)
    return {"rule": name, **unit, "result": write(result) if is_shape else result}
