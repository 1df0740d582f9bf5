"""What a page has already is not sent again; what it puts together from the news is what was drawn."""

from hypothesis import given
from hypothesis import strategies as st

from lattice.document import Euclidean, Score
from lattice.render import Window
from lattice.screen import Rendering, news, picture
from tests.lattice.scores import dice, lane, score, scores

FOUR = score(*(lane(name) for name in ("thud", "chain", "bottle", "bell")))
WINDOW = Window(bars=2)


class Page:
    """What a page keeps: items by their marks."""

    def __init__(self) -> None:
        self.marks: dict[str, str] = {}
        self.items: dict[str, object] = {}

    def hear(self, built: Rendering) -> tuple[object, ...]:
        """Take the news of what was *built* and return what the page draws."""
        told = news(built, self.marks)
        fresh = {f"lane {one.id}": one for one in told.lanes}
        fresh |= {f"standing {one.setting}": one for one in told.standing}
        for bench in told.benches:
            fresh[f"bench {bench.id}"] = bench.model_copy(update={"fields": [], "strips": []})
            fresh |= {f"field {bench.id} {one.setting}": one for one in bench.fields}
            fresh |= {f"strip {bench.id} {one.name}": one for one in bench.strips}
        if told.meeting:
            fresh["meeting"] = told.meeting
        self.items = {key: fresh.get(key, self.items.get(key)) for key in told.marks}
        self.marks = told.marks
        return tuple(self.items.values())


def all_of(built: Rendering) -> tuple[object, ...]:
    """Everything that is drawn, by a page that knows nothing."""
    return Page().hear(built)


@given(scores(min_lanes=1), scores(min_lanes=1), dice, st.integers(0, 3))
def test_a_page_that_hears_the_news_draws_what_is_so(one: Score, other: Score, dice: int, first: int):
    page = Page()
    for asked, window in (
        (one, WINDOW),
        (other, WINDOW),
        (one, Window(first_bar=first, bars=1)),
        (one, WINDOW),
    ):
        built = picture(asked, dice, window, [each.id for each in asked.lanes[:2]])
        assert page.hear(built) == all_of(built)
        # No two items have one name.
        told = news(built, {})
        parts = sum(1 + len(bench.fields) + len(bench.strips) for bench in told.benches)
        assert len(told.marks) == len(told.lanes) + len(told.standing) + parts + 1


def test_nothing_is_sent_where_nothing_changed():
    built = picture(FOUR, 1, WINDOW, ["thud"])
    told = news(built, news(built, {}).marks)
    assert (told.lanes, told.benches, told.standing, told.meeting) == ([], [], [], None)


def test_one_number_sends_its_lane_and_what_it_changed_of_the_bench():
    before = news(picture(FOUR, 1, WINDOW, ["thud", "bell"]), {})
    assert [one.id for one in before.lanes] == [one.id for one in FOUR.lanes]
    moved = FOUR.lanes[0].model_copy(update={"source": Euclidean(hits=5, steps=16)})
    after = FOUR.model_copy(update={"lanes": (moved, *FOUR.lanes[1:])})
    told = news(picture(after, 1, WINDOW, ["thud", "bell"]), before.marks)
    assert [one.id for one in told.lanes] == ["thud"]
    assert [(bench.id, [field.setting for field in bench.fields]) for bench in told.benches] == [
        ("thud", ["source"])
    ]
    assert (told.meeting, told.standing) == (None, [])
