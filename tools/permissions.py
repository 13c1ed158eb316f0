"""docs/permissions.md from the data: each permission, what it may pass and why, what locks it."""

from __future__ import annotations

from typing import get_args

from core.assessment.permissions import PermissionId
from core.base.messages import say
from core.job.reading_kinds import KINDS
from core.stages.permissions.table import Pass, table

PERMISSIONS: tuple[PermissionId, ...] = get_args(PermissionId)
HEAD = """# What may be done now

Written from `core/data/permissions.json` and `core/data/reading_kinds.json` by `./noon write`.

Six permissions are computed in one place, `core/stages/permissions`, from everything that the
assessment knows. **Every** judgement of every stage that is *stop* or *waiting* locks **every** one
of them; what is named below is all that a permission may pass. A new rule locks until somebody
names it here, with a reason. Nothing else grants: the gates of strings, branches and swaps, the
steps of Wake, what may be answered, the record and the command line ask the same place.

Beside the judgements, three things lock by themselves: where the switches stand (nothing is
plugged before the DC side, or the branch, is OFF *now*), making dead (in its order, waited out, of
today, and nothing switched ON since), and readings that are past or too old.
"""


def permissions_md() -> str:
    """The page as it must stand."""
    parts = [HEAD]
    for permission in PERMISSIONS:
        parts.append(f"\n## {say('permissions', permission)}\n")
        parts.append(_passes(permission))
    parts.append(_hard())
    parts.append(_elsewhere())
    parts.append(_rests_on())
    return "\n".join(parts)


def _passes(permission: PermissionId) -> str:
    rows = [one for one in table().passes if permission in one.permissions]
    lines = ["| may pass | while it is | because |", "|---|---|---|"]
    lines += [f"| {_named(one)} | {' or '.join(one.verdicts)} | {one.reason} |" for one in rows]
    return "\n".join(lines) + "\n"


def _named(one: Pass) -> str:
    rules = ", ".join(say(rule, "title") for rule in one.rules)
    return f"{rules} (of {', '.join(one.keys)})" if one.keys else rules


def _hard() -> str:
    titles = ", ".join(say(rule, "title") for rule in table().hard)
    return (
        "\n## What no override lifts\n\nA licensed person may lift one lock, for this round, "
        "with a reason that stands in the record. Where one of these stops, nobody may: "
        f"{titles}; and a switch that does not stand where the step needs it.\n"
    )


def _elsewhere() -> str:
    own = table().elsewhere
    titles = ", ".join(say(rule, "title") for rule in own.rules)
    return f"\n## What locks only its own branch\n\n{titles}: {own.reason}\n"


def _rests_on() -> str:
    lines = [
        "\n## What a reading rests on, and how long it holds",
        "",
        "When a part becomes another, the reading is *past*: shown, kept, asked for again.",
        "",
        "| reading | rests on | holds for a permission |",
        "|---|---|---|",
    ]
    for kind in KINDS.values():
        holds = "" if kind.holds_h is None else f"{kind.holds_h:g} h"
        if kind.rests_on or holds:
            parts = ", ".join(one.replace("_", " ") for one in kind.rests_on)
            lines.append(f"| {kind.meaning.partition(':')[0]} | {parts} | {holds} |")
    return "\n".join(lines) + "\n"
