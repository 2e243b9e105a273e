"""Signing in and out, and what a person prefers."""

import hashlib

from audit.services import What, trace
from django.conf import settings
from django.contrib.auth import login
from django.contrib.auth.hashers import make_password
from django.db import transaction
from django.http import HttpRequest
from hematite.language import say
from hematite.units import quantities
from workshop.refusals import Refusal

from people import second
from people.auth import may_enter, recognised
from people.models import Role, User
from people.staff import remember

NAME = 70  # characters of a person's or a workshop's name, of the 150 that there is room for


def sign_in(request: HttpRequest, username: str, password: str, number: str = "") -> User:
    """Sign somebody in; refuses wrong words, and for a while after too many of them.

    `number`: of their authenticator, of whom has one; it is asked for once the password was right.
    """
    user = recognised(request, username, password)
    if user is None or not may_enter(user):
        raise Refusal("wrong_sign_in", say("Name and password do not belong together. Try again."), status=401)
    second.check(user, number)
    login(request, user)
    remember(request, user)
    return user


def somebody_elsewhere(workshop_id: int, name: str, workshop: str) -> User:
    """Return who stands here for a person of another workshop: a name to read, that nobody can sign in with."""
    shown = (  # one name in every language: who it stands for is known by it
        f"{' '.join(name.split())[:NAME] or 'Somebody'} ({' '.join(workshop.split())[:NAME] or 'from a bundle'})"
    )
    number = hashlib.sha256(shown.encode()).hexdigest()[:16]
    user, _ = User.objects.get_or_create(
        username=f"elsewhere-{workshop_id}-{number}",
        defaults={
            "workshop_id": workshop_id,
            "first_name": shown,
            "is_active": False,
            "role": Role.READER,
            "password": make_password(None),
        },
    )
    return user


def known_language(language: str) -> str:
    """Return a language that is offered here, or '' for none of one's own. Refuses any other."""
    if language and language not in settings.SPOKEN:
        raise Refusal(
            "unknown_language", say("This server does not speak “{language}”.", language=language), status=422
        )
    return language


@transaction.atomic
def speak(user: User, language: str) -> None:
    """Keep the language of the workshop."""
    user.workshop.language = known_language(language)
    user.workshop.save(update_fields=["language"])
    trace(user, What.POLICY_CHANGED, details=[say("language: {language}", language=language or "-")])


@transaction.atomic
def prefer(user: User, units: dict[str, str], light: str | None, language: str | None) -> User:
    """Keep a person's units, light and language; None keeps what was chosen."""
    known = {name: [unit["key"] for unit in quantity["units"]] for name, quantity in quantities().items()}
    for quantity, unit in units.items():
        if unit not in known.get(quantity, []):
            raise Refusal(
                "unknown_unit", say("“{unit}” is no unit for {quantity}.", unit=unit, quantity=quantity), status=422
            )
    user = User.objects.select_for_update().get(pk=user.pk)  # one tablet must not take back what another chose
    kept = user.preferences.get("units", {}) | units
    user.preferences = user.preferences | {"units": kept} | ({"light": light} if light else {})
    if language is not None:
        user.preferences["language"] = known_language(language)
    user.save(update_fields=["preferences"])
    return user
