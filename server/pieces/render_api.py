"""The engine over HTTP: no sign-in, no database, no state."""

from itertools import cycle
from time import perf_counter

from accounts.auth import to_compute
from config.answers import answer
from config.downloads import attached
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router

from lattice import edits, screen
from lattice.clips import take, take_clip
from lattice.clips.moves import with_moves
from lattice.document import DocumentError
from lattice.formats.midi import midi_file
from lattice.render import Window
from lattice.screen import Alternative, Measures, News, Sounds
from lattice.steps.lane_steps import steps_of_lane
from pieces.schemas import (
    MAX_SCREEN_BARS,
    AlternativesQuestion,
    Changed,
    ControlQuestion,
    FileQuestion,
    HandMovements,
    HandsQuestion,
    MeasuresQuestion,
    MovesQuestion,
    Question,
    RenderQuestion,
    SoundsQuestion,
    StepsQuestion,
    StripQuestion,
    Thrown,
    ThrowQuestion,
)

router = Router(auth=to_compute)


def _check(window: Window) -> None:
    if window.bars > MAX_SCREEN_BARS:
        raise DocumentError.of("window.bars", f"at most {MAX_SCREEN_BARS} bars at once, got {window.bars}")


@router.post("", response={200: News, **refusals()})
def render(request: HttpRequest, body: RenderQuestion) -> HttpResponse:
    """Everything to be drawn of a window of a score that the page does not have yet; what is heard, if it is asked."""
    _check(body.window)
    if body.sounds:
        _check(body.sounds)
    began = perf_counter()
    built = screen.picture(body.score, body.dice, body.window, body.chosen, body.shown)
    heard = screen.sounds(body.score, body.dice, body.sounds) if body.sounds else None
    reply = answer(screen.news(built, body.known, heard))
    reply["Server-Timing"] = f"engine;dur={1000 * (perf_counter() - began):.1f}"
    return reply


@router.post("/sounds", response={200: Sounds, **refusals()})
def sounds(request: HttpRequest, body: SoundsQuestion) -> HttpResponse:
    """What is heard of a window of a score, and nothing that is drawn of it."""
    _check(body.window)
    return answer(screen.sounds(body.score, body.dice, body.window))


@router.post("/midi", response={200: bytes, **refusals()})
def midi(request: HttpRequest, body: FileQuestion) -> HttpResponse:
    """Bars of a score as a Standard MIDI File, one track a lane."""
    _check(body.window)
    taken = take(body.score, body.dice, body.window)
    clip = take_clip(taken, body.piece, body.pattern)
    if body.export.moves:
        clip = with_moves(clip, body.score, body.window.ticks(body.score.meter.bar_ticks)[0])
    return attached(midi_file(clip, body.export), f"{clip.name}.mid", "audio/midi")


@router.post("/alternatives", response={200: list[Alternative], **refusals()})
def alternatives(request: HttpRequest, body: AlternativesQuestion) -> list[Alternative]:
    """What a word could be instead, or a lane could begin to use, each with the thread it would make."""
    _check(body.window)
    score, dice, window = body.score, body.dice, body.window
    if body.lane is None:
        return screen.standing_alternatives(score, body.setting, body.word)
    if not body.setting:
        return screen.offers_of(score, dice, body.lane, window)
    return screen.alternatives_of(score, dice, body.lane, body.setting, body.word, window)


@router.post("/throw", response={200: Thrown, **refusals()})
def throw(request: HttpRequest, body: ThrowQuestion) -> HttpResponse:
    """The sources of one lane, or of all that are not anchored, after a throw."""
    if body.lane is None:
        return answer(Thrown(sources=edits.throw_all(body.score, body.percent, body.throw)))
    lane = body.score.lane(body.lane)
    return answer(Thrown(sources={lane.id: edits.throw_lane(lane, body.percent, body.throw)}))


@router.post("/steps", response={200: Changed, **refusals()})
def steps(request: HttpRequest, body: StepsQuestion) -> Changed:
    """What lanes become when something is done to the steps that begin in a stretch of time."""
    if body.end_tick <= body.first_tick:
        raise DocumentError.of("end_tick", "the stretch has no length")
    all_lane_steps = [steps_of_lane(body.score, body.dice, lane) for lane in body.lanes]
    first, end = body.first_tick, body.end_tick
    if body.action == "copy":
        return Changed(
            patches={},
            copied=[edits.copied(one, edits.chosen_numbers(one, first, end)) for one in all_lane_steps],
        )
    if body.action == "paste":
        if not body.copied:
            raise DocumentError.of("copied", "nothing was copied")
        laid = zip(all_lane_steps, cycle(body.copied), strict=False)
        return Changed(
            patches={lane_steps.lane.id: edits.paste(lane_steps, first, rows) for lane_steps, rows in laid}
        )
    return Changed(
        patches={
            one.lane.id: edits.act(body.action, one, first, end, body.number, body.of)
            for one in all_lane_steps
        }
    )


@router.post("/strip", response={200: Changed, **refusals()})
def strip(request: HttpRequest, body: StripQuestion) -> Changed:
    """What lanes become when something is done to one of their strips."""
    patches = {}
    for lane in body.lanes:
        lane_steps = steps_of_lane(body.score, body.dice, lane)
        if body.action == "throw":
            patches[lane] = edits.throw_strip(
                lane_steps, body.strip, body.low, body.high, body.shape, body.throw
            )
        elif body.action == "empty":
            patches[lane] = edits.empty_strip(lane_steps, body.strip)
        else:
            patches[lane] = edits.change_strip(lane_steps, body.strip, body.action)
    return Changed(patches=patches)


@router.post("/control", response={200: Changed, **refusals()})
def control(request: HttpRequest, body: ControlQuestion) -> Changed:
    """What lanes become with a new strip of a MIDI controller."""
    return Changed(
        patches={
            lane: edits.begin_control(steps_of_lane(body.score, body.dice, lane), body.controller)
            for lane in body.lanes
        }
    )


@router.post("/channels", response={200: Changed, **refusals()})
def channels(request: HttpRequest, body: Question) -> Changed:
    """What lanes become with a MIDI channel each; where all have that, with their voices' again."""
    spread = edits.a_channel_each(body.score)
    return Changed(patches={lane: {"channel": channel} for lane, channel in spread.items()})


@router.post("/moves", response={200: HandMovements, **refusals()})
def movements_after_hands(request: HttpRequest, body: HandsQuestion) -> HandMovements:
    """What movements become when hands move their controls: recorded, or moved along."""
    bar_ticks = body.meter.bar_ticks
    return HandMovements(movements=[edits.after_hand(move, bar_ticks) for move in body.hands])


@router.post("/moves/fewer", response={200: Changed, **refusals()})
def fewer_points(request: HttpRequest, body: MovesQuestion) -> Changed:
    """What lanes become with as few points in their movements as play the same notes."""
    return Changed(
        patches={
            lane: {"movements": [one.model_dump(mode="json") for one in edits.thinned_lane(body.score, lane)]}
            for lane in body.lanes
        }
    )


@router.post("/measures", response={200: Measures, **refusals()})
def measures(request: HttpRequest, body: MeasuresQuestion) -> HttpResponse:
    """How busy, syncopated and even a lane is, and how far from where it was."""
    lane = body.score.lane(body.lane)
    return answer(screen.measures(body.score, body.dice, lane.id, body.since, body.since_dice))
