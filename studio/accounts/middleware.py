"""Denying by default."""

from django.contrib.auth.views import redirect_to_login
from django.shortcuts import render

from studio.accounts.permissions import refuse_unknown


class DenyByDefaultMiddleware:
    """Let a request through only to a view that declares who may have it."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        return self.get_response(request)

    def process_view(self, request, view, args, kwargs):
        refuse_unknown(view)
        if view.access != "open" and not request.user.is_authenticated:
            if "X-Region" in request.headers:
                context = {
                    "title": "You are signed out",
                    "sentence": "Sign in in another tab, load this page again, and go on.",
                }
                return render(request, "ui/problem.html", context, status=401)
            return redirect_to_login(request.get_full_path())
        return None
