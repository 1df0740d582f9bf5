"""Settings. What differs from machine to machine comes from the environment; `start` and `test` set it."""

import os
import re
from pathlib import Path

from django.core.management.utils import get_random_secret_key

ROOT = Path(__file__).resolve().parent.parent.parent
WEB = ROOT / "web" / "dist"

# Without one, sign-ins last as long as the process: enough for a command, not for several workers.
SECRET_KEY = os.environ.get("JOLLY_SECRET") or get_random_secret_key()
DEBUG = False
DEMO = os.environ.get("JOLLY_DEMO") == "1"
ALLOWED_HOSTS = [
    "127.0.0.1",
    "localhost",
    os.environ.get("JOLLY_HOST", "127.0.0.1"),
    *filter(None, os.environ.get("JOLLY_NAMES", "").split(",")),
]

INSTALLED_APPS = [
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.messages",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "config",
    "accounts",
    "pieces",
    "clips",
    "takes",
    "sounds",
    "library",
    "ports",
    "demo",
]
MIDDLEWARE = [
    "config.middleware.limited_time",
    "config.middleware.limited_bodies",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",  # after it: files are sent as they are, answers small
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
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

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": "jolly",
        "USER": "jolly",
        "PASSWORD": os.environ.get("JOLLY_DB_PASSWORD", ""),
        "HOST": "127.0.0.1",
        "PORT": os.environ.get("JOLLY_DB_PORT", "5432"),
        "CONN_MAX_AGE": 600,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {"connect_timeout": 5, "options": "-c statement_timeout=15000"},  # seconds, milliseconds
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

CSRF_FAILURE_VIEW = "config.pages.forged"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"line": {"format": "%(asctime)s %(levelname)s %(name)s: %(message)s"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "line"}},
    "loggers": {
        "jolly": {"handlers": ["console"], "level": "INFO"},
        # What is refused is no fault of the server's; what fails comes with its traceback.
        "django.request": {"handlers": ["console"], "level": "ERROR", "propagate": False},
    },
}

AUTH_USER_MODEL = "accounts.User"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 90
CSRF_COOKIE_SAMESITE = "Lax"
DATA_UPLOAD_MAX_MEMORY_SIZE = 32 * 2**20  # sixteen bars of a very busy tape

USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "/static/"
STATICFILES_DIRS = [WEB] if WEB.exists() else []
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802 - whitenoise's name for it
    """Return whether the front end's build put a hash into the file's name, so that it never changes."""
    return re.search(r"/assets/.+-[\w-]{8}\.\w+$", url) is not None
