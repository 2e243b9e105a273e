"""Who is here: session, preferences, ways in, and the people of the workshop."""

from collections.abc import Callable

import segno
from django.conf import settings
from django.contrib.auth import login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.utils import timezone
from hematite.language import say, spoken
from ninja import Router
from ninja.errors import AuthorizationError
from ninja.utils import check_csrf
from workshop.languages import language_of, speaking_to
from workshop.refusals import Refusal, RefusalOut

from people import demo, invitations, mail, second, services, staff
from people.auth import may_enter, recognised
from people.models import Device, Invitation, Role, SecondFactor, User
from people.permissions import ABOUT, OWN, RULE, WORDS, May, refusal_of
from people.schemas import (
    BegunOut,
    DeviceOut,
    ForgottenIn,
    InvitationOut,
    InviteIn,
    JoinIn,
    LanguageIn,
    LinkOut,
    MailIn,
    NumberIn,
    OwnPasswordIn,
    PasswordIn,
    PeopleOut,
    PreferencesIn,
    ResetIn,
    SecondOut,
    SecretIn,
    SessionOut,
    SetUpIn,
    SignInIn,
    StaffIn,
    WordsOut,
)  # fmt: skip

router = Router(tags=["people"])
REFUSED = {401: RefusalOut, 403: RefusalOut, 404: RefusalOut, 409: RefusalOut, 422: RefusalOut, 429: RefusalOut}
BACKEND = "django.contrib.auth.backends.ModelBackend"


def _session(request: HttpRequest) -> dict:
    user = request.user
    person = None
    if user.is_authenticated and may_enter(user):
        person = {
            "id": user.pk,
            "name": user.shown_name,
            "workshop": user.workshop.name,
            "role": user.role,
            "may_not": {need: words for need in WORDS if (words := refusal_of(user, need))},
            "units": user.preferences.get("units", {}),
            "light": user.preferences.get("light"),
            "language": user.preferences.get("language", ""),
            "workshop_language": user.workshop.language,
            "mail": user.email,
        }
    set_up = person is None and not settings.DEMO and invitations.nobody_yet()
    return {
        "person": person,
        "demo": demo.SIGN_IN if settings.DEMO else None,
        "set_up": set_up,
        "mails": mail.works(),
        "language": spoken(),
        "languages": settings.SPOKEN,
    }


def _from_our_page(request: HttpRequest) -> None:
    """Refuse what another site's page sends: nobody is signed in yet whom it could be checked by."""
    if check_csrf(request) is not None:
        raise AuthorizationError


@router.get("/session", auth=None, response=SessionOut)
def get_session(request: HttpRequest):
    """Say who is signed in; gives the browser its CSRF cookie."""
    get_token(request)
    if request.user.is_authenticated:
        staff.see(request)
    return _session(request)


@router.post("/session", auth=None, response={200: SessionOut, **REFUSED})
def sign_in(request: HttpRequest, payload: SignInIn):
    """Sign in. Guarded against foreign pages and against guessing."""
    _from_our_page(request)
    services.sign_in(request, payload.username, payload.password, payload.number)
    return _session(request)


@router.delete("/session", auth=May(OWN), response=SessionOut)
def sign_out(request: HttpRequest):
    """Sign out."""
    staff.forget_this(request)
    logout(request)
    return _session(request)


@router.put("/preferences", auth=May(OWN), response=SessionOut)
def set_preferences(request: HttpRequest, payload: PreferencesIn):
    """Keep units, light and language for the next visit; answered in that language."""
    request.user = services.prefer(request.user, **payload.dict())
    with speaking_to(language_of(request)):
        return _session(request)


@router.put("/workshop/language", auth=May(RULE), response={200: SessionOut, **REFUSED})
def set_language(request: HttpRequest, payload: LanguageIn):
    """Say in which language the workshop is spoken to where nobody chose one of their own."""
    services.speak(request.user, payload.language)
    with speaking_to(language_of(request)):
        return _session(request)


@router.post("/invitations/look", auth=None, response={200: InvitationOut, **REFUSED})
def look_at_invitation(request: HttpRequest, payload: SecretIn):
    """Return what a link opens, before anything is typed. Refuses one that was used or is too old."""
    _from_our_page(request)
    row = invitations.find(payload.secret, *Invitation.Kind)
    return {
        "kind": row.kind,
        "workshop": row.workshop.name if row.workshop else "",
        "role": say(Role(row.role).label),
        "name": row.person.username if row.person else "",
    }


def _come_in(request: HttpRequest, make: Callable[[], User]) -> dict:
    _from_our_page(request)
    user = make()
    login(request, user, backend=BACKEND)
    staff.remember(request, user)
    return _session(request)


def _newcomer(payload: JoinIn | SetUpIn) -> invitations.Newcomer:
    return invitations.Newcomer(payload.username, payload.name, payload.password)


@router.post("/set-up", auth=None, response={200: SessionOut, **REFUSED})
def set_up(request: HttpRequest, payload: SetUpIn):
    """Make the first workshop and its owner with the one-time code, and sign them in."""
    language = services.known_language(payload.language)
    return _come_in(request, lambda: invitations.set_up(payload.secret, payload.workshop, _newcomer(payload), language))


@router.post("/join", auth=None, response={200: SessionOut, **REFUSED})
def join(request: HttpRequest, payload: JoinIn):
    """Join the workshop that a link invites to, and sign in."""
    return _come_in(request, lambda: invitations.join(payload.secret, _newcomer(payload)))


@router.post("/reset", auth=None, response={200: SessionOut, **REFUSED})
def reset(request: HttpRequest, payload: ResetIn):
    """Choose a new password by a link, and sign in, unless a second number is asked for; all devices are signed out."""

    def make() -> User:
        user = invitations.reset(payload.secret, payload.password)
        staff.sign_out_all(user)
        return user

    if not invitations.has_second(payload.secret):
        return _come_in(request, make)
    _from_our_page(request)
    make()
    return _session(request)


@router.post("/forgotten", auth=None, response={204: None, **REFUSED})
def forgotten(request: HttpRequest, payload: ForgottenIn):
    """Send a link for a new password to whoever it is, if there is an address; says the same whoever it is."""
    _from_our_page(request)
    if not mail.works():
        raise Refusal(
            "no_mail", say("This server sends no mail. Ask an owner of your workshop for a link."), status=409
        )
    mail.forgotten(payload.username)
    return 204, None


@router.put("/mail", auth=May(OWN), response={200: SessionOut, **REFUSED})
def set_mail(request: HttpRequest, payload: MailIn):
    """Keep one's own address, for links to a new password."""
    User.objects.filter(pk=request.user.pk).update(email=payload.mail)
    request.user.email = payload.mail
    return _session(request)


@router.get("/second", auth=May(OWN), response=SecondOut)
def get_second(request: HttpRequest):
    """Say whether a second number is asked for."""
    row = SecondFactor.objects.filter(person=request.user).first()
    return {"on": row is not None, "words_left": len(row.words) if row else 0}


@router.post("/second/begin", auth=May(OWN), response=BegunOut)
def begin_second(request: HttpRequest):
    """Return a new secret; nothing is asked for until a number of it was said."""
    made = second.begun(request.user)
    request.session["second"] = made["secret"]
    return made


@router.post("/second", auth=May(OWN), response={200: WordsOut, **REFUSED})
def confirm_second(request: HttpRequest, payload: NumberIn):
    """Begin to ask for numbers; returns the words for when the authenticator is lost."""
    secret = request.session.get("second")
    if not secret:
        raise Refusal("not_begun", say("Begin again: this code is no longer known."), status=409)
    words = second.confirm(request.user, secret, payload.number)
    del request.session["second"]
    return {"words": words}


@router.post("/second/off", auth=May(OWN), response={200: SecondOut, **REFUSED})
def second_off(request: HttpRequest, payload: OwnPasswordIn):
    """Ask for no second number any more."""
    if recognised(request, request.user.username, payload.password) is None:
        raise Refusal("wrong_password", say("The password is not right. Nothing was changed."), status=422)
    second.take_off(request.user, request.user)
    return get_second(request)


@router.post("/password", auth=May(OWN), response={200: SessionOut, **REFUSED})
def change_password(request: HttpRequest, payload: PasswordIn):
    """Change one's own password; every other device is signed out."""
    staff.change_password(request, payload.old, payload.new)
    return _session(request)


@router.get("/devices", auth=May(OWN), response=list[DeviceOut])
def list_devices(request: HttpRequest):
    """Return the devices on which one is signed in."""
    here = request.session.session_key
    return [
        {"id": row.pk, "agent": row.agent, "since": row.since, "seen_at": row.seen_at, "here": row.session_key == here}
        for row in staff.devices(request.user)
    ]


@router.delete("/devices/{device_id}", auth=May(OWN), response={204: None})
def sign_out_device(request: HttpRequest, device_id: int):
    """Sign out one of one's own devices."""
    staff.sign_out_device(request.user, device_id)
    return 204, None


@router.get("/people", response=PeopleOut)
def list_people(request: HttpRequest):
    """Return the people of the workshop and the roles there are."""
    last: dict[int, object] = {}
    for person, seen_at in Device.objects.filter(person__workshop=request.user.workshop_id).values_list(
        "person_id", "seen_at"
    ):
        last[person] = max(seen_at, last.get(person, seen_at))
    return {
        "people": [_staff_out(one, request.user, last.get(one.pk)) for one in staff.staff(request.user)],
        "roles": [{"key": role.value, "label": say(role.label), "words": say(ABOUT[role])} for role in reversed(Role)],
    }


def _staff_out(person: User, me: User, seen_at: object = None) -> dict:
    return {
        "id": person.pk,
        "name": person.shown_name,
        "username": person.username,
        "role": person.role,
        "active": person.is_active,
        "me": person.pk == me.pk,
        "second": hasattr(person, "second"),
        "seen_at": seen_at,
    }


@router.post("/people/invitations", auth=May(RULE), response=LinkOut)
def invite(request: HttpRequest, payload: InviteIn):
    """Return a link by which one person can join, once."""
    if payload.mail and not mail.works():
        raise Refusal("no_mail", say("This server sends no mail. Give them the link yourself."), status=409)
    secret = invitations.invite(request.user, payload.role)
    if payload.mail:
        mail.send_link(payload.mail, secret, Invitation.Kind.JOIN, request.user.workshop.name)
    return _link(request, "join", secret, Invitation.Kind.JOIN) | {"mailed": payload.mail}


@router.put("/people/{person_id}", auth=May(RULE), response=PeopleOut)
def change_person(request: HttpRequest, person_id: int, payload: StaffIn):
    """Give somebody another role, let them leave or come back."""
    staff.change(request.user, person_id, role=payload.role, active=payload.active)
    return list_people(request)


@router.post("/people/{person_id}/reset", auth=May(RULE), response=LinkOut)
def let_reset(request: HttpRequest, person_id: int):
    """Return a link by which somebody can choose a new password, once."""
    person = staff.one_of_ours(request.user, person_id)
    return _link(request, "reset", invitations.let_reset(request.user, person), Invitation.Kind.RESET)


@router.post("/people/{person_id}/second/off", auth=May(RULE), response=PeopleOut)
def let_second_go(request: HttpRequest, person_id: int):
    """Take somebody's second factor off, who lost it."""
    second.take_off(request.user, staff.one_of_ours(request.user, person_id))
    return list_people(request)


def _link(request: HttpRequest, page: str, secret: str, kind: Invitation.Kind) -> dict:
    """Return a link; what stands behind # is never sent to a server, so it lands in no log."""
    here = f"{settings.ADDRESS}/{page}" if settings.ADDRESS else request.build_absolute_uri(f"/{page}")
    address = f"{here}#{secret}"
    qr = segno.make(address, error="m", micro=False).svg_data_uri(scale=4, border=3, light="#fff")
    return {"mailed": "", "address": address, "qr": qr, "ends_at": timezone.now() + invitations.LASTS[kind]}
