"""Hematite's heart: wheel bearings heard, measured, judged and set. No interface, no network, no clock."""

__version__ = "0.1.0"
