"""Denying by default."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.contrib.auth.views import redirect_to_login
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import render

from studio.accounts.permissions import refuse_unknown

GetResponse = Callable[[HttpRequest], HttpResponse]


class DenyByDefaultMiddleware:
    """Let a request through only to a view that declares who may have it."""

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_view(
        self, request: HttpRequest, view: Any, args: Any, kwargs: Any
    ) -> HttpResponseBase | None:
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
