"""Contrast: pairings and rules, what falls short, and what would make it pass."""
