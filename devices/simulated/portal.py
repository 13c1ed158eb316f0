"""A simulated portal: python -m devices.simulated.portal HOST:PORT [CODES.json] [WORDS]

CODES.json gives the check code of each serial that it knows, as ``{"VX00000001": "7K2M"}``; a
serial that is not there needs none. Devices report one after another, every EVERY_S seconds. WORDS,
as ``away,silent=VX00000001,every=2``: it answers 503, or never hears one device.
"""

from __future__ import annotations

import json
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any
from urllib.parse import unquote

EVERY_S = 5.0
MOST_BYTES = 1_000_000


@dataclass
class Portal:
    """What a portal knows: check codes, plants, and when each was entered."""

    codes: dict[str, str] = field(default_factory=dict)
    every_s: float = EVERY_S
    away: bool = False
    garbage: bool = False
    never: frozenset[str] = frozenset()
    now: Callable[[], float] = time.monotonic
    plants: dict[str, tuple[float, list[str]]] = field(default_factory=dict)

    def enter(self, page: Any) -> tuple[int, dict[str, Any]]:
        """Takes a plant, or says why not."""
        if not isinstance(page, dict) or not isinstance(page.get("plant"), str):
            return 422, {"why": "a page without a plant"}
        given = page.get("devices")
        devices = [one for one in given if isinstance(one, dict)] if isinstance(given, list) else []
        for one in devices:
            serial = str(one.get("serial", ""))
            code = self.codes.get(serial)
            if code is not None and one.get("check_code") != code:
                return 422, {"why": f"the check code of {serial} is wrong"}
        self.plants[page["plant"]] = (self.now(), [str(one.get("serial")) for one in devices])
        return 201, {"plant": page["plant"]}

    def look(self, plant: str) -> tuple[int, dict[str, Any]]:
        """The devices of a plant, each with whether it was heard."""
        if plant not in self.plants:
            return 404, {"why": "no such plant"}
        since, serials = self.plants[plant]
        heard = int((self.now() - since) / self.every_s) if self.every_s else len(serials)
        return 200, {
            "devices": [
                {"serial": one, "heard": at < heard and one not in self.never}
                for at, one in enumerate(serials)
            ]
        }


def server(portal: Portal, host: str, port: int) -> ThreadingHTTPServer:
    """The portal, listening."""

    class Handler(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            length = min(int(self.headers.get("Content-Length") or 0), MOST_BYTES)
            try:
                page = json.loads(self.rfile.read(length))
            except ValueError:
                page = None
            self._answer(*portal.enter(page))

        def do_GET(self) -> None:
            self._answer(*portal.look(unquote(self.path.removeprefix("/plants/"))))

        def _answer(self, status: int, data: dict[str, Any]) -> None:
            if portal.away:
                status, data = 503, {}
            raw = b"<html>" if portal.garbage else json.dumps(data).encode()
            self.send_response(status)
            self.send_header("Content-Type", "application/json")
            self.send_header("Content-Length", str(len(raw)))
            self.end_headers()
            self.wfile.write(raw)

        def log_message(self, *_: object) -> None:
            """Nothing is written for each call."""

    return ThreadingHTTPServer((host, port), Handler)


def ordered(arguments: list[str]) -> tuple[Portal, str, int]:
    """A portal as it was ordered, with where it listens."""
    address, *more = arguments
    host, _, port = address.rpartition(":")
    portal = Portal()
    for word in more:
        if word.endswith(".json"):
            portal.codes = json.loads(Path(word).read_text(encoding="utf-8"))
            continue
        for one in word.split(","):
            name, _, value = one.partition("=")
            if name == "away":
                portal.away = True
            elif name == "garbage":
                portal.garbage = True
            elif name == "silent":
                portal.never |= {value}
            elif name == "every":
                portal.every_s = float(value)
            else:
                raise ValueError(f"{one}: away, garbage, silent=SERIAL or every=SECONDS")
    return portal, host, int(port)


if __name__ == "__main__":
    try:
        made, at, number = ordered(sys.argv[1:])
        server(made, at, number).serve_forever()
    except ValueError as error:
        sys.exit(str(error))
    except KeyboardInterrupt:
        sys.exit(0)
