"""JSON as text from elsewhere: read strictly, within a size, each name once."""

from __future__ import annotations

import json
from typing import Any

from core.base.errors import Refused, problem
from core.base.limits import BYTES_PER_MB, MOST_JOB_BYTES


def parse_json(raw: bytes) -> object:
    """Parsed JSON. Raises Refused when too large, not UTF-8, not JSON, or a name stands twice."""
    if len(raw) > MOST_JOB_BYTES:
        size = f"{len(raw) / BYTES_PER_MB:.0f} MB"
        allowed = f"at most {MOST_JOB_BYTES // BYTES_PER_MB} MB"
        said = f"This file is {size}; a job file has {allowed}. Nothing was read or changed."
        raise Refused([problem("$", size, allowed, said)])
    try:
        return json.loads(raw, object_pairs_hook=_no_doubles, parse_constant=_no_constant)
    except UnicodeDecodeError:
        raise Refused([problem("$", "not text", "a JSON file in UTF-8")]) from None
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        said = f"This is not JSON: {error.msg} at {where}."
        raise Refused([problem("$", where, "a JSON file", said)]) from None
    except Refused:
        raise
    except ValueError:
        # Python refuses to turn thousands of digits into a number.
        said = "A number in this file has too many digits."
        raise Refused([problem("$", "a number", "a finite number", said)]) from None
    except RecursionError:
        raise Refused([problem("$", "nested too deep", "a job file")]) from None


def _no_doubles(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        names = [name for name, _ in pairs]
        double = next(name for name in names if names.count(name) > 1)
        raise Refused([problem(f"$..{double}", double, "each field once")])
    return found


def _no_constant(name: str) -> float:
    raise Refused([problem("$", name, "a finite number")])
