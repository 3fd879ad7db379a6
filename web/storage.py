"""Static files under names that change with what is in them."""

from __future__ import annotations

from whitenoise.storage import CompressedManifestStaticFilesStorage


class StaticFiles(CompressedManifestStaticFilesStorage):
    """As WhiteNoise keeps them; modules that import each other do so by those names too."""

    support_js_module_import_aggregation = True
