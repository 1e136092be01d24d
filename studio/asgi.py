"""The application that uvicorn runs."""

import os
import warnings

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings")
# WhiteNoise reads its small, built files in one go; Django's advice is meant for endless ones.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous")
application = get_asgi_application()
