"""A verdict on paper: one page as PDF, black on white, photographs after it."""

from collections.abc import Mapping
from datetime import datetime

from hematite.language import figure, say
from hematite.units import shown
from hematite.wording import hardly_moves, percent, wording
from photos.models import Photo
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, HRFlowable, Image, PageBreak, Spacer
from workshop import media
from workshop.languages import moment
from workshop.paper import CHOICE, HEAD, MARGIN, SMALL, TITLE, bullets, grid, line, made, section

MOST_WITNESSES = 7


def pdf(page: Mapping, liked: Mapping[str, str]) -> bytes:
    """Return the verdict's page as PDF. `liked`: the unit for each quantity; inches are printed on letter paper."""
    unit = {"length": liked.get("length", "mm")}
    story = [*_top(page), *_reasons(page), *_facts(page, unit["length"]), *_money(page), *_end(page)]
    width = (LETTER if unit["length"] == "in" else A4)[0] - 2 * MARGIN
    return made(
        [*story, *_photographs(page, width)],
        liked=unit,
        title=say("Verdict {hub}: {choice_label}", hub=page["hub"], choice_label=page["choice_label"]),
        author=page["person"],
        subject=page["vehicle_label"],
    )


def _top(page: Mapping) -> list[Flowable]:
    judged = page["judged"]
    at: datetime = page["at"]
    road = page["road"]
    where_from = "" if road["hub"] == page["hub"] else say(", for {hub}", hub=road["hub"])
    cause = judged["standing_label"] if judged["cause"] == "sound" else judged["cause_label"]
    certain = "" if judged["cause"] == "sound" else say(", {percent} likely", percent=percent(judged["probability"]))
    if judged["cause"] == "bearing" and judged.get("mechanism_label"):
        certain += say(
            "; likeliest {mechanism_label}, {percent}",
            mechanism_label=judged["mechanism_label"],
            percent=percent(judged["mechanism_probability"]),
        )
    where = f"{page['vehicle_label']}, {wording()['sides'].get(page['side'], '')}. {page['design_label']}."
    against = (
        [
            line(
                say(
                    "Decided against the advice ({advised_label}): {reason}",
                    advised_label=page["advised_label"],
                    reason=page["reason"],
                )
            )
        ]
        if page["reason"]
        else []
    )
    return [
        line(
            say(
                "{workshop} · verdict of {at}, by {person}",
                workshop=page["workshop"],
                at=moment(at),
                person=page["person"],
            ),
            SMALL,
        ),
        line(f"{page['hub']}: {cause}{certain}", TITLE),
        line(where),
        *([line(say("The driver says: {complaint}", complaint=page["complaint"]))] if page["complaint"] else []),
        Spacer(1, 3),
        HRFlowable(width="100%", thickness=2, color=colors.black, spaceAfter=3),
        line(say("To do: {choice_label}", choice_label=page["choice_label"]), CHOICE),
        *against,
        line(
            say(
                "How far it can go until then: {label}{where_from}. {because}",
                label=road["label"],
                where_from=where_from,
                because=" ".join(road["because"]),
            )
        ),
        HRFlowable(width="100%", thickness=2, color=colors.black, spaceBefore=4),
    ]


def _reasons(page: Mapping) -> list[Flowable]:
    judged = page["judged"]
    rules = judged.get("rules") or [{"because": judged["because"]}]
    others = [f"{other['label']}: {other['because']}" for other in judged.get("alternatives", [])]
    overturned = [f"{one['words']} ({one['hub'] or say('the vehicle')})" for one in page["overturned_by"]]
    return [
        *section(say("Reasons"), bullets(rule["because"] for rule in rules[:4])),
        *section(say("Then"), bullets([judged["then"]] if judged.get("then") else [])),
        *section(say("With it"), bullets(judged.get("also", []))),
        *section(say("Why not otherwise"), bullets(others)),
        *section(say("What would change it"), bullets([judged["would_change"], *overturned])),
    ]


def _facts(page: Mapping, length: str) -> list[Flowable]:
    judged = page["judged"]
    heavy = sorted(judged["witnesses"], key=lambda row: -abs(row["bits"]))[:MOST_WITNESSES]
    heavy = [row for row in heavy if not hardly_moves(row["bits"])]
    rows = [[row["label"], row["words"], _times(row["bits"])] for row in heavy]
    looked = [f"{one['words']}{_damage(one)}" for one in judged["inspection"]["looked"]]
    read = [
        say(
            "End play at {hub}: mean {mean}, spread {spread}; window {least} to {most} ({source}).",
            hub=one["hub"],
            mean=_mm(one["mean_mm"], length),
            spread=_mm(one["spread_mm"], length),
            least=_mm(one["least_mm"], length),
            most=_mm(one["most_mm"], length),
            source=one["source"],
        )
        for one in page["readings"]
    ]
    table = (
        [grid([[say("Witness"), say("Says"), say("Odds of a bearing fault")], *rows], [43 * mm, 93 * mm, 36 * mm])]
        if rows
        else []
    )
    return [*section(say("Witnesses"), table), *section(say("Seen and measured"), bullets([*looked, *read]))]


def _damage(one: Mapping) -> str:
    return f" — {', '.join(one['damage'])}" if one["damage"] else ""


def _times(bits: float) -> str:
    times = 2 ** abs(bits)
    if hardly_moves(bits):
        return say("hardly moved")
    much = figure(times, ".1f" if times < 10 else ".0f")
    return say("times {much}", much=much) if bits > 0 else say("divided by {much}", much=much)


def _mm(value: float, unit: str) -> str:
    return shown(value / 1000, quantity="length", unit=unit)


def _money(page: Mapping) -> list[Flowable]:
    prices = page["prices"]
    if not prices:
        return []
    coin = prices["currency"]
    head = [
        say("Choice"),
        say("Now, {coin}", coin=coin),
        say("Days"),
        say("Comes back"),
        say("In the end, {coin}", coin=coin),
        say("Days in the end"),
    ]
    rows = [
        [
            row["label"] + (say(" (example figures)") if row["example"] else ""),
            f"{row['now']:.0f}", f"{row['days']:.1f}",
            percent(row["comeback"]), f"{row['expected']:.0f}", f"{row['expected_days']:.1f}",
        ]
        for row in prices["rows"]
    ]  # fmt: skip
    return section(say("What it costs"), [grid([head, *rows], [62 * mm, 20 * mm, 16 * mm, 24 * mm, 28 * mm, 22 * mm])])


def _end(page: Mapping) -> list[Flowable]:
    own = [f"{way['school']}: {way['way']} ({way['reason']})" for way in page["ways"] if way["reason"]]
    return [
        *section(say("Cautions"), bullets(page["road"]["cautions"])),
        *section(say("Otherwise than the workshop's way"), bullets(own)),
        Spacer(1, 10),
        line("Signed ______________________________     Date ______________"),
        Spacer(1, 3),
        line(
            say(
                "{nothing_above} Judged by Hematite's core {core_version}; verdict {id}.",
                nothing_above=wording()["nothing_above"],
                core_version=page["core_version"],
                id=page["id"],
            ),
            SMALL,
        ),
    ]


def _photographs(page: Mapping, width: float) -> list[Flowable]:
    rows = list(Photo.objects.filter(case=page["case"], id__in=page["photos"]))
    if not rows:
        return []
    found: list[Flowable] = [PageBreak(), line(say("Photographs"), HEAD)]
    for row in rows:
        wide = min(width, 110 * mm * row.width / max(row.height, 1))
        found += [Image(str(media.path(row.file)), width=wide, height=wide * row.height / row.width), Spacer(1, 2)]
        found += [
            line(
                say("{hub}, {part}, {at}", hub=row.hub, part=row.part.replace("_", " "), at=moment(row.at)),
                SMALL,
            ),
            Spacer(1, 6),
        ]
    return found
