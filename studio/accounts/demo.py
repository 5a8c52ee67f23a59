"""The demo's visitor: signed in as the demo designer, from loopback only."""

import ipaddress

from django.contrib.auth import get_user_model, login

DEMO_DESIGNER = "demo-designer"


def is_loopback(request):
    """Whether the request came straight from this machine."""
    if "HTTP_X_FORWARDED_FOR" in request.META or "HTTP_FORWARDED" in request.META:
        return False
    try:
        return ipaddress.ip_address(request.META.get("REMOTE_ADDR", "")).is_loopback
    except ValueError:
        return False


class DemoVisitorMiddleware:
    """Sign a visitor in as the demo designer; installed in the demo only."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        request.demo = is_loopback(request)
        if request.demo and not request.user.is_authenticated:
            designer = get_user_model().objects.filter(username=DEMO_DESIGNER).first()
            if designer is not None:
                login(request, designer, backend="django.contrib.auth.backends.ModelBackend")
        return self.get_response(request)
