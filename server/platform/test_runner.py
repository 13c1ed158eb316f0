"""The test runner: Django's own, which ends on one plain line with the real counts."""

from __future__ import annotations

import unittest
from typing import Any

from django.conf import settings
from django.test.runner import DiscoverRunner


class NoonRunner(DiscoverRunner):
    """Prints ``N passed, N failed`` from the real result."""

    def setup_databases(self, **kwargs: Any) -> Any:
        settings.VAR.mkdir(parents=True, exist_ok=True)
        return super().setup_databases(**kwargs)

    def suite_result(self, suite: unittest.TestSuite, result: Any, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = f", {len(result.skipped)} skipped" if result.skipped else ""
        self.closing = (
            f"{result.testsRun - failed - len(result.skipped)} passed, {failed} failed{skipped}"
        )
        return failed

    def run_tests(self, test_labels: list[str], **kwargs: Any) -> int:
        failed: int = super().run_tests(test_labels, **kwargs)
        print(getattr(self, "closing", "0 passed, 1 failed"))
        return failed
