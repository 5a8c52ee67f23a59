"""Errors of the core that no view has answered, as plain sentences."""

from django.shortcuts import render

from prism.errors import PrismError


class PlainErrorMiddleware:
    """Turn an unanswered ``PrismError`` into a page that says it."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        return self.get_response(request)

    def process_exception(self, request, exception):
        if not isinstance(exception, PrismError):
            return None
        context = {"title": "This did not work", "sentence": str(exception)}
        return render(request, "ui/problem.html", context, status=409)
