"""Wires the demo: where stand-ins follow its jobs, their files are kept up."""

from __future__ import annotations

from django.apps import AppConfig
from django.conf import settings
from django.utils.module_loading import import_string


class DemoConfig(AppConfig):
    """The demo among the apps; it has no table."""

    name = "server.demo"

    def ready(self) -> None:
        """Keep the followed files up where a folder for them is named."""
        if settings.STAND_INS is not None:
            # By its name: it knows the rows, and no row is there before all apps are.
            import_string("server.demo.stand_ins.keep_up")(settings.STAND_INS)
