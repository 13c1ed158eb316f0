"""A maker's portal over its open JSON: a plant is entered there, and what it has heard is asked.

``POST /plants`` takes a plant's page, ``GET /plants/ID`` gives its devices as they were heard.
"""

from __future__ import annotations

import http.client
import json
from dataclasses import dataclass
from typing import Any, Literal
from urllib.parse import quote

PortalOutcome = Literal["accepted", "refused", "unreachable", "silent", "away", "garbage"]
ANSWER_IN_S, MOST_ANSWER_BYTES, MOST_WHY_CHARS = 5.0, 1_000_000, 200
TAKEN, FOUND, UNFIT, SERVER_ERRORS = 201, 200, 422, 500


@dataclass(frozen=True, kw_only=True)
class PortalAnswer:
    """How a call ended. why: what the portal refuses. heard: serials that it has heard."""

    outcome: PortalOutcome
    why: str = ""
    heard: tuple[str, ...] = ()


def enter_plant(host: str, port: int, page: dict[str, Any]) -> PortalAnswer:
    """Enters a plant. Never raises for what the line or the portal does: the outcome says it."""
    return _call(host, port, "POST", "/plants", json.dumps(page))


def plant_heard(host: str, port: int, plant: str) -> PortalAnswer:
    """What the portal has heard of a plant."""
    return _call(host, port, "GET", f"/plants/{quote(plant, safe='')}", None)


def _call(host: str, port: int, method: str, path: str, body: str | None) -> PortalAnswer:
    line = http.client.HTTPConnection(host, port, timeout=ANSWER_IN_S)
    try:
        line.request(method, path, body, {"Content-Type": "application/json"})
        answer = line.getresponse()
        raw = answer.read(MOST_ANSWER_BYTES + 1)
    except TimeoutError:
        return PortalAnswer(outcome="silent")
    except OSError:
        return PortalAnswer(outcome="unreachable")
    except http.client.HTTPException:
        return PortalAnswer(outcome="garbage")
    finally:
        line.close()
    return _told(answer.status, raw)


def _told(status: int, raw: bytes) -> PortalAnswer:
    if status >= SERVER_ERRORS:
        return PortalAnswer(outcome="away", why=str(status))
    try:
        data = json.loads(raw) if len(raw) <= MOST_ANSWER_BYTES else None
    except (ValueError, RecursionError):
        data = None
    if not isinstance(data, dict):
        return PortalAnswer(outcome="garbage")
    if status == UNFIT:
        return PortalAnswer(outcome="refused", why=str(data.get("why", ""))[:MOST_WHY_CHARS])
    if status == TAKEN:
        return PortalAnswer(outcome="accepted")
    devices = data.get("devices")
    if status != FOUND or not isinstance(devices, list):
        return PortalAnswer(outcome="garbage")
    heard = tuple(
        one["serial"][:60]
        for one in devices
        if isinstance(one, dict) and isinstance(one.get("serial"), str) and one.get("heard") is True
    )
    return PortalAnswer(outcome="accepted", heard=heard)
