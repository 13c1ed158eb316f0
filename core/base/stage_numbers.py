"""The ten stages by number, in the order in which the work is done."""

from __future__ import annotations

from typing import Literal, get_args

StageNumber = Literal[1, 2, 3, 4, 5, 6, 7, 8, 9, 10]
STAGES: tuple[StageNumber, ...] = get_args(StageNumber)
ARRIVE: StageNumber = 1
HANG: StageNumber = 2
EARTH: StageNumber = 3
STRING: StageNumber = 4
FEED: StageNumber = 5
TALK: StageNumber = 6
PROVE: StageNumber = 7
WAKE: StageNumber = 8
SET: StageNumber = 9
LEAVE: StageNumber = 10
