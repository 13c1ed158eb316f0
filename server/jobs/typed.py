"""What every edit shares: its strict shape, and value classes made from what was typed."""

from __future__ import annotations

from typing import Annotated, Any, TypeVar

from ninja import Field, Schema
from pydantic import ConfigDict

from core.base.errors import Problem, Refused
from core.base.form import hints
from core.edits.fields import typed

Entered = Annotated[str, Field(max_length=200)]
Some = TypeVar("Some")


class Edit(Schema):
    """Base of every edit: unknown fields are refused."""

    model_config = ConfigDict(extra="forbid")


def typed_value(owner: type[Some], entered: Schema, **known: Any) -> Some:
    """A value class from what was typed for its fields; `known` are given as they are.

    Raises Refused with every field that is wrong.
    """
    values: dict[str, Any] = dict(known)
    found: list[Problem] = []
    for name, hint in hints(owner).items():
        if name in known or not hasattr(entered, name):
            continue
        given = getattr(entered, name)
        try:
            values[name] = typed(hint, given, f"$.{name}") if isinstance(given, str) else given
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    return owner(**values)
