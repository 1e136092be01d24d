"""Django settings. All that may differ between machines is read from the environment here."""

import os
import secrets
from pathlib import Path

BASE_DIR = Path(__file__).resolve().parent.parent
STATE_DIR = Path(os.environ.get("MABREL_STATE", BASE_DIR / "var"))
STATE_DIR.mkdir(parents=True, exist_ok=True)
LIBRARY_DIR = STATE_DIR / "library"  # the pictures and fonts that titles name
PASSING_DIR = STATE_DIR / "passing"  # what is on its way; swept at every start
PASSING_DIR.mkdir(exist_ok=True)
EXPORTS_DIR = STATE_DIR / "exports"  # what is exported, and the pieces of what is not done yet
KEPT_DIR = STATE_DIR / "kept"  # pictures of earlier days; may be thrown away
KEPT_BYTES = int(os.environ.get("MABREL_KEPT_MB", "512")) * 2**20
FRONT_DIR = BASE_DIR / "frontend" / "dist"


def _secret_key() -> str:
    """One of this studio's own, made once: a login outlives a restart."""
    path = STATE_DIR / "secret-key"
    if not path.exists():
        made = secrets.token_urlsafe(50)
        try:
            descriptor = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        except FileExistsError:  # another process was quicker
            return path.read_text()
        with os.fdopen(descriptor, "w") as file:
            file.write(made)
    return path.read_text()


SECRET_KEY = os.environ.get("MABREL_SECRET_KEY") or _secret_key()
DEBUG = os.environ.get("MABREL_DEBUG") == "1"

# A studio that others can reach asks who they are.
_HERE = {"127.0.0.1", "localhost", "[::1]"}
ALLOWED_HOSTS = os.environ.get("MABREL_HOSTS", "127.0.0.1,localhost,[::1]").split(",")
LOGIN_NEEDED = not set(ALLOWED_HOSTS) <= _HERE
BEHIND_TLS = LOGIN_NEEDED and os.environ.get("MABREL_TLS", "1") != "0"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "django_tasks",
    "django_tasks_db",
    "studio.accounts",
    "studio.titles",
    "studio.library",
    "studio.bundles",
    "studio.preview",
    "studio.exports",
    "studio.pages",
]
_LOGIN_MIDDLEWARE = [
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "studio.accounts.gate.login_first",
    "axes.middleware.AxesMiddleware",
]
_TLS = [
    "django.middleware.security.SecurityMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
# Django's own middleware costs a preview a change of threads each: only where it is needed.
MIDDLEWARE = [
    *(_TLS if LOGIN_NEEDED else ()),
    "studio.web.headers.protecting_headers",
    "studio.web.guard.same_origin_only",
    "servestatic.middleware.ServeStaticMiddleware",
    *(_LOGIN_MIDDLEWARE if LOGIN_NEEDED else ()),
]
ROOT_URLCONF = "studio.urls"
ASGI_APPLICATION = "studio.asgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
            ]
        },
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": STATE_DIR / "mabrel.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
        "TEST": {"NAME": STATE_DIR / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

# The built front end, served from the root by this process, to its own pages alone.
STATIC_URL = "static/"
SERVESTATIC_ROOT = FRONT_DIR if FRONT_DIR.is_dir() else None
SERVESTATIC_AUTOREFRESH = DEBUG
SERVESTATIC_USE_STATIC_ROOT = False
SERVESTATIC_ALLOW_ALL_ORIGINS = False

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"

# What is sent: bounded in studio.web.bodies before Django sees it, files go to disk at once.
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 2**20
DATA_UPLOAD_MAX_NUMBER_FIELDS = 20
DATA_UPLOAD_MAX_NUMBER_FILES = 1
FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]
FILE_UPLOAD_TEMP_DIR = PASSING_DIR

SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if BEHIND_TLS else None
SECURE_SSL_REDIRECT = BEHIND_TLS
SECURE_HSTS_SECONDS = 31_536_000 if BEHIND_TLS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = BEHIND_TLS
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = BEHIND_TLS
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Strict"
SESSION_COOKIE_AGE = 14 * 24 * 3600
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if BEHIND_TLS else []

LOGIN_URL = "login"
LOGIN_REDIRECT_URL = "/"
LOGOUT_REDIRECT_URL = "login"
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in (
        "UserAttributeSimilarityValidator",
        "MinimumLengthValidator",
        "CommonPasswordValidator",
    )
]
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = ["username"]  # behind a proxy all come from one address
AXES_LOCKOUT_TEMPLATE = "accounts/locked.html"
AXES_VERBOSE = False
AXES_ENABLED = LOGIN_NEEDED
SILENCED_SYSTEM_CHECKS = ["axes.W006", *([] if LOGIN_NEEDED else ["axes.W002"])]

# Exports are tasks that outlive the server; a process of their own makes them.
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
EXPORTS_WORK = os.environ.get("MABREL_EXPORTS", "1") != "0"

# Engine processes load what they need before it is asked for, while there is nothing else to do.
ENGINE_WARMS = os.environ.get("MABREL_WARM", "1") != "0"

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"plain": {"format": "%(asctime)s %(levelname)s %(name)s: %(message)s"}},
    "handlers": {
        "file": {
            "class": "logging.handlers.RotatingFileHandler",
            "filename": STATE_DIR / "studio.log",
            "maxBytes": 4 * 2**20,
            "backupCount": 3,
            "delay": True,
            "formatter": "plain",
        },
        "console": {"class": "logging.StreamHandler", "formatter": "plain", "level": "ERROR"},
    },
    "root": {"handlers": ["file", "console"], "level": "WARNING"},
    "loggers": {"studio": {"level": "INFO"}, "django.request": {"level": "ERROR"}},
}
