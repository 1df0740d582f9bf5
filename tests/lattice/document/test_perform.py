import pytest

from lattice.document import DocumentError, Piece, read
from lattice.document.perform import MAX_HANDS, BigControl
from lattice.document.piece import Pattern

PIECE = Piece(name="Night Ferry", patterns=(Pattern(id="a", name="A"),))


def test_a_layout_is_stored_with_the_piece_whatever_lanes_its_patterns_have():
    hands = (BigControl(lane="gone", control="busy"), BigControl(control="degrees_up"))
    kept = read(Piece, PIECE.model_copy(update={"hands": hands}).model_dump(mode="json"))
    assert kept.hands == hands


@pytest.mark.parametrize(
    "hands",
    [
        [{"lane": "thud", "control": "swagger"}],
        [{"control": "busy"}],  # a lane's, not a pattern's
        [{"lane": "thud", "control": "busy"}] * (MAX_HANDS + 1),
    ],
)
def test_what_cannot_be_taken_hold_of_is_refused(hands):
    with pytest.raises(DocumentError, match="hands"):
        read(Piece, PIECE.model_dump(mode="json") | {"hands": hands})
