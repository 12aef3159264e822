"""Entry point for the web server."""

import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
application = get_asgi_application()

from config.idle import collect_when_idle  # noqa: E402 (after Django is set up)

collect_when_idle()
