"""The logbook: everything that was found, done and fitted at a vehicle, and how its figures grew."""
