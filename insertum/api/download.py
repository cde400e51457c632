"""A file to save."""

from django.http import HttpResponse


def download(text: str, name: str, kind: str) -> HttpResponse:
    """``text`` as a file of the media type ``kind``, which the browser saves under ``name``."""
    return HttpResponse(text, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})
