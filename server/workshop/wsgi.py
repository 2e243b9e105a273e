"""What gunicorn serves."""

import os

from django.conf import settings
from django.core.exceptions import ImproperlyConfigured
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "workshop.settings")
application = get_wsgi_application()

from workshop import confined  # noqa: E402 - it reads the settings

if not settings.HAS_A_KEY:
    raise ImproperlyConfigured(
        "No secret key: sessions could be forged, or would end with every restart. Set HEMATITE_SECRET_KEY to 32 "
        f"random characters or more, or keep them in {settings.VAR / 'secret_key'}."
    )
confined.make_ready()
