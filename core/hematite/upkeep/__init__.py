"""Upkeep: when to look again, how fast a vehicle and its wear go on, and what goes along on the road."""

from hematite.upkeep.answers import Answered, Ask, asks, judge
from hematite.upkeep.due import SOON_DAYS, STATES, Due, Gauge, due, state_of
from hematite.upkeep.duty import Shortening, due_at_once, shortening
from hematite.upkeep.kit import Card, CardLine, Kit, kit
from hematite.upkeep.odometer import Entry, Rate, Reached, rate, reached
from hematite.upkeep.rechecks import Recheck, rechecks
from hematite.upkeep.stops import Felt, feelings, judge_stop, stops
from hematite.upkeep.trend import Trend, Visit, trend

__all__ = [
    "SOON_DAYS",
    "STATES",
    "Answered",
    "Ask",
    "Card",
    "CardLine",
    "Due",
    "Entry",
    "Felt",
    "Gauge",
    "Kit",
    "Rate",
    "Reached",
    "Recheck",
    "Shortening",
    "Trend",
    "Visit",
    "asks",
    "due",
    "due_at_once",
    "feelings",
    "judge",
    "judge_stop",
    "kit",
    "rate",
    "reached",
    "rechecks",
    "shortening",
    "state_of",
    "stops",
    "trend",
]
