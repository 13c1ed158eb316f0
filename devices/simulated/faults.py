"""What a simulated inverter does wrong, as it was ordered: NAME or NAME=NUMBER, with commas."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

from devices.live import ALARMS


@dataclass(frozen=True, kw_only=True)
class Faults:
    """Faults to order; each is off when it is 0 or False.

    slow: seconds before each answer. drops: answers until it hangs up, each time. refuses: a
    register model that takes no write. locked: no model takes one. rounds: whole volts, tenths
    of a hertz and whole seconds are all that its curves hold. forgets: says that it adopted and
    keeps its factory over-voltage step. resets: so many seconds after it was last written it
    loses its supply for a moment and has its factory settings again. stranger: it answers with
    another serial. alarms: it reports that many alarms.
    """

    slow: float = 0.0
    drops: int = 0
    refuses: int = 0
    locked: bool = False
    rounds: bool = False
    forgets: bool = False
    resets: float = 0.0
    stranger: bool = False
    alarms: int = 0


SOUND = Faults()
# What a fault means when it is ordered without a number.
PLAIN = {"slow": 0.2, "drops": 25, "refuses": 708, "resets": 20.0, "alarms": 2}
NAMES = tuple(one.name for one in fields(Faults))
OTHER_SERIAL = "VF99999999"
MOST_ALARMS = len(ALARMS)
MOST = 1_000_000


def faults(text: str) -> Faults:
    """Faults from their words: ``slow,refuses=707``; empty: none. ValueError names a wrong one."""
    found = SOUND
    for word in filter(None, text.split(",")):
        name, _, number = word.partition("=")
        if name not in NAMES:
            raise ValueError(f"{word}: one of {', '.join(NAMES)}")
        default = getattr(SOUND, name)
        if isinstance(default, bool):
            if number:
                raise ValueError(f"{word}: {name} takes no number")
            found = replace(found, **{name: True})
            continue
        amount = float(number) if number else float(PLAIN[name])
        if not 0 < amount < MOST:
            raise ValueError(f"{word}: a number above 0")
        found = replace(found, **{name: type(default)(amount)})
    return found
