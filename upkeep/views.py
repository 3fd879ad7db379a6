"""Whether the server is well, for a proxy or a watchman."""

from __future__ import annotations

import logging

from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

from web.middleware import never_waits

log = logging.getLogger(__name__)


@never_waits
@never_cache
@require_safe
def healthz(request: HttpRequest) -> HttpResponse:
    """200 and ``ok`` where the database answers, else 503; it tells nothing else to anybody."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT COUNT(*) FROM django_migrations")
            cursor.fetchone()
    except DatabaseError:
        log.exception("the database does not answer")
        return HttpResponse("the database does not answer\n", content_type="text/plain", status=503)
    return HttpResponse("ok\n", content_type="text/plain")
