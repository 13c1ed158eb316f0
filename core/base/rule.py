"""What makes a function a rule: one decorator, by which it is found, limited and described."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import wraps
from inspect import signature
from typing import Any, TypeVar

from core.base.errors import Problem, Refused
from core.base.form import hints, limits_of
from core.base.quantity import Limits, Quantity
from core.base.trace import is_followed, written_down

Some = TypeVar("Some", bound=Callable[..., Any])
MARK = "is_rule_of_the_job"
_OF_A_JOB: ContextVar[bool] = ContextVar("of a job", default=False)


@contextmanager
def of_a_job() -> Iterator[None]:
    """Within it rules take whatever figures a job comes to.

    A job's own fields are held to their limits as it is read or edited. What 400 strings or units
    add up to may lie beyond what anyone would enter by hand: that is judged, never refused.
    """
    before = _OF_A_JOB.set(True)
    try:
        yield
    finally:
        _OF_A_JOB.reset(before)


def rule(function: Some) -> Some:
    """Registers a public rule.

    Its id, by which command line, sentences and judgements know it, is its name. Its data sheet
    is its docstring and signature. The limits that stand beside its parameters hold on every
    call but those of a job's assessment: the call raises Refused with the path of each parameter
    outside them, NaN included.
    """
    limits = _Limits(function)

    @wraps(function)
    def limited(*args: Any, **named: Any) -> Any:
        if not _OF_A_JOB.get():
            limits.hold(args, named)
        if is_followed():
            given = limits.named(args, named)
            return written_down(function.__name__, given, lambda: function(*args, **named))
        return function(*args, **named)

    setattr(limited, MARK, True)
    return limited  # type: ignore[return-value]


def is_rule(member: object) -> bool:
    """Whether something found in a module is a registered rule."""
    return getattr(member, MARK, False) is True


class _Limits:
    """The limits of a function's parameters, read from its signature when it is first called."""

    def __init__(self, function: Callable[..., Any]) -> None:
        self.function = function
        self.names: tuple[str, ...] = ()
        self.ranges: tuple[tuple[str, float, float], ...] | None = None
        self.others: tuple[tuple[str, Limits], ...] = ()

    def hold(self, args: tuple[Any, ...], named: dict[str, Any]) -> None:
        """Refuses arguments outside their limits."""
        if self.ranges is None:
            self._read()
        given = self.named(args, named) if args else named
        for name, low, high in self.ranges or ():
            value = given.get(name)
            if value is not None and not low <= value <= high:
                raise Refused(self._problems(given))
        for name, limits in self.others:
            value = given.get(name)
            if value is not None and limits.problem(name, value):
                raise Refused(self._problems(given))

    def named(self, args: tuple[Any, ...], named: dict[str, Any]) -> dict[str, Any]:
        """All arguments by name."""
        if self.ranges is None:
            self._read()
        return dict(zip(self.names, args, strict=False)) | named

    def _read(self) -> None:
        found = {
            name: limits
            for name, hint in hints(self.function).items()
            if name != "return" and (limits := limits_of(hint)) is not None
        }
        self.names = tuple(signature(self.function).parameters)
        self.others = tuple(
            (name, limits) for name, limits in found.items() if not isinstance(limits, Quantity)
        )
        self.ranges = tuple(
            (name, limits.low, limits.high)
            for name, limits in found.items()
            if isinstance(limits, Quantity)
        )

    def _problems(self, given: dict[str, Any]) -> list[Problem]:
        every = {name: limits_of(hint) for name, hint in hints(self.function).items()}
        return [
            found
            for name, value in given.items()
            if value is not None
            and (limits := every.get(name)) is not None
            and (found := limits.problem(f"$.{name}", value)) is not None
        ]
