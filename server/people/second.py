"""A second factor, for who wants one: numbers of an authenticator (RFC 6238), and ten words for when it is lost."""

import base64
import hashlib
import hmac
import secrets
from datetime import timedelta

import pyotp
import segno
from audit.services import What, trace
from cryptography.fernet import Fernet, InvalidToken
from django.conf import settings
from django.db import transaction
from django.utils import timezone
from hematite.language import say
from workshop.refusals import Refusal

from people.models import SecondFactor, User

WORDS, WORD_BYTES = 10, 5
MOST_WRONG, SHUT = 6, timedelta(minutes=6)
LATE_STEPS = 1  # a clock may go half a minute wrong
STEP_S = 30
ISSUER = "Hematite"


def begun(user: User) -> dict[str, str]:
    """Return a new secret and its QR code; it counts once a number of it was said (`confirm`)."""
    secret = pyotp.random_base32()
    address = pyotp.TOTP(secret).provisioning_uri(name=user.username, issuer_name=f"{ISSUER} {user.workshop.name}")
    return {
        "secret": secret,
        "qr": segno.make(address, error="m", micro=False).svg_data_uri(scale=4, border=3, light="#fff"),
    }


@transaction.atomic
def confirm(user: User, secret: str, number: str) -> list[str]:
    """Begin to ask for numbers of this secret; return the words, which are shown this once."""
    step = _step_of(secret, number, after=0)
    if step is None:
        raise Refusal(
            "wrong_number", say("That number is not of this code. Is the clock of the phone right?"), status=422
        )
    words = [secrets.token_hex(WORD_BYTES) for _ in range(WORDS)]
    SecondFactor.objects.update_or_create(
        person=user,
        defaults={
            "sealed": _sealed().encrypt(secret.encode()).decode(),
            "last_step": step,
            "words": [_hash(word) for word in words],
            "wrong": 0,
            "shut_until": None,
        },
    )
    trace(user, What.SECOND_FACTOR, user.shown_name, ["on"])
    return words


def take_off(by: User, person: User) -> None:
    """Ask for no second number any more."""
    if SecondFactor.objects.filter(person=person).delete()[0]:
        trace(by, What.SECOND_FACTOR, person.shown_name, ["off"])


def check(user: User, said: str) -> None:
    """Refuse who does not say a number of their authenticator, or one of their words, each once.

    Called when the password was right. After six wrong ones in a row nothing opens for six minutes.
    """
    with transaction.atomic():
        row = SecondFactor.objects.select_for_update().filter(person=user).first()
        if row is None:
            return
        said = "".join(said.split()).lower()
        if not said:
            raise Refusal("second_number", say("Say the number that your authenticator shows now as well."), status=401)
        if row.shut_until and row.shut_until > timezone.now():
            raise Refusal("too_many_tries", say("Too many wrong tries. Wait six minutes, then try again."), status=429)
        right = _opens(row, said)
        row.wrong = 0 if right else row.wrong + 1
        row.shut_until = timezone.now() + SHUT if row.wrong >= MOST_WRONG else None
        row.wrong = 0 if row.shut_until else row.wrong
        row.save()
    if not right:
        raise Refusal(
            "second_number", say("That number is not right, or it was used. Wait for the next one."), status=401
        )


def _opens(row: SecondFactor, said: str) -> bool:
    """Return whether it opens, and write down that it did: nothing opens twice."""
    word = _hash(said)
    if any(hmac.compare_digest(word, kept) for kept in row.words):
        row.words = [kept for kept in row.words if kept != word]
        return True
    try:
        secret = _sealed().decrypt(row.sealed.encode()).decode()
    except InvalidToken:
        words = say("This server's key is another than when the authenticator was set up. Ask an owner to take it off.")
        raise Refusal("second_lost", words, status=401) from None
    step = _step_of(secret, said, after=row.last_step)
    if step is None:
        return False
    row.last_step = step
    return True


def _step_of(secret: str, number: str, *, after: int) -> int | None:
    """Return which half minute a number is of, None if it is of none that may still be said."""
    now = int(timezone.now().timestamp()) // STEP_S
    code = pyotp.TOTP(secret, interval=STEP_S)
    number = "".join(number.split())
    for step in range(now - LATE_STEPS, now + LATE_STEPS + 1):
        if step > after and hmac.compare_digest(code.generate_otp(step).encode(), number.encode()):
            return step
    return None


def _hash(word: str) -> str:
    return hashlib.sha256(word.encode()).hexdigest()


def _sealed() -> Fernet:
    """Return what seals secrets with this installation's key, so that a stolen table alone opens nothing."""
    key = hashlib.sha256(b"second factor" + settings.SECRET_KEY.encode()).digest()
    return Fernet(base64.urlsafe_b64encode(key))
