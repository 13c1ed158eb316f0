"""Everything that is kept, gone through: file, digests, jobs, orphans, audit."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.base.errors import Refused
from server.erasure.actions import unseen_pictures
from server.evidence.models import EvidenceRow, PictureRow, digest
from server.jobs.models import JobRow
from server.jobs.stored import house_of
from server.keeping.files import Unfit, database_file, looked_into
from server.people.audit import checked_chain

ONCE = 200


@dataclass(frozen=True, kw_only=True)
class Finding:
    """One thing that was looked at. wrong: in a sentence what is not as it should be."""

    what: str
    wrong: str = ""


def check_data() -> Iterator[Finding]:
    """Go through everything that is kept, and say of each part whether it is as it should be."""
    try:
        looked = looked_into(database_file())
        told = ", ".join(f"{count} {name}" for name, count in looked.counts.items())
        yield Finding(what=f"The file is whole: {told}")
    except Unfit as unfit:
        yield Finding(what="The file", wrong=str(unfit))
        return
    yield from _pictures()
    yield from _jobs()
    chain = checked_chain()
    broken = ", ".join(map(str, chain.broken[:5]))
    yield Finding(
        what=f"The audit: {chain.lines} lines, sealed up to {chain.last[:12]}",
        wrong=f"lines {broken} are not as they were written" if chain.broken else "",
    )
    if chain.cut_off:
        yield Finding(what="The audit's end", wrong=f"{chain.cut_off} lines were taken off")


def _pictures() -> Iterator[Finding]:
    found = 0
    for row in PictureRow.objects.iterator(chunk_size=ONCE):
        found += 1
        if digest(bytes(row.data)) != row.sha256:
            yield Finding(what=f"Picture {row.sha256[:12]}", wrong="its bytes are not as they were")
    yield Finding(what=f"{found} pictures by their digests")
    here = set(PictureRow.objects.values_list("sha256", flat=True))
    named = set(EvidenceRow.objects.values_list("kept__sha256", flat=True))
    missing, unseen = len(named - here), unseen_pictures().count()
    yield Finding(
        what="Pictures that evidence names",
        wrong=f"{missing} are not on this machine" if missing else "",
    )
    yield Finding(
        what="Pictures that nothing names", wrong=f"{unseen} are kept for nothing" if unseen else ""
    )


def _jobs() -> Iterator[Finding]:
    found = 0
    for row in JobRow.objects.filter(house=None).iterator(chunk_size=ONCE):
        found += 1
        try:
            house_of(row)
        except (Refused, KeyError, ValueError) as error:
            yield Finding(what=f"Job {row.id}", wrong=f"cannot be read: {error}")
    yield Finding(what=f"{found} jobs read whole")
