"""What is handed over besides the record: owner's pages, card, serials, labels, all in one."""

from __future__ import annotations

import io
import zipfile
from datetime import UTC, datetime
from typing import Any, Literal
from zoneinfo import ZoneInfo

from pypdf import PdfReader, PdfWriter

from core.assess import assess
from core.assessment.leave import LabelState
from core.base.errors import Refused, problem
from core.base.form import write
from core.base.messages import table
from core.job.house import views
from core.job.job import Job
from core.planning.leave.label_sheets import GUTTER_MM, MARGIN_MM, laid
from core.sheets.labels import label_svg
from core.sheets.owner import owner_pages, serial_lines, serials_csv
from server.documents.record import day, minute, record_pdf
from server.documents.typesetting import TEMPLATES, typeset
from server.evidence.models import bytes_of

OwnerPart = Literal["owner", "card", "warranty"]
OWNER_PARTS: tuple[OwnerPart, ...] = ("owner", "card", "warranty")
SUFFIXES = {"image/jpeg": ".jpg", "image/png": ".png", "application/pdf": ".pdf"}
ATTACHED = ("manual/", "drawing/", "paper/")


def owner_pdf(job: Job, parts: tuple[OwnerPart, ...] = OWNER_PARTS) -> bytes:
    """The owner's pages, the shut-down card and the serials, whole or in part."""
    said = assess(job)
    now = datetime.now(UTC).astimezone(ZoneInfo(job.site.timezone))
    data = {
        "name": job.name,
        "place": job.site.place,
        "day": day(datetime.combine(job.day, datetime.min.time())),
        "made": minute(now),
        "parts": list(parts),
        "owner": write(owner_pages(job, said)),
        "serials": write(serial_lines(job, said)),
        "words": table()["owner"],
    }
    return typeset(TEMPLATES / "owner.typ", data, "pdf")[0]


def labels_pdf(job: Job) -> bytes:
    """Every label of a job to scale on A4, with cut marks. Raises Refused: there is none."""
    stage = assess(job).leave
    wanted = [one for one in stage.labels if not one.without]
    if not stage.sizes:
        raise Refused([problem("$.labels", "none", "a label that the plan needs")])
    every = [one for one in wanted for _ in range(one.count)]
    sheets: list[list[dict[str, Any]]] = [[] for _ in range(stage.sheets)]
    for place in laid(tuple((one.width_mm, one.height_mm) for one in every)):
        label = every[place.index]
        sheets[place.sheet].append(
            write(place)
            | {
                "svg": label_svg(label),
                "text": label.text,
                "width_mm": label.width_mm,
                "height_mm": label.height_mm,
            }
        )
    data = {
        "title": f"Labels, {job.name}",
        "made": "",
        "sheets": sheets,
        "margin_mm": MARGIN_MM,
        "gutter_mm": GUTTER_MM,
    }
    return typeset(TEMPLATES / "labels.typ", data, "pdf")[0]


def label_of(job: Job, key: str) -> LabelState | None:
    """The label of a key, if the job has one."""
    return next((one for one in assess(job).leave.labels if one.key == key), None)


def dossier_pdf(house: Job) -> bytes:
    """Everything that is handed over as one PDF: the record of every inverter, then the owner's."""
    every = views(house)
    labelled = (labels_pdf(one) for one in every if assess(one).leave.sizes)
    return _joined((*(record_pdf(one) for one in every), owner_pdf(every[0]), *labelled))


def _joined(parts: tuple[bytes, ...]) -> bytes:
    out, writer = io.BytesIO(), PdfWriter()
    for part in parts:
        writer.append(PdfReader(io.BytesIO(part)))
    writer.write(out)
    return out.getvalue()


def dossier_zip(house: Job, job_file: bytes) -> bytes:
    """Everything that is handed over as files of their own, with what was attached."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("job.noon.json", job_file)
        for number, one in enumerate(views(house), start=1):
            tail = "" if number == 1 else f" {number}"
            archive.writestr(f"record{tail}.pdf", record_pdf(one))
            if assess(one).leave.sizes:
                archive.writestr(f"labels{tail}.pdf", labels_pdf(one))
            archive.writestr(f"serials{tail}.csv", serials_csv(one, assess(one)))
        first = views(house)[0]
        archive.writestr("owner.pdf", owner_pdf(first, ("owner",)))
        archive.writestr("shut-down card.pdf", owner_pdf(first, ("card",)))
        for name, data in attached(house):
            archive.writestr(name, data, zipfile.ZIP_STORED)
    return out.getvalue()


def attached(house: Job) -> list[tuple[str, bytes]]:
    """Manuals, drawings and papers that were attached, by name; each name once."""
    found: dict[str, bytes] = {}
    every = (*house.evidence, *(kept for one in house.stations for kept in one.evidence))
    for kept in every:
        data = bytes_of(kept.sha256) if kept.step.startswith(ATTACHED) else None
        if data is not None:
            folder, _, of = kept.step.partition("/")
            plain = "".join(c if c.isalnum() or c in " .-" else "-" for c in f"{of} {kept.name}")
            stem = plain.removesuffix(SUFFIXES[kept.form])
            found[f"attached/{folder}/{kept.sha256[:8]} {stem}{SUFFIXES[kept.form]}"] = data
    return list(found.items())
