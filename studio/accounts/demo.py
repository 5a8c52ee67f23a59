"""The demo's visitor: signed in as the demo designer, straight from this machine only."""

from __future__ import annotations

import ipaddress
import re
from collections.abc import Callable

from django.contrib.auth import get_user_model
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse

DEMO_DESIGNER = "demo-designer"
# What proxies add to a request that they pass on.
_PROXY = re.compile(
    r"HTTP_(X_FORWARDED.*|FORWARDED.*|VIA|X_REAL_IP|.*CLIENT_IP|.*CONNECTING_IP|X_ORIGINAL.*)"
)
_OWN = ("127.0.0.1", "localhost", "[::1]")

GetResponse = Callable[[HttpRequest], HttpResponse]


def is_direct(request: HttpRequest) -> bool:
    """Whether a request came straight from this machine, to our own name, through no proxy."""
    if any(_PROXY.fullmatch(name) for name in request.META):
        return False
    try:
        host = request.get_host()
        address = ipaddress.ip_address(request.META.get("REMOTE_ADDR", ""))
    except (ValueError, DisallowedHost):
        return False
    return address.is_loopback and re.sub(r":\d+\Z", "", host) in _OWN


class DemoVisitorMiddleware:
    """Let a visitor who is not signed in be the demo designer, without a session; in the demo only."""

    def __init__(self, get_response: GetResponse) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        direct = is_direct(request)
        request.demo = direct  # type: ignore[attr-defined]
        if direct and not request.user.is_authenticated:
            designer = get_user_model().objects.filter(username=DEMO_DESIGNER).first()
            if designer is not None:
                request.user = designer
        return self.get_response(request)
