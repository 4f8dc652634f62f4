"""The ASGI entry point."""

import gc
import os
import warnings

from django.core.asgi import get_asgi_application

# the built pages are small files: reading them in one go under ASGI is what is wanted
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jarvok.app.settings")
pages = get_asgi_application()

from jarvok.app.gate import SensorGate  # noqa: E402  the applications have to be loaded first

application = SensorGate(pages)

# what is loaded at start lives as long as the process: left out of the collector's rounds, which live streams would feel
gc.collect()
gc.freeze()
