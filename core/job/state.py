"""One digest over all that a job is and holds, by which a signature knows what it was of."""

from __future__ import annotations

import hashlib
import json
from typing import Any

from core.base.form import write
from core.job.house import View, alone
from core.job.job import KEPT_OF_HOUSE, Job

# Whether something came from a file says where a record lies, not what it is.
NOT_OF_THE_STATE = "from_file"


def state_digest(job: Job) -> str:
    """SHA-256 of a job with everything read on it, but for its signatures.

    Of a house with several inverters it is the same from whichever is looked at.
    """
    sisters = job.sisters if isinstance(job, View) else ()
    every = sorted((job, *sisters), key=lambda one: one.id)
    data = [_of_one(one) for one in every]
    text = json.dumps(data, sort_keys=True, ensure_ascii=False, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def _of_one(job: Job) -> Any:
    plan = write(alone(job))
    return _stripped({key: value for key, value in plan.items() if key not in KEPT_OF_HOUSE})


def _stripped(data: Any) -> Any:
    if isinstance(data, dict):
        return {key: _stripped(one) for key, one in data.items() if key != NOT_OF_THE_STATE}
    return [_stripped(one) for one in data] if isinstance(data, list) else data
