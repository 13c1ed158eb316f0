"""Two doors: the API and the page."""

from __future__ import annotations

from django.urls import path, re_path

from server.api import api
from server.platform.pages import page

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|static/).*$", page)]
