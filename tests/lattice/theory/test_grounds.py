import pytest

from lattice.theory.grounds import GROUNDS, ground_text, read_ground

HEAD = "ground Slip\nmeter 4/4\nstep 1/16\n"


def written(*stands: str) -> str:
    return HEAD + "".join(f"stand {number}\n{stand}\n" for number, stand in enumerate(stands))


def test_a_ground_is_read_as_a_musician_writes_it():
    ground = read_ground(written(*["low X.-o # the low one\n\nhat oooo"] * 9))
    assert (ground.name, ground.meter, ground.step, ground.steps) == ("Slip", (4, 4), 16, 4)
    assert ground.stands[8].parts == {"low": (3, 0, 1, 2), "hat": (2, 2, 2, 2)}
    assert ground.parts == ("low", "hat")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (written(*["low X..."] * 8), "9-16 stands"),
        (written(*["low X..."] * 9).replace("meter 4/4\n", ""), "no meter"),
        (written(*["low X..."] * 8, "tuba X..."), "line 21: there is no part 'tuba'"),
        (written(*["low X...\nlow X..."] * 9), "line 6: low is there twice in 0"),
        (written(*["low X..."] * 8, "low X.."), "line 21: low has 3 steps where the ground has 4"),
        (written(*["low X.x."] * 9), "line 5: low has"),
        ("colour red\n" + written("low X..."), "line 1: expected ground, meter, step or stand"),
    ],
)
def test_what_cannot_be_read_is_refused_with_its_line(text, said):
    with pytest.raises(ValueError, match=said):
        read_ground(text)


def test_every_ground_has_a_file_of_its_name():
    assert [ground_text(ground).name.lower().replace(" ", "-") for ground in GROUNDS] == list(GROUNDS)
