"""Whether a server lives and can be sent work, for whatever watches over it. Tells nothing of a workshop."""

import os

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache

from workshop import media


@never_cache
def alive(request: HttpRequest) -> HttpResponse:
    """Answer."""
    return JsonResponse({"alive": True})


@never_cache
def ready(request: HttpRequest) -> HttpResponse:
    """Say whether the database answers and is of this version, and whether sounds can be kept; 503 where not."""
    checks = {"database": _database(), "media": _writable()}
    return JsonResponse({"ready": all(checks.values()), **checks}, status=200 if all(checks.values()) else 503)


def _database() -> bool:
    try:
        executor = MigrationExecutor(connection)
        return not executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError:
        return False


def _writable() -> bool:
    """Return whether a new file could be made where sounds lie; the folder itself is made by the first sound."""
    if store := media.shared():
        try:
            store.exists("any")
        except Exception:  # whatever its library raises
            return False
    folder = settings.MEDIA_ROOT
    while not folder.exists() and folder != folder.parent:
        folder = folder.parent
    return os.access(folder, os.W_OK | os.X_OK)
