"""A workshop's policy: its schools, its play limits by design, and its prices; and what a case departs from."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from hematite.doors import mapped, not_negative, one_of
from hematite.errors import BadQuantity
from hematite.hubs import designs
from hematite.language import say
from hematite.policy.schools import defaults, schools
from hematite.policy.shop import Shop, read_shop
from hematite.prices.rates import Rates, figures, read_rates
from hematite.vehicles import Axle, Hub, Vehicle


@dataclass(frozen=True)
class Limit:
    """A window of end play in millimetres that a workshop uses for a design, and where the figures came from."""

    least_mm: float
    most_mm: float
    source: str


@dataclass(frozen=True)
class Policy:
    """What a workshop chose; a difference that it did not choose stands at its default."""

    schools: Mapping[str, str] = field(default_factory=defaults)
    limits: Mapping[str, Limit] = field(default_factory=dict)
    rates: Rates = field(default_factory=Rates)
    shop: Shop = field(default_factory=Shop)

    def departing(self, departures: Mapping[str, str]) -> "Policy":
        """Return the policy as one case has it. Raises `UnknownName`."""
        return replace(self, schools=dict(self.schools) | _schools(departures))

    def limited(self, vehicle: Vehicle) -> Vehicle:
        """Return a vehicle whose hubs, where they have no limits of their own, take the workshop's."""
        axles = (replace(axle, hubs=tuple(self._limited(hub) for hub in axle.hubs)) for axle in vehicle.axles)
        return replace(vehicle, axles=tuple[Axle, ...](axles)) if self.limits else vehicle

    def _limited(self, hub: Hub) -> Hub:
        limit = self.limits.get(hub.design_key)
        if limit is None or hub.play_min_mm is not None or hub.play_max_mm is not None:
            return hub
        return replace(hub, play_min_mm=limit.least_mm, play_max_mm=limit.most_mm, play_source=limit.source)


def read_policy(data: Mapping[str, Any]) -> Policy:
    """Check a policy: `schools` (difference: option), `limits` (design: least_mm, most_mm, source), `prices`, `shop`.

    Raises `UnknownName` for what no table lists, `BadQuantity` for figures that cannot be.
    """
    limits = {
        one_of(design, designs(), say("hub design")): _limit(design, row)
        for design, row in mapped(data.get("limits") or {}, say("The limits")).items()
    }
    chosen = defaults() | _schools(mapped(data.get("schools") or {}, say("The schools")))
    rates = read_rates(mapped(data.get("prices") or {}, say("The prices")))
    return Policy(chosen, limits, rates, read_shop(mapped(data.get("shop") or {}, say("What the workshop has"))))


def known_only(data: Mapping[str, Any]) -> dict[str, Any]:
    """Return a stored policy without what no table lists any more: an old name must not stop the workshop's work."""
    prices = data.get("prices") or {}
    own = prices.get("figures") or {}
    listed = {figure.key for figure in figures(Rates())}
    return {
        "schools": {k: v for k, v in (data.get("schools") or {}).items() if k in schools() and schools()[k].option(v)},
        "limits": {k: v for k, v in (data.get("limits") or {}).items() if k in designs()},
        "shop": data.get("shop") or {},
        "prices": {**prices, "figures": {k: v for k, v in own.items() if k in listed}},
    }


def _schools(data: Mapping[str, str]) -> dict[str, str]:
    chosen = {}
    for key, option in data.items():
        school = schools()[one_of(key, schools(), say("difference of practice"))]
        chosen[key] = one_of(
            str(option), [known.key for known in school.options], say("way ({label})", label=school.label)
        )
    return chosen


def _limit(design: str, row: Mapping[str, Any]) -> Limit:
    label = designs()[design].label
    row = mapped(row, say("The limit of {label}", label=label))
    least = not_negative(row.get("least_mm", 0.0), say("The least play ({label})", label=label))
    most = not_negative(row.get("most_mm"), say("The most play ({label})", label=label))
    if least > most:
        raise BadQuantity(
            say(
                "{label}: the least play, {least:g} mm, is more than the most, {most:g} mm. Swap them.",
                label=label,
                least=least,
                most=most,
            )
        )
    source = str(row.get("source") or "").strip()
    if not source:
        raise BadQuantity(
            say("{label}: say where the limit came from, for example the manual and its page.", label=label)
        )
    return Limit(least, most, source[:120])
