"""Pages that belong to no room: signs of life and errors."""

from __future__ import annotations

import logging
import secrets
import sys

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from studio.accounts.permissions import open_to_all
from studio.deadline import DeadlineError
from studio.health import Database
from studio.store import projects as store

_DATABASE = Database()
log = logging.getLogger("studio.errors")


@open_to_all
@require_GET
def alive(request: HttpRequest) -> HttpResponse:
    """Says that this process answers."""
    return HttpResponse("alive\n", content_type="text/plain")


@open_to_all
@require_GET
def ready(request: HttpRequest) -> HttpResponse:
    """Says whether requests can be served: 200 where the database answers, 503 elsewhere."""
    if not _DATABASE.answers():
        return HttpResponse("no database\n", content_type="text/plain", status=503)
    return HttpResponse("ready\n", content_type="text/plain")


def forbidden(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Says why something is not allowed."""
    context = {"title": "This is not allowed", "sentence": str(exception or "")}
    return render(request, "ui/problem.html", context, status=403)


def not_found(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Says that there is no such page."""
    context = {
        "title": "There is no such page",
        "sentence": "It may have been deleted, or you may not be a member of its project.",
    }
    return render(request, "ui/problem.html", context, status=404)


def failed(request: HttpRequest) -> HttpResponse:
    """Says that the application failed, and whether something was stored before.

    The page and the log have the same number.
    """
    error = sys.exc_info()[1]
    number = secrets.token_hex(4)
    log.error("Error %s at %s %s", number, request.method, request.path, exc_info=error)
    stored = store.STORED.get()
    database = isinstance(error, OperationalError | InterfaceError)
    late = isinstance(error, DeadlineError)
    if stored is not None:
        sentence = f"Your change was stored as revision {stored}, but the page could not be shown."
    elif late:
        sentence = f"{error} Nothing was stored. Try it with less at once."
    elif database:
        sentence = "The database does not answer just now. Nothing was stored; wait, and try again."
    else:
        sentence = "Nothing was changed. Go back and try again."
    context = {"title": "Something failed here", "sentence": sentence, "number": number}
    response = render(request, "ui/problem.html", context, status=503 if database or late else 500)
    if database:
        response["Retry-After"] = "3"
    return response


def bad_request(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Says that a request could not be read."""
    context = {
        "title": "This request could not be read",
        "sentence": "Nothing was stored. Go back, load the page again and retry.",
    }
    return render(request, "ui/problem.html", context, status=400)


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    """Says that a form did not come from a page of this application."""
    context = {
        "title": "This form is out of date",
        "sentence": "Nothing was stored. You may have signed in or out in another tab: load the "
        "page again and retry.",
    }
    return render(request, "ui/problem.html", context, status=403)
