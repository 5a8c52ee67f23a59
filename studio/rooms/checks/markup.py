"""Rows of the matrix as markup. What looks as it did before is not made again."""

from __future__ import annotations

from functools import lru_cache
from urllib.parse import quote

from django.template.loader import render_to_string

from prism.contrast.matrix import MatrixRow
from studio.rooms.parts import Part, part_of

_KEPT = 4000


@lru_cache(maxsize=_KEPT)
def row(
    row: MatrixRow,
    rule: str,
    presumed: bool,
    href: str,
    places: tuple[tuple[str, str], ...],
    *,
    fix: bool,
    opened: bool,
) -> Part:
    """A pairing's row.

    ``rule`` is the name of the rule that made it, ``presumed`` whether nobody knows that the two meet, ``href`` the address that opens it, ``places`` the address of the
    sheet and the mode's name for each column; ``fix`` says whether a fix is offered, ``opened`` whether it is the
    pairing that is open.
    """
    context = {
        "row": row,
        "rule": rule,
        "presumed": presumed,
        "href": href,
        "cell": quote(f"{row.pairing.foreground}:"),
        "cells": list(zip(row.readings, places, strict=True)),
        "fix": fix,
        "opened": opened,
    }
    return part_of(render_to_string("checks/matrix_row.html", context))
