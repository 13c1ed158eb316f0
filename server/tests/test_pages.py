"""The one page tells what it asks for next, to whoever may ask for it."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from django.test import override_settings

from server.tests.support import ApiCase

BUILT = {
    "index.html": {"file": "assets/index-1.js", "isEntry": True},
    "_parts.js": {"file": "assets/parts-1.js", "imports": ["index.html", "_fields.js"]},
    "_fields.js": {"file": "assets/fields-1.js", "imports": ["_parts.js"]},
    "src/words/en.json": {"file": "assets/en-1.json"},
    "src/stages/feed/FeedStage.tsx": {
        "file": "assets/FeedStage-1.js",
        "imports": ["index.html", "_parts.js"],
    },
}


class ThePage(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        built = Path(self.enterContext(tempfile.TemporaryDirectory()))
        (built / "index.html").write_text("<html><head></head></html>")
        (built / "files.json").write_text(json.dumps(BUILT))
        self.enterContext(override_settings(WEB_DIST=built))

    def told(self, path: str) -> str:
        return self.client.get(path).content.decode()

    def test_a_stages_files_and_its_job_are_told_with_the_page(self) -> None:
        told = self.told(f"/jobs/{self.job_id}/feed")
        for name in ("FeedStage-1.js", "parts-1.js", "fields-1.js"):
            self.assertEqual(told.count(name), 1)
        self.assertNotIn("index-1.js", told)
        self.assertIn(f'href="/api/jobs/{self.job_id}"', told)
        self.assertIn('href="/api/session"', told)

    def test_nobody_is_told_to_ask_for_what_he_may_not_see(self) -> None:
        self.client.logout()
        self.assertNotIn(str(self.job_id), self.told(f"/jobs/{self.job_id}/feed"))

    def test_any_other_address_is_the_page_all_the_same(self) -> None:
        for path in ("/", "/shelf", f"/jobs/{self.job_id}/cellar", '/jobs/"><script>/feed'):
            told = self.told(path)
            self.assertIn('href="/static/assets/en-1.json"', told)
            self.assertNotIn("modulepreload", told)
            self.assertNotIn("<script", told)
