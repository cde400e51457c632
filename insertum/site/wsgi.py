"""Server entry for gunicorn."""

import os

from django.core.wsgi import get_wsgi_application

from insertum.site.collector import calm

calm()
os.umask(0o077)  # database, photographs and key are their owner's alone
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "insertum.site.settings")
application = get_wsgi_application()
