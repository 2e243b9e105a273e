"""One shape of error for every refusal: what happened, what is safe, what to do next."""

import errno
import logging
from functools import partial

from django.core.exceptions import RequestDataTooBig, SuspiciousOperation
from django.db import DataError, IntegrityError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from django_guid import get_guid
from hematite.errors import HematiteError
from hematite.language import later, say
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, AuthorizationError, HttpError, ValidationError

from workshop.shape import Schema

log = logging.getLogger(__name__)
UNREADABLE = later("What was sent cannot be read. Nothing was stored; reload the page and send it again.")
FULL = later(
    "The server's disk is full. Nothing of this was stored. Whoever runs the server has to make room; then try again."
)
DATABASE_AWAY = (  # it may have gone in the very moment of storing
    later("The server's database cannot be reached, and whether this was stored is not known. Try again in a moment.")
)
NO_ROOM = (errno.ENOSPC, errno.EDQUOT, errno.EFBIG)
AWAY = (2002, 2003, 2006, 2013, 2055, 1053)  # MariaDB: not there, gone, lost on the way, stopping
AT_ONCE = (1205, 1213)  # MariaDB: waited too long for another, or each for the other
NO_JSON = 4025  # MariaDB: a check failed, which is that a column is JSON: half a letter is none
TABLE_FULL = (1021, 1114, 1026, 3)  # MariaDB: disk full, table full, cannot write


class Refusal(Exception):
    """A service's refusal: an HTTP status, a code that stays, and a sentence for the screen."""

    def __init__(self, code: str, message: str, *, status: int = 409) -> None:
        super().__init__(message)
        self.code, self.message, self.status = code, message, status

    def __reduce__(self) -> tuple:
        """Let it be sent from one process to another."""
        return partial(Refusal, status=self.status), (self.code, self.message)


class RefusalOut(Schema):
    """The body of every refusal."""

    code: str
    message: str
    fields: dict[str, str] = {}


def _field(error: dict) -> tuple[str, str]:
    place = [str(part) for part in error["loc"] if part not in {"body", "query", "path", "form", "payload"}]
    return ".".join(place) or "request", error["msg"]


def install(api: NinjaAPI) -> None:
    """Turn exceptions into refusals, here and nowhere else."""

    def answer(request: HttpRequest, status: int, code: str, message: str, **more: object) -> HttpResponse:
        return api.create_response(request, {"code": code, "message": message, "fields": {}, **more}, status=status)

    @api.exception_handler(Refusal)
    def refused(request: HttpRequest, error: Refusal) -> HttpResponse:
        return answer(request, error.status, error.code, error.message)

    @api.exception_handler(HematiteError)
    def core_refused(request: HttpRequest, error: HematiteError) -> HttpResponse:
        return answer(request, 422, type(error).__name__, str(error))

    @api.exception_handler(ValidationError)
    def malformed(request: HttpRequest, error: ValidationError) -> HttpResponse:
        fields = dict(_field(part) for part in error.errors)
        words = "; ".join(f"{name}: {text}" for name, text in fields.items())
        message = say(
            "Some of it cannot be used. {words}. Nothing was stored; correct it and send it again.", words=words
        )
        return answer(request, 422, "malformed", message, fields=fields)

    @api.exception_handler(AuthenticationError)
    def nobody(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return answer(
            request, 401, "signed_out", say("You are signed out. Sign in again; what you entered is kept here.")
        )

    @api.exception_handler(AuthorizationError)
    def forbidden(request: HttpRequest, error: AuthorizationError | HttpError) -> HttpResponse:
        return answer(request, 403, "forbidden", say("This request was not made from Hematite's own page. Reload it."))

    @api.exception_handler(HttpError)
    def unreadable(request: HttpRequest, error: HttpError) -> HttpResponse:
        if error.status_code == 403:
            return forbidden(request, error)
        return answer(request, error.status_code, "unreadable", say(UNREADABLE))

    @api.exception_handler(MultiPartParserError)
    @api.exception_handler(SuspiciousOperation)
    @api.exception_handler(UnreadablePostError)
    def broken_off(request: HttpRequest, error: Exception) -> HttpResponse:
        log.warning("%s %s cannot be read: %s", request.method, request.path, error)
        status = 413 if isinstance(error, RequestDataTooBig) else 400
        return answer(request, status, "unreadable", say(UNREADABLE))

    @api.exception_handler(OSError)
    def full(request: HttpRequest, error: OSError) -> HttpResponse:
        if error.errno not in NO_ROOM:
            return fault(request, error)
        log.error("The disk is full: %s", error)
        return answer(request, 507, "full", say(FULL))

    @api.exception_handler(OperationalError)
    def database(request: HttpRequest, error: OperationalError) -> HttpResponse:
        if error.args and error.args[0] in TABLE_FULL:
            log.error("The database's disk is full: %s", error)
            return answer(request, 507, "full", say(FULL))
        if error.args and error.args[0] in AWAY:
            log.error("The database cannot be reached: %s", error)
            return answer(request, 503, "database_away", say(DATABASE_AWAY))
        if error.args and error.args[0] in AT_ONCE:
            log.warning("Two wrote at once: %s", error)
            return answer(request, 503, "at_once", say("Somebody else wrote there at that moment. Try it once more."))
        return fault(request, error)

    @api.exception_handler(DataError)
    def unkeepable(request: HttpRequest, error: Exception) -> HttpResponse:
        log.warning("What the database takes for no value: %s", error)
        message = say("A number or a word in it cannot be kept. Nothing was stored; reload the page and send it again.")
        return answer(request, 422, "malformed", message)

    @api.exception_handler(IntegrityError)
    def no_such_value(request: HttpRequest, error: IntegrityError) -> HttpResponse:
        return unkeepable(request, error) if error.args and error.args[0] == NO_JSON else fault(request, error)

    @api.exception_handler(Exception)
    def fault(request: HttpRequest, error: Exception) -> HttpResponse:
        log.exception("%s %s", request.method, request.resolver_match.route if request.resolver_match else "")
        number = get_guid()
        message = say(
            "That is a fault of the program. Try it once more. Whoever runs the server finds it by {number}.",
            number=number,
        )
        return answer(request, 500, "fault", message)

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return answer(request, 404, "not_found", say("There is nothing of that kind in this workshop."))
