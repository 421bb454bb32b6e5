"""The ASGI application."""

import os
from importlib import import_module
from threading import Timer

from django.core.asgi import get_asgi_application

from bathyphon.memory import keep_memory

FIRST_ANSWERS_SECONDS = 5.0

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bathyphon.server.settings.local")
keep_memory()
application = get_asgi_application()
# It takes a second to import: neither before the first answers nor when somebody wants to hear.
later = Timer(FIRST_ANSWERS_SECONDS, import_module, ["scipy.signal"])
later.daemon = True
later.start()
