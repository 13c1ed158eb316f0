"""Generated calls of every operation: whatever is sent, no fault of ours, and never long.

A few hundred at every run; twenty thousand under ``./noon test --nightly``.
"""

from __future__ import annotations

import json
import os
import random
import re
import resource
import time
from typing import Any
from urllib.parse import urlencode

from server.api import api
from server.tests.support import ApiCase

CALLS = int(
    os.environ.get("LONG_NOON_CALLS", "20000" if os.environ.get("LONG_NOON_NIGHTLY") else "400")
)
LONGEST_S, TRIES, MOST_KB = 5.0, 4, 600 * 1024
# Those that reach out to a device wait for it as long as it takes; they have tests of their own.
NOT_HERE = {"write_profile", "look_at_settings", "watch_live", "look_at_gateway", "sign_out"}
TEXTS = (
    "", " ", "0", "-1", "1e999", "NaN", "427,3", "30 ft", "A", "East", "L-N", "inverter", "site",
    "\u0000", "\u202e", "é", "𝛀", "=1+1", "../../etc/passwd", "<script>", "' OR 1=1 --", "x" * 5000,
    "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00", "2026-11-24T12:00:00+00:00",
)  # fmt: skip
ODD: tuple[Any, ...] = (None, True, 0, -1, 10**30, 1.5, [], {}, [[[[]]]], {"a": {"b": {}}})


class Generated(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.dice = random.Random(os.environ.get("LONG_NOON_SEED", "1"))
        self.client.raise_request_exception = False
        described = api.get_openapi_schema()
        self.shapes = described["components"]["schemas"]
        self.operations = [
            (operation, method, path)
            for path, methods in described["paths"].items()
            for method, operation in methods.items()
            if operation["operationId"] not in NOT_HERE
        ]

    def test_no_call_is_a_fault_and_none_takes_long(self) -> None:
        rest_kb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        for _ in range(CALLS):
            operation, method, path = self.dice.choice(self.operations)
            url = self.address(path, operation)
            body = self.body(operation)
            # The first of its kind loads what it needs, and a busy machine is slow for a while.
            took_s = [self.called(method, url, body)]
            while took_s[-1] > LONGEST_S and len(took_s) < TRIES:
                took_s.append(self.called(method, url, body))
            self.assertLess(min(took_s), LONGEST_S, (method, url[:200], body[:500]))
        grown_kb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - rest_kb
        self.assertLess(grown_kb, MOST_KB)

    def called(self, method: str, url: str, body: bytes) -> float:
        """How many seconds of the processor a call takes, which must not be a fault."""
        begun = time.process_time()
        call = getattr(self.client, method)
        answer = call(url) if method == "get" else call(url, body, "application/json")
        if answer.streaming:
            list(answer.streaming_content)
        took_s = time.process_time() - begun
        self.assertNotIn(answer.status_code, (500, 503), (method, url[:200], body[:500]))
        return took_s

    def address(self, path: str, operation: dict[str, Any]) -> str:
        url = path.replace("{job_id}", str(self.job_id))
        url = re.sub(r"{(evidence_id)}", str(self.job_id), url)
        url = re.sub(r"{number}", str(self.dice.choice((0, 1, 99, 10**15))), url)
        url = url.replace("{kind}", self.dice.choice(("modules", "plugs", "nothing")))
        url = re.sub(r"{\w+}", "one", url)
        asked = {
            one["name"]: self.dice.choice(TEXTS)
            for one in operation.get("parameters", ())
            if one["in"] == "query" and self.dice.random() < 0.7
        }
        return f"{url}?{urlencode(asked, errors='replace')}"

    def body(self, operation: dict[str, Any]) -> bytes:
        content = operation.get("requestBody", {}).get("content", {})
        shape = content.get("application/json", {}).get("schema", {})
        if not shape or self.dice.random() < 0.1:
            junk = (b"", b"{", b"[]", b"\xff\xfe", b"null", b'"\\ud800"', b"[" * 500)
            return self.dice.choice(junk)
        return json.dumps(self.value(shape, 0)).encode()

    def value(self, shape: dict[str, Any], deep: int) -> Any:
        """Something of a shape, or near it, or nothing like it."""
        roll = self.dice.random()
        if roll < 0.06:
            return self.dice.choice(ODD)
        if "$ref" in shape:
            return self.value(self.shapes[shape["$ref"].rpartition("/")[2]], deep)
        for several in ("anyOf", "oneOf", "allOf"):
            if several in shape:
                return self.value(self.dice.choice(shape[several]), deep)
        if "const" in shape:
            return shape["const"]
        if "enum" in shape:
            return self.dice.choice(shape["enum"])
        return self.plain(shape, deep)

    def plain(self, shape: dict[str, Any], deep: int) -> Any:
        match shape.get("type"):
            case "object":
                fields = shape.get("properties", {})
                return {
                    n: self.value(s, deep + 1)
                    for n, s in fields.items()
                    if self.dice.random() < 0.93
                }
            case "array":
                most = 0 if deep > 5 else self.dice.choice((0, 1, 2, 3))
                return [self.value(shape.get("items", {}), deep + 1) for _ in range(most)]
            case "integer":
                return self.dice.choice((0, 1, 2, -1, 10**18))
            case "number":
                return self.dice.choice((0.0, 1.0, -1.0, 1e300, 418.2))
            case "boolean":
                return self.dice.choice((True, False))
            case "null":
                return None
        return self.dice.choice(TEXTS)
