"""Whether a server lives, whether it can work, and how it fares: for proxies and for those who watch over it."""

import hmac

from django.conf import settings
from django.core.exceptions import PermissionDenied
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

__all__ = ["health", "metrics", "ready"]


@require_safe
@never_cache
def health(_request: HttpRequest) -> HttpResponse:
    """Say that it lives: nothing else is asked."""
    return JsonResponse({"lives": True})


@require_safe
@never_cache
def ready(_request: HttpRequest) -> HttpResponse:
    """Say whether it can work: the database answers, and knows all that this version stores."""
    try:
        executor = MigrationExecutor(connection)
        missing = executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError:
        return JsonResponse({"ready": False, "said": "The database does not answer."}, status=503)
    if missing:
        return JsonResponse({"ready": False, "said": "The database is to be migrated first."}, status=503)
    return JsonResponse({"ready": True})


@require_safe
@never_cache
def metrics(request: HttpRequest) -> HttpResponse:
    """What Prometheus asks for, with the token that was set for it."""
    from django_prometheus.exports import ExportToDjangoView  # noqa: PLC0415 - installed only with a token

    if not hmac.compare_digest(
        request.headers.get("Authorization", "").encode(), f"Bearer {settings.METRICS_TOKEN}".encode()
    ):
        raise PermissionDenied
    response: HttpResponse = ExportToDjangoView(request)
    return response
