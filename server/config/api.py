"""The API as a whole."""

from typing import Any

import orjson
from accounts.account_api import invitations
from accounts.account_api import router as account
from accounts.api import router as accounts
from accounts.auth import signed_in
from accounts.tokens_api import router as tokens
from clips.api import router as clips
from django.http import HttpRequest
from library.api import kits, starters
from library.help_api import router as help_words
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError, ValidationErrorContext
from ninja.openapi.schema import OpenAPISchema
from ninja.parser import Parser
from ninja.renderers import BaseRenderer
from operations.api import router as everything
from pieces.api import router as pieces
from pieces.around_api import router as around
from pieces.melody_api import router as melody
from pieces.order_api import router as order
from pieces.render_api import router as render
from ports.api import router as ports
from sounds.api import router as sounds
from takes.api import router as takes

from config.errors import register
from config.examples import with_examples


class FastParser(Parser):
    """Reads JSON with orjson."""

    def parse_body(self, request: HttpRequest) -> Any:
        body = request.body
        data = orjson.loads(body)
        if rb"\u0000" in body and _has_nul(data):
            raise HttpError(422, _NUL)
        return data

    def parse_querydict(self, data: Any, list_fields: list[str], request: HttpRequest) -> Any:
        if any("\x00" in one for values in data.lists() for one in values[1] if isinstance(one, str)):
            raise HttpError(422, _NUL)
        return super().parse_querydict(data, list_fields, request)


_NUL = "There is a sign in it that cannot be stored (NUL): leave it out."


def _has_nul(data: Any) -> bool:
    """Return whether a text of parsed JSON holds the one sign that the database cannot store."""
    if isinstance(data, str):
        return "\x00" in data
    if isinstance(data, dict):
        return any(map(_has_nul, data)) or any(map(_has_nul, data.values()))
    return isinstance(data, list) and any(map(_has_nul, data))


class FastRenderer(BaseRenderer):
    """Writes JSON with orjson."""

    media_type = "application/json"

    def render(self, request: HttpRequest, data: Any, *, response_status: int) -> bytes:
        return orjson.dumps(data)


class Api(NinjaAPI):
    """Keeps with each error what was sent, so that the answer can show it; shows examples in its description."""

    def get_openapi_schema(self, **of: Any) -> OpenAPISchema:
        schema = super().get_openapi_schema(**of)
        with_examples(schema)
        return schema

    def validation_error_from_error_contexts(
        self, error_contexts: list[ValidationErrorContext[Any]]
    ) -> ValidationError:
        return ValidationError(
            [
                {**error, "loc": (context.model.__ninja_param_source__, *_location(context, error["loc"]))}
                for context in error_contexts
                for error in context.pydantic_validation_error.errors(include_url=False)
            ]
        )


def _location(context: ValidationErrorContext[Any], where: tuple[Any, ...]) -> tuple[Any, ...]:
    location: tuple[Any, ...] = context.model.__ninja_flatten_map_reverse__.get(where, where)
    return location


api = Api(
    title="Jolly Lattice",
    version="1",
    description="Scores in, events out; pieces and clips of the musician who is signed in.",
    auth=signed_in,
    parser=FastParser(),
    renderer=FastRenderer(),
    docs_url=None,  # its page would fetch scripts from elsewhere; the schema is at openapi.json
)
register(api)
api.add_router("/session", accounts, tags=["session"])
api.add_router("/account", account, tags=["account"])
api.add_router("/account", everything, tags=["account"])
api.add_router("/invitations", invitations, tags=["account"])
api.add_router("/tokens", tokens, tags=["tokens"])
api.add_router("/pieces", pieces, tags=["pieces"])
api.add_router("/render", render, tags=["render"])
api.add_router("/melody", melody, tags=["melody"])
api.add_router("/around", around, tags=["around"])
api.add_router("/order", order, tags=["order"])
api.add_router("/clips", clips, tags=["clips"])
api.add_router("/takes", takes, tags=["takes"])
api.add_router("/sounds", sounds, tags=["sounds"])
api.add_router("/kits", kits, tags=["kits"])
api.add_router("/starters", starters, tags=["starters"])
api.add_router("/help", help_words, tags=["help"])
api.add_router("/ports", ports, tags=["ports"])
