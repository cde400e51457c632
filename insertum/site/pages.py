"""The one page: the built application with this response's style nonce."""

from importlib.metadata import version

from django.db import connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.template import TemplateDoesNotExist
from django.template.loader import get_template
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def application(request: HttpRequest) -> HttpResponse:
    """The page that carries the web application, for every address that is the browser's."""
    try:
        page = get_template("index.html")
    except TemplateDoesNotExist:
        return HttpResponse("The web build is missing. Run: make web", status=503, content_type="text/plain")
    html = page.render({}, request).replace("__NONCE__", str(request.csp_nonce))  # type: ignore[attr-defined]
    return HttpResponse(html, headers={"Cache-Control": "no-store"})


def healthz(request: HttpRequest) -> JsonResponse:
    """Does the server answer, and does its database? For whoever watches over it; it names nothing of what is kept."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except Exception as error:  # whatever it is, it is no answer
        return JsonResponse({"status": "no database", "why": type(error).__name__}, status=503)
    return JsonResponse({"status": "ok", "version": version("insertum")}, headers={"Cache-Control": "no-store"})
