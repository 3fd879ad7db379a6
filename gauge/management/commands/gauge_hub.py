"""The service that gauges send to: ``manage.py gauge_hub``."""

from __future__ import annotations

import asyncio
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.db import close_old_connections

from gauge.hub import CANNOT_LISTEN, Hub, serve
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
        yard=gauge.yard_id,
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
                "with EYEBOLT_GAUGE_PORT.",
                returncode=CANNOT_LISTEN,
            ) from None
        except KeyboardInterrupt:
            return


async def _serve(host: str, port: int) -> None:
    hub = Hub(known)
    server = await serve(hub, host, port)
    async with server:
        looking = asyncio.create_task(hub.keep_looking())
        try:
            await server.serve_forever()
        finally:
            looking.cancel()
