"""The setting bench: sums asked for at a hub, and what was worked out, kept with its step, case and vehicle."""
