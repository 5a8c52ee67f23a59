"""How gunicorn serves the application.

Threads wait for slow and unfinished requests; ``studio.engine`` does the work in a process beside each worker,
a few requests at once.
"""

from typing import Any

wsgi_app = "studio.wsgi"
preload_app = True
workers = 2
worker_class = "gthread"
threads = 256
worker_connections = 1000
keepalive = 5
limit_request_line = 8190
loglevel = "warning"
control_socket_disable = True


def post_fork(server: Any, worker: Any) -> None:
    """Begin the engine of a worker, while it has no threads yet."""
    from studio.wsgi import engine

    engine.start(listener.fileno() for listener in worker.sockets)
