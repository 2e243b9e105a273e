"""Reading a case bundle, with every refusal in words that name the place in the file."""

import json
import struct
import zipfile
import zlib
from collections.abc import Callable, Mapping, Sequence
from functools import cache, partial
from pathlib import Path, PurePosixPath
from typing import Any

import jsonschema

from hematite.assembly import read_fittings
from hematite.bearings import Row, element_count
from hematite.beliefs.priors import duties
from hematite.bundles.case import Case
from hematite.doors import few, hub_id, maybe, most_of, one_of, place, read_json
from hematite.errors import BadBundle, HematiteError
from hematite.evidence import Observation, statements
from hematite.evidence.observations import AT_HUB, KINDS
from hematite.fastenings import read_fastenings
from hematite.hubs import design
from hematite.language import say
from hematite.listening import Situation
from hematite.listening.situation import segments_from_json
from hematite.recordings import Recording, decode
from hematite.vehicles import Axle, Hub, Vehicle

GEOMETRY = ("elements", "element_diameter_mm", "pitch_diameter_mm")  # without these a row has no orders
MOST_MEMBERS, LARGEST_BYTES = 20_000, 4 * 1024**3  # of a bundle, unpacked: judgement, far above what a vehicle gathers
LARGEST_SOUND_BYTES = 200 * 1024 * 1024  # judgement: 15 minutes of mono at 48 kHz and 32 bit fit
LARGEST_JSON_BYTES = 32 * 1024 * 1024  # judgement: far above what a case with its verdicts takes

# What Python's reader of .zip files trips over when they are no good.
DAMAGED = (
    zipfile.BadZipFile, zlib.error, struct.error, RuntimeError, NotImplementedError, OSError, EOFError, ValueError,
)  # fmt: skip


@cache
def schema() -> dict[str, Any]:
    """Return the JSON Schema of `case.json`, version 1."""
    loaded: dict[str, Any] = json.loads((Path(__file__).parent / "case.schema.json").read_text(encoding="utf-8"))
    return loaded


def read_bundle(path: Path) -> Case:
    """Read a case bundle, a folder or a .zip. Sounds are decoded only when asked for. Raises `BadBundle`."""
    return case_in(opened(path)[0], "")


def case_in(read_file: Callable[[str], bytes], folder: str) -> Case:
    """Read the case that lies in a folder of a bundle; `folder` ends in a slash, or is '' for the whole bundle."""
    name = f"{folder}case.json"
    return read_case(read_json(read_file(name), name), partial(_inside, read_file, folder))


def _inside(read_file: Callable[[str], bytes], folder: str, name: str) -> bytes:
    return read_file(f"{folder}{name}")


def opened(path: Path) -> tuple[Callable[[str], bytes], tuple[str, ...]]:
    """Return what reads a member of a bundle by its name, and the names at its top. Raises `BadBundle`."""
    path = Path(path)
    if path.is_dir():
        return partial(_read_file, path), tuple(one.name for one in path.iterdir())
    if zipfile.is_zipfile(path):
        return partial(_read_member, path), _members(path)
    raise BadBundle(
        say("{name} is no bundle: give a folder or a .zip that holds case.json or vehicle.json.", name=path.name)
    )


def _members(archive: Path) -> tuple[str, ...]:
    with _opened(archive) as bundle:
        members = bundle.infolist()
    if len(members) > MOST_MEMBERS or sum(one.file_size for one in members) > LARGEST_BYTES:
        raise BadBundle(say("{name} unpacks to more than any vehicle's history. It is not opened.", name=archive.name))
    return tuple(one.filename for one in members if "/" not in one.filename)


def read_case(data: Any, read_file: Callable[[str], bytes]) -> Case:
    """Build a case from the parsed `case.json` and a function that reads a member by its name."""
    _check(data)
    recordings = data.get("recordings", [])
    ids = [entry["id"] for entry in recordings]
    if len(set(ids)) != len(ids):
        raise BadBundle(say("Two recordings of the bundle share one id. Give each its own."))
    vehicle = vehicle_from_json(data["vehicle"])
    made, unheard = _situations(few(recordings, "recordings", say("The recordings")), vehicle)
    found = few(data.get("observations", []), "observations", say("The observations"))
    observations, left_out = _observations(found, vehicle)
    return Case(
        vehicle=vehicle,
        situations=made,
        sounds={entry["id"]: partial(_sound, read_file, entry["file"]) for entry in recordings},
        observations=observations,
        left_out=(*unheard, *left_out),
        source=data,
    )


def _situations(
    entries: Sequence[Mapping[str, Any]], vehicle: Vehicle
) -> tuple[tuple[Situation, ...], tuple[str, ...]]:
    """Return how the recordings were made; one that cannot be used is left out and named, as an observation is."""
    read: list[Situation] = []
    left_out: list[str] = []
    for entry in entries:
        try:
            place(entry["place"], [hub.id for hub in vehicle.hubs()])
            read.append(situation_from_json(entry))
        except HematiteError as refused:
            left_out.append(say("recording {id}: {refused}", id=entry["id"], refused=refused))
    return tuple(read), tuple(left_out)


def _check(data: Any) -> None:
    if not isinstance(data, dict) or data.get("format") != "hematite-case":
        raise BadBundle(say("case.json does not say “hematite-case”: this is another kind of file."))
    if data.get("version") != 1:
        raise BadBundle(
            say("The bundle is of version {version!r}; this program reads version 1.", version=data.get("version"))
        )
    error = jsonschema.exceptions.best_match(jsonschema.Draft202012Validator(schema()).iter_errors(data))
    if error is not None:
        raise BadBundle(
            say("case.json at {json_path}: {message}.", json_path=error.json_path, message=error.message[:200])
        )


def vehicle_from_json(data: Mapping[str, Any]) -> Vehicle:
    """Build a vehicle from its part of `case.json`. Raises what geometry, tyre and design raise."""
    axles = tuple(
        Axle(
            hubs=tuple(_hub(hub) for hub in axle["hubs"]),
            driven=axle.get("driven", False),
            steered=axle.get("steered", False),
        )
        for axle in data["axles"]
    )
    if len(axles) > most_of("axles"):
        raise BadBundle(
            say(
                "{axles} axles are more than any road vehicle has; {most} is the most.",
                axles=len(axles),
                most=most_of("axles"),
            )
        )
    vehicle = Vehicle(
        axles=axles,
        label=data.get("label", ""),
        tyre=data.get("tyre") or "",
        rolling_circumference_m=maybe(data.get("rolling_circumference_m"), "circumference_m"),
        age_years=maybe(data.get("age_years"), "age_years"),
        distance_km=maybe(data.get("distance_km"), "distance_km"),
        duty=tuple(one_of(word, duties(), say("kind of duty")) for word in dict.fromkeys(_duty(data))),
    )
    ids = [hub.id for hub in vehicle.hubs()]
    if len(set(ids)) != len(ids):
        raise BadBundle(say("Two hubs of the vehicle share one id. Name them by axle and side: A1L, A1R, A2L …"))
    return vehicle


def _duty(data: Mapping[str, Any]) -> list[Any]:
    return few(data.get("duty") or [], "duties", say("What the vehicle has been through"))


def _hub(data: Mapping[str, Any]) -> Hub:
    bearings = data.get("bearings") or []
    low, high = maybe(data.get("play_min_mm"), "play_mm"), maybe(data.get("play_max_mm"), "play_mm")
    if low is not None and high is not None and low > high:
        raise BadBundle(
            say(
                "{id}: the least play, {low:g} mm, is more than the most, {high:g} mm. Swap them.",
                id=data["id"],
                low=low,
                high=high,
            )
        )
    return Hub(
        id=hub_id(data["id"]),
        side=data["side"],
        design_key=design(data["design"]).key,
        rows=tuple(_row(bearing) for bearing in bearings if _is_known(bearing)),
        counts=tuple(
            element_count(bearing["elements"])
            for bearing in bearings
            if not _is_known(bearing) and bearing.get("elements") is not None
        ),
        rotating_ring=data.get("rotating_ring") or "",
        play_min_mm=low,
        play_max_mm=high,
        play_source=data.get("play_source") or "",
        fittings=read_fittings(data.get("fittings")),
        fastenings=read_fastenings(data.get("fastenings")),
        designations={row.get("row") or "row": row["designation"] for row in bearings if row.get("designation")},
        seal_mm=_seal(data.get("seal") or {}),
    )


def _seal(data: Mapping[str, Any]) -> tuple[float | None, float | None, float | None]:
    return data.get("shaft_mm"), data.get("housing_mm"), data.get("width_mm")


def _is_known(bearing: Mapping[str, Any]) -> bool:
    """Return whether a row's whole geometry is stated."""
    return all(bearing.get(name) is not None for name in GEOMETRY)


def _row(data: Mapping[str, Any]) -> Row:
    return Row.from_mm(
        **{name: data[name] for name in GEOMETRY},
        contact_angle_deg=data.get("contact_angle_deg") or 0.0,
        name=data.get("row", "row"),
    )


def situation_from_json(data: Mapping[str, Any]) -> Situation:
    """Build how a recording was made from its part of `case.json`."""
    return Situation(
        id=data["id"],
        place=data["place"],
        sensor=data.get("sensor", "clip"),
        situation=data.get("situation", "stand_driven"),
        gain_group=data.get("gain_group") or "",
        speed=data.get("speed") or {"kind": "unknown"},
        segments=segments_from_json(data.get("segments") or ()),
        job=str(data.get("job") or ""),
    )


def _observations(
    entries: Sequence[Mapping[str, Any]], vehicle: Vehicle
) -> tuple[tuple[Observation, ...], tuple[str, ...]]:
    """Return the observations that can be read; others, such as those of later versions, are left out and named."""
    read: list[Observation] = []
    left_out: list[str] = []
    for entry in entries:
        try:
            read.append(_observation(entry, vehicle))
        except HematiteError as refused:
            left_out.append(f"{entry['kind']} {entry.get('hub') or ''}".strip() + f": {refused}")
    return tuple(read), tuple(left_out)


def _observation(data: Mapping[str, Any], vehicle: Vehicle) -> Observation:
    """Return one observation. Raises what the core refuses it for."""
    hub = data.get("hub") or ""
    one_of(data["kind"], KINDS, say("kind of observation"))
    if hub or data["kind"] in AT_HUB:
        one_of(hub, [known.id for known in vehicle.hubs()], say("hub of this vehicle"))
    value = {name: field for name, field in data.items() if name not in ("kind", "hub", "job", "id")}
    job = str(data.get("job") or "")
    observation = Observation(kind=data["kind"], hub=hub, value=value, source=data.get("id", ""), job=job)
    statements(observation, vehicle)
    return observation


def _sound(read_file: Callable[[str], bytes], name: str) -> Recording:
    return decode(read_file(name))


def _safe(name: str) -> PurePosixPath:
    inner = PurePosixPath(name)
    if inner.is_absolute() or ".." in inner.parts or not inner.parts:
        raise BadBundle(say("The bundle points outside itself: “{name}”. It is not opened.", name=name))
    return inner


def _read_file(folder: Path, name: str) -> bytes:
    target = folder / _safe(name)
    if not target.is_file():
        raise BadBundle(say("The bundle lacks {name}. Export the case again.", name=name))
    _check_size(name, target.stat().st_size)
    return target.read_bytes()


def _check_size(name: str, size: int) -> None:
    if size > (LARGEST_JSON_BYTES if name.endswith(".json") else LARGEST_SOUND_BYTES):
        raise BadBundle(say("{name} is larger than any of its kind. It is not opened.", name=name))


def _opened(archive: Path) -> zipfile.ZipFile:
    try:
        return zipfile.ZipFile(archive)
    except DAMAGED:
        raise BadBundle(say("{name} is damaged. Export the case again.", name=archive.name)) from None


def _read_member(archive: Path, name: str) -> bytes:
    with _opened(archive) as bundle:
        try:
            info = bundle.getinfo(str(_safe(name)))
        except KeyError:
            raise BadBundle(say("The bundle lacks {name}. Export the case again.", name=name)) from None
        _check_size(name, info.file_size)
        try:
            return bundle.read(info)
        except DAMAGED:
            raise BadBundle(say("{name} in the bundle is damaged. Export the case again.", name=name)) from None
