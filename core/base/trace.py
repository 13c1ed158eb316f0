"""Following a computation: which rules were called, with what, and what each gave.

Nothing is followed in everyday use. Where it is, what was kept ready is worked out anew, so that
every call is seen.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from functools import lru_cache, wraps
from typing import Any, TypeVar, cast

Some = TypeVar("Some", bound=Callable[..., Any])


@dataclass(frozen=True, eq=False, kw_only=True)
class Call:
    """One rule called. given: its arguments by name; inside: the rules that it called itself."""

    rule: str
    given: Mapping[str, Any]
    result: Any
    inside: tuple[Call, ...]


_FOLLOWED: ContextVar[list[Call] | None] = ContextVar("followed", default=None)


@contextmanager
def followed() -> Iterator[list[Call]]:
    """Within it every call of a rule is written into the list that it gives, in order."""
    calls: list[Call] = []
    before = _FOLLOWED.set(calls)
    try:
        yield calls
    finally:
        _FOLLOWED.reset(before)


def is_followed() -> bool:
    """Whether calls are being written down."""
    return _FOLLOWED.get() is not None


def written_down(rule: str, given: Mapping[str, Any], function: Callable[[], Any]) -> Any:
    """The result of a call that is followed. Raises whatever the call raises."""
    calls = _FOLLOWED.get()
    with followed() as inside:
        result = function()
    if calls is not None:
        calls.append(Call(rule=rule, given=given, result=result, inside=tuple(inside)))
    return result


def kept_ready(most: int) -> Callable[[Some], Some]:
    """Keeps the last results of a pure function, by its arguments; while followed it does not."""

    def keeping(function: Some) -> Some:
        ready = lru_cache(maxsize=most)(function)

        @wraps(function)
        def found(*args: Any, **named: Any) -> Any:
            return function(*args, **named) if is_followed() else ready(*args, **named)

        found.cache_clear = ready.cache_clear  # type: ignore[attr-defined]
        return cast(Some, found)

    return keeping
