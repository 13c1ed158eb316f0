"""Wires the app; it keeps no tables of its own."""

from __future__ import annotations

from django.apps import AppConfig


class KeepingConfig(AppConfig):
    """Backups, checks, and what is looked at before serving."""

    name = "server.keeping"
