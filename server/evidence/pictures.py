"""Pictures as they come in: told by their bytes, shrunk, and without what they say of the place."""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from core.base.errors import Refused, problem
from core.job.readings import EvidenceForm

MOST_BYTES = 12 * 1024 * 1024
BYTES_PER_MB = 1024 * 1024
LONGEST_SIDE_PX = 1920
MOST_PIXELS = 60_000_000
JPEG_QUALITY = 82
# Exif tags: where a picture was taken, and how it is turned (Exif 3.0, table 4).
GPS_TAG, TURN_TAG = 0x8825, 0x0112
SIGNATURES: tuple[tuple[bytes, EvidenceForm], ...] = (
    (b"\xff\xd8\xff", "image/jpeg"),
    (b"\x89PNG\r\n\x1a\n", "image/png"),
    (b"%PDF-", "application/pdf"),
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


def _picture(raw: bytes, form: EvidenceForm, *, keep_location: bool) -> Picture:
    kind = "JPEG" if form == "image/jpeg" else "PNG"
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            opened = Image.open(io.BytesIO(raw), formats=(kind,))
            if opened.width * opened.height > MOST_PIXELS:
                raise Image.DecompressionBombError
            exif = opened.getexif()
            upright = ImageOps.exif_transpose(opened)
            upright.thumbnail((LONGEST_SIDE_PX, LONGEST_SIDE_PX))
    except (Image.DecompressionBombError, Image.DecompressionBombWarning):
        said = "This picture is far larger than any camera's. Nothing was kept."
        raise Refused(
            [problem("$.file", "too many pixels", "at most 60 megapixels", said)]
        ) from None
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError):
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
