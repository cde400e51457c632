"""A file to save."""

from django.http import HttpResponse


def download(text: str, name: str, kind: str) -> HttpResponse:
    return HttpResponse(text, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})
