"""Scenes: interfaces that tokens are tried on, their slots and bindings."""
