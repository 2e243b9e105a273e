"""Tests of the setting bench."""
