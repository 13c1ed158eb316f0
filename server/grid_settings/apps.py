"""Wires the app; its label is that of the tables as they were first made."""

from __future__ import annotations

from django.apps import AppConfig


class GridSettingsConfig(AppConfig):
    """The app under its new name."""

    name = "server.grid_settings"
    label = "gridset"
