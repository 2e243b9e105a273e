"""Who is here: session and preferences."""

from typing import Literal

from django.conf import settings
from django.contrib.auth import logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Field, Router, Schema
from ninja.errors import AuthorizationError
from ninja.utils import check_csrf
from workshop.refusals import RefusalOut

from people import demo, services

router = Router(tags=["people"])


class SignInIn(Schema):
    """What is typed to sign in."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class PreferencesIn(Schema):
    """Units by quantity, and the light."""

    units: dict[str, str] = {}
    light: Literal["day", "under"] | None = None


class PersonOut(Schema):
    """The signed-in person."""

    id: int
    name: str
    workshop: str
    units: dict[str, str]
    light: str | None


class DemoOut(Schema):
    """The demo sign-in, while the demo flag is on."""

    username: str
    password: str


class SessionOut(Schema):
    """Who is signed in, or nobody; the demo sign-in while it is offered."""

    person: PersonOut | None
    demo: DemoOut | None


def _session(request: HttpRequest) -> dict:
    user = request.user
    person = None
    if user.is_authenticated:
        person = {
            "id": user.pk,
            "name": user.shown_name,
            "workshop": user.workshop.name,
            "units": user.preferences.get("units", {}),
            "light": user.preferences.get("light"),
        }
    return {"person": person, "demo": demo.SIGN_IN if settings.DEMO else None}


@router.get("/session", auth=None, response=SessionOut)
def get_session(request: HttpRequest):
    """Say who is signed in; gives the browser its CSRF cookie."""
    get_token(request)
    return _session(request)


@router.post("/session", auth=None, response={200: SessionOut, 401: RefusalOut, 403: RefusalOut, 429: RefusalOut})
def sign_in(request: HttpRequest, payload: SignInIn):
    """Sign in. Guarded against foreign pages and against guessing."""
    if check_csrf(request) is not None:
        raise AuthorizationError
    services.sign_in(request, payload.username, payload.password)
    return _session(request)


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest):
    """Sign out."""
    logout(request)
    return _session(request)


@router.put("/preferences", response=SessionOut)
def set_preferences(request: HttpRequest, payload: PreferencesIn):
    """Keep units and light for the next visit."""
    request.user = services.prefer(request.user, payload.units, payload.light)
    return _session(request)
