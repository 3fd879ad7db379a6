"""The service that gauges send to: ``manage.py gauge_hub``."""

from __future__ import annotations

import asyncio
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.db import close_old_connections

from gauge.hub import Hub, serve
from gauge.models import Gauge
from gauge.wire import Facts


def known(key: str) -> Facts | None:
    """What the yard's list says of the gauge with a key."""
    close_old_connections()
    gauge = Gauge.objects.filter(key=key).first()
    if gauge is None:
        return None
    return Facts(
        unit=gauge.unit,
        step_kg=gauge.step_kg,
        rating_kg=None if gauge.rating is None else float(gauge.rating.si),
        lag_s=float(gauge.lag),
    )


class Command(BaseCommand):
    """Listen for gauges and for pages that watch them, until ended."""

    help = "Listen for gauges and for pages that watch them, until ended."

    def handle(self, *args: Any, **options: Any) -> None:
        """Serve."""
        host, port = settings.GAUGE_HOST, settings.GAUGE_PORT
        try:
            asyncio.run(_serve(host, port))
        except OSError as error:
            raise CommandError(
                f"Gauges cannot be read on {host}:{port}: {error.strerror}. Choose another port "
                "with EYEBOLT_GAUGE_PORT."
            ) from None
        except KeyboardInterrupt:
            return


async def _serve(host: str, port: int) -> None:
    server = await serve(Hub(known), host, port)
    async with server:
        await server.serve_forever()
