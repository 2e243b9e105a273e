"""What watches over a server reads: one line a request, and figures for Prometheus."""

import hmac
import logging
import time
from collections.abc import Iterable

import prometheus_client
from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone
from prometheus_client import CollectorRegistry, multiprocess
from prometheus_client.core import GaugeMetricFamily, Metric

from workshop.headers import Handler

log = logging.getLogger("workshop.requests")


def each_request(get_response: Handler) -> Handler:
    """Log how each request went: by its route, so that no secret, name or number of an address lands in a log."""

    def answer(request: HttpRequest) -> HttpResponse:
        begun = time.perf_counter()
        response = get_response(request)
        user = getattr(request, "user", None)
        found = {
            "method": request.method,
            "route": request.resolver_match.route if request.resolver_match else "none",
            "status": response.status_code,
            "ms": round(1000 * (time.perf_counter() - begun), 1),
            "person": user.pk if user is not None and user.is_authenticated else None,
        }
        log.info("request", extra=found)
        return response

    return answer


class OwnFigures:
    """What only the database knows, asked when the figures are asked for. Of no workshop by name."""

    def collect(self) -> Iterable[Metric]:
        """Give how much waits to be heard and since when, and when each chore went well last."""
        from keeping.models import Chore  # noqa: PLC0415 - models are not there yet when this module is read
        from recordings.models import Analysis  # noqa: PLC0415

        waiting = Analysis.objects.filter(state=Analysis.State.WAITING)
        first = waiting.order_by("recording__made_at").values_list("recording__made_at", flat=True).first()
        age = (timezone.now() - first).total_seconds() if first else 0
        yield GaugeMetricFamily("hematite_recordings_waiting", "Recordings that nobody heard yet", waiting.count())
        yield GaugeMetricFamily("hematite_oldest_waiting_seconds", "Since the oldest of them was made", max(age, 0))
        done = GaugeMetricFamily("hematite_chore_done_timestamp_seconds", "When it went well last", labels=["chore"])
        failed = GaugeMetricFamily("hematite_chore_failed", "1 where its last try failed", labels=["chore"])
        for row in Chore.objects.all():
            done.add_metric([row.name], row.done_at.timestamp() if row.done_at else 0)
            failed.add_metric([row.name], float(bool(row.failed)))
        yield done
        yield failed


def figures(request: HttpRequest) -> HttpResponse:
    """Answer with the figures, to whoever has the token of the settings; to all others there is nothing here."""
    said = request.headers.get("Authorization", "").encode()
    if not settings.METRICS_TOKEN or not hmac.compare_digest(said, f"Bearer {settings.METRICS_TOKEN}".encode()):
        raise Http404
    registry = prometheus_client.REGISTRY
    if settings.METRICS_FOLDER:  # several processes answer: each writes its own there
        registry = CollectorRegistry()
        multiprocess.MultiProcessCollector(registry)
    own = CollectorRegistry()
    own.register(OwnFigures())
    body = prometheus_client.generate_latest(registry) + prometheus_client.generate_latest(own)
    return HttpResponse(body, content_type=prometheus_client.CONTENT_TYPE_LATEST)
