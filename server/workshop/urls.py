"""Addresses: the API under /api, and the page for all the rest."""

from django.urls import path, re_path

from workshop.api import api
from workshop.app_shell import app_shell

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|_app/).*$", app_shell)]
