"""Bodies and answers as JSON, quickly: an assessment is a large text.

orjson reads strictly: no lone surrogates, no NaN, nothing nested without end.
"""

from __future__ import annotations

from typing import Any

import orjson
from django.http import HttpRequest
from ninja.parser import Parser
from ninja.renderers import BaseRenderer


class QuickJson(BaseRenderer):
    """What an operation gives, as JSON in UTF-8; moments as in the job file."""

    media_type = "application/json"

    def render(self, request: HttpRequest, data: Any, *, response_status: int) -> bytes:
        return orjson.dumps(data)


class StrictJson(Parser):
    """What an operation is sent, as JSON in UTF-8."""

    def parse_body(self, request: HttpRequest) -> Any:
        return orjson.loads(request.body)
