"""Axes and modes: changed, and proposed from one another."""
