"""Checks: each has an id, a name, a reason to exist, and returns findings."""
