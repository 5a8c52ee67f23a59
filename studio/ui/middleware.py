"""What every answer says of the write behind it, and errors as plain sentences."""

import logging
import re
import secrets

from django.shortcuts import render

from prism.errors import PrismError
from studio.store import projects as store

log = logging.getLogger("studio.errors")
_WRITE = re.compile(r"[0-9a-f-]{1,40}\Z")


class WriteMiddleware:
    """Keep what a page calls its write, and say in ``X-Stored`` which revision it became.

    The answer says so even where it is an error page, because what was stored stays stored.
    """

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        name = request.headers.get("X-Write", "")
        store.WRITE.set(name if _WRITE.match(name) else "")
        store.STORED.set(None)
        response = self.get_response(request)
        if store.STORED.get() is not None:
            response["X-Stored"] = str(store.STORED.get())
        return response


class PlainErrorMiddleware:
    """Turn an unanswered ``PrismError`` into a page that says it, and number any other error."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        return self.get_response(request)

    def process_exception(self, request, exception):
        if isinstance(exception, PrismError):
            context = {"title": "This did not work", "sentence": str(exception)}
            return render(request, "ui/problem.html", context, status=409)
        request.error_number = secrets.token_hex(4)
        log.error(
            "Error %s at %s %s", request.error_number, request.method, request.path,
            exc_info=exception,
        )  # fmt: skip
        return None
