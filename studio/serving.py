"""How gunicorn serves the application.

Threads wait for slow and unfinished requests; ``studio.gate`` lets only a few of them work at once.
"""

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
