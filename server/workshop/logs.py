"""What is logged, and how: lines for people, or JSON for whatever gathers it; each with its request's number."""

from typing import Any

PLAIN = "%(asctime)s %(levelname)s %(name)s [%(correlation_id)s] %(message)s"
FIELDS = "%(asctime)s %(levelname)s %(name)s %(correlation_id)s %(message)s"


def logging_of(form: str, *, testing: bool) -> dict[str, Any]:
    """Return what `LOGGING` is. `form`: `json`, or else lines. Of a request: its route, never what stands in it."""
    lines = {"json": {"()": "pythonjsonlogger.json.JsonFormatter", "format": FIELDS}, "lines": {"format": PLAIN}}
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "filters": {"number": {"()": "django_guid.log_filters.CorrelationId"}},
        "formatters": lines,
        "handlers": {
            "console": {
                "class": "logging.StreamHandler",
                "filters": ["number"],
                "formatter": "json" if form == "json" else "lines",
            }
        },
        "root": {"handlers": ["console"], "level": "ERROR" if testing else "WARNING"},
        "loggers": {
            "django.request": {"level": "CRITICAL" if testing else "ERROR"},
            "axes": {"level": "ERROR"},
            "django_guid": {"level": "WARNING"},
            "workshop.requests": {"level": "ERROR" if testing or form != "json" else "INFO"},
        },
    }
