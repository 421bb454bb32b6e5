"""The ASGI application."""

import os

from django.core.asgi import get_asgi_application

from bathyphon.memory import keep_memory

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bathyphon.server.settings.local")
keep_memory()
application = get_asgi_application()
