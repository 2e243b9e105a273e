"""A step of a job: one thing done at one hub, with what must be done before it."""

from dataclasses import dataclass

from hematite.assembly import Act
from hematite.language import words_once
from hematite.tables import table


@dataclass(frozen=True)
class Step:
    """One step. `act`: off, on, work, look, set or check; `hub` '' where it is done once for the whole job.

    `needs`: ids of the steps that must be done first. `minutes` by hand; `wait` minutes after it that nobody stands by,
    `wait_before` between steps of the name `wait_after` and this one.
    `fate`: "new" where the part goes on new. `torque`: whose torque it is, a key of the table of fastenings.
    `looks`: the parts that can be looked at by then.
    """

    id: str
    hub: str
    part: str
    act: str
    do: str
    needs: tuple[str, ...] = ()
    see: str = ""
    cautions: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    uses: tuple[str, ...] = ()
    torque: str = ""
    minutes: float = 0.0
    wait: float = 0.0
    wait_before: float = 0.0
    wait_after: str = ""
    wait_for: str = ""
    where: str = ""
    picture: str = ""
    sum: str = ""
    press_t: float = 0.0
    fate: str = ""
    stuck: str = ""
    looks: tuple[str, ...] = ()
    source: str = "common practice"

    def lag_of(self, need: str) -> float:
        """Return how many minutes must pass between the end of a step that it needs and its own start."""
        return self.wait_before if need.endswith(self.wait_after) else 0.0


@words_once
def caution_words(key: str) -> str:
    """Return a caution in words."""
    return str(table("assembly/cautions.toml")[key])


def step_of(act: Act, *, id: str, hub: str, part: str, needs: tuple[str, ...], fate: str = "", stuck: str = "") -> Step:
    """Return the step that does an act at a hub."""
    return Step(
        id=id, hub=hub, part=part, act=act.kind, do=act.do, needs=needs, see=act.see,
        cautions=tuple(caution_words(key) for key in act.cautions), tools=act.tools, uses=act.uses, torque=act.torque,
        minutes=act.minutes, wait=act.wait, wait_for=act.wait_for, where=act.where, picture=act.picture, sum=act.sum,
        press_t=act.press_t, fate=fate, stuck=stuck,
    )  # fmt: skip
