"""How the installation stands, for those at work in the browser."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from server.keeping.start import told_at_work

router = Router(tags=["keeping"])


@router.get("", response=list[str], operation_id="get_standing")
def get_standing(request: HttpRequest) -> list[str]:
    return list(told_at_work())
