"""Settings of the application. Everything that differs between machines comes from the environment."""

from __future__ import annotations

import os
import secrets
from pathlib import Path
from typing import Any

import dj_database_url

from jarvok.app.logs import LINE

ROOT = Path(__file__).resolve().parents[3]
VAR = Path(os.environ.get("JARVOK_VAR", ROOT / "var"))
VAR.mkdir(parents=True, exist_ok=True)


def _secret_key() -> str:
    given = os.environ.get("JARVOK_SECRET_KEY")
    if given:
        return given
    kept = VAR / "secret_key"
    if not kept.exists():
        kept.write_text(secrets.token_urlsafe(50))
        kept.chmod(0o600)
    return kept.read_text()


SECRET_KEY = _secret_key()
DEBUG = False
# A local demo signs its one coach in by itself and answers on the loopback address only.
LOCAL_DEMO = os.environ.get("JARVOK_LOCAL_DEMO") == "1"
TODAY = os.environ.get("JARVOK_TODAY", "")  # a fixed day, for tests and demonstrations
HOUSEKEEPING_S = float(os.environ.get("JARVOK_HOUSEKEEPING_S", "300"))  # how often the server looks what is due
SIMULATED_SPEED = float(os.environ.get("JARVOK_SIMULATED_SPEED", "1"))  # 2 lets the simulated sensors lift twice as fast
ALLOWED_HOSTS = os.environ.get("JARVOK_HOSTS", "127.0.0.1,localhost").split(",")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "ninja",
    "jarvok.app.accounts",
    "jarvok.app.facts.people",
    "jarvok.app.facts.centre",
    "jarvok.app.facts.athletes",
    "jarvok.app.facts.learning",
    "jarvok.app.facts.seasons",
    "jarvok.app.facts.training",
    "jarvok.app.facts.floor",
    "jarvok.app.facts.room",
    "jarvok.app.upkeep",
    "jarvok.app.demo",
]
MIDDLEWARE = [
    "jarvok.app.api.answers.Answers",
    "jarvok.app.api.in_turn.InTurn",
    "jarvok.app.api.answers.Packed",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "jarvok.app.accounts.middleware.SignIns",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "jarvok.app.accounts.middleware.LocalDemoSignIn",
    "jarvok.app.accounts.middleware.LastSeen",
    "jarvok.app.accounts.middleware.PlanSeen",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "jarvok.app.centre.habits.CentreHabits",
    "jarvok.app.training.own_library.OwnLibrary",
    "django.middleware.http.ConditionalGetMiddleware",  # what has not changed since a page read it is not sent again
]
AUTHENTICATION_BACKENDS = ["jarvok.app.accounts.backend.Backend", "django.contrib.auth.backends.ModelBackend"]
ROOT_URLCONF = "jarvok.app.urls"
ASGI_APPLICATION = "jarvok.app.asgi.application"

# as large as the database may grow, in pages: for trying out what a full disk does
MAX_PAGES = os.environ.get("JARVOK_MAX_PAGES", "")
SQLITE = {
    "ENGINE": "django.db.backends.sqlite3",
    "CONN_MAX_AGE": None,  # the threads that answer stay, and keep their connections
    "NAME": os.environ.get("JARVOK_DB", str(VAR / "jarvok.sqlite3")),
    "OPTIONS": {
        "transaction_mode": "IMMEDIATE",
        "timeout": 3,  # seconds that a write waits for another; a floor write tries three times
        "init_command": "PRAGMA journal_mode=WAL;PRAGMA synchronous=FULL;PRAGMA foreign_keys=ON;"
        + (f"PRAGMA max_page_count={int(MAX_PAGES)};" if MAX_PAGES else ""),
    },
}
DATABASE_URL = os.environ.get("JARVOK_DATABASE_URL", "")  # postgres://… for a centre that outgrows one file
DATABASES: dict[str, Any] = {"default": dj_database_url.parse(DATABASE_URL) if DATABASE_URL else SQLITE}
if DATABASE_URL:  # every request has a thread of its own: connections are lent to them
    DATABASES["default"]["OPTIONS"] = {
        "pool": {"min_size": 1, "max_size": 20, "timeout": 10},
        "server_side_binding": True,  # what is asked again and again is planned once on each connection:
        "prepare_threshold": 5,  # [T] planning takes several times as long as answering
    }
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
_PASSWORDS = "django.contrib.auth.password_validation."
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": _PASSWORDS + "MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": _PASSWORDS + "CommonPasswordValidator"},
    {"NAME": _PASSWORDS + "NumericPasswordValidator"},
    {"NAME": _PASSWORDS + "UserAttributeSimilarityValidator"},
]
SESSION_ENGINE = "jarvok.app.accounts.sessions"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Strict"
CSRF_COOKIE_SAMESITE = "Strict"
TLS = os.environ.get("JARVOK_TLS") == "1"  # served with a certificate: cookies never cross the network without it
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = TLS
SECURE_HSTS_SECONDS = 31_536_000 if TLS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = TLS
SECURE_SSL_REDIRECT = TLS
# the list of names that browsers never open plainly is for its owner to enter, not for a program
SILENCED_SYSTEM_CHECKS = ["security.W021"] if TLS else []
CSRF_FAILURE_VIEW = "jarvok.app.api.answers.forbidden"
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
APPEND_SLASH = False

USE_TZ = True
TIME_ZONE = os.environ.get("TZ", "UTC") or "UTC"
LANGUAGE_CODE = "en"

WEB_DIST = ROOT / "web" / "dist"
STATIC_URL = "/static/"
STATICFILES_DIRS = [WEB_DIST] if WEB_DIST.exists() else []
WHITENOISE_USE_FINDERS = True
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/.+-[\w-]{8,}\.\w+$"
DATA_UPLOAD_MAX_MEMORY_SIZE = 2_000_000

_LOG_BYTES, _LOG_FILES = 2_000_000, 5
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request": {"()": "jarvok.app.logs.OfRequest"}},
    "formatters": {"line": {"()": "jarvok.app.logs.Line", "fmt": LINE, "style": "{"}},
    "handlers": {
        "console": {"class": "logging.StreamHandler", "formatter": "line", "filters": ["request"]},
        "file": {
            "class": "logging.handlers.RotatingFileHandler",
            "filename": VAR / "jarvok.log",
            "maxBytes": _LOG_BYTES,
            "backupCount": _LOG_FILES,
            "delay": True,
            "formatter": "line",
            "filters": ["request"],
        },
    },
    "root": {"handlers": ["console", "file"], "level": "WARNING"},
    "loggers": {"django.request": {"level": "ERROR"}},  # what is refused is said to whoever asked
}
