"""Bench: populations of made-up cases by which the core is measured. Not part of the core; the tests use some of it."""
