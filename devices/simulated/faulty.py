"""Peers that break the protocol: what a bad line, a wrong device or a dying one looks like."""

from __future__ import annotations

import socketserver
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Literal

Fault = Literal["garbage", "closes", "silent"]
GARBAGE = bytes(range(255, 0, -3))
REQUEST_BYTES = 260


class _Peer(socketserver.BaseRequestHandler):
    fault: Fault = "silent"

    def handle(self) -> None:
        while self.request.recv(REQUEST_BYTES):
            if self.fault == "closes":
                return
            if self.fault == "garbage":
                self.request.sendall(GARBAGE)


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True


@contextmanager
def faulty(fault: Fault) -> Iterator[int]:
    """A peer with one fault on a free port of this machine."""
    handler = type("Peer", (_Peer,), {"fault": fault})
    with _Server(("127.0.0.1", 0), handler) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        try:
            yield server.server_address[1]
        finally:
            server.shutdown()
