"""Loading the demo: through the same services that the screens call."""

import io
import math
import random
import uuid

from cases.models import Case
from cases.services import open_case
from django.db import transaction
from django.utils import timezone
from garage.core import core_vehicle
from garage.services import add_vehicle, get_vehicle
from hematite.recordings import Recording as Sound
from hematite.recordings import encode_wav
from hematite.simulator.scenes import Scene, Trouble, coast_down, record, road_run
from jobs.services import finish, job, proof, usual_rechecks
from people import demo
from people.models import Role, User, Workshop
from photos.services import keep_photo
from PIL import Image, ImageDraw
from policies.services import change_policy
from recordings import services as recordings
from recordings.hearing import hear_recording
from verdicts.services import accept

from demo.entering import measured, observe, tick
from demo.history import backdate
from demo.learning import learn
from demo.world import CASES, SHOP, VEHICLES

TURNS_PER_S = 8.0
RATE = 32_000
UNKNOWN = {"kind": "unknown"}
_NAMES = uuid.UUID(
    "6b1f8a52-8a4e-4c0e-9a57-52b0c1de7e11"
)  # ids made from names, so that the demo is the same each time


def load() -> None:
    """Make the workshop, its person, vehicles and cases, and have every recording heard."""
    workshop = Workshop.objects.create(name=demo.WORKSHOP)
    user = User.objects.create_user(
        demo.SIGN_IN["username"],
        password=demo.SIGN_IN["password"],
        first_name="Wren",
        last_name="Tallow",
        workshop=workshop,
        role=Role.OWNER,
        demo=True,
    )
    change_policy(user, {"shop": SHOP, "revision": 0, "after": None, "change": uuid.uuid5(_NAMES, "shop")})
    vehicles = {key: add_vehicle(user, _complete(data)) for key, data in VEHICLES.items()}
    backdate(user, {key: vehicle.id for key, vehicle in vehicles.items()})
    for number, script in enumerate(CASES):
        _play(user, vehicles[script["vehicle"]].id, script, f"case-{number}")
    learn(user)


def _complete(data: dict) -> dict:
    return {"rolling_circumference_m": None} | data


def _play(user: User, vehicle_id: uuid.UUID, script: dict, name: str) -> None:
    case = open_case(user, vehicle_id, script["complaint"])
    Case.objects.filter(id=case.id).update(simulated=script["hidden"])
    for hub in script["record"]:
        _record(user, case, hub, f"{name}-{hub}", after=False)
    for hub in script.get("spun", []):
        _spin(user, case, hub, name)
    if "road" in script:
        _drive(user, case, script["road"], name)
    for hub, kind, value in script["found"]:
        observe(user, case, hub, kind, value)
    for hub, readings in script["play"].items():
        measured(user, case, hub, readings)
    for hub, part in script.get("photographed", []):
        picture = _drawn(f"{name}-{hub}-{part}")
        keep_photo(user, case.id, photo_id=uuid.uuid5(_NAMES, f"{name}-{part}"), hub=hub, part=part, data=picture)
    if "decide" in script:
        hub, choice = script["decide"]
        accept(user, case.id, hub=hub, choice=choice, reason=script.get("reason", ""))
        tick(user, case, script.get("done", 0))
    if "close" in script:
        _finish(user, case, script, name)


def _finish(user: User, case: Case, script: dict, name: str) -> None:
    hub, _ = script["decide"]
    verdict = job(user, case.id)["verdict"].id
    tick(user, case)
    if script["record"]:
        _record(user, case, hub, f"{name}-{hub}-again", after=True)
    for after_hub, readings in script.get("after_play", {}).items():
        measured(user, case, after_hub, readings, job=verdict)
    for check in proof(user, case.id)["checks"] if "after_play" in script else ():
        answer = "not_done" if check.later else "good"
        observe(user, case, hub, "check", {"check": check.key, "answer": answer}, job=verdict)
    usual = usual_rechecks(case, timezone.localdate())
    because = "Driven away; the nuts and the warmth are looked at with the recheck."
    finish(
        user,
        case.id,
        outcome=script["close"],
        unproven_because=because,
        planned=[{"id": uuid.uuid5(_NAMES, f"{name}-{one['hub']}-{one['key']}")} | one for one in usual],
    )


def _drawn(name: str) -> bytes:
    """Return a picture of a worn cup, drawn: the demo has no camera."""
    dice = random.Random(name)  # noqa: S311 - where the marks lie
    picture = Image.new("RGB", (1200, 900), (58, 60, 62))
    draw = ImageDraw.Draw(picture)
    for radius in range(420, 250, -2):
        shade = 120 + int(70 * abs(math.sin(radius / 23)))
        box = (600 - radius, 450 - radius, 600 + radius, 450 + radius)
        draw.ellipse(box, fill=(shade, shade - 4, shade - 10))
    draw.ellipse((350, 200, 850, 700), fill=(30, 32, 34))
    for _ in range(60):
        angle, radius = dice.uniform(0.2, 1.6), dice.uniform(270, 400)
        x, y, size = 600 + radius * math.cos(angle), 450 + radius * math.sin(angle), dice.uniform(3, 12)
        draw.ellipse((x, y, x + size, y + size * 0.7), fill=(46, 34, 26))
    buffer = io.BytesIO()
    picture.save(buffer, "JPEG", quality=90)
    return buffer.getvalue()


def _spin(user: User, case: Case, hub: str, name: str) -> None:
    """Record a hub spun by hand and running down; its speed is to be found in the sound."""
    scene = _scene(case, name)
    seed = len(hub) + int(hub[1])
    drive = coast_down(rate=RATE, seconds=11.0, turns_per_s=4.6 + 0.2 * seed, stops_after_s=13.0, bend=1.2)
    sound = record(scene, drive, place=hub, number=seed, alone=True)
    made = {"place": hub, "sensor": "clip", "situation": "stand_spin", "gain_group": "spin", "speed": UNKNOWN}
    _keep(user, case, f"{name}-{hub}-spun", sound, made)


def _drive(user: User, case: Case, segments: list[dict], name: str) -> None:
    """Record a run with bends in the cabin, its stretches marked."""
    circumference = case.core.circumference or 2.0
    drive = road_run(rate=RATE, segments=segments, circumference_m=circumference, seed=3)
    sound = record(_scene(case, name), drive, place="cabin", number=99)
    made = {"place": "cabin", "sensor": "air", "situation": "road", "gain_group": "", "segments": segments}
    _keep(user, case, f"{name}-cabin", sound, made | {"speed": UNKNOWN})


def _scene(case: Case, name: str) -> Scene:
    case.refresh_from_db()
    seed = int.from_bytes(name.encode()[-3:], "big")
    return Scene(
        core_vehicle(get_vehicle(case.opened_by, case.vehicle_id)), case.simulated, Trouble(leak_db=-5.0), seed
    )


def _keep(user: User, case: Case, name: str, sound: Sound, made: dict) -> None:
    recording_id = uuid.uuid5(_NAMES, name)
    data = encode_wav(sound)
    recordings.keep_recording(user, case.id, recording_id=recording_id, sound=data, made=made | {"after_repair": False})
    hear_recording(str(recording_id))


def _record(user: User, case: Case, hub: str, name: str, *, after: bool) -> None:
    made = {
        "place": hub,
        "sensor": "clip",
        "situation": "stand_driven",
        "gain_group": "stand",
        "speed": {"kind": "wheel", "turns_per_s": TURNS_PER_S},
        "after_repair": after,
    }
    case.refresh_from_db()
    recording_id = uuid.uuid5(_NAMES, name)
    with transaction.atomic():
        recordings.simulate_recording(user, case.id, recording_id=recording_id, made=made, condition=None)
    hear_recording(str(recording_id))
