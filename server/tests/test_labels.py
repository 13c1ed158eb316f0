"""A label read in a picture: offered, never counted; what cannot be read is said."""

from __future__ import annotations

import io
from unittest import mock

from PIL import Image, ImageDraw, ImageFont

from core.tests.test_label_text import MODULE, MODULE_PLATES
from server.catalogue import labels
from server.tests.support import ApiCase

KINDS_URL = "/api/shelf/modules/label"


def plate(text: str, turned_deg: float = 1.5) -> bytes:
    """A label as a hand holds the camera: a little turned."""
    picture = Image.new("RGB", (1000, 520), "white")
    font = ImageFont.load_default(30)
    ImageDraw.Draw(picture).multiline_text((40, 40), text, fill="black", font=font, spacing=20)
    out = io.BytesIO()
    picture.rotate(turned_deg, fillcolor="white").save(out, "JPEG", quality=85)
    return out.getvalue()


class Labels(ApiCase):
    def read(self, raw: bytes) -> dict[str, object]:
        found = self.client.post(KINDS_URL, raw, "application/octet-stream")
        self.assertEqual(found.status_code, 200, found.content)
        return dict(found.json())

    def test_a_plate_names_its_sheet_and_says_its_figures(self) -> None:
        said = self.read(plate(f"OSTREL  Type: Os 430\n{MODULE_PLATES[0]}"))
        self.assertEqual([one["sheet"]["id"] for one in said["sheets"]], ["ostrel-430"])
        # The plate of this test is no plate of that sheet, and it is said.
        self.assertIn("on the label", said["sheets"][0]["differs"][0])
        cells = {cell["name"]: cell["text"] for cell in said["cells"]}
        self.assertGreater(len(cells), len(MODULE) // 2)
        self.assertLessEqual(cells.items(), MODULE.items())
        self.assertIn("Voc by temperature", said["missing"])

    def test_what_is_no_legible_label_is_said_and_what_to_do(self) -> None:
        blank = plate("")
        for raw, told in (
            (blank, "Nothing legible"),
            (b"%PDF-1.7 label", "no picture of a label"),
            (b"GIF89a", "neither a JPEG"),
            (blank[:400], "damaged"),
        ):
            with self.subTest(told=told):
                refused = self.client.post(KINDS_URL, raw, "application/octet-stream")
                self.assertEqual(refused.status_code, 422)
                self.assertIn(told, refused.json()["detail"])

    def test_a_server_without_a_reader_says_so(self) -> None:
        with mock.patch.object(labels.shutil, "which", return_value=None):
            refused = self.client.post(KINDS_URL, plate("Voc 38 V"), "application/octet-stream")
        self.assertIn("tesseract-ocr", refused.json()["detail"])
        self.assertIn("Type the name", refused.json()["detail"])
