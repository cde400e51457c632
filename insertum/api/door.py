"""What every call of the API passes: a bounded body, JSON in words whatever goes wrong, and nothing kept by a browser."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

from ..shop.services.history import acting

#: The largest thing sent is a bundle of readings or a list of prices.
MOST_BYTES = 32 * 1024 * 1024
_WORDS = {
    400: "the request is not understood",
    403: "this is not allowed from here",
    404: "nothing is at this address",
    405: "this cannot be done to this address",
    500: "something went wrong here, and was logged",
}


def _problem(status: int, what: str, where: str, mend: str) -> JsonResponse:
    return JsonResponse({"what": what, "where": where, "mend": mend, "rows": []}, status=status)


def in_words(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    def answer(request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/"):
            return get_response(request)
        length = request.META.get("CONTENT_LENGTH") or "0"
        if not length.isdigit() or int(length) > MOST_BYTES:
            return _problem(413, f"more than {MOST_BYTES // 2**20} MB were sent", request.path, "Send it in parts.")
        with acting(None):  # until the session says who it is
            found = get_response(request)
        kind = found.headers.get("Content-Type", "")
        if found.status_code >= 400 and "json" not in kind:
            what = _WORDS.get(found.status_code, f"the server answered {found.status_code}")
            kept = {k: v for k, v in found.headers.items() if k == "Allow"}
            found = _problem(found.status_code, what, request.path, "Reload the page; nothing was changed.")
            for name, value in kept.items():
                found.headers[name] = value
        found.headers.setdefault("Cache-Control", "no-store")
        return found

    return answer
