"""The API in one place, and the one translation of the core's errors to HTTP."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError
from ninja.security import django_auth

from apps.accounts.access import Refused
from apps.accounts.api import router as accounts
from apps.cards.api import router as cards
from apps.designs.adding_api import router as adding
from apps.designs.api import router as designs
from apps.designs.build_api import router as builds
from apps.designs.drawings_api import router as drawings
from apps.designs.dry_fit_api import router as dry_fit
from apps.designs.families_api import router as families
from apps.layouts.api import router as layouts
from apps.layouts.variants_api import router as variants
from apps.plans.api import router as plans
from apps.runs.api import router as runs
from apps.sheets.api import router as sheets
from apps.sheets.evidence_api import router as evidence
from apps.sheets.tools_api import router as tools
from apps.told import kept
from config.parsing import SafeParser
from config.shopboard import router as shopboard
from config.strip import router as strip
from notchcore.errors import NotchCoreError

api = NinjaAPI(title="Notch Board", version="1", auth=django_auth, docs_url=None, parser=SafeParser())
for router in (
    accounts,
    sheets,
    evidence,
    tools,
    cards,
    families,
    drawings,
    designs,
    builds,
    adding,
    dry_fit,
    layouts,
    variants,
    plans,
    runs,
    shopboard,
    strip,
):
    api.add_router("", router)


@api.exception_handler(NotchCoreError)
def core_error(request: HttpRequest, problem: NotchCoreError) -> HttpResponse:
    status = problem.status if isinstance(problem, Refused) else 422
    told = {"code": problem.code, "message": problem.message, "says": kept(problem.says), "facts": problem.facts}
    return api.create_response(request, told, status=status)


@api.exception_handler(HttpError)
def http_error(request: HttpRequest, problem: HttpError) -> HttpResponse:
    return api.create_response(request, {"code": f"http.{problem.status_code}", "message": str(problem), "facts": {}}, status=problem.status_code)


@api.exception_handler(ValidationError)
def not_valid(request: HttpRequest, problem: ValidationError) -> HttpResponse:
    """Say which field is wrong, in words. An error of the core behind a field is told as the core tells it."""
    first = problem.errors[0]
    cause = first.get("ctx", {}).get("error")
    if isinstance(cause, NotchCoreError):
        return core_error(request, cause)
    field = ".".join(str(p) for p in first["loc"] if p not in ("body", "payload"))
    return api.create_response(
        request, {"code": "http.not_valid", "message": f"{field or 'The request'}: {first['msg']}", "facts": {"field": field}}, status=422
    )
