"""Settings shared by every way of running."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path
from typing import Any

import environ

ENV = environ.Env()
ROOT = Path(__file__).resolve().parents[4]

DATA = Path(ENV.str("BATHYPHON_DATA", str(ROOT / ".local" / "data")))
SECRET_KEY = ENV.str("BATHYPHON_SECRET_KEY", "")
DEBUG = False
ALLOWED_HOSTS = ENV.list("BATHYPHON_HOSTS", default=["127.0.0.1", "localhost"])
CSRF_TRUSTED_ORIGINS = ENV.list("BATHYPHON_ORIGINS", default=[])
DATABASES = {"default": ENV.db("DATABASE_URL", "postgresql://127.0.0.1:5432/bathyphon")}
# Opening a connection takes longer than most answers: they are kept in a pool of the process.
DATABASES["default"]["CONN_MAX_AGE"] = 0
DATABASES["default"]["CONN_HEALTH_CHECKS"] = True
DATABASES["default"].setdefault("OPTIONS", {})["pool"] = {
    "min_size": 1,
    "max_size": 16,
    # Who asks while the database is away is told so soon, and asks again.
    "timeout": 5.0,
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "procrastinate.contrib.django",
    "bathyphon.server.accounts",
    "bathyphon.server.reels",
    "bathyphon.server.media",
    "bathyphon.server.exports",
    "bathyphon.server.presets",
]
MIDDLEWARE = [
    # The first of them is the last to see an answer.
    "bathyphon.server.letting_go.LetGoMiddleware",
    "bathyphon.server.packing.PackingMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "bathyphon.server.gate.GateMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "bathyphon.server.policy.ContentPolicyMiddleware",
    "bathyphon.server.away.AwayMiddleware",
]
ROOT_URLCONF = "bathyphon.server.urls"
ASGI_APPLICATION = "bathyphon.server.asgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "DIRS": []}]
AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.MinimumLengthValidator",
        "OPTIONS": {"min_length": 10},
    },
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
# Wrong tries are counted in the database, for a name from an address.
AXES_FAILURE_LIMIT = 10
AXES_COOLOFF_TIME = timedelta(minutes=5)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_ENABLE_ADMIN = False
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
# The API itself says that a name is closed.
SILENCED_SYSTEM_CHECKS = ["axes.W002"]
USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False

WEB_DIST = ROOT / "web" / "dist"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        "img-src": ["'self'", "data:", "blob:"],
        "media-src": ["'self'", "blob:"],
        "style-src": ["'self'", "'unsafe-inline'"],
        "script-src": ["'self'"],
        "worker-src": ["'self'", "blob:"],
        "connect-src": ["'self'"],
        "form-action": ["'self'"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "frame-ancestors": ["'none'"],
    }
}

# Uploads go to disk at once; no file is held in memory.
FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]
FILE_UPLOAD_TEMP_DIR = None
DATA_UPLOAD_MAX_MEMORY_SIZE = 16 * 2**20
BATHYPHON_LARGEST_UPLOAD = ENV.int("BATHYPHON_LARGEST_UPLOAD", 20 * 2**30)
BATHYPHON_DECODE_SECONDS = ENV.int("BATHYPHON_DECODE_SECONDS", 3600)
BATHYPHON_DECODE_MEMORY = ENV.int("BATHYPHON_DECODE_MEMORY", 4 * 2**30)
BATHYPHON_PREPARED_FILE = ENV.int("BATHYPHON_PREPARED_FILE", 40 * 2**30)
# Bytes of sound and states that are remembered, over all reels that are played.
BATHYPHON_MEMORY = ENV.int("BATHYPHON_MEMORY", 2 * 2**30)
# Bytes of all media of one account; 0 sets no limit.
BATHYPHON_ACCOUNT_LIMIT = ENV.int("BATHYPHON_ACCOUNT_LIMIT", 0)

# Media lie in a folder, or in an S3-compatible store if one is named.
STORAGES: dict[str, dict[str, Any]] = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
if ENV.str("BATHYPHON_S3_BUCKET", ""):
    STORAGES["blobs"] = {
        "BACKEND": "storages.backends.s3.S3Storage",
        "OPTIONS": {
            "bucket_name": ENV.str("BATHYPHON_S3_BUCKET"),
            "endpoint_url": ENV.str("BATHYPHON_S3_ENDPOINT", "") or None,
            "access_key": ENV.str("BATHYPHON_S3_KEY", "") or None,
            "secret_key": ENV.str("BATHYPHON_S3_SECRET", "") or None,
            "file_overwrite": False,
        },
    }

PROCRASTINATE_AUTODISCOVER_MODULE_NAME = "tasks"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": ENV.str("BATHYPHON_LOG", "WARNING")},
}
