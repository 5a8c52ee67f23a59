"""Elevation: surfaces that lift off one another."""
