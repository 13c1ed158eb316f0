"""The test runner: Django's own, quiet while all is well; it ends on its ten slowest and one line.

In the tests a password is hashed quickly; that sign-in takes the real hasher has a test of its own.
"""

from __future__ import annotations

import logging
import unittest
from io import StringIO
from time import monotonic
from typing import Any
from unittest.mock import patch

from django.conf import settings
from django.core.management import call_command
from django.core.servers.basehttp import WSGIRequestHandler
from django.db.backends.sqlite3.creation import DatabaseCreation
from django.db.backends.sqlite3.operations import DatabaseOperations
from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestResult, RemoteTestRunner
from django.test.utils import override_settings

SLOWEST = 10
QUICK_HASHER = ["django.contrib.auth.hashers.MD5PasswordHasher"]


class TimedResult(unittest.TextTestResult):
    """Keeps how long each test took."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.times: list[tuple[float, str]] = []
        self.begun = 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802 (unittest's name)
        self.begun = monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802 (unittest's name)
        super().stopTest(test)
        self.took(test, monotonic() - self.begun)

    def took(self, test: unittest.TestCase, seconds: float) -> None:
        """Write down how long a test took, in this process or in one beside it."""
        self.times.append((seconds, test.id()))


class RemoteTimedResult(RemoteTestResult):
    """A result in a process beside this one: sends how long each test took."""

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802 (unittest's name)
        super().startTest(test)
        self.begun = monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802 (unittest's name)
        super().stopTest(test)
        self.events.append(("took", self.test_index, monotonic() - self.begun))

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:  # noqa: N802 (unittest's name)
        """A part that failed is told as its test's failure: a browser's part cannot be sent on."""
        if err is not None:
            _, error, trace = err
            told = AssertionError(f"{subtest._subDescription()}: {error}")
            self.addFailure(test, (AssertionError, told, trace))


class RemoteTimedRunner(RemoteTestRunner):
    """Runs in a process beside this one."""

    resultclass = RemoteTimedResult


class TimedParallelSuite(ParallelTestSuite):
    """Classes of tests spread over processes, the long ones begun first."""

    runner_class = RemoteTimedRunner


class ReplayedResult(TimedResult):
    """A result that is told of tests from processes beside this one, times and all."""

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802 (unittest's name)
        unittest.TextTestResult.stopTest(self, test)


_clone = DatabaseCreation._clone_test_db  # type: ignore[attr-defined]


def _clone_whole(creation: DatabaseCreation, *args: Any, **kwargs: Any) -> None:
    """Copy a test database with all that still stands in its write-ahead log."""
    with creation.connection.cursor() as cursor:
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    _clone(creation, *args, **kwargs)


_flush = DatabaseOperations.execute_sql_flush


def _flush_what_is_kept(operations: Any, statements: Any) -> None:
    """Empty a test database: rows that are kept for good go too, between tests alone."""
    allowed = "INSERT INTO people_erasing (why) VALUES ('between tests')"
    others = [one for one in statements if "people_erasing" not in one]
    _flush(operations, [allowed, *others, "DELETE FROM people_erasing"])


class NoonRunner(DiscoverRunner):
    """Prints the ten slowest tests and ``N passed, N failed`` from the real result."""

    parallel_test_suite = TimedParallelSuite

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        self.quick = override_settings(PASSWORD_HASHERS=QUICK_HASHER)
        self.quick.enable()
        setattr(DatabaseOperations, "execute_sql_flush", _flush_what_is_kept)  # noqa: B010 (no method)
        # A browser that closes its page mid-answer is no news, nor a line that a fault cuts.
        WSGIRequestHandler.log_message = lambda *_, **__: None  # type: ignore[method-assign]
        for name in ("django.server", "asyncio", "pymodbus"):
            logging.getLogger(name).setLevel(logging.CRITICAL)

    def teardown_test_environment(self, **kwargs: Any) -> None:
        self.quick.disable()
        super().teardown_test_environment(**kwargs)

    def setup_databases(self, **kwargs: Any) -> Any:
        settings.VAR.mkdir(parents=True, exist_ok=True)
        # What a run that was cut off left: a log beside a new file makes that one malformed.
        for left in settings.VAR.glob("test*.sqlite3*"):
            left.unlink()
        with patch.object(DatabaseCreation, "_clone_test_db", _clone_whole):
            return super().setup_databases(**kwargs)

    def run_checks(self, databases: set[str]) -> None:
        """Django's own checks; they raise, or say nothing."""
        call_command("check", databases=databases, stdout=StringIO(), stderr=StringIO())

    def get_resultclass(self) -> Any:
        return ReplayedResult if self.parallel > 1 else TimedResult

    def suite_result(self, suite: unittest.TestSuite, result: Any, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = f", {len(result.skipped)} skipped" if result.skipped else ""
        self.closing = (
            f"{result.testsRun - failed - len(result.skipped)} passed, {failed} failed{skipped}"
        )
        self.slowest = sorted(result.times, reverse=True)[:SLOWEST]
        return failed

    def run_tests(self, test_labels: list[str], **kwargs: Any) -> int:
        failed: int = super().run_tests(test_labels, **kwargs)
        for seconds, name in getattr(self, "slowest", ()):
            print(f"{seconds:7.1f} s  {name}")
        print(getattr(self, "closing", "0 passed, 1 failed"))
        return failed
