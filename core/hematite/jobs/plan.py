"""A job's plan: the walks of its hubs as one, lifted once, in an order that follows from how they are built."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from hematite.assembly import Depth, Placed, asked, assembly, depth_of, fittings, hub_facts
from hematite.decision.choice import choices
from hematite.doors import one_of
from hematite.errors import UnknownName
from hematite.jobs.frame import begins, ends
from hematite.jobs.order import in_order
from hematite.jobs.step import Step
from hematite.jobs.stuck import Ruin, ruins
from hematite.jobs.walk import Walk
from hematite.language import say
from hematite.policy import defaults
from hematite.prices import IN_PAIRS
from hematite.vehicles import Hub, Vehicle

PLAIN = ("design", "kind", "driven", "steered")


@dataclass(frozen=True)
class HubJob:
    """What was decided at one hub.

    `cause`: the group of causes, where it is looked for elsewhere; `repair`: what is to be done once it stands;
    `ways`: the school of each difference; `freed`: the rung of the ladder that was used, by the step that was stuck.
    """

    hub: str
    choice: str
    cause: str = ""
    repair: str = ""
    ways: Mapping[str, str] = field(default_factory=dict)
    freed: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Renewed:
    """A part that goes on new. `because`: "decided", "one_time" or "ruined"."""

    hub: str
    part: str
    label: str
    because: str


@dataclass(frozen=True)
class Plan:
    """The steps of a job in order, and what goes on new."""

    steps: tuple[Step, ...]
    renewed: tuple[Renewed, ...] = ()


def plan(vehicle: Vehicle, jobs: Sequence[HubJob]) -> Plan:
    """Return one plan for all jobs of a vehicle, lifted once.

    Raises `UnknownName` for a hub that it has not, or for what cannot be done at a hub of its design.
    """
    walks = [_walk(_hub(vehicle, job), vehicle, job) for job in jobs]
    return Plan(_steps(walks), tuple(one for walk in walks for one in _renewed(walk)))


def _hub(vehicle: Vehicle, job: HubJob) -> Hub:
    hubs = {hub.id: hub for hub in vehicle.hubs()}
    return hubs[one_of(job.hub, hubs, say("hub of this vehicle"))]


def both_sides(vehicle: Vehicle, jobs: Sequence[HubJob]) -> tuple[HubJob, ...]:
    """Return the jobs with the mates across the axle that the school of both sides adds, each after its hub."""
    found: list[HubJob] = []
    named = {job.hub for job in jobs}
    for job in jobs:
        found.append(job)
        mate = vehicle.mate(job.hub)
        work = job.repair if job.choice == "off_road" else job.choice
        if mate and mate.id not in named and work in IN_PAIRS and _ways(job)["sides"] == "both":
            found.append(replace(job, hub=mate.id, choice=work, repair=""))
            named.add(mate.id)
    return tuple(found)


def _ways(job: HubJob) -> dict[str, str]:
    return defaults() | dict(job.ways)


def _walk(hub: Hub, vehicle: Vehicle, job: HubJob) -> Walk:
    one_of(job.choice, choices(), say("choice"))
    stopped = job.choice == "off_road"
    choice = (job.repair or "leave") if stopped else job.choice
    if stopped and choice == "off_road":
        raise UnknownName(say("Say what is to be repaired once it stands."))
    facts = hub_facts(hub, vehicle, _ways(job)) | {"choice": choice, "cause": job.cause}
    facts["stopped"] = "yes" if stopped else "no"
    if stopped and not job.repair:
        facts["choice"] = "off_road"  # nothing is mended yet: no talk of leaving it
    parts = assembly(hub.design_key, facts)
    ruined = ruins(job.freed, hub.id, parts)
    depth = depth_of(hub.design_key, choice, facts, parts, more=[key for ruin in ruined for key in ruin.opens])
    fates = _fates(hub, facts, parts, depth, ruined)
    freeing = {ruin.part: ruin.rung for ruin in ruined if ruin.part in depth.off}
    return Walk(hub.id, _axle(vehicle, hub.id), facts, parts, depth, fates, freeing).lay()


def _axle(vehicle: Vehicle, hub_id: str) -> int:
    return next(n for n, axle in enumerate(vehicle.axles, 1) if any(hub.id == hub_id for hub in axle.hubs))


def _fates(
    hub: Hub, facts: Mapping[str, str], parts: Mapping[str, Placed], depth: Depth, ruined: Iterable[Ruin]
) -> dict[str, str]:
    """Return which parts go on new, and under 'key!' the school of one-time parts where the torque book knows."""
    fates: dict[str, str] = {}
    spoilt = {key for ruin in ruined for key in ruin.ruins}
    for key in (*depth.off, *depth.fits):
        part = parts[key].part
        known = hub.fastenings.get(part.torque)
        school = facts["one_time"]
        if known is not None and known.one_time is not None:
            school = fates[f"{key}!"] = "new" if known.one_time else "reused"
        once = part.one_time == "yes" or (part.one_time == "school" and school == "new")
        if key in depth.renews or key in depth.fits or once or key in spoilt:
            fates[key] = "new"
    return fates


def _renewed(walk: Walk) -> list[Renewed]:
    found = []
    for key in walk.parts:
        if walk.fates.get(key) == "new":
            decided = key in walk.depth.renews or key in walk.depth.fits
            part = walk.parts[key].part
            because = "decided" if decided else "one_time" if part.one_time else "ruined"
            found.append(Renewed(walk.hub, key, part.buys or part.label, because))
    return found + [Renewed(walk.hub, "", label, "decided") for label in walk.depth.buys]


def assumed(vehicle: Vehicle, job: HubJob) -> tuple[str, ...]:
    """Return the questions about a job's hub that nobody answered and whose answer would change its plan."""
    hub = _hub(vehicle, job)
    plain = {name: value for name, value in hub_facts(hub, vehicle, {}).items() if name in PLAIN}
    open_ones = [key for key in asked(plain, hub.fittings) if not hub.fittings.get(key)]
    now = _told(hub, vehicle, job)
    return tuple(
        key
        for key in open_ones
        if any(
            _told(replace(hub, fittings={**hub.fittings, key: answer}), vehicle, job) != now
            for answer in fittings()[key].options
        )
    )


def _told(hub: Hub, vehicle: Vehicle, job: HubJob) -> list[tuple[str, str]]:
    return [(step.id, step.do) for step in _walk(hub, vehicle, job).made(())]


def _steps(walks: Sequence[Walk]) -> tuple[Step, ...]:
    first = [step for walk in walks for step in begins(walk)]
    laid_out = [step.id for step in first if step.id == "layout"][:1]
    made = _across([step for walk in walks for step in walk.made(laid_out)], walks)
    done = [*first, *made]
    return in_order([*done, *ends(walks, [*made] or first)])


def _across(steps: list[Step], walks: Sequence[Walk]) -> list[Step]:
    """Let what is measured on a whole axle wait for its parts at every hub of it."""
    ids = {step.id for step in steps}
    more: dict[str, list[str]] = {}
    for walk in walks:
        for id, parts in walk.across:
            others = [other for other in walks if other.axle == walk.axle]
            more[id] = [f"{o.hub}.{part}.on" for o in others for part in parts if f"{o.hub}.{part}.on" in ids]
    return [replace(s, needs=tuple(dict.fromkeys((*s.needs, *more[s.id])))) if s.id in more else s for s in steps]
