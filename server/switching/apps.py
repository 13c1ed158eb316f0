"""Wires the app; its label is that of the tables as they were first made."""

from __future__ import annotations

from django.apps import AppConfig


class SwitchingConfig(AppConfig):
    """The app under its new name."""

    name = "server.switching"
    label = "waking"
