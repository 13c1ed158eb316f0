"""The API's description: what the core reads is described by the core's own schema, and what goes
wrong is said once for all operations."""

from __future__ import annotations

from http.client import responses
from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.operation import Operation
from pydantic import TypeAdapter

from core.base.form import schema
from core.begin.questions import Answers
from core.edits.every import EDITS
from core.edits.new_job import NewJob
from server.platform.problems import ERROR_STATUSES, ProblemReport

REFERENCE, COMPONENT = "#/$defs/", "#/components/schemas/"
_REPORTED = {"application/problem+json": {"schema": {"$ref": COMPONENT + ProblemReport.__name__}}}
ERRORS = {
    f"Error{status}": {"description": responses[status], "content": _REPORTED}
    for status in ERROR_STATUSES
}
EACH_MAY = {status: {"$ref": f"#/components/responses/Error{status}"} for status in ERROR_STATUSES}


class DescribedApi(NinjaAPI):
    """An API whose edits are described with the limits by which the core reads them, and whose
    operations each may answer with a report of what went wrong."""

    def get_openapi_schema(self, *args: Any, **kwargs: Any) -> Any:
        described: Any = super().get_openapi_schema(*args, **kwargs)
        components = described["components"]["schemas"]
        for shape in EDITS.values():
            components[shape.__name__] = _component(shape, also_required=("do",))
        for begun in (NewJob, Answers):
            components[begun.__name__] = _component(begun)
        report = TypeAdapter(ProblemReport).json_schema(ref_template=COMPONENT + "{model}")
        components |= {**report.pop("$defs"), ProblemReport.__name__: report}
        described["components"]["responses"] = ERRORS
        for methods in described["paths"].values():
            for operation in methods.values():
                operation["responses"] |= EACH_MAY
        return described

    def operation_names(self) -> dict[tuple[str, str], str]:
        """Every operation's name by its path and its method, without describing what it answers."""
        return {
            (path.strip("/"), method.upper()): operation["operationId"]
            for path, methods in _Named(self, self.get_root_path({}))["paths"].items()
            for method, operation in methods.items()
        }


class _Named(OpenAPISchema):
    """The paths of the description alone: the first request need not wait for all its shapes."""

    def operation_details(self, operation: Operation) -> dict[str, Any]:
        return {
            "operationId": operation.operation_id or self.api.get_openapi_operation_id(operation)
        }


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
