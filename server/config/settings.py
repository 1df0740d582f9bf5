"""Settings. What differs from machine to machine comes from the environment; `start` and `test` set it."""

import re
import tempfile
from pathlib import Path
from typing import Any

from csp.constants import NONE, SELF, UNSAFE_INLINE
from django.core.management.utils import get_random_secret_key

from config.environment import flag, names, number, one_of, text

ROOT = Path(__file__).resolve().parent.parent.parent
WEB = ROOT / "web" / "dist"

# Without one, sign-ins last as long as the process: enough for a command. No server starts so: see config.checks.
SECRET_KEY = text("SECRET") or get_random_secret_key()
DEBUG = False
DEMO = flag("DEMO")
ALLOWED_HOSTS = ["127.0.0.1", "localhost", text("HOST", "127.0.0.1"), *names("NAMES")]

# Encryption is a proxy's in front of us; that it is there is said here, and how many are believed about who asks.
HTTPS = flag("HTTPS")
PROXIES = number("PROXIES", 0)
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = HTTPS
SECURE_REDIRECT_EXEMPT = ["^health$", "^ready$", "^metrics$"]
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if HTTPS else None
SECURE_HSTS_SECONDS = number("HSTS_SECONDS", 31_536_000) if HTTPS else 0
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
# Whether other names under this one are encrypted too is for those to say whom they belong to.
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "style-src": [SELF, UNSAFE_INLINE],  # what is drawn has its place and size in attributes
        "img-src": [SELF, "data:", "blob:"],
        "worker-src": [SELF, "blob:"],
        "base-uri": [SELF],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
        "object-src": [NONE],
    }
}

INSTALLED_APPS = [
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.messages",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "csp",
    "config",
    "accounts",
    "pieces",
    "clips",
    "takes",
    "sounds",
    "library",
    "ports",
    "operations",
    "demo",
]
MIDDLEWARE = [
    "config.requests.told",
    "config.middleware.limited_time",
    "config.middleware.limited_bodies",
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",  # after it: files are sent as they are, answers small
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "config.budget.limited_cost",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]

DATABASES: dict[str, dict[str, Any]] = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": text("DB_NAME", "jolly"),
        "USER": text("DB_USER", "jolly"),
        "PASSWORD": text("DB_PASSWORD"),
        "HOST": text("DB_HOST", "127.0.0.1"),
        "PORT": text("DB_PORT", "5432"),
        "CONN_MAX_AGE": 600,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "connect_timeout": 5,
            "options": f"-c statement_timeout={number('DB_SECONDS', 15, least=1)}s",
        },
    }
}
# Of several servers of the database the one is taken that may be written: whichever has taken over.
if "," in DATABASES["default"]["HOST"]:
    DATABASES["default"]["OPTIONS"]["target_session_attrs"] = "read-write"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

CSRF_FAILURE_VIEW = "config.pages.forged"
LOG = one_of("LOG", "line", "json")
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request": {"()": "config.requests.WithRequest"}},
    "formatters": {
        "line": {"format": "%(asctime)s %(levelname)s %(name)s [%(request)s]: %(message)s"},
        "json": {
            "()": "pythonjsonlogger.orjson.OrjsonFormatter",
            "format": "%(asctime)s %(levelname)s %(name)s %(request)s %(message)s",
            "rename_fields": {"asctime": "at", "levelname": "level", "name": "logger"},
        },
    },
    "handlers": {
        "console": {
            "class": "logging.StreamHandler",
            "formatter": LOG,
            "filters": ["request"],
        }
    },
    "loggers": {
        "jolly": {"handlers": ["console"], "level": "INFO"},
        # Every request: a line each is wanted where somebody runs it for others, and noise on a desk.
        "jolly.requests": {"level": "INFO" if LOG == "json" else "WARNING"},
        # What is refused is no fault of the server's; what fails comes with its traceback.
        "django.request": {"handlers": ["console"], "level": "ERROR", "propagate": False},
        "django.security.DisallowedHost": {"level": "CRITICAL"},  # anybody who tries names
        "django.security": {"handlers": ["console"], "level": "ERROR", "propagate": False},
    },
}

# What only those ask for who watch over it: a scraper with this token.
METRICS_TOKEN = text("METRICS_TOKEN")
if METRICS_TOKEN:
    INSTALLED_APPS.append("django_prometheus")
    MIDDLEWARE.insert(0, "django_prometheus.middleware.PrometheusBeforeMiddleware")
    MIDDLEWARE.append("django_prometheus.middleware.PrometheusAfterMiddleware")
    DATABASES["default"]["ENGINE"] = "django_prometheus.db.backends.postgresql"
    PROMETHEUS_EXPORT_MIGRATIONS = False

# Mail goes to a server, or as a file into a folder, where whoever runs it reads the links in it.
MAIL_FOLDER = text("MAIL_FOLDER", str(Path(tempfile.gettempdir()) / "jolly-lattice-mail"))
EMAIL_HOST = text("MAIL_HOST")
EMAIL_BACKEND = f"django.core.mail.backends.{'smtp' if EMAIL_HOST else 'filebased'}.EmailBackend"
EMAIL_FILE_PATH = MAIL_FOLDER
EMAIL_PORT = number("MAIL_PORT", 587)
EMAIL_HOST_USER, EMAIL_HOST_PASSWORD = text("MAIL_USER"), text("MAIL_PASSWORD")
EMAIL_USE_TLS = bool(EMAIL_HOST) and flag("MAIL_TLS", True)
EMAIL_TIMEOUT = 10
DEFAULT_FROM_EMAIL = text("MAIL_FROM", "jolly-lattice@localhost")

LOGIN_URL = "/"
AUTH_USER_MODEL = "accounts.User"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 14  # since the last day it was used
PASSWORD_RESET_TIMEOUT = 60 * 60 * 2
SECONDS_A_MINUTE = number("SECONDS_A_MINUTE", 45, least=1)  # of a processor, for who is signed in
SECONDS_A_MINUTE_UNKNOWN = number("SECONDS_A_MINUTE_UNKNOWN", 20, least=1)  # for an address of others
MEGABYTES_EACH = number("MEGABYTES_EACH", 500, least=1)  # of one musician
CSRF_COOKIE_SAMESITE = "Lax"
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 2**20  # the largest of config.middleware.LIMITS that is JSON

USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "/static/"
STATICFILES_DIRS = [WEB] if WEB.exists() else []
WHITENOISE_USE_FINDERS = True
WHITENOISE_ALLOW_ALL_ORIGINS = False
WHITENOISE_AUTOREFRESH = False


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802 - whitenoise's name for it
    """Return whether the front end's build put a hash into the file's name, so that it never changes."""
    return re.search(r"/assets/.+-[\w-]{8}\.\w+$", url) is not None
