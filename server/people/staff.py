"""The people of a workshop: roles, leaving and coming back; passwords and the devices somebody is signed in on."""

from datetime import timedelta

from audit.services import What, trace
from django.contrib.auth import update_session_auth_hash
from django.contrib.sessions.models import Session
from django.db import transaction
from django.http import Http404, HttpRequest
from django.utils import timezone
from hematite.language import say
from workshop.refusals import Refusal

from people.auth import recognised
from people.invitations import checked_password
from people.models import Device, Invitation, Role, User

SEEN_EVERY = timedelta(hours=1)  # a device is written down as seen no more often


def staff(user: User) -> list[User]:
    """Return the people of the workshop that can sign in, or could, owners first."""
    ranks = {role: n for n, role in enumerate(reversed(Role))}
    found = User.objects.filter(workshop=user.workshop_id).select_related("second")
    rows = [one for one in found if one.has_usable_password()]
    return sorted(rows, key=lambda one: (not one.is_active, ranks[Role(one.role)], one.shown_name.lower()))


def one_of_ours(user: User, person_id: int) -> User:
    """Return a person of the workshop, or raise Http404."""
    person = User.objects.filter(id=person_id, workshop=user.workshop_id).first()
    if person is None or not person.has_usable_password():
        raise Http404
    return person


@transaction.atomic
def change(user: User, person_id: int, *, role: str, active: bool) -> User:
    """Give a person another role, let them leave or come back. Somebody stays owner."""
    owners = User.objects.select_for_update().filter(workshop=user.workshop_id, role=Role.OWNER, is_active=True)
    person, others = one_of_ours(user, person_id), [one for one in owners if one.pk != person_id]
    if not others and not (active and role == Role.OWNER):
        raise Refusal("last_owner", say("Somebody has to stay owner. Make another owner first."))
    if (person.role, person.is_active) != (role, active):
        now = f"{say(Role(role).label)}, {say('here') if active else say('left the workshop')}"
        trace(user, What.PERSON_CHANGED, person.shown_name, [now])
    person.role, person.is_active = Role(role), active
    person.save(update_fields=["role", "is_active"])
    if not active:
        sign_out_all(person)
    if not active or role != Role.OWNER:  # what somebody may no longer open, no link of theirs opens
        Invitation.objects.filter(made_by=person, used_at=None).delete()
    return person


def change_password(request: HttpRequest, old: str, new: str) -> None:
    """Change one's own password; every other device is signed out."""
    user = request.user
    if recognised(request, user.username, old) is None:
        raise Refusal("wrong_password", say("The old password is not right. Nothing was changed."), status=422)
    with transaction.atomic():
        user.set_password(checked_password(new, user))
        user.save(update_fields=["password"])
        here = Device.objects.filter(session_key=request.session.session_key).first()
        sign_out_all(user, but=here)
        update_session_auth_hash(request, user)  # gives this session another key
        request.session.save()
        if here:
            here.session_key = request.session.session_key
            here.save(update_fields=["session_key"])


def remember(request: HttpRequest, user: User) -> None:
    """Write down the device on which somebody signed in."""
    if not request.session.session_key:
        request.session.save()
    agent = request.headers.get("User-Agent", "")[:200]
    Device.objects.update_or_create(
        session_key=request.session.session_key, defaults={"person": user, "agent": agent, "seen_at": timezone.now()}
    )


def see(request: HttpRequest) -> None:
    """Write down that a device is still used, now and then; one that signed in before devices were written down too."""
    row = Device.objects.filter(session_key=request.session.session_key).first()
    if row is None or row.seen_at < timezone.now() - SEEN_EVERY:
        remember(request, request.user)


def devices(user: User) -> list[Device]:
    """Return the devices on which a person is still signed in; what ended by itself is forgotten."""
    rows = list(user.devices.all())
    alive = set(
        Session.objects.filter(
            session_key__in=[row.session_key for row in rows], expire_date__gt=timezone.now()
        ).values_list("session_key", flat=True)
    )
    user.devices.exclude(session_key__in=alive).delete()
    return [row for row in rows if row.session_key in alive]


def sign_out_device(user: User, device_id: int) -> None:
    """Sign a person's own device out, or raise Http404."""
    row = user.devices.filter(id=device_id).first()
    if row is None:
        raise Http404
    _forget([row])


def sign_out_all(user: User, *, but: Device | None = None) -> None:
    """Sign a person out everywhere, but on one device."""
    _forget([row for row in user.devices.all() if but is None or row.pk != but.pk])


def forget_this(request: HttpRequest) -> None:
    """Forget a device that signs out."""
    Device.objects.filter(session_key=request.session.session_key).delete()


def _forget(rows: list[Device]) -> None:
    Session.objects.filter(session_key__in=[row.session_key for row in rows]).delete()
    Device.objects.filter(pk__in=[row.pk for row in rows]).delete()
