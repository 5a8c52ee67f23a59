"""Hygiene: what is broken, unused, doubled, hidden or out of place."""
