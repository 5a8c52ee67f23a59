"""How static files are named and served."""

from whitenoise.storage import CompressedManifestStaticFilesStorage


class StaticStorage(CompressedManifestStaticFilesStorage):  # type: ignore[misc]
    """Every file by the hash of its content, also where one script imports another."""

    support_js_module_import_aggregation = True
