"""One digest over all that a job is and holds, by which a signature knows what it was of."""

from __future__ import annotations

import hashlib
import json
from typing import Any

from core.base.form import write
from core.job.house import View, alone
from core.job.job import KEPT_APART, KEPT_OF_HOUSE, Job

# Whether something came from a file says where a record lies, not what it is.
NOT_OF_THE_STATE = "from_file"


def state_digest(job: Job) -> str:
    """SHA-256 of a job with everything read on it, but for its signatures.

    Of a house with several inverters it is the same from whichever is looked at.
    """
    sisters = job.sisters if isinstance(job, View) else ()
    every = sorted((job, *sisters), key=lambda one: one.id)
    # A view leaves out what is another's alone; together they hold everything once.
    kept = {
        f"{name} {one.id}": write(one)
        for job in every
        for name in KEPT_APART
        for one in getattr(job, name)
    }
    data = [[_planned(one) for one in every], _stripped(kept)]
    text = json.dumps(data, sort_keys=True, ensure_ascii=False, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def _planned(job: Job) -> Any:
    apart = (*KEPT_APART, *KEPT_OF_HOUSE)
    return _stripped({key: one for key, one in write(alone(job)).items() if key not in apart})


def _stripped(data: Any) -> Any:
    if isinstance(data, dict):
        return {key: _stripped(one) for key, one in data.items() if key != NOT_OF_THE_STATE}
    return [_stripped(one) for one in data] if isinstance(data, list) else data
