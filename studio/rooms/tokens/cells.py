"""Rows of the sheet as flat mappings: a template reads them fast, many hundred cells a page."""

from urllib.parse import quote

from prism.tokens.model import shown_path


def flat(line, slugs, base):
    """A row for the template: the token's name in two parts, and its cells.

    ``slugs`` are those of the modes by key, ``base`` is what a cell's address begins with.
    """
    token = line.token
    path = shown_path(token.path)
    head, dot, leaf = path.rpartition(".")
    return {
        "key": token.key,
        "path": path,
        "stem": head + dot,
        "leaf": leaf,
        "description": token.description,
        "deprecated": token.deprecated is not None,
        "cells": [_cell(token.key, cell, slugs, base) for cell in line.cells],
    }


def _cell(key, cell, slugs, base):
    mode = cell.mode.key if cell.mode else ""
    slug = slugs.get(mode, "")
    worst = cell.worst
    return {
        "id": f"{key}:{slug}",
        "href": f"{base}cell={quote(key)}%3A{slug}",
        "mode": mode,
        "looks": cell.looks,
        "low": cell.inherited,
        "value": cell.text,
        "shown": cell.shown,
        "hex": cell.answer.hex,
        "broken": cell.answer.broken,
        "ratio": worst.shown if worst and not worst.fails else "",
        "failing": worst if worst and worst.fails else None,
    }
