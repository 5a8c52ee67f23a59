"""The application as a WSGI callable."""

import gc
import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

from prism.solver import cpsat
from studio.engine import ByPath, Engine
from studio.gate import WholeRequests, Work
from studio.health import Health

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings")

_django = get_wsgi_application()
engine = Engine(Work(_django))
application = Health(WholeRequests(ByPath(Work(_django, at_once=8), engine)))
get_resolver().url_patterns  # noqa: B018 - imports every room before the first request
cpsat.load()
# What is there from the start stays: without this, each full collection looks at it again,
# and a request waits for it some 50 ms.
gc.collect()
gc.freeze()
# Large documents are made of many small objects that live on; looking at them less often pays.
gc.set_threshold(20_000, 20, 20)
