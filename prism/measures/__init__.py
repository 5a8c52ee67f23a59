"""Dimensions and texts: scales computed from a base, and what they look like."""
