"""The API: one OpenAPI description, from which the TypeScript client is generated."""

from __future__ import annotations

from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, ValidationError
from ninja.security import django_auth

from bathyphon import __version__
from bathyphon.core.errors import Refused
from bathyphon.server.accounts.api import router as accounts
from bathyphon.server.accounts.preferences import router as preferences
from bathyphon.server.away import away
from bathyphon.server.effects import drawings
from bathyphon.server.effects import router as effects
from bathyphon.server.exports.api import router as exports
from bathyphon.server.listening.analysis_api import router as analysis
from bathyphon.server.listening.api import router as listening
from bathyphon.server.media.api import router as media
from bathyphon.server.media.own_api import router as own_sounds
from bathyphon.server.presets.api import router as presets
from bathyphon.server.recipes.api import of_reels as recipes_of_reels
from bathyphon.server.recipes.api import router as recipes
from bathyphon.server.recipes.own_api import router as own_recipes
from bathyphon.server.reels.api import router as reels
from bathyphon.server.reels.journal import Conflict
from bathyphon.server.reels.lists import router as lists
from bathyphon.server.reels.rights import NotAllowed
from bathyphon.server.sounds.api import of_reels as sounds_of_reels
from bathyphon.server.sounds.api import router as sounds

api = NinjaAPI(title="Bathyphon", version=__version__, auth=django_auth, docs_url=None)
api.add_router("", accounts)
api.add_router("", preferences)
api.add_router("effects", effects)
api.add_router("reels", reels)
api.add_router("reels", lists)
api.add_router("reels", drawings)
api.add_router("reels", listening)
api.add_router("reels", analysis)
api.add_router("media", media)
api.add_router("sounds/own", own_sounds)
api.add_router("sounds", sounds)
api.add_router("reels", sounds_of_reels)
api.add_router("presets", presets)
api.add_router("recipes/own", own_recipes)
api.add_router("recipes", recipes)
api.add_router("reels", recipes_of_reels)
api.add_router("", exports)


@api.exception_handler(Refused)
def refused(request: HttpRequest, error: Refused) -> HttpResponse:
    """Bad input: one sentence and the place of the fault."""
    return api.create_response(request, {"detail": error.message, "where": error.where}, status=422)


@api.exception_handler(Conflict)
def conflict(request: HttpRequest, error: Conflict) -> HttpResponse:
    """Another window was first."""
    return api.create_response(
        request, {"detail": str(error), "revision": error.revision}, status=409
    )


@api.exception_handler(ValidationError)
def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    """A request whose shape is wrong."""
    first = error.errors[0]
    where = ".".join(str(p) for p in first.get("loc", [])[1:])
    return api.create_response(
        request, {"detail": str(first.get("msg", "not readable")), "where": where}, status=422
    )


@api.exception_handler(NotAllowed)
def not_allowed(request: HttpRequest, error: NotAllowed) -> HttpResponse:
    """Seen, but not to be changed by this account."""
    return api.create_response(request, {"detail": str(error)}, status=403)


@api.exception_handler(Http404)
def missing(request: HttpRequest, error: Http404) -> HttpResponse:
    """Not there, or not visible to this account: the same answer."""
    return api.create_response(request, {"detail": "There is nothing here."}, status=404)


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
def database_away(request: HttpRequest, error: Exception) -> HttpResponse:
    """No database: a moment later there may be one again."""
    return away()


@api.exception_handler(AuthenticationError)
def stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    """Nobody is signed in."""
    return api.create_response(request, {"detail": "Please sign in."}, status=401)
