"""MIDI files with broken bytes are read or refused in a sentence, and nothing else happens."""

from hypothesis import given
from hypothesis import settings as budget
from hypothesis import strategies as st

from lattice.document import DocumentError
from lattice.formats.midi import Export, midi_file
from lattice.formats.midi_reader import read_midi
from tests.lattice.clips.clips import clips

BREAKS = st.lists(
    st.tuples(
        st.floats(0, 1, exclude_max=True), st.sampled_from(["set", "insert", "cut"]), st.binary(max_size=6)
    ),
    min_size=1,
    max_size=12,
)


@budget(max_examples=2000)
@given(clips(), st.sampled_from([96, 480, 960]), st.sampled_from([0, 1]), BREAKS)
def test_broken_files_are_read_or_refused(one, resolution, kind, breaks):
    data = bytearray(midi_file(one, Export(resolution=resolution, type=kind)))
    for place, how, new in breaks:
        at = int(place * len(data))
        if how == "set":
            data[at : at + len(new)] = new
        elif how == "insert":
            data[at:at] = new
        else:
            del data[at : at + len(new)]
    try:
        read = read_midi(bytes(data), "broken")
    except DocumentError:
        return
    assert midi_file(read.clip, Export(resolution=resolution, type=kind))
