"""Frozen dataclasses to and from JSON, and their JSON Schema, from their type hints alone.

One description of each value, its dataclass with ``Annotated`` limits, serves the job file,
the assessment, the parameters of every rule, the published schemas and the checks at
construction. Reading is strict: no text for numbers, no unknown fields; every problem is
reported with its JSON path.
"""

from __future__ import annotations

import dataclasses
import json
import math
import types
import typing
from collections.abc import Callable, Hashable, Iterator
from datetime import date, datetime
from functools import cache
from operator import attrgetter
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin

from core.base.errors import Problem, Refused, problem, shown
from core.base.limits import EARLIEST, LATEST
from core.base.quantity import Items, Limits, Quantity, Text
from core.base.signs import WRITTEN, unwritten

T = TypeVar("T")


@dataclasses.dataclass(frozen=True)
class Checked:
    """Base of every value: refuses construction when a field is outside its limits."""

    def __post_init__(self) -> None:
        found = [*self._out_of_limits(), *self.contradictions()]
        if found:
            raise Refused(found)

    def contradictions(self) -> Iterator[Problem]:
        """Problems between fields; a value class overrides it where two fields can disagree."""
        return iter(())

    def _out_of_limits(self) -> Iterator[Problem]:
        for name, limits in limited_fields(type(self)):
            value = getattr(self, name)
            if value is None:
                continue
            found = limits.problem(f"$.{name}", value)
            if found:
                yield found


def hints(owner: Any) -> dict[str, Any]:
    """Resolved type hints of a class or function, limits included."""
    return _hints(owner)


@cache
def _hints(owner: Hashable) -> dict[str, Any]:
    return typing.get_type_hints(owner, include_extras=True)


def limited_fields(owner: Any) -> tuple[tuple[str, Limits], ...]:
    """The fields of a value class that carry limits, with those limits."""
    return _limited_fields(owner)


@cache
def _limited_fields(owner: Hashable) -> tuple[tuple[str, Limits], ...]:
    if not dataclasses.is_dataclass(owner):
        return ()
    return tuple(
        (field.name, limits)
        for field in dataclasses.fields(owner)
        if (limits := limits_of(hints(owner)[field.name])) is not None
    )


@cache
def without_none(hint: Hashable) -> Any:
    """``X | None`` as ``X``; anything else unchanged."""
    if get_origin(hint) in (Union, types.UnionType):
        left = [arg for arg in get_args(hint) if arg is not type(None)]
        if len(left) == 1:
            return left[0]
    return hint


@cache
def limits_of(hint: Hashable) -> Limits | None:
    """The limits written beside a type, if any."""
    inner = without_none(hint)
    if get_origin(inner) is Annotated:
        for extra in get_args(inner)[1:]:
            if isinstance(extra, Quantity | Text | Items):
                return extra
    return None


def quantity_of(hint: Hashable) -> Quantity:
    """The limits of a type that is a quantity. Raises TypeError: it is none."""
    limits = limits_of(hint)
    if not isinstance(limits, Quantity):
        raise TypeError(f"{hint} is no quantity")
    return limits


def _bare(hint: Any) -> Any:
    return get_args(hint)[0] if get_origin(hint) is Annotated else hint


# What turns parsed JSON at a path into a value; made once for each type.
Reader = Callable[[object, str], Any]


def read(hint: type[T], data: object, path: str = "$") -> T:
    """A value of the type `hint` from parsed JSON.

    Raises Refused with every problem: JSON path, value, what is allowed.
    """
    return typing.cast(T, reader(hint)(data, path))


def reader(hint: Any) -> Reader:
    """The reader of a type with its limits. Raises Refused when called on what does not fit."""
    inner, limits = without_none(hint), limits_of(hint)
    is_optional = inner is not hint
    read_bare = _bare_reader(_bare(inner))

    def read_one(data: object, path: str) -> Any:
        if data is None and is_optional:
            return None
        value = read_bare(data, path)
        found = limits.problem(path, value) if limits is not None else None
        if found:
            raise Refused([found])
        return value

    return read_one


def _bare_reader(bare: Any) -> Reader:
    if dataclasses.is_dataclass(bare):
        owner: Any = bare
        named: Callable[[str], Any] | None = getattr(owner, "named", None)
        if named is None:
            return lambda data, path: _read_fields(owner, data, path)
        return lambda data, path: (
            named(data) if isinstance(data, str) else _read_fields(owner, data, path)
        )
    if get_origin(bare) in (Union, types.UnionType):
        return lambda data, path: _read_sum(get_args(bare), data, path)
    if get_origin(bare) is Literal:
        return lambda data, path: _read_choice(bare, data, path)
    if get_origin(bare) is tuple:
        read_item = reader(get_args(bare)[0])
        return lambda data, path: _read_items(read_item, data, path)
    return lambda data, path: _read_plain(bare, data, path)


class Plain(typing.Protocol):
    """A value that stands in JSON as a plain one: one of several that a sum type may be."""

    SCHEMA: typing.ClassVar[dict[str, Any]]

    def plain(self) -> Any:
        """It as JSON has it."""

    @classmethod
    def from_plain(cls, data: object) -> Plain | None:
        """It from JSON; None for what is not of this kind."""


def _read_sum(kinds: tuple[type[Plain], ...], data: object, path: str) -> Any:
    for kind in kinds:
        found = kind.from_plain(data)
        if found is not None:
            return found
    raise Refused([problem(path, data, "a finite number, true or false, or a text")])


def _read_choice(bare: Any, data: object, path: str) -> Any:
    if data in get_args(bare) and not isinstance(data, bool):
        return data
    raise Refused([problem(path, data, " · ".join(str(arg) for arg in get_args(bare)))])


def _read_items(read_item: Reader, data: object, path: str) -> tuple[Any, ...]:
    if not isinstance(data, list):
        raise Refused([problem(path, data, "a list")])
    items: list[Any] = []
    found: list[Problem] = []
    for index, item in enumerate(data):
        try:
            items.append(read_item(item, f"{path}[{index}]"))
        except Refused as refused:
            found.extend(refused.problems)
    if found:
        raise Refused(found)
    return tuple(items)


def _read_plain(bare: Any, data: object, path: str) -> Any:
    if bare is float and isinstance(data, int | float) and not isinstance(data, bool):
        return _finite(data, path)
    if bare is int and isinstance(data, int) and not isinstance(data, bool):
        return data
    if bare is bool and isinstance(data, bool):
        return data
    if bare is str and isinstance(data, str):
        return _written(data, path)
    if bare in (date, datetime) and isinstance(data, str):
        return _read_moment(bare, data, path)
    raise Refused([problem(path, data, _PLAIN_WORDS[bare])])


def _written(data: str, path: str) -> str:
    """A text of signs that can be stored, shown and printed as what they are."""
    wrong = unwritten(data)
    if wrong is None:
        return data
    raise Refused([problem(path, ascii(data)[:60], "signs that can be read", wrong)])


def _finite(data: int | float, path: str) -> float:
    try:
        value = float(data)
    except OverflowError:
        value = math.inf
    if math.isfinite(value):
        return value
    raise Refused([problem(path, shown(data), "a finite number")])


_PLAIN_WORDS: dict[Any, str] = {
    float: "a number, without quotes or unit",
    int: "a whole number, without quotes or unit",
    str: "a text in quotes",
    bool: "true or false",
    date: "a date as 2026-06-21",
    datetime: "a time with its offset as 2026-06-21T11:42:00+00:00",
}


def _read_moment(bare: Any, data: str, path: str) -> date | datetime:
    try:
        moment: date | datetime = bare.fromisoformat(data)
    except ValueError:
        raise Refused([problem(path, data, _PLAIN_WORDS[bare])]) from None
    if isinstance(moment, datetime) and moment.tzinfo is None:
        raise Refused([problem(path, data, _PLAIN_WORDS[datetime])])
    if not EARLIEST.year <= moment.year <= LATEST.year:
        raise Refused([problem(path, data, f"a year from {EARLIEST.year} to {LATEST.year}")])
    return moment


def _read_fields(owner: type, data: object, path: str) -> Any:
    if not isinstance(data, dict):
        raise Refused([problem(path, data, "an object with fields")])
    return construct(owner, _fields(owner), data, path)


@dataclasses.dataclass(frozen=True, slots=True)
class Field:
    """One field of a value class, or one parameter of a rule, as it is read."""

    read: Reader
    allowed: str
    required: bool


@cache
def _fields(owner: type) -> dict[str, Field]:
    return fields_read(hints(owner), required_fields(owner))


def fields_read(types: dict[str, Any], required: frozenset[str]) -> dict[str, Field]:
    """How each of some named types is read."""
    return {
        name: Field(read=reader(hint), allowed=describe(hint), required=name in required)
        for name, hint in types.items()
    }


@cache
def required_fields(owner: type) -> frozenset[str]:
    """Names of the fields without a default."""
    missing = dataclasses.MISSING
    return frozenset(
        field.name
        for field in dataclasses.fields(owner)
        if field.default is missing and field.default_factory is missing
    )


def construct(make: Any, fields: dict[str, Field], data: dict[str, object], path: str) -> Any:
    """Call `make` with the fields read from `data`; reports unknown, missing and wrong ones."""
    found: list[Problem] = []
    values: dict[str, Any] = {}
    for name, given in data.items():
        if name not in fields:
            allowed = "one of " + ", ".join(sorted(fields))
            found.append(problem(f"{path}.{name}", given, allowed, "This field is not known."))
    for name, field in fields.items():
        where = f"{path}.{name}"
        if name in data:
            try:
                values[name] = field.read(data[name], where)
            except Refused as refused:
                found.extend(refused.problems)
        elif field.required:
            found.append(problem(where, "missing", field.allowed, "This field is missing."))
    if found:
        raise Refused(found)
    try:
        return make(**values)
    except Refused as refused:
        raise Refused(p.below(path) for p in refused.problems) from None


def describe(hint: Any) -> str:
    """What a type accepts, in words."""
    limits = limits_of(hint)
    if limits is not None:
        return limits.allowed
    bare = _bare(without_none(hint))
    if get_origin(bare) is Literal:
        return " · ".join(str(arg) for arg in get_args(bare))
    if get_origin(bare) is tuple:
        return "a list"
    if hasattr(bare, "named"):
        return "a name, or the whole as an object"
    return _PLAIN_WORDS.get(bare, "an object with fields")


def write(value: Any) -> Any:
    """A value as plain JSON data; the inverse of `read`."""
    return _writer(_kind(value))(value)


Writer = Callable[[Any], Any]


def _kind(value: Any) -> Any:
    return type(value)


@cache
def _writer(kind: Any) -> Writer:
    """What makes plain data of a type; made once for each."""
    if hasattr(kind, "plain"):
        return lambda value: value.plain()
    if dataclasses.is_dataclass(kind):
        fields_of = _fields_of(kind)
        return lambda value: {name: write(one) for name, one in fields_of(value).items()}
    if issubclass(kind, tuple | list):
        return lambda value: [write(item) for item in value]
    if issubclass(kind, date):
        return lambda value: value.isoformat()
    return lambda value: value


def _fields_of(kind: Any) -> Writer:
    """What takes a value class apart: its fields and nothing that is only remembered on it."""
    names = tuple(field.name for field in dataclasses.fields(kind))
    if not names[1:]:
        return lambda value: {name: getattr(value, name) for name in names}
    get = attrgetter(*names)
    return lambda value: dict(zip(names, get(value), strict=True))


def as_text(value: Any) -> str:
    """A value as JSON text without spaces, the same to the sign wherever the core runs.

    The encoder asks here only for what it does not know itself: a third of the time of `write`.
    """
    return _TEXT.encode(value)


@cache
def _opened(kind: Any) -> Writer:
    """What the encoder is given for a type that it does not know: one step, not the whole."""
    if dataclasses.is_dataclass(kind) and not hasattr(kind, "plain"):
        return _fields_of(kind)
    return _writer(kind)


_TEXT = json.JSONEncoder(
    separators=(",", ":"),
    ensure_ascii=False,
    check_circular=False,
    default=lambda value: _opened(_kind(value))(value),
)


def schema(hint: Any, title: str) -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of a value class."""
    definitions: dict[str, Any] = {}
    body = _schema(hint, definitions)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": title,
        **body,
        "$defs": definitions,
    }


def _schema(hint: Any, definitions: dict[str, Any]) -> dict[str, Any]:
    inner = without_none(hint)
    body = _schema_bare(_bare(inner), definitions) | _schema_limits(limits_of(hint))
    return {"anyOf": [body, {"type": "null"}]} if inner is not hint else body


def _schema_bare(bare: Any, definitions: dict[str, Any]) -> dict[str, Any]:
    if get_origin(bare) in (Union, types.UnionType):
        return {"anyOf": [kind.SCHEMA for kind in get_args(bare)]}
    if dataclasses.is_dataclass(bare):
        return _schema_reference(typing.cast(type, bare), definitions)
    if get_origin(bare) is Literal:
        return {"enum": list(get_args(bare))}
    if get_origin(bare) is tuple:
        return {"type": "array", "items": _schema(get_args(bare)[0], definitions)}
    return dict(_SCHEMA_PLAIN[bare])


_SCHEMA_PLAIN: dict[Any, dict[str, str]] = {
    float: {"type": "number"},
    int: {"type": "integer"},
    str: {"type": "string", "pattern": WRITTEN},
    bool: {"type": "boolean"},
    date: {"type": "string", "format": "date"},
    datetime: {"type": "string", "format": "date-time"},
}


def _schema_reference(owner: type, definitions: dict[str, Any]) -> dict[str, Any]:
    if owner.__name__ not in definitions:
        definitions[owner.__name__] = {}
        definitions[owner.__name__] = {
            "type": "object",
            "description": (owner.__doc__ or "").split("\n\n")[0].replace("\n", " ").strip(),
            "properties": {
                f.name: _schema(hints(owner)[f.name], definitions) | _schema_default(f)
                for f in dataclasses.fields(owner)
            },
            "required": sorted(required_fields(owner)),
            "additionalProperties": False,
        }
    return {"$ref": f"#/$defs/{owner.__name__}"}


def _schema_default(field: dataclasses.Field[Any]) -> dict[str, Any]:
    """What stands where a field is left out, where that is plain; a whole value is not told."""
    plain = field.default is None or isinstance(field.default, str | int | float)
    return {"default": field.default} if plain else {}


def _schema_limits(limits: Limits | None) -> dict[str, Any]:
    if isinstance(limits, Quantity):
        unit = f" [{limits.unit}]" if limits.unit else ""
        return {
            "description": limits.meaning + unit,
            "minimum": limits.low,
            "maximum": limits.high,
        }
    if isinstance(limits, Text):
        return {
            "description": limits.meaning,
            "minLength": limits.least,
            "maxLength": limits.most,
        }
    if isinstance(limits, Items):
        return {
            "description": limits.meaning,
            "minItems": limits.least,
            "maxItems": limits.most,
        }
    return {}
