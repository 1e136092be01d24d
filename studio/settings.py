"""Django settings. All that may differ between machines is read from the environment here."""

import os
import secrets
from pathlib import Path

BASE_DIR = Path(__file__).resolve().parent.parent
STATE_DIR = Path(os.environ.get("MABREL_STATE", BASE_DIR / "var"))
STATE_DIR.mkdir(parents=True, exist_ok=True)
LIBRARY_DIR = STATE_DIR / "library"  # the pictures and fonts that titles name
FRONT_DIR = BASE_DIR / "frontend" / "dist"

# Nothing that is signed outlives the process.
SECRET_KEY = os.environ.get("MABREL_SECRET_KEY") or secrets.token_urlsafe(50)
DEBUG = os.environ.get("MABREL_DEBUG") == "1"
ALLOWED_HOSTS = os.environ.get("MABREL_HOSTS", "127.0.0.1,localhost,[::1]").split(",")

INSTALLED_APPS = [
    "studio.titles",
    "studio.library",
    "studio.preview",
    "studio.exports",
    "studio.pages",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "studio.guard.same_origin_only",
    "django.middleware.common.CommonMiddleware",
]
ROOT_URLCONF = "studio.urls"
ASGI_APPLICATION = "studio.asgi.application"

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

# The built front end, served from the root by this process.
STATIC_URL = "static/"
WHITENOISE_ROOT = FRONT_DIR if FRONT_DIR.is_dir() else None
WHITENOISE_AUTOREFRESH = DEBUG

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
DATA_UPLOAD_MAX_MEMORY_SIZE = 16 * 2**20
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"

# Bytes that the renderer may keep for the next picture.
RENDER_CACHE_BYTES = int(os.environ.get("MABREL_CACHE_MB", "768")) * 2**20
