"""Grease: how much, which may meet which, and when to look again."""

from hematite.grease.grease import Amount, Interval, Meeting, amount, duties, interval, meet, thickeners

__all__ = ["Amount", "Interval", "Meeting", "amount", "duties", "interval", "meet", "thickeners"]
