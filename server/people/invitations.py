"""Ways in, once each: setting up a workshop, joining one, choosing a new password."""

import hashlib
import secrets
from datetime import timedelta
from typing import NamedTuple

from audit.services import What, trace
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.utils import timezone
from hematite.language import later, say
from workshop.refusals import Refusal

from people.models import Invitation, Role, SecondFactor, User, Workshop

Kind = Invitation.Kind
LASTS = {Kind.JOIN: timedelta(days=7), Kind.RESET: timedelta(days=1)}
SECRET_BYTES = 20
_TAKEN = later("Somebody signs in with that name already. Choose another.")
_GONE = later("This link was used already, or it is too old. Ask for a new one.")


def _hash(secret: str) -> str:
    return hashlib.sha256(secret.strip().encode()).hexdigest()


def _made(kind: Kind, **more: object) -> str:
    """Make an invitation and return its secret, which is nowhere else."""
    secret = secrets.token_urlsafe(SECRET_BYTES)
    ends_at = timezone.now() + LASTS[kind] if kind in LASTS else None
    Invitation.objects.create(kind=kind, hash=_hash(secret), ends_at=ends_at, **more)
    return secret


def nobody_yet() -> bool:
    """Return whether nobody could sign in for good: then a workshop is set up first."""
    return not User.objects.filter(is_active=True, demo=False).exists()


def set_up_code() -> str:
    """Return a new one-time code to set up the first workshop; an earlier one ends. Refuses once there is somebody."""
    if not nobody_yet():
        raise Refusal("set_up_already", say("This is set up already. Sign in; an owner invites others."))
    Invitation.objects.filter(kind=Kind.SET_UP).delete()
    return _made(Kind.SET_UP)


def invite(user: User, role: str) -> str:
    """Return the secret with which one person can join the workshop."""
    trace(user, What.PERSON_INVITED, details=[say(Role(role).label)])
    return _made(Kind.JOIN, workshop_id=user.workshop_id, role=Role(role), made_by=user)


def let_reset(user: User, person: User) -> str:
    """Return the secret with which a person can choose a new password; an earlier one ends."""
    trace(user, What.PASSWORD_RESET, person.shown_name)
    Invitation.objects.filter(kind=Kind.RESET, person=person, used_at=None).delete()
    return _made(Kind.RESET, workshop_id=person.workshop_id, person=person, made_by=user)


def let_reset_by_mail(person: User) -> str:
    """Return the same for somebody who forgot it; it goes to their own address and nowhere else.

    Anybody may ask for it in anybody's name: a link that an owner made stays.
    """
    Invitation.objects.filter(kind=Kind.RESET, person=person, used_at=None, made_by=None).delete()
    return _made(Kind.RESET, workshop_id=person.workshop_id, person=person)


def find(secret: str, *kinds: Kind, alone: bool = False) -> Invitation:
    """Return an invitation that still holds. `alone`: until it is used nobody else can. Refuses one that does not."""
    rows = Invitation.objects.select_for_update() if alone else Invitation.objects.select_related("workshop", "person")
    row = rows.filter(hash=_hash(secret), kind__in=kinds, used_at=None).first()
    if row is None or (row.ends_at and row.ends_at < timezone.now()):
        raise Refusal("link_gone", say(_GONE), status=404)
    if row.kind == Kind.RESET and not row.person.is_active:
        raise Refusal("link_gone", say(_GONE), status=404)
    return row


def checked_password(password: str, user: User) -> str:
    """Return a password that is good enough, or refuse it in words."""
    try:
        validate_password(password, user)
    except ValidationError as wrong:
        raise Refusal("weak_password", " ".join(wrong.messages), status=422) from None
    return password


def has_second(secret: str) -> bool:
    """Return whether whoever a link is for is asked for a second number: a link alone does not let them in."""
    return SecondFactor.objects.filter(
        person__in=Invitation.objects.filter(hash=_hash(secret)).values("person")
    ).exists()


class Newcomer(NamedTuple):
    """Who is new: the name to sign in with, the name that is shown, and a password."""

    username: str
    name: str
    password: str


@transaction.atomic
def set_up(secret: str, workshop: str, new: Newcomer, language: str = "") -> User:
    """Make the first workshop and its owner."""
    row = find(secret, Kind.SET_UP, alone=True)
    if not nobody_yet():
        raise Refusal("set_up_already", say("This is set up already. Sign in; an owner invites others."))
    if Workshop.objects.filter(name=workshop).exists():
        raise Refusal("name_taken", say("There is a workshop of that name already. Choose another."), status=422)
    made = Workshop.objects.create(name=workshop, language=language)
    return _joined(row, made, Role.OWNER, new)


@transaction.atomic
def join(secret: str, new: Newcomer) -> User:
    """Make the person that was invited."""
    row = find(secret, Kind.JOIN, alone=True)
    return _joined(row, row.workshop, Role(row.role), new)


def _joined(row: Invitation, workshop: Workshop, role: Role, new: Newcomer) -> User:
    if User.objects.filter(username=new.username).exists():
        raise Refusal("name_taken", say(_TAKEN), status=422)
    if not new.name.strip() or not workshop.name.strip():
        raise Refusal("name_missing", say("Say a name that others can read."), status=422)
    user = User(username=new.username, first_name=new.name, workshop=workshop, role=role)
    user.set_password(checked_password(new.password, user))
    try:
        with transaction.atomic():
            user.save()
    except IntegrityError:  # somebody took the name in the same moment
        raise Refusal("name_taken", say(_TAKEN), status=422) from None
    _used(row, user)
    trace(user, What.PERSON_JOINED, user.shown_name, [say(role.label)])
    return user


@transaction.atomic
def reset(secret: str, password: str) -> User:
    """Give a person the password that they chose; all of their devices are signed out."""
    row = find(secret, Kind.RESET, alone=True)
    user = row.person
    user.set_password(checked_password(password, user))
    user.save(update_fields=["password"])
    _used(row, user)
    return user


def _used(row: Invitation, user: User) -> None:
    row.used_at, row.person = timezone.now(), user
    row.save(update_fields=["used_at", "person"])
