"""The chain of a battery: its end resistor, its drain wire, what the controller found."""

from __future__ import annotations

from typing import Annotated

from core.base.errors import same_count
from core.base.glossary import Name
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import say
from core.base.quantity import Items, Quantity
from core.base.rule import rule

CHAIN_SOURCE = "battery sheet (chain)"
Signs = Annotated[tuple[int | None, ...], Items("batteries", 0, 40)]
Names = Annotated[tuple[Name, ...], Items("batteries", 0, 40)]
Found = Annotated[float, Quantity("found", "", 0, 100_000)]


@rule
def chain_planned(*, devices: Found, units: Found, wires: Found) -> Judgement:
    """Are as many batteries in the plan of Talk as in the plan of Feed, each with its line?

    wires: lines of battery data; a chain has one to each battery.
    Source: the job; battery sheet (chain).
    """
    return holds(
        "chain_planned",
        devices == units and wires >= units,
        CHAIN_SOURCE,
        devices=f"{devices:g}",
        units=f"{units:g}",
        wires=f"{wires:g}",
    )


@rule
def chain_resistor(*, batteries: Names, fitted: Signs) -> Judgement:
    """Is the end resistor in the last battery, and in no other?

    fitted: of each battery from the controller on, 1 in, -1 none, None nobody looked.
    Source: battery sheet (end of the chain).
    """
    same_count("$.fitted", len(fitted), len(batteries), "the batteries")
    wrong = [name for name, sign in zip(batteries[:-1], fitted, strict=False) if sign == 1]
    if wrong:
        said = say("chain_said", "take_out", names=", ".join(wrong))
        return holds("chain_resistor", False, CHAIN_SOURCE, said=said)
    if batteries and fitted[-1] == -1:
        said = say("chain_said", "put_in", name=batteries[-1])
        return holds("chain_resistor", False, CHAIN_SOURCE, said=said)
    unsaid = [name for name, sign in zip(batteries, fitted, strict=True) if sign is None]
    if unsaid:
        needs = (say("needs", "resistor", names=", ".join(unsaid)),)
        return waiting("chain_resistor", "", CHAIN_SOURCE, needs)
    return holds("chain_resistor", True, CHAIN_SOURCE, last=batteries[-1] if batteries else "")


@rule
def drain_wires(*, ends: Names, signs: Signs) -> Judgement:
    """Is the drain wire on earth at every end that the sheet names?

    Source: battery sheet (drain wire).
    """
    same_count("$.signs", len(signs), len(ends), "the ends")
    off = [name for name, sign in zip(ends, signs, strict=True) if sign == -1]
    if off:
        said = say("chain_said", "drain_off", names=", ".join(off))
        return holds("drain_wires", False, CHAIN_SOURCE, said=said)
    unsaid = [name for name, sign in zip(ends, signs, strict=True) if sign is None]
    if unsaid:
        needs = (say("needs", "drain", names=", ".join(unsaid)),)
        return waiting("drain_wires", "", CHAIN_SOURCE, needs)
    return holds("drain_wires", True, CHAIN_SOURCE, ends=", ".join(ends))


@rule
def chain_found(*, found: Found, planned: Found) -> Judgement:
    """Did the controller find every battery that was planned, and no more?

    Source: controller sheet (devices found).
    """
    source = "controller sheet (devices found)"
    return holds(
        "chain_found", found == planned, source, found=f"{found:g}", planned=f"{planned:g}"
    )
