"""Django settings: one SQLite file set up for several people at once, everything self-hosted."""

from __future__ import annotations

import os
from datetime import timedelta
from pathlib import Path

from django.core.exceptions import ImproperlyConfigured

from devices.reach import networks
from server.platform.secret import secret_of

ROOT = Path(__file__).resolve().parent.parent
# What a wheel carries: the built front end and the record's fonts. A checkout has them beside it.
SHIPPED = Path(__file__).resolve().parent / "shipped"
IS_INSTALLED = SHIPPED.is_dir()
VAR = Path(os.environ.get("LONG_NOON_VAR", ROOT / "var"))
WEB_DIST = SHIPPED / "web" if IS_INSTALLED else ROOT / "web" / "dist"
RECORD_FONTS = SHIPPED / "fonts" if IS_INSTALLED else ROOT / ".cache" / "fonts"
DEMO = os.environ.get("LONG_NOON_DEMO") == "1"
DEMO_USERNAME = "ada"
# Where simulated inverters find the jobs whose plants they follow; only the demo has it.
STAND_INS = Path(os.environ["LONG_NOON_STAND_INS"]) if "LONG_NOON_STAND_INS" in os.environ else None
# Where backups go every night, and how many of them are kept.
BACKUPS = Path(os.environ.get("LONG_NOON_BACKUPS", VAR / "backups"))
BACKUPS_KEPT = int(os.environ.get("LONG_NOON_BACKUPS_KEPT", "14"))
# Networks whose devices may be spoken to: none until whoever runs this names them; the demo's
# simulated devices are on this machine.
_ALLOWED = os.environ.get("LONG_NOON_DEVICES", "") + (
    ",127.0.0.0/8@1-65535,::1@1-65535" if DEMO else ""
)
try:
    DEVICE_NETWORKS = networks(_ALLOWED.split(","))
except ValueError as error:
    raise ImproperlyConfigured(f"LONG_NOON_DEVICES: {error}") from None

SECRET_KEY = secret_of(VAR)
DEBUG = False
ALLOWED_HOSTS = [
    "localhost",
    "127.0.0.1",
    *filter(None, os.environ.get("LONG_NOON_HOSTS", "").split(",")),
]
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "django_otp",
    "django_otp.plugins.otp_totp",
    # Its files let the API's description be browsed without an outside address.
    "ninja",
    "server.people",
    "server.jobs",
    "server.readings",
    "server.gateways",
    "server.grid_settings",
    "server.evidence",
    "server.switching",
    "server.guests",
    "server.signing",
    "server.yields",
    "server.weeks",
    "server.keeping",
    "server.catalogue",
    "server.begin",
    "server.demo",
]
MIDDLEWARE = [
    # An assessment is a large text: a tenth of it goes over the air, and nothing where none is new.
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.http.ConditionalGetMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "server.platform.guard.Guard",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "server.urls"
# Only the browsable description of the API is made from a template.
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]
WSGI_APPLICATION = "server.wsgi.application"
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR / "long-noon.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            # FULL costs a little and keeps a reading through a power cut.
            "init_command": (
                "PRAGMA journal_mode=WAL;PRAGMA synchronous=FULL;PRAGMA foreign_keys=ON;"
            ),
        },
        "TEST": {"NAME": VAR / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
# Wrong passwords are counted by name and address together: six, then ten minutes of waiting.
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = timedelta(minutes=10)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
STATIC_URL = "/static/"
STATIC_ROOT = SHIPPED / "static" if IS_INSTALLED else ROOT / ".cache" / "static"
STATICFILES_DIRS = [WEB_DIST] if WEB_DIST.exists() else []
# The core as devices run it, packed and compressed: /engine/VERSION/. None: devices ask the server.
ENGINE_ROOT: Path | None = SHIPPED / "engine" if IS_INSTALLED else ROOT / ".cache" / "engine"
if ENGINE_ROOT is not None and ENGINE_ROOT.is_dir():
    WHITENOISE_ROOT = ENGINE_ROOT
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
SESSION_COOKIE_SAMESITE = "Lax"
# One switch for a site that others reach: HTTPS alone, told to browsers for a year.
HTTPS = os.environ.get("LONG_NOON_HTTPS") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = HTTPS
SECURE_HSTS_SECONDS = 365 * 24 * 3600 if HTTPS else 0
# Other names of the domain, and browsers' own lists, are not this installation's to decide.
# A locked-out sign-in is answered here in words, not by a middleware's page (axes).
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021", "axes.W002"]
# Behind a proxy of one's own: it says who asks and how (X-Forwarded-For and -Proto), and must set
# both itself.
BEHIND_PROXY = os.environ.get("LONG_NOON_PROXY") == "1"
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if BEHIND_PROXY else None
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if HTTPS else []
# A sign-in holds for two weeks, and not beyond.
SESSION_COOKIE_AGE = 14 * 24 * 3600
CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
TEST_RUNNER = "server.platform.test_runner.NoonRunner"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "loggers": {
        "django.request": {"handlers": ["console"], "level": "ERROR"},
        # Wrong tries are in the audit.
        "axes": {"handlers": ["console"], "level": "ERROR", "propagate": False},
    },
}


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802 (its setting name)
    """Files whose names carry a hash of their content may be kept for good."""
    return url.startswith(("/static/assets/", "/engine/"))
