"""What the trade knows of taking hubs apart, written down apart from the program's tables: common practice, no source.

`OFF`: of two parts that are both on the hub the left one has to be off before the right one comes off, and so it goes
back on after it. `ON`: the left one has to be on before the right one goes on, beyond the reverse. `SEEN`: what can be
looked at only once a part is off. `GROUND`: done with the wheel on the ground.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence

from hematite.jobs import Step

STUDS = [
    "wheel_nuts < lift < wheel < wheel_spacer",
    "wheel < wheel_spacer < clips < caliper",
    "wheel < wheel_spacer < wear_sensor < caliper",
    "wheel < wheel_spacer < shoes",
]
DISCS = ["caliper < disc", "shoes < drum"]
INSIDE = [
    "outer_bearing < hub < seal < inner_bearing < inner_cup",
    "hub < marine_seal < inner_bearing < inner_cup",
    "hub < outer_cup",
    "wheel < wheel_spacer < hub",
    "caliper < hub",
    "shoes < hub",
]
JOINTS = [
    "wheel < wheel_spacer < tie_rod",
    "wheel_spacer < lower_joint",
    "wheel_spacer < upper_joint",
    "wheel_spacer < strut_bolts",
]
KNUCKLE = [
    f"{part} < knuckle_whole"
    for part in ("disc", "drum", "sensor", "shaft", "tie_rod", "lower_joint", "upper_joint", "strut_bolts")
]
DRIVEN = [
    "axle_nut_grip < lift",
    "axle_nut_grip < axle_nut < shaft",
    "axle_nut < caliper",
    "axle_nut < shoes",
    "wheel < wheel_spacer < axle_nut",
]

OFF: dict[str, list[str]] = {
    "taper_castle": [*STUDS, *INSIDE, "lift < cap < pin < nut_retainer < nut < washer < outer_bearing"],
    "taper_pressurised": [*STUDS, *INSIDE, "lift < spring_cap < pin < nut_retainer < nut < washer < outer_bearing"],
    "taper_locknut": [
        *STUDS,
        *INSIDE,
        "lift < freewheel_cap < snap_ring < freewheel < locknut < nut < outer_bearing",
        "lift < snap_ring < freewheel < lock_plate < nut < outer_bearing",
        "lift < snap_ring < drive_flange < locknut < nut",
        "snap_ring < drive_flange < lock_plate < nut",
        "lift < cap < locknut",
        "cap < lock_plate",
    ],
    "taper_clamp": [*STUDS, *INSIDE, "lift < cap < pinch_screw < collar_nut < washer < outer_bearing"],
    "taper_shimmed": [
        *STUDS,
        "hub_pin < lift",
        "wheel < wheel_spacer < hub_nut",
        "hub_pin < hub_nut < tapered_drum < brake_pipe < back_plate < retainer < half_shaft < axle_seal",
        "shoes < tapered_drum",
        "half_shaft < bearing",
        "retainer < cup",
    ],
    "hub_unit": [
        *STUDS,
        *DISCS,
        *JOINTS,
        *KNUCKLE,
        *DRIVEN,
        "lift < dust_cap < axle_nut < unit",
        "wheel < wheel_spacer < sensor",
        "disc < unit_bolts < unit",
        "drum < unit_bolts < unit",
        "sensor < unit_bolts < unit",
        "shaft < unit",
        "disc < unit",
        "drum < unit",
        "sensor < unit",
    ],
    "pressed_double_row": [
        *STUDS,
        *DISCS,
        *JOINTS,
        *KNUCKLE,
        *DRIVEN,
        "wheel < wheel_spacer < sensor",
        "knuckle_whole < outer_seal < circlip < sealed_bearing",
        "knuckle_whole < inner_seal < circlip",
        "knuckle_whole < hub_flange < sealed_bearing",
    ],
    "cartridge_pair": [
        *STUDS,
        *DISCS,
        "lift < dust_lid < kart_nut < hub < first_cartridge",
        "wheel < wheel_spacer < hub",
        "disc < hub",
        "drum < hub",
        "wheel_out < dust_lid < axle < first_cartridge < spacer < second_cartridge",
        "wheel_out < wheel_shell",
    ],
    "cup_cone": ["wheel_out < dust_lid < cone_locknut < right_balls < axle < left_balls", "wheel_out < wheel_shell"],
    "axle_retained": [
        *STUDS,
        *DISCS,
        "drum < retainer_bolts",
        "disc < retainer_bolts",
        "retainer_bolts < half_shaft < axle_seal",
        "half_shaft < retaining_ring < sealed_bearing < retainer_plate",
    ],
}
ON = {
    "taper_shimmed": ["half_shaft < cup"],
    "pressed_double_row": ["circlip < hub_flange", "outer_seal < hub_flange"],
}
SEEN: dict[str, dict[str, str]] = {
    "taper_castle": {"spindle": "hub", "around": "hub"},
    "taper_pressurised": {"spindle": "hub", "around": "hub"},
    "taper_locknut": {"spindle": "hub", "around": "hub"},
    "taper_clamp": {"spindle": "hub", "around": "hub", "speed_ring": "hub"},
    "taper_shimmed": {"tube": "axle_seal", "around": "tapered_drum"},
    "hub_unit": {"knuckle": "unit", "spindle": "unit", "speed_ring": "unit", "around": "unit"},
    "pressed_double_row": {"knuckle": "sealed_bearing", "speed_ring": "hub_flange", "around": "knuckle_whole"},
    "cartridge_pair": {"hub": "second_cartridge"},
    "cup_cone": {"right_race": "right_balls", "left_race": "left_balls"},
    "axle_retained": {"tube": "axle_seal", "around": "half_shaft"},
}
GROUND = ("wheel_nuts", "axle_nut_grip", "hub_pin")
# What is bought new every time it comes off, by what it is.
ONCE = (
    "pin",
    "seal",
    "marine_seal",
    "inner_seal",
    "outer_seal",
    "axle_seal",
    "pinch_screw",
    "retaining_ring",
    "hub_pin",
    "locknut",
)
# Words that a step may only say where its hub has the part.
SAYS = {
    "caliper": ("caliper",),
    "drum": ("drum", "hub", "tapered_drum"),
    "axle nut": ("axle_nut",),
    "circlip": ("circlip",),
    "spacer off": ("wheel_spacer",),
    "tie rod": ("tie_rod",),
    "pads": ("caliper",),
    "disc": ("caliper",),
    "jack at": ("lift",),
    "wheel nuts": ("wheel_nuts",),
    "wear sensor": ("wear_sensor",),
    "speed sensor": ("sensor",),
    "freewheel": ("freewheel",),
    "lock plate": ("lock_plate",),
    "pinch screw": ("pinch_screw",),
    "button": ("spring_cap",),
    "retainer plate": ("retainer_plate",),
    "tub seal": ("axle_seal",),
    "multi-lip": ("marine_seal",),
    "knuckle": ("knuckle", "knuckle_whole"),
    "handbrake": ("shoes", "brake_pipe"),
    "flange bolts": ("drive_flange",),
    "shims": ("retainer",),
    "brake pedal": ("caliper", "shoes", "brake_pipe"),
    "chain": ("wheel_out",),
    "stub axle": ("hub", "unit", "spindle"),
}


def pairs(chains: Iterable[str]) -> Iterator[tuple[str, str]]:
    """Yield every pair of a chain, the nearer and the farther: 'a < b < c' is a b, a c, b c."""
    for chain in chains:
        names = [name.strip() for name in chain.split("<")]
        yield from ((a, b) for n, a in enumerate(names) for b in names[n + 1 :])


def ancestors(steps: Sequence[Step]) -> dict[str, int]:
    """Return for each step all that must come before it, as the bits of a number; `bit_of` gives each step's own."""
    bits: dict[str, int] = {}
    own = bit_of(steps)
    for step in steps:
        bits[step.id] = 0
        for need in step.needs:
            bits[step.id] |= bits[need] | own[need]
    return bits


def bit_of(steps: Sequence[Step]) -> dict[str, int]:
    """Return the bit of each step."""
    return {step.id: 1 << n for n, step in enumerate(steps)}


class Seen:
    """A plan as the facts look at it: which parts come off and go on at a hub, and what must come before what."""

    def __init__(self, steps: Sequence[Step], hub: str) -> None:
        """Read the steps; raises `KeyError` where one comes before what it needs."""
        self.hub, self.own = hub, bit_of(steps)
        self.before = ancestors(steps)
        self.looks = {part for step in steps if step.id == f"{hub}.look" for part in step.looks}
        self.opened = f"{hub}.look" in self.own

    def id(self, part: str, act: str) -> str:
        """Return what a step is called."""
        return f"{part}.{act}" if part == "lift" else f"{self.hub}.{part}.{act}"

    def does(self, part: str, act: str) -> bool:
        """Return whether a part comes off, or goes on."""
        return self.id(part, act) in self.own

    def first(self, earlier: tuple[str, str], later: tuple[str, str]) -> bool:
        """Return whether one act has to be done before another."""
        a, b = self.id(*earlier), self.id(*later)
        return a in self.own and bool(self.before[b] & self.own[a])


def violations(design: str, steps: Sequence[Step], has: Mapping[str, bool], hub: str = "A1L") -> Iterator[str]:
    """Yield what no hand could do, or what is left undone; `has`: the hub's parts, true where one can come off."""
    if len({step.id for step in steps}) != len(steps):
        yield "a step twice"
    try:
        seen = Seen(steps, hub)
    except KeyError as missing:
        yield f"a step before what it needs: {missing}"
        return
    yield from _back(seen, has)
    yield from _in_turn(design, seen, has)
    yield from _looked_at(design, seen, has)
    for step in steps:
        yield from _of_step(step, has, hub)


def _back(seen: Seen, has: Mapping[str, bool]) -> Iterator[str]:
    for part in has:
        if seen.does(part, "off") and not seen.does(part, "on"):
            yield f"{part} comes off and never goes back"
        elif seen.does(part, "off") and not seen.first((part, "off"), (part, "on")):
            yield f"{part} may go on before it is off"
    for part in GROUND:
        if seen.does(part, "on") and seen.does("lift", "on") and not seen.first(("lift", "on"), (part, "on")):
            yield f"{part} may be torqued in the air"


def _in_turn(design: str, seen: Seen, has: Mapping[str, bool]) -> Iterator[str]:
    for a, b in pairs(OFF[design]):
        untouched = a in GROUND and b == "lift" and not seen.does(a, "off")
        if not has.get(a) or not has.get(b) or untouched:
            continue
        if seen.does(b, "off") and not seen.first((a, "off"), (b, "off")):
            yield f"{b} may come off before {a}"
        if seen.does(b, "on") and seen.does(a, "on") and not seen.first((b, "on"), (a, "on")):
            yield f"{a} may go on before {b}"
    for a, b in pairs(ON.get(design, ())):
        if seen.does(a, "on") and seen.does(b, "on") and not seen.first((a, "on"), (b, "on")):
            yield f"{b} may go on before {a}"


def _looked_at(design: str, seen: Seen, has: Mapping[str, bool]) -> Iterator[str]:
    for part, over in SEEN[design].items():
        reached = over not in has or seen.does(over, "off")
        if has.get(part) is False and seen.opened and reached != (part in seen.looks):
            yield f"{part} is looked at though {over} is on, or not though it is off"


def _of_step(step: Step, has: Mapping[str, bool], hub: str) -> Iterator[str]:
    """Yield what one step says of parts that its hub has not."""
    if step.hub not in ("", hub):
        return
    text = " ".join((step.do, step.see)).lower()
    for word, parts in SAYS.items():
        if word in text and not any(part in has for part in parts):
            yield f"{step.id} speaks of “{word}”"
