"""Reading a nameplate in a picture. The picture is read and forgotten; what it says is offered."""

from __future__ import annotations

import os
import shutil
import subprocess

from core.base.errors import Refused, problem
from core.equipment.catalogue import Kind
from core.equipment.catalogue_csv import columns, flat
from core.equipment.label_text import label_read
from server.catalogue.schemas import Cell, LabelSheet, LabelView, sheet_line
from server.catalogue.stored import Shelf
from server.evidence.pictures import taken_in
from server.platform.heavy import heavy

# Debian's tesseract-ocr: a whole plate is one block of text, read from left to right.
READER, ONE_BLOCK = "tesseract", "6"
MOST_READING_S = 60
TYPE_INSTEAD = "Type the name as the label has it instead."


def label_view(shelf: Shelf, kind: Kind, raw: bytes) -> LabelView:
    """What a picture of a label says. Raises Refused: no sound picture, or nothing legible."""
    text = _text(raw)
    said = label_read(kind, text, shelf.standing(kind).values())
    standing = shelf.standing(kind, [one.id for one in said.named])
    meant = {column.name: column.meaning for column in columns(kind)}
    return LabelView(
        text=text,
        sheets=tuple(
            LabelSheet(
                sheet=sheet_line(standing[one.id]),
                differs=tuple(
                    f"{meant[name]}: {said.cells[name]} on the label, {own[name]} on the sheet"
                    for own in (flat(standing[one.id]),)
                    for name in one.differs
                ),
            )
            for one in said.named
        ),
        cells=tuple(Cell(name=name, text=typed) for name, typed in said.cells.items()),
        missing=tuple(meant[name] for name in said.missing),
    )


def _text(raw: bytes) -> str:
    picture = taken_in(raw, keep_location=False)
    if picture.form == "application/pdf":
        said = f"This is a PDF and no picture of a label. {TYPE_INSTEAD}"
        raise Refused([problem("$.file", "PDF", "a picture, JPEG or PNG", said)])
    program = shutil.which(READER)
    if program is None:
        said = f"This server has nothing to read pictures with: tesseract-ocr. {TYPE_INSTEAD}"
        raise Refused([problem("$.file", "a picture", "what is typed", said)])
    with heavy("label", slots=1):
        try:
            read = subprocess.run(
                [program, "stdin", "stdout", "--psm", ONE_BLOCK],
                input=picture.data,
                capture_output=True,
                timeout=MOST_READING_S,
                check=True,
                env={**os.environ, "OMP_THREAD_LIMIT": "1"},
            )
        except (subprocess.TimeoutExpired, subprocess.CalledProcessError):
            said = f"This picture could not be read. Go closer, without glare. {TYPE_INSTEAD}"
            raise Refused([problem("$.file", "a picture", "a legible one", said)]) from None
    text = read.stdout.decode("utf-8", "replace").replace("\f", "").strip()
    if not any(sign.isalnum() for sign in text):
        said = f"Nothing legible is on this picture. Go closer, without glare. {TYPE_INSTEAD}"
        raise Refused([problem("$.file", "no text", "a legible label", said)])
    return text
