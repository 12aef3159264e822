"""What every answer has in common: what a page may load (only what this server ships), and that it is packed."""

from __future__ import annotations

import gzip
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware, re_accepts_gzip
from django.utils.cache import patch_vary_headers

POLICY = "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; object-src 'none'; base-uri 'self'"


class ContentPolicy:
    """Add the policy to every answer."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        return response


class QuickGzip(GZipMiddleware):
    """Pack large answers quickly: somebody waits for them on the same network, and packing them tightly took longer than sending them."""

    LARGE = 1 << 14  # bytes
    QUICK = 1  # of zlib's levels: a quarter of the time, a quarter more bytes

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        accepts = re_accepts_gzip.search(request.META.get("HTTP_ACCEPT_ENCODING", ""))
        if accepts and isinstance(response, HttpResponse) and len(response.content) > self.LARGE and not response.has_header("Content-Encoding"):
            patch_vary_headers(response, ("Accept-Encoding",))
            response.content = gzip.compress(response.content, self.QUICK, mtime=0)
            response.headers["Content-Length"] = str(len(response.content))
            response.headers["Content-Encoding"] = "gzip"
        return super().process_response(request, response)  # leaves alone what is packed
