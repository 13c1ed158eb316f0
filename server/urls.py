"""Two doors: the API and the page."""

from __future__ import annotations

from django.urls import path, re_path

from server.api import api
from server.platform.pages import page, service_worker

urlpatterns = [
    path("api/", api.urls),
    path("sw.js", service_worker),
    re_path(r"^(?!api/|static/|engine/).*$", page),
]
