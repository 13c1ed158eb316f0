"""Steps that are answered with yes or no at the moment before the hand moves."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from core.base.judgement import Judgement, holds, waiting
from core.base.quantity import Quantity
from core.base.rule import rule
from core.job.reading_kinds import KINDS

Sign = Annotated[int, Quantity("1 as it should be, -1 not", "", -1, 1)]
Step = Literal[
    "services",
    "way_up",
    "entry_side",
    "holes_first",
    "hooks",
    "locked",
    "lead_null",
    "pull",
    "line_side",
    "isolator_up",
    "lid",
    "units_hung",
    "trunk_marks",
    "drops_sealed",
    "switch_works",
    "look_over",
    "functional",
    "board_in",
    "pins_seen",
    "entry_closed",
    "drain_wire",
    "controller_up",
    "activation_in",
    "pairing_began",
    "account_step",
    "label_stuck",
]
STEPS: tuple[Step, ...] = get_args(Step)


@rule
def step_seen(*, step: Step, sign: Sign) -> Judgement:
    """Was the step seen done as it must be?

    Source: named with each step.
    """
    return holds(f"step_{step}", sign == 1, KINDS[step].source)


@rule
def step_waits(*, step: Step) -> Judgement:
    """What is said of a step that nobody has looked at yet?

    Source: named with each step.
    """
    return waiting(f"step_{step}", "", KINDS[step].source, ())
