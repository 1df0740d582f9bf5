"""Edits of a clip to search with."""

from hypothesis import strategies as st

from lattice.clips.edits.feel import Harder, Humanised, Quantise, Ramp, Swung
from lattice.clips.edits.notes import Move, Resize, SetNotes, Transpose
from lattice.clips.edits.shape import Lengthen, Pace, Repeat, Scatter
from lattice.document import StepValue, Swing
from tests.lattice.clips.clips import BAR

throws = st.integers(1, 999_999)
percents = st.integers(0, 100)
grids = st.sampled_from([StepValue(), StepValue(note=8, kind="triplet"), StepValue(note=2, divisor=7)])

anything = st.one_of(
    st.builds(
        Move, steps=st.integers(-9, 9), step=grids, ticks=st.integers(-99, 99), rows=st.integers(-2, 2)
    ),
    st.builds(Move, semitones=st.integers(-127, 127)),
    st.builds(Transpose, semitones=st.integers(-127, 127)),
    st.builds(Resize, steps=st.integers(-9, 9), step=grids),
    st.builds(SetNotes, start=st.none() | st.integers(0, 9 * BAR), velocity=st.none() | st.integers(1, 127)),
    st.builds(Quantise, percent=percents, step=grids),
    st.builds(Swung, swing=st.builds(Swing, percent=st.integers(50, 75)), out=st.booleans()),
    st.builds(Humanised, percent=percents, throw=throws),
    st.builds(Harder, by=st.integers(-126, 126)),
    st.builds(Ramp, first=st.integers(1, 127), last=st.integers(1, 127)),
    st.builds(Scatter, percent=percents, throw=throws, step=grids),
    st.builds(Repeat, times=st.integers(1, 3), step=grids),
    st.builds(Pace, pace=st.sampled_from(["half", "double"])),
    st.builds(Lengthen, bars=st.integers(1, 6)),
)
