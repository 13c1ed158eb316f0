"""Since when a plant runs: the moment at which its last step of switching on was done."""

from __future__ import annotations

from datetime import datetime

from core.assessment.wake import WakeStage
from core.job.sequences import Phase

ON: Phase = "on"


def running_since(woken: WakeStage) -> datetime | None:
    """When the last step of switching on was done; None while any of them is open."""
    for phase in woken.phases:
        if phase.phase == ON and phase.steps and phase.done == len(phase.steps):
            return max((step.at for step in phase.steps if step.at is not None), default=None)
    return None
