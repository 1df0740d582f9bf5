"""What gunicorn runs."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
_django = get_wsgi_application()

from config.checks import problems  # noqa: E402 - settings come first
from config.slow import read_first  # noqa: E402

if found := problems():
    raise SystemExit("\n".join(["Jolly Lattice does not start:", *found]))
application = read_first(_django)
