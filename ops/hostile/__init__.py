"""Hostile input, on purpose: what nobody's page sends, against a server of our own on loopback."""
