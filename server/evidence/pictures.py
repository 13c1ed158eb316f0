"""Pictures as they come in: told by their bytes, shrunk, and without what they say of the place."""

from __future__ import annotations

import io
import struct
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from core.base.errors import Refused, problem
from core.base.limits import MOST_JPEG_PIXELS, MOST_PNG_PIXELS
from core.job.readings import EvidenceForm
from server.platform.heavy import heavy

LONGEST_SIDE_PX = 1920
JPEG_QUALITY = 82
# Exif tags: where a picture was taken, and how it is turned (Exif 3.0, table 4).
GPS_TAG, TURN_TAG = 0x8825, 0x0112
PDF_SIGNATURE = b"%PDF-"
MEGA = 1_000_000
SIGNATURES: tuple[tuple[bytes, EvidenceForm], ...] = (
    (b"\xff\xd8\xff", "image/jpeg"),
    (b"\x89PNG\r\n\x1a\n", "image/png"),
    (PDF_SIGNATURE, "application/pdf"),
)
ALLOWED = "a JPEG or PNG picture, or a PDF, of at most 12 MB"


@dataclass(frozen=True, kw_only=True)
class Picture:
    """A picture or document ready to be kept."""

    data: bytes
    form: EvidenceForm
    located: bool


def taken_in(raw: bytes, *, keep_location: bool) -> Picture:
    """What came in, as it is kept: turned upright, at most 1920 px, no data of place or device.

    keep_location: its Exif data stay. Raises Refused for anything but a sound JPEG, PNG or PDF.
    """
    form = next((form for start, form in SIGNATURES if raw.startswith(start)), None)
    if form is None:
        said = "This is neither a JPEG or PNG picture nor a PDF. Nothing was kept."
        raise Refused([problem("$.file", _looks_like(raw), ALLOWED, said)])
    if form == "application/pdf":
        return Picture(data=raw, form=form, located=False)
    return _picture(raw, form, keep_location=keep_location)


def _looks_like(raw: bytes) -> str:
    return raw[:24].decode("latin-1").strip() or "empty"


def brought(raw: bytes, *, may_be_located: bool) -> bytes:
    """A picture or document that a job file brings, as it is kept here: the same bytes if it is
    sound and says nothing of its place that its line does not say; without its place otherwise.

    Raises Refused for what cannot be opened.
    """
    if raw.startswith(PDF_SIGNATURE):
        return raw
    made = taken_in(raw, keep_location=may_be_located)
    return raw if may_be_located or not _says_where(raw) else made.data


def is_sound(raw: bytes) -> bool:
    """Whether a picture can be opened whole."""
    try:
        taken_in(raw, keep_location=False)
    except Refused:
        return False
    return True


def _says_where(raw: bytes) -> bool:
    with Image.open(io.BytesIO(raw), formats=("JPEG", "PNG")) as opened:
        return bool(opened.getexif().get_ifd(GPS_TAG))


def _picture(raw: bytes, form: EvidenceForm, *, keep_location: bool) -> Picture:
    with heavy("picture"):
        return _opened(raw, form, keep_location=keep_location)


def _opened(raw: bytes, form: EvidenceForm, *, keep_location: bool) -> Picture:
    kind = "JPEG" if form == "image/jpeg" else "PNG"
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            opened = Image.open(io.BytesIO(raw), formats=(kind,))
            most = MOST_JPEG_PIXELS if kind == "JPEG" else MOST_PNG_PIXELS
            if opened.width * opened.height > most:
                raise Image.DecompressionBombError
            exif = opened.getexif()
            # A JPEG is decoded at a fraction of its size: eight times less of each side at most.
            opened.draft("RGB", (LONGEST_SIDE_PX, LONGEST_SIDE_PX))
            upright = ImageOps.exif_transpose(opened)
            upright.thumbnail((LONGEST_SIDE_PX, LONGEST_SIDE_PX))
    except (Image.DecompressionBombError, Image.DecompressionBombWarning):
        said = "This picture is far larger than any camera's. Nothing was kept."
        allowed = f"at most {MOST_JPEG_PIXELS // MEGA} megapixels, {MOST_PNG_PIXELS // MEGA} as PNG"
        raise Refused([problem("$.file", "too many pixels", allowed, said)]) from None
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, EOFError, struct.error):
        said = "This picture is damaged: it cannot be opened. Take it again. Nothing was kept."
        raise Refused([problem("$.file", kind, "a sound picture", said)]) from None
    located = keep_location and bool(exif.get_ifd(GPS_TAG))
    out = io.BytesIO()
    if kind == "JPEG":
        upright.convert("RGB").save(
            out, kind, quality=JPEG_QUALITY, **({"exif": _upright(exif)} if located else {})
        )
    else:
        upright.save(out, kind, optimize=True)
    return Picture(data=out.getvalue(), form=form, located=located and kind == "JPEG")


def _upright(exif: Image.Exif) -> Image.Exif:
    """Exif data without the turn that was made already."""
    exif.pop(TURN_TAG, None)
    return exif
