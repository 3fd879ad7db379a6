"""Entry point of the server."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eyebolt.settings")
application = get_wsgi_application()
