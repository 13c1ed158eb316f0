"""The API's description: what the core reads is described by the core's own schema."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI

from core.base.form import schema
from core.begin.questions import Answers
from core.edits.every import EDITS
from core.edits.new_job import NewJob

REFERENCE, COMPONENT = "#/$defs/", "#/components/schemas/"


class DescribedApi(NinjaAPI):
    """An API whose edits are described with the limits by which the core reads them."""

    def get_openapi_schema(self, *args: Any, **kwargs: Any) -> Any:
        described: Any = super().get_openapi_schema(*args, **kwargs)
        components = described["components"]["schemas"]
        for shape in EDITS.values():
            components[shape.__name__] = _component(shape, also_required=("do",))
        for begun in (NewJob, Answers):
            components[begun.__name__] = _component(begun)
        return described


def _component(shape: type, also_required: tuple[str, ...] = ()) -> dict[str, Any]:
    made: dict[str, Any] = _pointed(schema(shape, shape.__name__)["$defs"][shape.__name__])
    return made | {"required": [*also_required, *made["required"]]}


def _pointed(part: Any) -> Any:
    """Schema with its references pointing at the description's own components."""
    if isinstance(part, dict):
        return {name: _pointed(value) for name, value in part.items()}
    if isinstance(part, list):
        return [_pointed(value) for value in part]
    return part.replace(REFERENCE, COMPONENT) if isinstance(part, str) else part
