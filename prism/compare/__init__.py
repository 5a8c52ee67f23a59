"""Comparing documents: rows, differences and how they apply."""
