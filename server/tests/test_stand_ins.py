"""The files that the demo's stand-ins follow."""

from __future__ import annotations

import tempfile
from pathlib import Path

from django.test import TestCase

from core.files.job import read_job
from server.demo.load import load as load_demo
from server.demo.stand_ins import FollowedFiles
from server.jobs.models import JobRow
from server.jobs.stored import load
from server.readings.models import ReadingRow


class StandIns(TestCase):
    def test_the_file_is_the_job_as_it_stands_and_is_written_once_for_each_change(self) -> None:
        load_demo()
        row = JobRow.objects.get(plan__name="Ferry Office")
        reading = ReadingRow.objects.filter(job=row).last()
        assert reading is not None
        with tempfile.TemporaryDirectory() as folder:
            files, file = FollowedFiles(Path(folder)), Path(folder) / f"{row.id}.json"
            for instance in (row, reading):
                with self.captureOnCommitCallbacks(execute=True):
                    files.changed(instance)
                    self.assertFalse(file.exists() and instance is row)
            self.assertEqual(read_job(file.read_bytes()), load(row.id).job)
            first = file.stat().st_mtime_ns
            with self.captureOnCommitCallbacks(execute=True):
                files.changed(reading)
            self.assertEqual(file.stat().st_mtime_ns, first)
