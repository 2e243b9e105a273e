"""Every hub that a job can be at: design × what is fitted × the schools that matter there × choice."""

from collections.abc import Iterator
from itertools import product

from hematite.assembly import fittings, possible_choices
from hematite.assembly.facts import built
from hematite.assembly.parts import listed
from hematite.hubs import designs
from hematite.jobs import HubJob
from hematite.policy import schools
from hematite.tables import table
from hematite.vehicles import Axle, Hub, Vehicle

CAUSES = ("brake", "fasteners", "tyre")
TABLES = ("around", "tapers", "knuckles", "shafts", "cycles")
ONLY_WORDS = (
    "one_time",
    "anti_seize",
)  # schools that change the words of a step or whether a part is new, never the order

IN_TURN = ("anti_roll_bar",)  # fittings that change the words of one step only: both answers, one after the other


def vehicle(design: str, *, kind: str, driven: bool, steered: bool, said: dict[str, str]) -> Vehicle:
    """Return a vehicle of a kind whose first axle has two hubs of a design; whether anything drives makes the kind."""
    pair = tuple(Hub(f"A1{side[0].upper()}", side, design, fittings=said) for side in ("left", "right"))
    axles = [Axle(pair, driven=driven, steered=steered)]
    if kind == "cycle" and design != "cup_cone":
        axles.append(Axle((Hub("A2C", "centre", "cup_cone"),)))
    if kind == "powered":
        axles.append(Axle((Hub("A2L", "left", "hub_unit"), Hub("A2R", "right", "hub_unit")), driven=True))
    return Vehicle(tuple(axles))


def kinds_of(design: str) -> tuple[str, ...]:
    """Return the kinds of vehicle that a design is found on."""
    if design == "cup_cone":
        return ("cycle",)
    return ("powered", "trailer", "cycle") if design == "cartridge_pair" else ("powered", "trailer")


def named_by(design: str) -> set[str]:
    """Return the questions and schools that any row of a design's parts, their acts or its choices asks about."""
    rows = table("assembly/designs.toml")
    own = rows[design]
    texts = [row.get("when", {}) for row in listed(design)]
    keys = {row["key"] for row in listed(design)}
    for name in TABLES:
        for key, part in table(f"assembly/{name}.toml").items():
            acts = [act for column in ("off", "on", "work") for act in part.get(column, ())] if key in keys else []
            texts += [act.get("when", {}) for act in acts]
            texts += [{"one_time": ""}] if key in keys and part.get("one_time") == "school" else []
    choices = rows.get(own.get("choices_of", ""), {}) | own.get("choices", {})
    for choice in choices.values():
        for row in choice if isinstance(choice, list) else [choice]:
            texts.append(row.get("when", {}))
            texts += [also["when"] for also in row.get("also", ())]
    return {name for when in texts for name in when}


def hubs(design: str) -> Iterator[tuple[str, bool, bool, dict[str, str]]]:
    """Yield every hub of a design: kind of vehicle, driven, steered, what is fitted; only what can be told apart."""
    asked = [key for key in fittings() if key in named_by(design) and key not in IN_TURN]
    seen: set[tuple[tuple[str, str], ...]] = set()
    for kind, driven, steered in product(kinds_of(design), (False, True), (False, True)):
        if kind == "trailer" and (driven or steered):
            continue
        for answers in product(*(fittings()[key].options for key in asked)):
            said = dict(zip(asked, answers, strict=True)) | {key: ("yes", "no")[len(seen) % 2] for key in IN_TURN}
            facts = built(design, kind=kind, driven=driven, steered=steered, said=said, ways={})
            known = tuple(
                sorted((k, v) for k, v in facts.items() if (k in named_by(design) and k not in IN_TURN) or k == "kind")
            )
            if known not in seen:
                seen.add(known)
                yield kind, driven, steered, said


def ways(design: str, *, words: bool) -> Iterator[dict[str, str]]:
    """Yield the schools that matter at a design; without `words` those that change more than words."""
    keys = [key for key in schools() if key in named_by(design) and (words or key not in ONLY_WORDS)]
    for options in product(*([one.key for one in schools()[key].options] for key in keys)):
        yield dict(zip(keys, options, strict=True))


def jobs(design: str, way: dict[str, str]) -> Iterator[HubJob]:
    """Yield every job at a hub of a design, off the road and its repair among them."""
    for choice in possible_choices(design):
        if choice == "off_road":
            yield HubJob("A1L", choice, ways=way)
            yield HubJob("A1L", choice, repair="replace_bearing", ways=way)
        elif choice == "look_elsewhere":
            yield from (HubJob("A1L", choice, cause=cause, ways=way) for cause in CAUSES)
        else:
            yield HubJob("A1L", choice, ways=way)


def size() -> dict[str, tuple[int, int]]:
    """Return how many hubs and how many ways there are of each design."""
    return {d: (sum(1 for _ in hubs(d)), sum(1 for _ in ways(d, words=False))) for d in designs()}
