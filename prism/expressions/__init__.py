"""Syntax, units and evaluation of the values that tokens hold."""
