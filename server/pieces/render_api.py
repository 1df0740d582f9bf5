"""The engine over HTTP: no sign-in, no database, no state."""

from accounts.auth import from_our_page
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router

from lattice.document import DocumentError, Problem
from lattice.render import Rendering, picture
from pieces.schemas import MAX_SCREEN_BARS, RenderQuestion

router = Router(auth=from_our_page)


@router.post("", response={200: Rendering, **refusals(422)})
def render(request: HttpRequest, body: RenderQuestion) -> HttpResponse:
    """Everything to be drawn and heard of a window of a score."""
    if body.window.bars > MAX_SCREEN_BARS:
        said = f"at most {MAX_SCREEN_BARS} bars at once, got {body.window.bars}"
        raise DocumentError([Problem(None, "window.bars", said)])
    # Written by pydantic as it is: the engine built it, and checking it again takes longer than making it.
    rendering = picture(body.score, body.dice, body.window)
    return HttpResponse(rendering.model_dump_json(), content_type="application/json")
