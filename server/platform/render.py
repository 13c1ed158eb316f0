"""Answers as JSON, quickly: an assessment is a large text."""

from __future__ import annotations

from typing import Any

import orjson
from django.http import HttpRequest
from ninja.renderers import BaseRenderer


class QuickJson(BaseRenderer):
    """What an operation gives, as JSON in UTF-8; moments as in the job file."""

    media_type = "application/json"

    def render(self, request: HttpRequest, data: Any, *, response_status: int) -> bytes:
        return orjson.dumps(data)
