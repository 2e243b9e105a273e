"""The core's tests: they run alone, without Django settings and without a database."""

from hypothesis import settings

# A slow machine must not fail a property, and the same commit must give the same answer twice.
settings.register_profile("steady", deadline=None, derandomize=True)
settings.load_profile("steady")
