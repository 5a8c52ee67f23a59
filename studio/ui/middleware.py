"""What every answer says of the write behind it; refusals and errors as plain sentences."""

from __future__ import annotations

import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, QueryDict
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


class LongAddressMiddleware:
    """Take the query of a page from the body of a request that says so: what is asked may be longer than
    an address can be. Nothing but a ``GET`` comes of it."""

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.method == "POST" and request.headers.get("X-Query") == "body":
            query = request.body.decode("ascii", "replace")
            request.method = request.META["REQUEST_METHOD"] = "GET"
            request.META["QUERY_STRING"] = query
            request.GET = QueryDict(query)
            request.META["CONTENT_LENGTH"] = "0"
        return self.get_response(request)


class PlainTextMiddleware:
    """Refuse a NUL in an address or a form: no text that is stored can hold one."""

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if "\0" in request.path or "%00" in request.META.get("QUERY_STRING", ""):
            return self._refused(request, "The address")
        return self.get_response(request)

    def process_view(self, request: HttpRequest, *view: object) -> HttpResponse | None:
        """Look through the fields of a form, which have been read by now."""
        if request.method != "POST":
            return None
        holding = [
            name for name, texts in request.POST.lists() if "\0" in name or "\0" in "".join(texts)
        ]
        return self._refused(request, "What was sent") if holding else None

    def _refused(self, request: HttpRequest, what: str) -> HttpResponse:
        context = {
            "title": "This holds a character that text cannot contain",
            "sentence": f"{what} holds the character NUL. Nothing was stored. Remove it, then try again.",
        }
        return render(request, "ui/problem.html", context, status=400)


class WriteMiddleware:
    """Keep what a page calls its write, and say in ``X-Stored`` which revision it became.

    The answer says so even where it is an error page, because what was stored stays stored. A write that comes
    again under its name, as from a page whose answer was lost, is not made a second time.
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

    def process_view(
        self, request: HttpRequest, view: object, args: object, kwargs: dict[str, str]
    ) -> HttpResponse | None:
        """Answer a write of this person that was stored before, and say as which revision."""
        name, code = store.WRITE.get(), kwargs.get("code", "")
        if request.method != "POST" or not name or not code or not request.user.is_authenticated:
            return None
        revision = store.revision_of(code, name, request.user)
        return HttpResponse(status=204, headers={"X-Stored": str(revision)}) if revision else None


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
