"""Entry point for the web server."""

import gc
import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
application = get_asgi_application()

# Assemblies are many small values without cycles, and are kept: looking through all of them again and again took a fifth of a rebuild.
gc.collect()
gc.freeze()
gc.set_threshold(100_000, 20, 50)
