"""Settings, from the environment.

``DATABASE_URL`` names the database, ``NIMBLE_PRISM_VAR`` the folder for what is made at run
time, ``NIMBLE_PRISM_HOSTS`` the host names served. ``NIMBLE_PRISM_DEMO=1`` opens the demo: its
visitor is signed in as the demo designer, on loopback only.
"""

import os
import secrets
from pathlib import Path
from urllib.parse import unquote, urlsplit

from csp.constants import NONE, SELF
from django.core.exceptions import ImproperlyConfigured

from studio.rooms.registry import ROOMS

BASE_DIR = Path(__file__).resolve().parent.parent
VAR_DIR = Path(os.environ.get("NIMBLE_PRISM_VAR", BASE_DIR / "var"))
DEMO = os.environ.get("NIMBLE_PRISM_DEMO") == "1"
TESTING = os.environ.get("NIMBLE_PRISM_TESTING") == "1"
LOCAL = DEMO or TESTING
DEBUG = False


def _secret_key() -> str:
    """The key kept in the run-time folder, made there at the first start."""
    if key := os.environ.get("NIMBLE_PRISM_SECRET_KEY"):
        return key
    VAR_DIR.mkdir(parents=True, exist_ok=True)
    path = VAR_DIR / "secret-key"
    try:
        with open(path, "x", opener=lambda name, flags: os.open(name, flags, 0o600)) as file:
            file.write(secrets.token_urlsafe(64))
    except FileExistsError:
        pass
    return path.read_text().strip()


def _database(url: str) -> dict[str, object]:
    parts = urlsplit(url)
    if parts.scheme not in ("postgres", "postgresql"):
        raise ImproperlyConfigured("DATABASE_URL must name a PostgreSQL database.")
    return {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": unquote(parts.path.lstrip("/")),
        "USER": unquote(parts.username or ""),
        "PASSWORD": unquote(parts.password or ""),
        "HOST": parts.hostname or "",
        "PORT": str(parts.port or ""),
        "CONN_HEALTH_CHECKS": True,
        # So that a pooler such as PgBouncer may lend each transaction another connection.
        "DISABLE_SERVER_SIDE_CURSORS": True,
        "OPTIONS": {
            "connect_timeout": 5,
            # Threads share a few connections, each looked at before it is used again.
            "pool": False if TESTING else {"min_size": 1, "max_size": 8, "timeout": 10},
        },
    }


SECRET_KEY = _secret_key()
DATABASES = {
    "default": _database(
        os.environ.get("DATABASE_URL", "postgresql://prism@127.0.0.1:5432/nimble_prism")
    )
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

ALLOWED_HOSTS = (
    ["127.0.0.1", "localhost", "[::1]", "testserver"]
    if LOCAL
    else [host for host in os.environ.get("NIMBLE_PRISM_HOSTS", "").split(",") if host]
)

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "csp",
    "procrastinate.contrib.django",
    "studio.store",
    "studio.accounts",
    "studio.projects",
    "studio.ui",
    "studio.work",
    *(module for room in ROOMS for module in room.applications),
]

CSRF_FAILURE_VIEW = "studio.ui.views.csrf_failure"
MIDDLEWARE = [
    "studio.ui.middleware.BodyLimitMiddleware",
    "studio.ui.middleware.WriteMiddleware",
    "studio.ui.middleware.LongAddressMiddleware",
    "studio.ui.middleware.PlainTextMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    *(["studio.accounts.demo.DemoVisitorMiddleware"] if DEMO else []),
    "studio.accounts.middleware.DenyByDefaultMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "studio.ui.middleware.PlainErrorMiddleware",
]

ROOT_URLCONF = "studio.urls"
WSGI_APPLICATION = "studio.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "studio.ui.context.chrome",
            ],
        },
    }
]

if TESTING:  # many people are made there, and none of them is real
    PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
LOGIN_URL = "accounts:sign-in"
LOGIN_REDIRECT_URL = "projects:list"
LOGOUT_REDIRECT_URL = "accounts:sign-in"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
USE_I18N = False

STATIC_URL = "/static/"
STATIC_ROOT = VAR_DIR / "static"
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {
        "BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"
        if TESTING
        else "studio.ui.storage.StaticStorage"
    },
}

# Fragments carry no style of their own, and no script stands in a page.
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "font-src": [SELF],
        "img-src": [SELF, "data:"],
        "connect-src": [SELF],
        "frame-src": [SELF],
        "frame-ancestors": [NONE],
        "form-action": [SELF],
        "base-uri": [NONE],
        "object-src": [NONE],
    }
}
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_HTTPONLY = True
CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = not LOCAL
SECURE_SSL_REDIRECT = not LOCAL
SECURE_HSTS_SECONDS = 0 if LOCAL else 31_536_000
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = not LOCAL
BEHIND_PROXY = os.environ.get("NIMBLE_PRISM_BEHIND_PROXY") == "1"
if BEHIND_PROXY:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")

# A whole import may come at once; the readers have limits of their own.
# A pasted text has 4,000,000 characters at most, of at most four bytes each.
DATA_UPLOAD_MAX_MEMORY_SIZE = 17_000_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 2_621_440
DATA_UPLOAD_MAX_NUMBER_FILES = 300
DATA_UPLOAD_MAX_NUMBER_FIELDS = 12_000

# Long tasks. A worker says every few seconds that it lives; its jobs are removed, as what came of them
# stands in the tables.
PROCRASTINATE_WORKER_DEFAULTS = {
    "queues": ["tasks"],
    "concurrency": 1,
    "delete_jobs": "always",
    "update_heartbeat_interval": 5.0,
    "stalled_worker_timeout": 20.0,
}

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "ERROR" if TESTING else "WARNING"},
    "loggers": {
        # The page of an error and its traceback have one number, given by studio.ui.views.failed.
        "django.request": {"level": "CRITICAL"},
        "studio.errors": {"level": "CRITICAL" if TESTING else "ERROR"},
    },
}
