"""Pages that belong to no room: signs of life and errors."""

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from studio.accounts.permissions import open_to_all


@open_to_all
@require_GET
def alive(request):
    """Says that the application answers."""
    return HttpResponse("alive\n", content_type="text/plain")


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
    """Says that the application failed."""
    context = {
        "title": "Something failed here",
        "sentence": "Nothing of yours was changed by it. Go back and try again.",
    }
    return render(request, "ui/problem.html", context, status=500)
