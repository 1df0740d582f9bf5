"""Addresses: the API, the admin, and the front end for every page of its own."""

from django.contrib import admin
from django.urls import path, re_path

from config.api import api
from config.pages import page

handler400 = "config.pages.unreadable"
handler404 = "config.pages.not_found"
handler500 = "config.pages.failed"

urlpatterns = [
    path("api/", api.urls),
    path("admin/", admin.site.urls),
    re_path(r"^(?!static/|api/).*$", page),
]
