"""Settings. What differs between machines comes from the environment; `ops/` sets it."""

import os
import secrets
import sys
from pathlib import Path

from csp.constants import NONE, SELF

from workshop.logs import logging_of

ROOT = Path(__file__).resolve().parents[2]
VAR = Path(os.environ.get("HEMATITE_VAR", ROOT / "var"))
WEB_BUILD = ROOT / "web" / "build"

TESTING = "test" in sys.argv
DEMO = os.environ.get("HEMATITE_DEMO") == "1"
DEBUG = False


def _secret_key() -> str:
    """Return the key of this installation, '' where it has none."""
    kept = VAR / "secret_key"
    return os.environ.get("HEMATITE_SECRET_KEY") or (kept.read_text().strip() if kept.is_file() else "")


_OWN_KEY = _secret_key()
HAS_A_KEY = len(_OWN_KEY) >= 32
# Commands that serve nobody run with a key of the moment; `workshop.wsgi` refuses to serve with one.
SECRET_KEY = _OWN_KEY or secrets.token_urlsafe(50)
ALLOWED_HOSTS = os.environ.get("HEMATITE_HOSTS", "localhost,127.0.0.1,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [o for o in os.environ.get("HEMATITE_ORIGINS", "").split(",") if o]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "django_guid",
    "django_prometheus",
    "django_tasks",
    "django_tasks_db",
    "audit",
    "people",
    "policies",
    "garage",
    "cases",
    "upkeep",
    "photos",
    "recordings",
    "verdicts",
    "jobs",
    "sums",
    "logbook",
    "bundles",
    "fleet",
    "training",
    "keeping",
    "demo",
]

MIDDLEWARE = [
    "django_guid.middleware.guid_middleware",
    "workshop.watching.each_request",
    "django_prometheus.middleware.PrometheusBeforeMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "workshop.languages.each_request",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "workshop.headers.device_permissions",
    "django_prometheus.middleware.PrometheusAfterMiddleware",
]

ROOT_URLCONF = "workshop.urls"
WSGI_APPLICATION = "workshop.wsgi.application"

# What can be worked out again from the rows: how much is left of each open job.
CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.locmem.LocMemCache",
        "OPTIONS": {"MAX_ENTRIES": 10_000},
    }
}


def _database_tls(authority: str) -> dict:
    """Return how the database is called over TLS: its certificate has to be of this authority."""
    return {"ssl_mode": "VERIFY_IDENTITY", "ssl": {"ca": authority}} if authority else {}


DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("HEMATITE_DB_NAME", "hematite"),
        "USER": os.environ.get("HEMATITE_DB_USER", "hematite"),
        "PASSWORD": os.environ.get("HEMATITE_DB_PASSWORD", ""),
        # A name or an address for one on another machine; else a socket on this one.
        "HOST": os.environ.get("HEMATITE_DB_HOST") or os.environ.get("HEMATITE_DB_SOCKET", str(VAR / "db.sock")),
        "PORT": os.environ.get("HEMATITE_DB_PORT", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "init_command": "SET sql_mode='STRICT_ALL_TABLES', default_storage_engine='InnoDB'",
            **_database_tls(os.environ.get("HEMATITE_DB_CA", "")),
        },
        "TEST": {"CHARSET": "utf8mb4", "COLLATION": "utf8mb4_unicode_ci"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "people.User"
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
if TESTING:  # two people a test: a slow hash would be most of what the tests take
    TEST_RUNNER = "workshop.tests.runner.Runner"
    PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = 0.1  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
# Its middleware answers a lockout with a page; people.services answers in the shape of every refusal.
SILENCED_SYSTEM_CHECKS = [
    "axes.W002",
    "security.W005",  # what else is served below a workshop's name is not ours to bind to TLS,
    "security.W021",  # and its name is not ours to enter into the lists of browsers
]
AXES_CLIENT_IP_CALLABLE = "workshop.proxies.client_address"

# Browsers accept secure cookies from http://localhost; HEMATITE_PLAIN_HTTP=1 is for a closed bench network only.
_SECURE = os.environ.get("HEMATITE_PLAIN_HTTP") != "1"
SESSION_COOKIE_SECURE = _SECURE
CSRF_COOKIE_SECURE = _SECURE
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30
PROXIES = int(os.environ.get("HEMATITE_PROXIES") or 0)  # of our own, between browsers and this server
if PROXIES:  # the nearest one says how it was called, and overwrites what a browser says of that
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_SSL_REDIRECT = os.environ.get("HEMATITE_TLS") == "1"
SECURE_REDIRECT_EXEMPT = [r"^healthz$", r"^readyz$"]
# How phones reach it, where `make serve` serves it: shown by whoever brings one, and in links and QR codes.
ADDRESS = os.environ.get("HEMATITE_ADDRESS", "").rstrip("/")
AT = [f"https://{at}:{os.environ.get('HEMATITE_PORT', '443')}" for at in os.environ.get("HEMATITE_AT", "").split()]
AUTHORITY = os.environ.get("HEMATITE_AUTHORITY", "")  # the certificate of the workshop's own authority
TLS_PORT, PLAIN_PORT = int(os.environ.get("HEMATITE_PORT") or 443), int(os.environ.get("HEMATITE_PLAIN_PORT") or 80)
SECURE_HSTS_SECONDS = int(os.environ.get("HEMATITE_HSTS_SECONDS") or 0)
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        "style-src": [SELF],
        "style-src-attr": ["'unsafe-inline'"],
        "img-src": [SELF, "data:", "blob:"],
        "media-src": [SELF, "blob:"],
        "worker-src": [SELF],
        "connect-src": [SELF],
        "object-src": [NONE],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}

# What is longer than a request: queued in the database, or in a Redis or Valkey that many workers share.
REDIS = os.environ.get("HEMATITE_REDIS", "")
QUEUES = ["default", "later"]
_BACKEND = "django_tasks_rq.RQBackend" if REDIS else "django_tasks_db.DatabaseBackend"
# Letters, where a mail server is set: links to join, and for a new password.
MAIL = EMAIL_HOST = os.environ.get("HEMATITE_MAIL_HOST", "")
EMAIL_PORT = int(os.environ.get("HEMATITE_MAIL_PORT") or 587)
EMAIL_HOST_USER = os.environ.get("HEMATITE_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("HEMATITE_MAIL_PASSWORD", "")
EMAIL_USE_SSL = EMAIL_PORT == 465
EMAIL_USE_TLS = EMAIL_PORT == 587
EMAIL_TIMEOUT = 20
DEFAULT_FROM_EMAIL = os.environ.get("HEMATITE_MAIL_FROM", "hematite@localhost")
TASKS = {
    "default": {
        "BACKEND": "django_tasks.backends.immediate.ImmediateBackend" if TESTING else _BACKEND,
        "QUEUES": QUEUES,
    }
}
RQ_QUEUES = {queue: {"URL": REDIS, "DEFAULT_TIMEOUT": 3600} for queue in QUEUES} if REDIS else {}
if REDIS:
    INSTALLED_APPS.append("django_rq")

MEDIA_ROOT = VAR / "media"
STORAGES: dict[str, dict] = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
if _BUCKET := os.environ.get("HEMATITE_S3_BUCKET"):
    from botocore.config import Config

    STORAGES["shared"] = {
        "BACKEND": "storages.backends.s3.S3Storage",
        "OPTIONS": {
            "bucket_name": _BUCKET,
            "endpoint_url": os.environ.get("HEMATITE_S3_ENDPOINT") or None,
            "region_name": os.environ.get("HEMATITE_S3_REGION") or None,
            "access_key": os.environ.get("HEMATITE_S3_KEY") or None,
            "secret_key": os.environ.get("HEMATITE_S3_SECRET") or None,
            "location": os.environ.get("HEMATITE_S3_PREFIX", ""),
            "file_overwrite": True,  # a name is a hash: what overwrites is the same
            "default_acl": None,
            "client_config": Config(connect_timeout=5, read_timeout=30, retries={"total_max_attempts": 2}),
            "max_memory_size": 8 * 1024**2,  # a long sound passes by the disk
        },
    }
# Backups: a Borg repository, which is encrypted where a passphrase is given; how often, and which are kept.
BACKUP = os.environ.get("HEMATITE_BACKUP", "")
BACKUP_KEY = os.environ.get("HEMATITE_BACKUP_KEY", "")
BACKUP_EVERY_H = float(os.environ.get("HEMATITE_BACKUP_EVERY_H") or 24)
BACKUP_KEEP = os.environ.get("HEMATITE_BACKUP_KEEP", "7d 5w 24m")
CACHE_BYTES = int(os.environ.get("HEMATITE_CACHE_GB") or 20) * 1024**3  # of a shared store's files on this machine
KEPT_FREE_BYTES = int(os.environ.get("HEMATITE_KEEP_FREE_MB") or 200) * 1024**2  # a database stops on a full disk
LARGEST_UPLOAD_BYTES = 200 * 1024 * 1024  # 15 minutes of mono at 48 kHz, 32 bit, fit
LARGEST_LIVE_BYTES = 8 * 1024 * 1024  # half a minute of mono at 96 kHz, 16 bit, and some
LARGEST_BUNDLE_BYTES = 2 * 1024**3
LARGEST_PHOTO_BYTES = 30 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = 2 * 1024 * 1024  # forms and JSON; files are counted apart
FILE_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024

STATIC_URL = "static/"
WHITENOISE_ROOT = WEB_BUILD if WEB_BUILD.is_dir() else None
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/_app/immutable/.+$"

# The languages that are offered, the first where nothing else is said; each has catalogues of words.
SPOKEN = [one.strip() for one in os.environ.get("HEMATITE_LANGUAGES", "en,de").split(",") if one.strip()]
LANGUAGE_CODE = "en"
USE_TZ = True
TIME_ZONE = "UTC"

LOGGING = logging_of(os.environ.get("HEMATITE_LOG", ""), testing=TESTING)
# The number of a request, which its log lines and what a person is told of a fault have in common.
DJANGO_GUID = {"GUID_HEADER_NAME": "X-Request-ID", "RETURN_HEADER": True, "UUID_LENGTH": 12, "VALIDATE_GUID": True}
METRICS_TOKEN = os.environ.get("HEMATITE_METRICS_TOKEN", "")
METRICS_FOLDER = os.environ.get("PROMETHEUS_MULTIPROC_DIR", "")
