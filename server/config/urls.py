"""Addresses: the API, the admin, and the front end for every page of its own."""

from django.conf import settings
from django.contrib import admin
from django.urls import include, path, re_path

from config import health
from config.api import api
from config.pages import page, worker

handler400 = "config.pages.unreadable"
handler404 = "config.pages.not_found"
handler500 = "config.pages.failed"

urlpatterns = [
    path("api/", api.urls),
    path("admin/", admin.site.urls),
    path("account/", include("accounts.pages")),
    path("health", health.health),
    path("ready", health.ready),
    *([path("metrics", health.metrics)] if settings.METRICS_TOKEN else []),
    path("sw.js", worker),
    re_path(r"^(?!static/|api/).*$", page),
]
