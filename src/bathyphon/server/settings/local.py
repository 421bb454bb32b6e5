"""Settings of ``./bathyphon demo`` and ``./bathyphon start``, from the environment."""

from bathyphon.server.settings.common import *  # noqa: F403
from bathyphon.server.settings.common import ALLOWED_HOSTS, ENV, SECRET_KEY
from bathyphon.server.settings.safety import refuse_unsafe

DEBUG = ENV.bool("BATHYPHON_DEBUG", False)
HTTPS = ENV.bool("BATHYPHON_HTTPS", False)
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
if HTTPS:
    # Who has come by HTTPS once never comes without it; what a proxy says of it is believed only
    # of those in BATHYPHON_PROXIES (see the launcher).
    SECURE_HSTS_SECONDS = 365 * 24 * 3600

refuse_unsafe(SECRET_KEY, DEBUG, ALLOWED_HOSTS)
