"""What a device says with its lights, as the table on its sheet has it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.form import Checked
from core.base.glossary import LightState, Name, Note
from core.base.quantity import Items


@dataclass(frozen=True, kw_only=True)
class LightPattern(Checked):
    """One pattern: what is seen, what the device is doing then, and what to do, where anything."""

    shows: Name
    state: LightState
    do: Note = ""


Lights = Annotated[tuple[LightPattern, ...], Items("light patterns", 0, 10)]
