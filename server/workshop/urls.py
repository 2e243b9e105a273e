"""Addresses: the API under /api, health, and the page for all the rest."""

from django.urls import path, re_path

from workshop.api import api
from workshop.app_shell import app_shell
from workshop.health import alive, ready
from workshop.watching import figures

urlpatterns = [
    path("healthz", alive),
    path("readyz", ready),
    path("metrics", figures),
    path("api/", api.urls),
    re_path(r"^(?!api/|_app/).*$", app_shell),
]
