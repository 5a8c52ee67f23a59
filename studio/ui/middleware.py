"""What every answer says of the write behind it; refusals and errors as plain sentences."""

from __future__ import annotations

import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from prism.errors import PrismError
from studio.accounts.limits import TooManyTriesError
from studio.gate import MAX_BODY, length_of
from studio.store import projects as store

_WRITE = re.compile(r"[0-9a-f-]{1,40}\Z")

GetResponse = Callable[[HttpRequest], HttpResponse]


class BodyLimitMiddleware:
    """Refuse a body by the length it is said to have, before any of it is read."""

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        length = length_of(request.META)
        if length <= MAX_BODY:
            return self.get_response(request)
        context = {
            "title": "This is too much at once",
            "sentence": f"The upload has {length / 1e6:.0f} MB; at most {MAX_BODY / 1e6:.0f} MB are "
            "accepted. Nothing was stored. Split the files, or make the picture smaller.",
        }
        return render(request, "ui/problem.html", context, status=413)


class WriteMiddleware:
    """Keep what a page calls its write, and say in ``X-Stored`` which revision it became.

    The answer says so even where it is an error page, because what was stored stays stored.
    """

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        name = request.headers.get("X-Write", "")
        store.WRITE.set(name if _WRITE.match(name) else "")
        store.STORED.set(None)
        response = self.get_response(request)
        if store.STORED.get() is not None:
            response["X-Stored"] = str(store.STORED.get())
        return response


class PlainErrorMiddleware:
    """Turn an unanswered ``PrismError`` into a page that says it."""

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        if not isinstance(exception, PrismError):
            return None
        status = 429 if isinstance(exception, TooManyTriesError) else 409
        context = {"title": "This did not work", "sentence": str(exception)}
        return render(request, "ui/problem.html", context, status=status)
