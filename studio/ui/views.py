"""Pages that belong to no room: signs of life and errors."""

from django.db import DatabaseError, connection
from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from studio.accounts.permissions import open_to_all
from studio.store import projects as store


@open_to_all
@require_GET
def alive(request):
    """Says that this process answers."""
    return HttpResponse("alive\n", content_type="text/plain")


@open_to_all
@require_GET
def ready(request):
    """Says whether requests can be served: 200 where the database answers, 503 elsewhere."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
    except DatabaseError:
        return HttpResponse("no database\n", content_type="text/plain", status=503)
    return HttpResponse("ready\n", content_type="text/plain")


def forbidden(request, exception=None):
    """Says why something is not allowed."""
    context = {"title": "This is not yours to do", "sentence": str(exception or "")}
    return render(request, "ui/problem.html", context, status=403)


def not_found(request, exception=None):
    """Says that there is no such page."""
    context = {
        "title": "There is no such page",
        "sentence": "It may have been deleted, or you may not be a member of its project.",
    }
    return render(request, "ui/problem.html", context, status=404)


def failed(request):
    """Says that the application failed, whether something was stored before, and the number."""
    stored = store.STORED.get()
    number = getattr(request, "error_number", "")
    context = {
        "title": "Something failed here",
        "sentence": (
            f"Your change was stored as revision {stored}, but the page could not be shown."
            if stored is not None
            else "Nothing of yours was changed by it. Go back and try again."
        ),
        "number": number,
    }
    response = render(request, "ui/problem.html", context, status=500)
    response["X-Error"] = number
    return response


def bad_request(request, exception=None):
    """Says that a request could not be read."""
    context = {
        "title": "This request could not be read",
        "sentence": "Nothing was stored. Go back, load the page again and retry.",
    }
    return render(request, "ui/problem.html", context, status=400)


def csrf_failure(request, reason=""):
    """Says that a form did not come from a page of this application."""
    context = {
        "title": "This form is out of date",
        "sentence": "Nothing was stored. You may have signed in or out in another tab: load the "
        "page again and retry.",
    }
    return render(request, "ui/problem.html", context, status=403)
