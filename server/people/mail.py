"""Links by mail, where a mail server is set: sent beside the request, whose time tells nobody who is known."""

import logging
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

from django.conf import settings
from django.core.mail import send_mail
from django.db import connection
from django.utils import timezone
from hematite.language import say

from people.invitations import LASTS, Kind, let_reset_by_mail
from people.models import Invitation, User

log = logging.getLogger(__name__)
RESTS = timedelta(minutes=10)  # between two letters to the same person
POST = ThreadPoolExecutor(1)


def works() -> bool:
    """Return whether letters can be sent at all."""
    return bool(settings.MAIL and settings.ADDRESS)


def send_link(to: str, secret: str, kind: Kind, workshop: str) -> None:
    """Send a link that opens something once."""
    page, what = ("join", say("You are invited to")) if kind == Kind.JOIN else ("reset", say("A new password for"))
    days = LASTS[kind].days
    until = "a day" if days == 1 else say("{days} days", days=days)
    body = say(
        "{what} {workshop} in Hematite.\n\n{address}/{page}#{secret}\n\nThe link opens once, within {until}. If "
        "you did not ask for it, leave it: nothing changes.",
        what=what,
        workshop=workshop,
        address=settings.ADDRESS,
        page=page,
        secret=secret,
        until=until,
    )
    subject = f"{what} {workshop}".replace("\n", " ").replace("\r", " ")
    POST.submit(_post, to, subject, body)


def forgotten(username: str) -> None:
    """Send somebody a link for a new password, if there is such a person, here, with an address. Tells nobody which."""
    POST.submit(_forgotten, username)


def _forgotten(username: str) -> None:
    try:
        person = User.objects.filter(username=username, is_active=True, demo=False).exclude(email="").first()
        if person is None or not person.has_usable_password():
            return
        lately = Invitation.objects.filter(kind=Kind.RESET, person=person, made_at__gt=timezone.now() - RESTS)
        if not lately.exists():
            send_link(person.email, let_reset_by_mail(person), Kind.RESET, person.workshop.name)
    except Exception:
        log.exception("A link for a new password")
    finally:
        connection.close()


def _post(to: str, subject: str, body: str) -> None:
    try:
        send_mail(subject, body, settings.DEFAULT_FROM_EMAIL, [to])
    except Exception:
        log.exception("A letter could not be sent")
