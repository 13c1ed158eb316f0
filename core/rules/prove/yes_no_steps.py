"""Steps that are answered with yes or no at the moment before the hand moves."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from core.base.judgement import Judgement, holds, waiting
from core.base.quantity import Quantity

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
]
STEPS: tuple[Step, ...] = get_args(Step)
STEP_RULE: dict[Step, str] = {
    "services": "step_services",
    "way_up": "step_way_up",
    "entry_side": "step_entry_side",
    "holes_first": "step_holes_first",
    "hooks": "step_hooks",
    "locked": "step_locked",
    "lead_null": "step_lead_null",
    "pull": "step_pull",
    "line_side": "step_line_side",
    "isolator_up": "step_isolator_up",
    "lid": "step_lid",
    "units_hung": "step_units_hung",
    "trunk_marks": "step_trunk_marks",
    "drops_sealed": "step_drops_sealed",
    "switch_works": "step_switch_works",
    "look_over": "step_look_over",
}
STEP_SOURCE: dict[Step, str] = {
    "services": "local safety rules; IEC 60364-5-52, 522.8 (hidden wiring)",
    "way_up": "device sheet (mounting position)",
    "entry_side": "device sheet; IEC 60529 (entries and degree of protection)",
    "holes_first": "device sheet; IEC 60529 (degree of protection)",
    "hooks": "device sheet (mounting)",
    "locked": "device sheet (locking screw)",
    "lead_null": "IEC 61557-4 (resistance of the test leads)",
    "pull": "IEC 62446-1:2016, 5.2 (visual inspection, terminations)",
    "line_side": "device sheet (line and load side)",
    "isolator_up": "device sheet (mounting position)",
    "lid": "IEC 60364-6:2016, 6.4.2 (inspection)",
    "units_hung": "unit sheet (mounting)",
    "trunk_marks": "trunk sheet (marks of its ends)",
    "drops_sealed": "trunk sheet; IEC 60529 (degree of protection)",
    "switch_works": "IEC 62446-1:2016, 6.8 (functional tests)",
    "look_over": "IEC 62446-1:2016, 5.2 (inspection)",
}

__all__ = ["step_seen", "step_waits"]


def step_seen(*, step: Step, sign: Sign) -> Judgement:
    """Was the step seen done as it must be?

    Source: named with each step.
    """
    return holds(STEP_RULE[step], sign == 1, STEP_SOURCE[step])


def step_waits(*, step: Step) -> Judgement:
    """What is said of a step that nobody has looked at yet?

    Source: named with each step.
    """
    return waiting(STEP_RULE[step], "", STEP_SOURCE[step], ())
