"""Tokens: the document, its expressions, how they resolve and how they change."""
