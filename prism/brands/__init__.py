"""Brands: ramps of their own, and what refers to them."""
