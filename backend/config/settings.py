"""Settings; everything that differs between machines comes from the environment (see ./board)."""

import os
from datetime import timedelta
from pathlib import Path
from typing import Any

from notchcore.words.language import speak

BASE_DIR = Path(__file__).resolve().parent.parent
ROOT = BASE_DIR.parent
VAR = Path(os.environ.get("BOARD_VAR", ROOT / "var"))


def _secret() -> str:
    """Return the secret key that ./board made for this installation; tests bring their own."""
    file = VAR / "secret"
    return os.environ.get("SECRET_KEY") or (file.read_text().strip() if file.exists() else "")


SECRET_KEY = _secret()
speak(os.environ.get("BOARD_LANGUAGE", "english"))  # before anything else of the core is imported: names are told where they are declared
DEBUG = os.environ.get("DEBUG") == "1"
ALLOWED_HOSTS = os.environ.get("BOARD_HOSTS", "127.0.0.1,localhost,testserver").split(",")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "procrastinate.contrib.django",
    "axes",
    "ninja",
    "apps.accounts",
    "apps.sheets",
    "apps.designs",
    "apps.layouts",
    "apps.plans",
    "apps.cards",
    "apps.runs",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "config.policy.QuickGzip",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "config.policy.ContentPolicy",
]
ROOT_URLCONF = "config.urls"
ASGI_APPLICATION = "config.asgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True, "OPTIONS": {"context_processors": []}}]

DATABASES: dict[str, dict[str, Any]] = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("PG_HOST", "127.0.0.1"),
        "PORT": os.environ.get("PG_PORT", "54420"),
        "NAME": os.environ.get("PG_DB", "board"),
        "USER": os.environ.get("PG_USER", "board"),
        "PASSWORD": os.environ.get("PG_PASSWORD", ""),
        "CONN_MAX_AGE": 0,  # a must with a pool
        "OPTIONS": {},
    }
}
# The pool pays only in the web server; an open pool keeps a test database from being dropped.
if os.environ.get("DB_POOL") == "1":
    DATABASES["default"]["OPTIONS"]["pool"] = {"min_size": 1, "max_size": 8, "timeout": 10}

AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
SILENCED_SYSTEM_CHECKS = ["axes.W002"]  # its middleware would answer in a page of its own: `sign_in` answers
AXES_FAILURE_LIMIT = 8  # wrong passwords for one name from one machine, then it waits
AXES_COOLOFF_TIME = timedelta(minutes=5)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]  # nobody keeps somebody else out
AXES_RESET_ON_SUCCESS = True
AXES_DISABLE_ACCESS_LOG = True  # who came when is nobody's business
AUTH_PASSWORD_VALIDATORS = [{"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"}]
LOGGING = {  # what goes wrong on the way to an answer stands in the log of the server: without this only DEBUG shows it
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"stderr": {"class": "logging.StreamHandler"}},
    "loggers": {"django.request": {"handlers": ["stderr"], "level": "ERROR", "propagate": False}},
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "/static/"
STATIC_ROOT = VAR / "static"
FRONTEND_DIST = ROOT / "frontend" / "dist"
STATICFILES_DIRS = [("app", FRONTEND_DIST)] if FRONTEND_DIST.exists() else []
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}


def WHITENOISE_IMMUTABLE_FILE_TEST(_path: str, url: str) -> bool:
    """Tell that the build tool has put a hash into these names."""
    return url.startswith("/static/app/assets/")


CSRF_COOKIE_HTTPONLY = False  # the page reads it and sends it back as a header
SESSION_COOKIE_SAMESITE = "Lax"
DATA_UPLOAD_MAX_MEMORY_SIZE = 2_000_000
CALIPER_ADDRESS = os.environ.get("CALIPER_ADDRESS", "127.0.0.1:54431")
LASER_ADDRESS = os.environ.get("LASER_ADDRESS", "127.0.0.1:54430")
DEFAULT_TIMEOUT_SECONDS = 10
