"""The application that a server such as uvicorn runs."""

import gc
import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings")
_django = get_asgi_application()

from studio.opening import close_studio, open_studio  # noqa: E402 - Django must be set up
from studio.web.bodies import BoundedBodies  # noqa: E402
from studio.web.lifespan import Lifespan  # noqa: E402
from studio.web.sending import BoundedAnswers  # noqa: E402

open_studio()
gc.freeze()  # what is loaded now stays: garbage need not be looked for in it
application = Lifespan(BoundedAnswers(BoundedBodies(_django)), close_studio)
