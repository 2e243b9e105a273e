"""What gunicorn serves."""

import os

from django.conf import settings
from django.core.exceptions import ImproperlyConfigured
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "workshop.settings")
application = get_wsgi_application()
if not settings.HAS_A_KEY:
    raise ImproperlyConfigured(
        "No secret key: sessions could be forged, or would end with every restart. Set HEMATITE_SECRET_KEY to 32 "
        f"random characters or more, or keep them in {settings.VAR / 'secret_key'}."
    )
