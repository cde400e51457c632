"""The one page: the built application with this response's style nonce."""

from django.http import HttpRequest, HttpResponse
from django.template import TemplateDoesNotExist
from django.template.loader import get_template
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def application(request: HttpRequest) -> HttpResponse:
    try:
        page = get_template("index.html")
    except TemplateDoesNotExist:
        return HttpResponse("The web build is missing. Run: make web", status=503, content_type="text/plain")
    html = page.render({}, request).replace("__NONCE__", str(request.csp_nonce))  # type: ignore[attr-defined]
    return HttpResponse(html, headers={"Cache-Control": "no-store"})
