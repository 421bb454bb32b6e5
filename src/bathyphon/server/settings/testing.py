"""Settings of the tests."""

import tempfile
from pathlib import Path

from bathyphon.server.settings.common import *  # noqa: F403

SECRET_KEY = "only-for-tests-0123456789-abcdefghij"
DATA = Path(tempfile.mkdtemp(prefix="bathyphon-test-"))
ALLOWED_HOSTS = ["testserver", "127.0.0.1", "localhost"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
