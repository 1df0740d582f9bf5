"""What a small drawing shows of a clip."""

from hypothesis import given
from hypothesis import strategies as st

from lattice.clips import Note
from lattice.clips.drawn import MOST_DRAWN, drawn_notes

notes = st.builds(Note, st.integers(0, 53759), st.integers(1, 5000), st.integers(0, 127), st.integers(1, 127))


def test_few_notes_are_all_drawn():
    rows = [[(0, 10, 36, 90), (0, 20, 36, 90)], []]
    assert drawn_notes(rows, 53760) == rows


@given(st.lists(notes, min_size=1, max_size=40), st.integers(40, 120))
def test_of_many_no_more_are_drawn_than_can_be_seen(some, times):
    many = sorted(note._replace(length=note.length + more) for more in range(times) for note in some)
    (drawn,) = drawn_notes([many], 53760)
    assert len(drawn) <= MOST_DRAWN
    assert set(drawn) <= set(many)
    assert [note[0] for note in drawn] == sorted(note[0] for note in drawn)
    if len(many) > MOST_DRAWN:
        assert {note[2] for note in drawn} == {note[2] for note in many}  # no pitch goes unseen
