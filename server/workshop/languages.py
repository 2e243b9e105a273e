"""In which language a request is answered: its person's own, else the workshop's, else the device's or its browser's.

The words stand in `words/*.po`, here and in the core; Django's own are its own.
"""

import datetime
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from babel.dates import format_date, format_datetime
from django.conf import settings
from django.core.checks import Error, register
from django.http import HttpRequest, HttpResponse
from django.utils import translation
from django.utils.cache import patch_vary_headers
from hematite.language import SOURCE, also_in, languages, speaking, spoken

also_in(Path(__file__).parent / "words")
Handler = Callable[[HttpRequest], HttpResponse]


@register
def are_known(**_: object) -> list[Error]:
    """Refuse to serve in a language that nobody wrote a catalogue of."""
    unknown = sorted(set(settings.SPOKEN) - set(languages()))
    words = f"HEMATITE_LANGUAGES names {', '.join(unknown)}. Known are: {', '.join(languages())}."
    return [Error(words, id="hematite.E002")] if unknown or not settings.SPOKEN else []


@contextmanager
def speaking_to(wanted: str) -> Iterator[None]:
    """Say words in a language, Django's own among them; in this server's first where it does not offer that one."""
    language = wanted if wanted in settings.SPOKEN else settings.SPOKEN[0]
    with speaking(language), translation.override(language):
        yield


def each_request(get_response: Handler) -> Handler:
    """Answer each request in the language of whoever asks."""

    def answer(request: HttpRequest) -> HttpResponse:
        with speaking_to(language_of(request)):
            response = get_response(request)
        patch_vary_headers(response, ["Accept-Language", "Cookie"])
        return response

    return answer


def language_of(request: HttpRequest) -> str:
    """Return the language of whoever asks, '' where nothing is known of it."""
    if request.path.startswith("/api/") and request.user.is_authenticated and request.user.language:
        return str(request.user.language)
    browser = [one.split(";")[0].strip()[:2].lower() for one in request.headers.get("Accept-Language", "").split(",")]
    asked = [request.COOKIES.get(settings.LANGUAGE_COOKIE_NAME, ""), *browser]
    return next((one for one in asked if one in settings.SPOKEN), "")


def day(when: datetime.date) -> str:
    """Return a day as the language writes it: 05 Nov 2026."""
    return str(format_date(when, "dd MMM y" if spoken() == SOURCE else "medium", locale=spoken()))


def moment(when: datetime.datetime) -> str:
    """Return a moment of universal time: 05 November 2026, 14:07 UTC."""
    pattern = "dd MMMM y, HH:mm" if spoken() == SOURCE else "d. MMMM y, HH:mm"
    return f"{format_datetime(when, pattern, locale=spoken())} UTC"
