"""A verdict on paper: one page as PDF, black on white, photographs after it."""

from collections.abc import Mapping
from datetime import datetime

from hematite.units import shown
from hematite.wording import hardly_moves, percent, wording
from photos.models import Photo
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, HRFlowable, Image, PageBreak, Spacer
from workshop import media
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
        title=f"Verdict {page['hub']}: {page['choice_label']}",
        author=page["person"],
        subject=page["vehicle_label"],
    )


def _top(page: Mapping) -> list[Flowable]:
    judged = page["judged"]
    at: datetime = page["at"]
    road = page["road"]
    where_from = "" if road["hub"] == page["hub"] else f", for {road['hub']}"
    cause = judged["standing_label"] if judged["cause"] == "sound" else judged["cause_label"]
    certain = "" if judged["cause"] == "sound" else f", {percent(judged['probability'])} likely"
    if judged["cause"] == "bearing" and judged.get("mechanism_label"):
        certain += f"; likeliest {judged['mechanism_label']}, {percent(judged['mechanism_probability'])}"
    where = f"{page['vehicle_label']}, {wording()['sides'].get(page['side'], '')}. {page['design_label']}."
    against = (
        [line(f"Decided against the advice ({page['advised_label']}): {page['reason']}")] if page["reason"] else []
    )
    return [
        line(f"{page['workshop']} · verdict of {at:%d %B %Y, %H:%M} UTC, by {page['person']}", SMALL),
        line(f"{page['hub']}: {cause}{certain}", TITLE),
        line(where),
        *([line(f"The driver says: {page['complaint']}")] if page["complaint"] else []),
        Spacer(1, 3),
        HRFlowable(width="100%", thickness=2, color=colors.black, spaceAfter=3),
        line(f"To do: {page['choice_label']}", CHOICE),
        *against,
        line(f"How far it can go until then: {road['label']}{where_from}. {' '.join(road['because'])}"),
        HRFlowable(width="100%", thickness=2, color=colors.black, spaceBefore=4),
    ]


def _reasons(page: Mapping) -> list[Flowable]:
    judged = page["judged"]
    rules = judged.get("rules") or [{"because": judged["because"]}]
    others = [f"{other['label']}: {other['because']}" for other in judged.get("alternatives", [])]
    overturned = [f"{one['words']} ({one['hub'] or 'the vehicle'})" for one in page["overturned_by"]]
    return [
        *section("Reasons", bullets(rule["because"] for rule in rules[:4])),
        *section("Then", bullets([judged["then"]] if judged.get("then") else [])),
        *section("With it", bullets(judged.get("also", []))),
        *section("Why not otherwise", bullets(others)),
        *section("What would change it", bullets([judged["would_change"], *overturned])),
    ]


def _facts(page: Mapping, length: str) -> list[Flowable]:
    judged = page["judged"]
    heavy = sorted(judged["witnesses"], key=lambda row: -abs(row["bits"]))[:MOST_WITNESSES]
    heavy = [row for row in heavy if not hardly_moves(row["bits"])]
    rows = [[row["label"], row["words"], _times(row["bits"])] for row in heavy]
    looked = [f"{one['words']}{_damage(one)}" for one in judged["inspection"]["looked"]]
    read = [
        f"End play at {one['hub']}: mean {_mm(one['mean_mm'], length)}, spread {_mm(one['spread_mm'], length)}; "
        f"window {_mm(one['least_mm'], length)} to {_mm(one['most_mm'], length)} ({one['source']})."
        for one in page["readings"]
    ]
    table = [grid([["Witness", "Says", "Odds of a bearing fault"], *rows], [43 * mm, 93 * mm, 36 * mm])] if rows else []
    return [*section("Witnesses", table), *section("Seen and measured", bullets([*looked, *read]))]


def _damage(one: Mapping) -> str:
    return f" — {', '.join(one['damage'])}" if one["damage"] else ""


def _times(bits: float) -> str:
    times = 2 ** abs(bits)
    if hardly_moves(bits):
        return "hardly moved"
    return f"{'times' if bits > 0 else 'divided by'} {times:.1f}" if times < 10 else (
        f"{'times' if bits > 0 else 'divided by'} {times:.0f}"
    )  # fmt: skip


def _mm(value: float, unit: str) -> str:
    return shown(value / 1000, quantity="length", unit=unit)


def _money(page: Mapping) -> list[Flowable]:
    prices = page["prices"]
    if not prices:
        return []
    coin = prices["currency"]
    head = ["Choice", f"Now, {coin}", "Days", "Comes back", f"In the end, {coin}", "Days in the end"]
    rows = [
        [
            row["label"] + (" (example figures)" if row["example"] else ""), f"{row['now']:.0f}", f"{row['days']:.1f}",
            percent(row["comeback"]), f"{row['expected']:.0f}", f"{row['expected_days']:.1f}",
        ]
        for row in prices["rows"]
    ]  # fmt: skip
    return section("What it costs", [grid([head, *rows], [62 * mm, 20 * mm, 16 * mm, 24 * mm, 28 * mm, 22 * mm])])


def _end(page: Mapping) -> list[Flowable]:
    own = [f"{way['school']}: {way['way']} ({way['reason']})" for way in page["ways"] if way["reason"]]
    return [
        *section("Cautions", bullets(page["road"]["cautions"])),
        *section("Otherwise than the workshop's way", bullets(own)),
        Spacer(1, 10),
        line("Signed ______________________________     Date ______________"),
        Spacer(1, 3),
        line(
            f"{wording()['nothing_above']} Judged by Hematite's core {page['core_version']}; verdict {page['id']}.",
            SMALL,
        ),
    ]


def _photographs(page: Mapping, width: float) -> list[Flowable]:
    rows = list(Photo.objects.filter(case=page["case"], id__in=page["photos"]))
    if not rows:
        return []
    found: list[Flowable] = [PageBreak(), line("Photographs", HEAD)]
    for row in rows:
        wide = min(width, 110 * mm * row.width / max(row.height, 1))
        found += [Image(str(media.path(row.file)), width=wide, height=wide * row.height / row.width), Spacer(1, 2)]
        found += [line(f"{row.hub}, {row.part.replace('_', ' ')}, {row.at:%d %B %Y, %H:%M} UTC", SMALL), Spacer(1, 6)]
    return found
