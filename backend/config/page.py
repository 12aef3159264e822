"""The one page of the front end."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie


@ensure_csrf_cookie
def page(_request: HttpRequest) -> HttpResponse:
    index = settings.FRONTEND_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The front end is not built yet: run ./board up.", status=503, content_type="text/plain")
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response
