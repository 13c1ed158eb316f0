"""The nameplate of what came, held against the plan: model, limits, voltage, serial."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from core.base.errors import Problem, Refused, problem
from core.base.glossary import Name, Note
from core.base.judgement import Judgement, at_least, holds, same
from core.base.messages import figure, say
from core.base.quantity import Quantity, Text
from core.base.rule import rule

NAMEPLATE_SOURCE = "device nameplate against the plan's sheet"
# A goods number as shops scan it: 8, 12 or 13 digits, the last a check (GS1 specifications).
GOODS_NUMBER = re.compile(r"^(?:\d{8}|\d{12,13})$")
# Signs that are misread for each other on a small label.
LOOKALIKES = {"O": "0", "0": "O", "I": "1", "1": "I", "S": "5", "5": "S", "B": "8", "8": "B"}
FORM_SIGNS = {"@": "[A-Z]", "#": r"\d"}

Figure = Annotated[float, Quantity("figure of the nameplate", "", 0, 1_000_000)]
Scanned = Annotated[str, Text("serial or scanned label", 0, 500)]
LimitKind = Literal["nameplate_max_dc", "nameplate_isc", "nameplate_power"]


@rule
def serial_in(*, scanned: Scanned, form: Note) -> str:
    """Which serial is in a typed or scanned label?

    form: ``@`` a letter, ``#`` a digit, anything else itself; empty: the label is the serial.
    Raises Refused for a goods number, for a text that holds none, and for one that holds two.
    Source: device sheet (form of the serial).
    """
    text = scanned.strip().upper()
    if not form:
        if GOODS_NUMBER.match(text) and is_goods_number(text):
            raise Refused([_wrong(scanned, "goods_number", form)])
        return text
    found = sorted(set(re.findall(rf"(?<![A-Z0-9]){serial_pattern(form)}(?![A-Z0-9])", text)))
    if len(found) == 1:
        return str(found[0])
    if not found:
        _lookalike(scanned, text, form)
    if GOODS_NUMBER.match(text) and is_goods_number(text):
        raise Refused([_wrong(scanned, "goods_number", form)])
    raise Refused([_wrong(scanned, "two_serials" if found else "no_serial", form)])


def _lookalike(scanned: str, text: str, form: str) -> None:
    """Refuses a serial that would fit if a letter were the digit that it looks like, or back.

    It is not set right in silence: only the label itself can tell.
    """
    if len(text) != len(form):
        return
    for at, (sign, wanted) in enumerate(zip(text, form.upper(), strict=True)):
        likely = LOOKALIKES.get(sign, sign)
        is_digit = wanted == "#" or wanted.isdigit()
        if sign == likely or not (sign.isalpha() if is_digit else sign.isdigit()):
            continue
        guess = "".join(_liked(one, of) for one, of in zip(text, form.upper(), strict=True))
        if re.fullmatch(serial_pattern(form), guess):
            said = say(
                "scan",
                "lookalike",
                text=text,
                at=str(at + 1),
                sign=say("scan", "is_letter" if is_digit else "is_digit", sign=sign),
                guess=guess,
            )
            allowed = say("scan", "allowed", form=form_words(form))
            raise Refused([problem("$.entered", scanned, allowed, said)])


def _liked(sign: str, wanted: str) -> str:
    """The sign that the form wants, where this one only looks like it."""
    likely = LOOKALIKES.get(sign, sign)
    is_digit = wanted == "#" or wanted.isdigit()
    fits = sign.isdigit() if is_digit else sign.isalpha() if wanted == "@" else sign == wanted
    return sign if fits else likely


def serial_pattern(form: str) -> str:
    """The form of a serial as a pattern of signs."""
    return "".join(FORM_SIGNS.get(sign, re.escape(sign)) for sign in form.upper())


def form_words(form: str) -> str:
    """The form of a serial as it is said: ``VF########`` is "VF and 8 digits"."""
    parts = []
    for piece in re.findall(r"#+|@+|[^#@]+", form):
        kind = {"#": "digit", "@": "letter"}.get(piece[0])
        if kind is None:
            parts.append(piece)
        elif len(piece) == 1:
            parts.append(say("scan", kind))
        else:
            parts.append(say("scan", f"{kind}s", count=str(len(piece))))
    return say("scan", "then").join(parts)


def is_goods_number(digits: str) -> bool:
    """Whether the last digit is the check digit of the others, as on goods in a shop."""
    total = sum(int(d) * (3 if at % 2 else 1) for at, d in enumerate(reversed(digits)))
    return total % 10 == 0


def _wrong(scanned: str, key: str, form: str) -> Problem:
    written = form_words(form) or say("scan", "any_form")
    said = say("scan", key, text=scanned.strip()[:60], form=written)
    return problem("$.entered", scanned, say("scan", "allowed", form=written), said)


@rule
def nameplate_serial(*, serial: Scanned, form: Note) -> Judgement:
    """Is the serial written as this maker's serials are?

    Source: device sheet (form of the serial).
    """
    fits = not form or re.fullmatch(serial_pattern(form), serial.upper()) is not None
    return holds("nameplate_serial", fits, NAMEPLATE_SOURCE, serial=serial, form=form_words(form))


@rule
def nameplate_model(*, read: Scanned, planned: Name) -> Judgement:
    """Is the model on the nameplate the planned one?

    Case, spaces and dashes do not count. Another model: stop; change the plan's sheet or send
    it back.
    Source: device nameplate.
    """
    return holds(
        "nameplate_model",
        _plain(planned) in _plain(read),
        NAMEPLATE_SOURCE,
        read=read,
        planned=planned,
    )


def _plain(text: str) -> str:
    return re.sub(r"[^A-Z0-9]", "", text.upper())


@rule
def nameplate_limit(
    *, kind: LimitKind, read: Figure, planned: Figure, unit: Name = "V"
) -> Judgement:
    """Is a limit on the nameplate the one that the plan was judged by?

    Lower: stop, the plan was judged by too much. Higher: watch, it may be another revision.
    Source: device nameplate.
    """
    if same(read, planned):
        return _alike(kind, read, unit)
    if read > planned:
        return holds(
            kind,
            False,
            NAMEPLATE_SOURCE,
            bad="watch",
            read=figure(read, unit),
            planned=figure(planned, unit),
        )
    return at_least(kind, read, planned, unit, NAMEPLATE_SOURCE)


@rule
def nameplate_nominal(*, read: Figure, planned: Figure) -> Judgement:
    """Is the nominal voltage on the nameplate the planned one?

    Source: device nameplate.
    """
    if same(read, planned):
        return _alike("nameplate_nominal", read, "V")
    return holds(
        "nameplate_nominal",
        False,
        NAMEPLATE_SOURCE,
        read=figure(read, "V"),
        planned=figure(planned, "V"),
    )


def _alike(rule_id: str, read: float, unit: str) -> Judgement:
    return holds(rule_id, True, NAMEPLATE_SOURCE, read=figure(read, unit))
