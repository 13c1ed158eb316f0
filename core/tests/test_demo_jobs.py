"""The demo jobs are told what they were told before."""

from __future__ import annotations

import json
from unittest import TestCase

from core.tests.golden import KEPT, told


class DemoJobs(TestCase):
    def test_no_verdict_and_no_figure_changed_unseen(self) -> None:
        kept, now = json.loads(KEPT.read_text()), told()
        self.assertEqual(set(now), set(kept))
        for name, said in now.items():
            with self.subTest(job=name):
                self.assertEqual(said, kept[name])
