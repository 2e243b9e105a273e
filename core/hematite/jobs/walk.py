"""One hub's walk: down to the depth that the choice needs, the work there, and back up through all that came off.

The order is not written down anywhere. It follows from what has to be off before each part (assembly/designs.toml): a
part goes back on once all that sits under it is on, and what was done with the wheel on the ground before the lift is
done on the ground after it.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from hematite.assembly import Act, Depth, Facts, Placed, holds
from hematite.jobs.step import Step, step_of
from hematite.jobs.stuck import Rung
from hematite.language import later, say

LOOK = Act(
    "look",
    "look",
    later(
        "Look at all that is off, in good light, before anything is washed or put back: grease, races, seats, threads."
    ),
    4,
)


@dataclass
class Walk:
    """The steps of one hub in their natural order, while they are laid out, and which must come before which."""

    hub: str
    axle: int
    facts: Facts
    parts: Mapping[str, Placed]
    depth: Depth
    fates: Mapping[str, str]
    freeing: Mapping[str, Rung]  # by part, how one is freed that would not move
    steps: list[tuple[str, str, Act]] = field(default_factory=list)  # id, part, act; as they are laid out
    before: dict[str, dict[str, None]] = field(default_factory=dict)
    groups: dict[tuple[str, str], list[str]] = field(default_factory=dict)  # ids by part and when they are done
    across: list[tuple[str, tuple[str, ...]]] = field(default_factory=list)  # what waits for a whole axle's parts
    acts: dict[str, Act] = field(default_factory=dict)
    over: dict[str, list[str]] = field(default_factory=dict)

    def id_of(self, part: str, name: str) -> str:
        """Return the id of a step: '.cap.off' at its hub, or 'lift.off' where it is shared."""
        return f"{part}.{name}" if self.parts[part].part.shared else f"{self.hub}.{part}.{name}"

    def lay(self) -> "Walk":
        """Lay out every step with what must come before it."""
        way = down(self.parts, self.depth.off)
        for key in way:
            if key in self.freeing:
                self._add(key, self.freeing[key].act.id, replace(self.freeing[key].act, at="free"))
            self._add(key, "off", self._one(self.parts[key].part.off, key))
            if key == "wheel":  # what soaks may soak while the rest comes off
                for other in way:
                    self._acts(other, "before_off")
        if any(self.parts[key].part.kind for key in way) and self.facts["choice"] != "look_elsewhere":
            self.steps.append((f"{self.hub}.look", "", replace(LOOK, do=say(LOOK.do))))
            self.groups["", "look"] = [f"{self.hub}.look"]
        for at in ("closed", "bottom"):
            for key in self.parts:
                self._acts(key, at)
        for key in up(self.parts, self._back()):
            self._acts(key, "before")
            if key in self._returning:
                self._add(key, "on", self._one(self.parts[key].part.on, key))
            self._acts(key, "after")
        self._tie()
        return self

    @property
    def _returning(self) -> set[str]:
        return {*self.depth.off, *self.depth.fits}

    def _back(self) -> list[str]:
        """Return the parts that are met on the way up: all that goes on, and what is worked on where it sits."""
        return [key for key in self.parts if key in self._returning or self._exposed(key)]

    def _exposed(self, key: str) -> bool:
        """Return whether a part that does not come off can be reached, as all that sits over it is off."""
        placed = self.parts[key]
        return key not in self._returning and bool(placed.needs) and set(placed.needs) <= set(self.depth.off)

    def _seen(self) -> tuple[str, ...]:
        """Return the parts that can be looked at once all is off that comes off."""
        reach = (key for key in self.parts if key in self.depth.off or self._exposed(key))
        return tuple(key for key in reach if self.parts[key].part.kind)

    def _one(self, acts: Sequence[Act], key: str) -> Act:
        """Return the one act whose condition holds; the tests prove that there is always exactly one."""
        facts = self._facts(key)
        return next(act for act in acts if holds(act.when, facts))

    def _facts(self, key: str) -> Facts:
        one_time = {"one_time": self.fates[f"{key}!"]} if f"{key}!" in self.fates else {}
        return {**self.facts, **one_time, "fate": self.fates.get(key, "same")}

    def _acts(self, key: str, at: str) -> None:
        for act in self.parts[key].part.work:
            if act.at == at and holds(act.when, self._facts(key)) and self._in_reach(key, act):
                self._add(key, act.id, act)

    def _in_reach(self, key: str, act: Act) -> bool:
        if act.at == "closed":
            return True
        if act.at == "before_off":
            return key in self.depth.off
        if key in self._returning:
            return act.at != "bottom" or key in self.depth.off
        return self._exposed(key) and (act.at in ("bottom", "before") or act.kind == "set")

    def _add(self, key: str, name: str, act: Act) -> None:
        id = self.id_of(key, name)
        self.steps.append((id, key, act))
        self.acts[id] = act
        self.groups.setdefault((key, act.at or name), []).append(id)
        if act.axle:
            self.across.append((id, act.axle))

    def _ids(self, key: str, *ats: str) -> list[str]:
        return [id for at in ats for id in self.groups.get((key, at), ())]

    def _must(self, id: str, *earlier: Sequence[str]) -> None:
        self.before.setdefault(id, {}).update(dict.fromkeys(e for ids in earlier for e in ids if e != id))

    def _tie(self) -> None:
        look = self._ids("", "look")
        for key, placed in self.parts.items():
            over = [above for above in self._over(key) if above in self.depth.off]
            overs_off = [id for above in over for id in self._ids(above, "off")]
            for off in self._ids(key, "off"):
                self._must(off, overs_off, self._ids(key, "before_off", "free"))
            for free in self._ids(key, "free"):
                self._must(free, overs_off, self._ids(key, "before_off"))
                self._must(free, *(self._ids(other, "off") for other in self.freeing[key].opens))
            for id in self._ids(key, "before_off"):
                self._must(id, self._ids("wheel", "off"))
            for id in look:
                self._must(id, self._ids(key, "off"))
            for id in self._ids(key, "closed", "bottom"):
                self._must(id, overs_off, self._ids(key, "off"), look)
            for id in self._ids(key, "before"):
                self._must(id, overs_off, self._ids(key, "off", "bottom", "closed"), look)
            for on in self._ids(key, "on"):
                self._must(on, overs_off, self._ids(key, "off", "bottom", "closed", "before"), look)
                self._must(on, *(self._ids(other, "on") for other in placed.on_after))
            self._must_after(key)
            self._back_over(key)
        self._ground()

    def _over(self, key: str) -> list[str]:
        """Return all that sits over a part: what has to be off before it, and before that."""
        if key in self.over:
            return self.over[key]
        found: dict[str, None] = {}
        waiting = list(self.parts[key].needs)
        while waiting:
            above = waiting.pop()
            if above not in found:
                found[above] = None
                waiting += self.parts[above].needs
        self.over[key] = list(found)
        return self.over[key]

    def _must_after(self, key: str) -> None:
        earlier: list[str] = []
        for id in self._ids(key, "after"):
            more = [i for other in self.acts[id].with_on for i in self._ids(other, "on")]
            self._must(id, self._ids(key, "off", "bottom", "before", "on"), earlier, more)
            self._must(id, [i for above in self._over(key) for i in self._ids(above, "off")])
            earlier = [id]

    def _back_over(self, key: str) -> None:
        """Nothing goes back over a part before all is done to it, but for what needs more to be on."""
        done = self._ids(key, "closed", "bottom", "before", "on", "after")
        waits = {id: self._with(self.acts[id]) for id in done if self.acts[id].with_on}
        for above in self._over(key):
            for on in self._ids(above, "on"):
                self._must(on, [id for id in done if above not in waits.get(id, ())])

    def _with(self, act: Act) -> set[str]:
        """Return the parts that must be on for an act: those that it names, and what sits over them in turn."""
        return {*act.with_on, *(other for name in act.with_on if name in self.parts for other in self._over(name))}

    def _ground(self) -> None:
        """What is done on the ground comes before the lift, or after it is let down."""
        off, on = self._ids("lift", "off"), self._ids("lift", "on")
        for id, _, act in self.steps:
            if act.where == "ground" and act.kind == "off":
                for lift in off:
                    self._must(lift, [id])
            elif act.where == "ground":
                self._must(id, on)

    def made(self, first: Sequence[str]) -> Iterator[Step]:
        """Yield the steps, each with what must come before it, and after all of `first`."""
        for id, key, act in self.steps:
            needs = (*first, *self.before.get(id, ()))
            if not key:
                yield replace(step_of(act, id=id, hub=self.hub, part="", needs=needs), looks=self._seen())
                continue
            part = self.parts[key].part
            hub = "" if part.shared else self.hub
            fate = self.fates.get(key, "") if act.kind == "on" else ""
            stuck = part.stuck if act.kind == "off" else ""
            yield step_of(act, id=id, hub=hub, part=key, needs=needs, fate=fate, stuck=stuck)


def down(parts: Mapping[str, Placed], off: Sequence[str]) -> list[str]:
    """Return parts in the order they come off: as they are listed, but nothing before what it needs."""
    return _sorted(off, {key: [n for n in parts[key].needs if n in off] for key in off})


def up(parts: Mapping[str, Placed], back: Sequence[str]) -> list[str]:
    """Return parts in the order they go on: the reverse, but nothing before what has to be on first."""
    first: dict[str, list[str]] = {key: [n for n in parts[key].on_after if n in back] for key in back}
    for key in back:
        for above in parts[key].needs:
            if above in first:
                first[above].append(key)
    return _sorted(list(reversed(back)), first)


def _sorted(keys: Sequence[str], first: Mapping[str, Sequence[str]]) -> list[str]:
    done: dict[str, None] = {}
    while len(done) < len(keys):
        done[next(key for key in keys if key not in done and all(n in done for n in first[key]))] = None
    return list(done)
