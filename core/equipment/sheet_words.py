"""What the fields of a sheet are called on the shelf: label, help, and the group they stand in."""

from __future__ import annotations

from functools import cache
from typing import Any, NamedTuple

from core.data import load

WORDS = "sheet_fields"


class FieldWords(NamedTuple):
    """One field in words. group: the path of what it belongs to; heading: what that is called.

    row: the list that its group is one of, as ``trackers``; empty where there is one group only.
    """

    label: str
    help: str
    group: str
    heading: str
    row: str


@cache
def _words() -> dict[str, Any]:
    words: dict[str, Any] = load(WORDS)
    return words


def field_words(kind: str, name: str) -> FieldWords:
    """The words of one column of a kind of sheet. Raises KeyError where nobody wrote them."""
    steps = name.split(".")
    # A list of plain figures: its number belongs to the field, not to a group.
    number = steps.pop() if steps[-1].isdigit() else ""
    *above, last = steps
    group = ".".join(above)
    kinds = [step for step in above if not step.isdigit()]
    known = _words()["fields"]
    places = (f"{kind}.{last}", f"{kinds[-1]}.{last}" if kinds else last, last)
    said = known[next(place for place in places if place in known)]
    own = above[-1] if above and above[-1].isdigit() else ""
    return FieldWords(
        label=said["label"].format(number=number),
        help=said["help"],
        group=group,
        heading=_words()["groups"][".".join(kinds)].format(number=own),
        row=".".join(kinds) if own else "",
    )
