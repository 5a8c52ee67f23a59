"""The Checks room: the contrast of every pairing, theme by theme."""

from itertools import groupby

from django.contrib import messages
from django.shortcuts import redirect
from django.views.decorators.http import require_GET, require_POST

from prism.changes import values as edit
from prism.errors import PrismError
from prism.model.document import Pairing
from prism.resolution import contrast
from prism.view_models import matrix
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.checks.forms import PairingForm
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """Pairings by theme, the failing first."""
    return _room(_enter(request, project))


def _enter(request, project):
    state = request.GET if request.method == "GET" else request.POST
    return frames.enter(request, project, "checks", find=state.get("find", "")[:100])


def _room(frame, form=None, status=200):
    table = matrix.columns(frame.resolver, frame.theme)
    failing = frame.analysis.failing
    rows = matrix.rows(frame.resolver, table, failing, only=frame.extra.get("find", ""))
    _, modes = frames.names_of(frame.loaded)
    first = frame.document.axes[0] if frame.document.axes else None
    columns = [
        {
            "column": column,
            "theme": frames.theme_text(frame.loaded, column.theme),
            "slug": modes[first.key, first.modes[column.theme[0]].key] if first else "",
        }
        for column in table
    ]
    context = {
        "columns": columns,
        "groups": [
            (outer, len(list(members)))
            for outer, members in groupby(table, key=lambda column: column.outer)
        ],
        "rows": [
            {"row": row, "cells": list(zip(row.readings, columns, strict=True))} for row in rows
        ],
        "failing": len(failing),
        "find": frame.extra.get("find", ""),
        "form": form or PairingForm(initial={"revision": frame.loaded.revision}),
        "colors": [token for token in frame.document.tokens if token.type == "color"],
    }
    return frames.show(frame, "checks/room.html", context, status)


@requires("edit")
@require_POST
def add_pairing(request, project):
    """Add a pairing."""
    frame = _enter(request, project)
    form = PairingForm(request.POST)
    if not form.is_valid():
        return _room(frame, form, 400)

    def change(document):
        pairing = _pairing(document, form.cleaned_data)
        after = edit.add_pairing(document, pairing)
        return after, f"Added the pairing {contrast.summary(after, pairing)}"

    try:
        frames.write(frame, form.cleaned_data["revision"], change)
    except PrismError as error:
        form.add_error(None, str(error))
        return _room(frame, form, 422)
    return redirect(frame.here)


def _pairing(document, said):
    keys = {}
    for name in ("foreground", "background", "page"):
        path = said[name].strip().strip("{}")
        token = document.token_at(path) if path else None
        if path and token is None:
            raise PrismError(f"{{{path}}} does not exist.", fix="Choose a token of the list.")
        keys[name] = token.key if token else ""
    return contrast.pairing_for(
        store.new_key(),
        keys["foreground"],
        (keys["background"],),
        said["use"],
        enhanced=said["enhanced"],
        reason=said["reason"],
        page=keys["page"],
    )


@requires("edit")
@require_POST
def remove_pairing(request, project, key):
    """Take a pairing out."""
    frame = _enter(request, project)
    try:
        pairing = frame.document.pairing(key) or Pairing(key, "", ())
        after = edit.remove_pairing(frame.document, key)
        words = contrast.summary(frame.document, pairing)
        store.save(project, frame.loaded, after, request.user, f"Removed the pairing {words}")
    except PrismError as error:
        messages.error(request, str(error))
    return redirect(frame.here)
