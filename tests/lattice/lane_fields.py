"""Whatever a lane may have, for scores of tests: any rhythm, expression, melody and keys that were held."""

from typing import Any

from hypothesis import strategies as st

from lattice.document import (
    Accent,
    Arpeggio,
    BarRestart,
    BarSpan,
    Before,
    Burst,
    ChanceStrip,
    ChordPool,
    ChordStrip,
    Control,
    CycleRule,
    Drawn,
    Edit,
    Euclidean,
    EveryBars,
    EveryCycle,
    Free,
    GroundSource,
    HeldKey,
    HeldPool,
    Humanise,
    Keys,
    LaneClip,
    LanePool,
    LaneSwing,
    LengthStrip,
    Link,
    Moved,
    Note,
    NoteSpan,
    NudgeStrip,
    Numbered,
    OctaveStrip,
    Once,
    PassRestart,
    Pedal,
    PitchStrip,
    PlacedChord,
    Progression,
    RatchetStrip,
    Scale,
    ScalePool,
    Spread,
    StepRange,
    StepRule,
    StepValue,
    Strip,
    Sustain,
    Swing,
    Thin,
    Thrown,
    TypedPool,
    VelocityStrip,
)
from lattice.document.arpeggio import MOST_AT_ONCE, ORDERS
from lattice.document.chance import LETTERS
from lattice.document.step_value import KINDS, NOTES
from lattice.document.strip import STRIPS, StripKind
from lattice.document.timing import DIRECTIONS
from lattice.theory.grounds import GROUNDS, ground_text
from lattice.theory.scales import SCALES

step_values = st.builds(
    StepValue,
    note=st.sampled_from([note for note in NOTES if note <= 32]),
    kind=st.sampled_from(list(KINDS)),
    multiplier=st.integers(1, 16),
    divisor=st.integers(1, 7),
)
drawn = st.integers(1, 128).flatmap(
    lambda steps: st.builds(
        Drawn,
        steps=st.just(steps),
        hits=st.sets(st.integers(0, steps - 1)).map(lambda hits: tuple(sorted(hits))),
    )
)
euclideans = st.integers(1, 128).flatmap(
    lambda steps: st.builds(Euclidean, hits=st.integers(0, steps), steps=st.just(steps))
)


counts = st.integers(1, 128).flatmap(lambda steps: st.tuples(st.integers(0, steps), st.just(steps)))
numbereds = st.builds(
    lambda count, number: Numbered(hits=count[0], steps=count[1], number=str(number)),
    counts,
    st.integers(0, 10**39),
)
throw_numbers = st.integers(1, 999_999)
throwns = st.builds(
    lambda count, throw: Thrown(hits=count[0], steps=count[1], throw=throw), counts, throw_numbers
)
partly_thrown = st.builds(
    lambda of, percent, throw, was: Thrown(
        hits=len(of.hits), steps=of.steps, throw=throw, moved=Moved(percent=percent, of=of), was=was
    ),
    drawn,
    st.integers(0, 100),
    throw_numbers,
    st.none() | euclideans | numbereds,
)
places = st.integers(0, 100)
on_grounds = st.sampled_from(GROUNDS).flatmap(
    lambda ground: st.builds(
        GroundSource,
        ground=st.just(ground),
        part=st.sampled_from(ground_text(ground).parts),
        x=places,
        y=places,
        pinned=st.booleans(),
        was=st.none() | st.builds(Before, source=drawn | euclideans, rotate=st.integers(-9, 9)),
    )
)
rules = drawn | euclideans | numbereds | throwns | partly_thrown | on_grounds
thins = st.integers(2, 32).flatmap(
    lambda every: st.builds(
        Thin,
        keeps=st.sampled_from(["only", "without"]),
        every=st.just(every),
        first=st.integers(1, every),
        each_cycle=st.booleans(),
    )
)
spans = st.builds(BarSpan, bars=st.integers(1, 16)) | st.builds(NoteSpan, value=step_values)
lengths_of_steps = (
    st.just({})
    | step_values.map(lambda value: {"step_value": value})
    | spans.map(lambda span: {"span": span})
)
onces = st.builds(Once, count=st.integers(0, 3), note=st.just(64))  # within the shortest of bars
orders = st.fixed_dictionaries(
    {},
    optional={
        "once": onces,
        "step_range": st.builds(StepRange, first=st.integers(0, 127), last=st.integers(0, 127)),
        "direction": st.sampled_from(DIRECTIONS),
        "restart": st.builds(BarRestart, bars=st.integers(1, 5)) | st.builds(PassRestart),
    },
)
clocks = st.builds(lambda length, order: length | order, lengths_of_steps, orders)


def _by_step(model, **fields):
    return st.dictionaries(st.integers(0, 127), st.builds(dict, **fields), max_size=4).map(
        lambda rows: tuple(model(step=step, **row) for step, row in sorted(rows.items()))
    )


edits = _by_step(Edit, hit=st.booleans())
links = _by_step(Link, letter=st.sampled_from(LETTERS[:3]))
cycle_rules = st.integers(2, 16).flatmap(
    lambda of: st.builds(CycleRule, nth=st.integers(1, of), of=st.just(of))
)
step_rules = _by_step(StepRule, rule=cycle_rules)


def strips(model: type[Strip], kind: StripKind, **fields: Any) -> st.SearchStrategy[Strip]:
    """Any strip of a kind, whose spread keeps any bounds."""
    value = st.integers(kind.low, kind.high)
    ends = st.none() | value
    spread = st.builds(
        lambda by, low, high, shape: Spread(
            by=by,
            low=low if low is None or high is None else min(low, high),
            high=high if low is None or high is None else max(low, high),
            shape=shape,
        ),
        st.integers(1, min(200, kind.high - kind.low)),
        ends,
        ends,
        st.sampled_from(["even", "middle"]),
    )
    free = st.builds(Free, direction=st.sampled_from(DIRECTIONS), advance=st.sampled_from(["step", "hit"]))
    values = st.lists(st.none() | value, min_size=1, max_size=9).map(tuple)
    return st.builds(model, values=values, free=st.none() | free, spread=st.none() | spread, **fields)


percents = st.integers(1, 200)


def _with_a_long_note(strip: LengthStrip) -> LengthStrip:
    """Return *strip* with a note that is tied over seven steps in place of every fourth of four."""
    return strip.model_copy(update={"values": tuple(700 if one == 400 else one for one in strip.values)})


strip_fields = {
    "velocity_strip": strips(VelocityStrip, STRIPS["velocity"]),
    "chance_strip": strips(ChanceStrip, STRIPS["chance"]),
    "ratchet_strip": strips(
        RatchetStrip,
        STRIPS["ratchet"],
        fade_from=percents,
        fade_to=percents,
        climb=st.integers(-12, 12),
        climb_unit=st.sampled_from(["semitones", "degrees"]),
    ),
    "nudge_strip": strips(NudgeStrip, STRIPS["nudge"]),
    "length_strip": strips(LengthStrip, STRIPS["length"]).map(_with_a_long_note),
    "octave_strip": strips(OctaveStrip, STRIPS["octave"]),
}
accents = st.integers(1, 32).flatmap(
    lambda every: st.builds(
        Accent, velocity=st.integers(1, 127), every=st.just(every), first=st.integers(1, every)
    )
)
swings = st.builds(Swing, percent=st.integers(50, 75), note=st.sampled_from([8, 16]))
lane_swings = st.builds(
    LaneSwing, percent=st.integers(50, 75), note=st.sampled_from([8, 16]), own_steps=st.booleans()
)
bursts = st.lists(
    st.builds(
        Burst,
        count=st.integers(0, 6),
        value=step_values,
        length=st.integers(1, 6),
        notes=st.integers(1, 9),
        comes=st.none() | st.builds(EveryBars, bars=st.integers(1, 4)) | st.builds(EveryCycle),
        fade_from=percents,
        fade_to=percents,
        chance_percent=st.integers(0, 100),
    ),
    max_size=2,
).map(tuple)


@st.composite
def lane_clips(draw: st.DrawFn) -> LaneClip:
    """Any few kept notes and controls, going round."""
    length = draw(st.integers(1, 9).map(lambda beats: beats * 13440 // 2))
    at = st.integers(0, length - 1)
    notes = draw(
        st.lists(
            st.builds(
                Note,
                st.integers(0, 3 * length // 2),
                st.integers(1, 2 * length),
                st.integers(0, 127),
                st.integers(1, 127),
                st.integers(-12, 12),
            ),
            max_size=5,
        )
    )
    controls = draw(st.lists(st.builds(Control, at, st.integers(0, 119), st.integers(0, 127)), max_size=3))
    return LaneClip(
        name="kept", length_ticks=length, notes=tuple(sorted(notes)), controls=tuple(sorted(controls))
    )


expression = st.fixed_dictionaries(
    {},
    optional=strip_fields
    | {
        "accent": accents,
        "beat_weight": st.integers(0, 100),
        "evened": st.integers(0, 100),
        "swing": lane_swings,
        "humanise": st.builds(Humanise, ms=st.integers(0, 50), velocity=st.integers(0, 40)),
        "links": links,
        "cycle_rule": cycle_rules,
        "step_rules": step_rules,
        "bursts": bursts,
        "channel": st.integers(1, 16),
        "note": st.integers(0, 127),
        "level_db": st.integers(-48, 6),
        "pan": st.integers(-100, 100),
        "clip": lane_clips(),
    },
)


scales = st.builds(Scale, root=st.integers(0, 11), name=st.sampled_from(list(SCALES))) | st.builds(
    lambda root, degrees: Scale(root=root, name="custom", degrees=(0, *sorted(degrees))),
    st.integers(0, 11),
    st.sets(st.integers(1, 11), min_size=1),
)
chord_names = st.sampled_from(["C", "Dm7", "F♯", "B♭sus4", "E5", "G9", "Adim7", "A♭maj7"])
progressions = st.builds(
    Progression,
    chords=st.lists(
        st.builds(PlacedChord, chord=chord_names, inversion=st.integers(0, 4), lasts=spans),
        min_size=1,
        max_size=4,
    ).map(tuple),
    leading=st.sampled_from(["as-written", "nearest"]),
)


@st.composite
def keys_played(draw: st.DrawFn) -> Keys:
    """Any few keys held, some for ever, perhaps with the sustain pedal."""
    tick = st.integers(0, 40).map(lambda sixteenth: sixteenth * 13440 // 4)
    ends = st.none() | st.integers(0, 30).map(lambda sixteenth: sixteenth * 13440 // 4)
    held = draw(
        st.lists(st.tuples(tick, ends, st.integers(20, 110), st.integers(1, 127)), max_size=6).map(
            sorted_rows
        )
    )
    pedals = draw(st.lists(st.tuples(tick, ends), max_size=2).map(sorted_rows))
    return Keys(
        held=tuple(
            HeldKey(start=a, end=None if b is None else a + b, key=key, velocity=hard)
            for a, b, key, hard in held
        ),
        sustained=tuple(Sustain(start=a, end=None if b is None else a + b) for a, b in pedals),
        let_go=tuple(sorted(draw(st.sets(tick, max_size=2)))),
    )


def sorted_rows(rows: list[tuple[Any, ...]]) -> list[tuple[Any, ...]]:
    return sorted(rows, key=lambda row: row[0])


def arpeggios(others: tuple[str, ...] = ()) -> st.SearchStrategy[Arpeggio]:
    """Any arpeggio; its pool perhaps one of the lanes of those ids."""
    ends = st.tuples(st.integers(-9, 9), st.integers(0, 9))
    pools = (
        st.builds(HeldPool, latch=st.sampled_from(["off", "replace", "add"]))
        | st.builds(TypedPool, chord=chord_names)
        | st.builds(TypedPool, notes=st.lists(st.integers(0, 127), min_size=1, max_size=6).map(tuple))
        | st.builds(ChordPool)
        | ends.map(lambda two: ScalePool(low=two[0], high=two[0] + two[1]))
    )
    if others:
        pools = pools | st.builds(LanePool, of=st.sampled_from(others))
    pedals = st.integers(2, 9).flatmap(
        lambda every: st.builds(
            Pedal,
            every=st.just(every),
            first=st.integers(1, every),
            note=st.none() | st.integers(0, 127),
            again=st.booleans(),
        )
    )
    return st.builds(
        lambda pool, octaves, **fields: Arpeggio(
            pool=pool, octaves=min(octaves, MOST_AT_ONCE // Arpeggio.size_of(pool)), **fields
        ),
        pool=pools,
        order=st.sampled_from(ORDERS),
        octaves=st.integers(1, 4),
        restart=st.sampled_from(["free", "cycle", "chord"]),
        pedal=st.none() | pedals,
        velocity=st.sampled_from(["lane", "keys"]),
    )


def melodies(others: tuple[str, ...] = ()) -> st.SearchStrategy[dict[str, Any]]:
    """Any fields that concern pitch."""
    return st.fixed_dictionaries(
        {},
        optional={
            "scale": scales,
            "follows": st.sampled_from(["root", "tones", "nearest"]),
            "pitch_strip": strips(
                PitchStrip,
                STRIPS["pitch"],
                unit=st.sampled_from(["degrees", "semitones"]),
                accidentals=st.just(()) | st.lists(st.integers(-3, 3), max_size=9).map(tuple),
            ),
            "degrees_up": st.integers(-28, 28),
            "semitones_up": st.integers(-48, 48),
            "arpeggio": arpeggios(others),
            "chord_strip": strips(ChordStrip, STRIPS["chord"]),
        },
    )
