"""The clip editor: notes under the hand, while they sound."""

import pytest
from clips.models import Clip
from playwright.sync_api import expect

from tests.browser.conftest import BAR
from tests.browser.gate import gate


@pytest.fixture
def editor(musician):
    page = musician.page
    page.get_by_role("link", name="Clips", exact=True).click()
    clip = page.locator("[data-clip]").filter(
        has=page.get_by_role("button", name="Hear Two bars off Skerry Light")
    )
    clip.get_by_role("link", name="Work on it").click()
    expect(page.get_by_role("application")).to_be_visible()
    return Editor(page)


class Editor:
    """The sheet of a clip of two bars, seen whole."""

    ruler, below = 22, 92

    def __init__(self, page):
        self.page = page
        page.wait_for_timeout(300)  # until the sheet has its size
        self.box = page.get_by_role("application").bounding_box()

    @property
    def stored(self):
        return Clip.objects.get(name="Two bars off Skerry Light").document

    def notes(self, lane):
        return next(track["notes"] for track in self.stored["tracks"] if track["lane"] == lane)

    def at(self, lane, tick):
        names = [track["lane"] for track in self.stored["tracks"]]
        rows = len(names)
        tall = min(52, max(22, (self.box["height"] - self.ruler - self.below) / rows))
        x = self.box["x"] + tick * self.box["width"] / self.stored["length_ticks"]
        return x, self.box["y"] + self.ruler + (names.index(lane) + 0.5) * tall

    def drag(self, start, end):
        self.page.mouse.move(*start)
        self.page.mouse.down()
        self.page.mouse.move(*end, steps=6)
        self.page.mouse.up()

    def wait(self, undo):
        """Wait until an edit is there, by what undo would take back."""
        self.wait_for_part(undo)
        expect(self.page.get_by_text(f"{undo} (Ctrl+Z)", exact=True)).to_be_visible()
        self.page.mouse.move(400, 8)

    def wait_for_part(self, undo):
        """Wait until an edit is there, by the end of what undo would take back."""
        self.page.mouse.move(400, 8)
        button = self.page.get_by_role("button", name="Undo", exact=True)
        expect(button).to_be_enabled()
        button.hover()
        expect(self.page.get_by_text(f"{undo} (Ctrl+Z)")).to_be_visible()


def test_a_note_is_chosen_moved_by_hand_and_by_keys_and_undone(editor):
    page = editor.page
    before = editor.notes("Thud")
    x, y = editor.at("Thud", before[1][0])
    step = editor.box["width"] / 32
    editor.drag((x + 6, y), (x + 6 + step, y))
    editor.wait("1 note moved")
    moved = before[1][0] + 3360
    assert moved in [note[0] for note in editor.notes("Thud")]
    expect(page.get_by_text("1 note chosen")).to_be_visible()
    page.keyboard.press("ArrowRight")
    page.wait_for_function("document.querySelector('.exact input').value === '1:2:6721'")
    assert moved + 3360 in [note[0] for note in editor.notes("Thud")]
    for _ in range(4):  # oftener than there is something to undo
        page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_disabled()
    assert editor.notes("Thud") == before


def test_what_is_pressed_before_an_edit_was_answered_is_about_the_notes_that_were_chosen_then(editor):
    page = editor.page
    thuds, chains = editor.notes("Thud"), editor.notes("Chain")
    gate.delay = 0.6
    x, y = editor.at("Thud", thuds[1][0])
    editor.drag((x + 6, y), (x + 6 + editor.box["width"] / 32, y))
    x, y = editor.at("Chain", chains[0][0])
    page.mouse.click(x + 6, y)
    page.keyboard.press("Delete")
    x, y = editor.at("Chain", chains[2][0])
    page.mouse.click(x + 6, y)
    editor.wait("1 note deleted")
    expect(page.get_by_text("1 note chosen")).to_be_visible()
    assert editor.notes("Chain") == chains[1:]
    assert [note[0] for note in editor.notes("Thud")] == sorted(
        start + 3360 * (at == 1) for at, (start, *_) in enumerate(thuds)
    )
    page.keyboard.press("Delete")
    expect(page.get_by_text("All notes")).to_be_visible()
    assert editor.notes("Chain") == [chains[1], *chains[3:]]


def test_a_box_chooses_and_delete_removes_what_is_in_it(editor):
    page = editor.page
    before = {lane: editor.notes(lane) for lane in ("Thud", "Chain", "Bottle")}
    begin = 1.5 * BAR - 1680  # between two of its notes
    x, y = editor.at("Thud", begin)
    _, bottom = editor.at("Chain", 0)
    editor.drag((x, y - 14), (editor.box["x"] + editor.box["width"] - 2, bottom + 12))
    expect(page.get_by_text("notes chosen")).to_be_visible()
    page.keyboard.press("Delete")
    expect(page.get_by_text("All notes")).to_be_visible()
    for lane in ("Thud", "Chain"):
        assert [note[0] for note in editor.notes(lane)] == [
            n[0] for n in before[lane] if n[0] + n[1] <= 1.5 * BAR
        ]
    assert editor.notes("Bottle") == before["Bottle"]


def test_a_double_click_adds_a_note_on_the_grid_and_removes_it(editor):
    page = editor.page
    count = len(editor.notes("Rail"))
    free = next(
        at for at in range(32) if all(not n[0] - 3360 < at * 3360 < n[0] + n[1] for n in editor.notes("Rail"))
    )
    x, y = editor.at("Rail", free * 3360)
    page.mouse.dblclick(x + 8, y)
    editor.wait("A note on Rail")
    assert free * 3360 in [note[0] for note in editor.notes("Rail")]
    page.mouse.dblclick(x + 8, y)
    editor.wait("1 note deleted")
    assert len(editor.notes("Rail")) == count


def test_all_of_a_lane_is_quantised_scattered_and_ramped(editor):
    page = editor.page
    page.get_by_role("button", name="Choose all of Bottle").click()
    others = [track for track in editor.stored["tracks"] if track["lane"] != "Bottle"]
    page.get_by_role("button", name="Quantise").click()
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_enabled()
    assert all(note[0] % 3360 == 0 for note in editor.notes("Bottle"))
    page.get_by_role("button", name="Ramp").click()
    editor.wait("velocity ramp from 60 to 110")
    velocities = [note[3] for note in editor.notes("Bottle")]
    assert (velocities[0], velocities[-1], velocities) == (60, 110, sorted(velocities))
    starts = {note[0] for note in editor.notes("Bottle")}
    page.get_by_role("button", name="Scatter").click()
    editor.wait(f"30 % of {len(velocities)} notes scattered")
    assert {note[0] for note in editor.notes("Bottle")} != starts
    assert [track for track in editor.stored["tracks"] if track["lane"] != "Bottle"] == others


def test_velocities_are_painted(editor):
    page = editor.page
    page.get_by_role("button", name="Choose all of Thud").click()
    bottom = editor.box["y"] + editor.box["height"]
    editor.drag((editor.box["x"] + 2, bottom - 80), (editor.box["x"] + editor.box["width"] - 4, bottom - 80))
    editor.wait("velocities painted")
    velocities = {note[3] for note in editor.notes("Thud")}
    assert len(velocities) == 1
    assert velocities.pop() > 100


def test_it_loops_while_it_is_edited_and_is_compared_with_the_opening(editor):
    page = editor.page
    page.get_by_role("button", name="Loop it").click()
    page.wait_for_function("jolly.struck().length > 5")
    page.get_by_role("button", name="Choose all of Thud").click()
    page.keyboard.press("Delete")
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_enabled()
    at = page.evaluate("jolly.struck().at(-1).start")
    page.wait_for_function(f"jolly.struck().at(-1).start > {at + 1.5 * BAR}")
    later = [note["lane"] for note in page.evaluate("jolly.struck()") if note["start"] > at + BAR / 4]
    assert later
    assert "Thud" not in later
    page.keyboard.press("c")
    expect(page.get_by_role("button", name="Back to now")).to_be_visible()
    at = page.evaluate("jolly.struck().at(-1).start")
    page.wait_for_function(f"jolly.struck().some(({{ start, lane }}) => start > {at} && lane === 'Thud')")
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Loop it")).to_be_visible()


def test_exact_values_are_typed(editor):
    page = editor.page
    x, y = editor.at("Thud", editor.notes("Thud")[0][0])
    page.mouse.click(x + 6, y)
    page.get_by_label("Velocity", exact=True).fill("33")
    page.keyboard.press("Enter")
    editor.wait("velocity of 1 note")
    page.get_by_label("Start: bar, beat, tick").fill("2:1:8")
    page.keyboard.press("Enter")
    editor.wait("start of 1 note")
    assert [BAR + 7, 33] in [[note[0], note[3]] for note in editor.notes("Thud")]


def test_what_is_typed_is_for_the_note_that_was_chosen_and_no_answer_takes_it_away(editor):
    page = editor.page
    thuds, chains = editor.notes("Thud"), editor.notes("Chain")
    gate.delay = 0.6
    x, y = editor.at("Thud", thuds[0][0])
    page.mouse.click(x + 6, y)
    page.get_by_label("Length in ticks").fill("900")
    page.keyboard.press("Tab")
    velocity = page.get_by_label("Velocity", exact=True)
    velocity.fill("33")
    editor.wait("length of 1 note")
    expect(velocity).to_have_value("33")
    x, y = editor.at("Chain", chains[0][0])
    page.mouse.click(x + 6, y)
    editor.wait("velocity of 1 note")
    assert editor.notes("Thud")[0] == [thuds[0][0], 900, thuds[0][2], 33, thuds[0][4]]
    assert editor.notes("Chain") == chains
    expect(velocity).to_have_value(str(chains[0][3]))


def test_notes_are_copied_pasted_and_repeated(editor):
    page = editor.page
    count = len(editor.notes("Chain"))
    page.get_by_role("button", name="Choose all of Chain").click()
    page.keyboard.press("Control+c")
    page.keyboard.press("Control+v")
    editor.wait(f"{count} pasted")
    assert editor.stored["length_ticks"] == 4 * BAR
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Repeat").click()
    editor.wait("repeated")
    assert editor.stored["length_ticks"] == 8 * BAR


def test_clips_are_joined_and_paced(editor):
    page = editor.page
    page.get_by_role("button", name="Join on").click()
    page.get_by_role("button", name="Last crossing 4 bars", exact=True).click()
    editor.wait("“Last crossing” joined on")
    assert editor.stored["length_ticks"] == 6 * BAR
    page.get_by_role("button", name="Half pace").click()
    editor.wait("half pace")
    assert editor.stored["length_ticks"] == 12 * BAR


def test_an_edit_that_cannot_be_stored_waits_over_a_reload_and_is_done_when_the_server_is_back(
    editor, context, complaints
):
    page = editor.page
    before = editor.stored
    context.route("**/edits", lambda route: route.abort())
    page.get_by_role("button", name="Half pace").click()
    expect(page.get_by_text("the edit waits for the server")).to_be_visible()
    assert editor.stored == before
    page.reload()
    expect(page.get_by_role("status").filter(has_text="1 change waits")).to_be_visible()
    assert editor.stored == before
    context.unroute("**/edits")
    editor.wait("half pace")
    complaints.clear()


@pytest.mark.parametrize(
    ("button", "undo"),
    [
        ("Swing", "swing 58 % in"),
        ("straighten", "swing 58 % out"),
        ("Humanise", "notes humanised by 40 %"),
        ("softer", "notes softer"),
        ("harder", "notes harder"),
        ("Repeat", "repeated"),
        ("Double", "double pace"),
    ],
)
def test_every_button_does_what_it_says_to_all_notes_and_is_undone(editor, button, undo):
    before = editor.stored
    page = editor.page
    page.get_by_label("What can be done").get_by_role("button", name=button, exact=True).click()
    editor.wait_for_part(undo)
    after = editor.stored
    assert after["tracks"] != before["tracks"] or after["length_ticks"] != before["length_ticks"]
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_disabled()
    assert editor.stored == before


def test_drums_are_not_transposed_and_it_says_what_to_do_instead(editor, complaints):
    before = editor.stored
    page = editor.page
    page.get_by_label("What can be done").get_by_role("button", name="Transpose", exact=True).click()
    expect(page.get_by_text("drums have no pitch to transpose: drag a note up or down")).to_be_visible()
    assert editor.stored == before
    complaints.clear()


def test_it_is_cropped_to_the_bars_of_the_chosen_notes(editor):
    page = editor.page
    first, *_, last = editor.notes("Thud")
    x, y = editor.at("Thud", last[0])
    page.mouse.click(x + 6, y)
    page.get_by_role("button", name="Crop").click()
    editor.wait("cropped")
    assert editor.stored["length_ticks"] == BAR
    assert first[0] in [
        note[0] for note in editor.notes("Thud")
    ]  # the second bar's first, now at the beginning


def test_a_controller_is_painted(editor):
    page = editor.page
    page.get_by_label("Painted below").select_option("74")
    bottom = editor.box["y"] + editor.box["height"]
    editor.drag((editor.box["x"] + 2, bottom - 20), (editor.box["x"] + editor.box["width"] / 2, bottom - 80))
    editor.wait("74 brightness painted")
    controls = editor.stored["tracks"][0]["controls"]
    assert [tick for tick, _, _ in controls] == [step * 3360 for step in range(len(controls))]
    values = [value for _, _, value in controls]
    assert len(values) >= 16
    assert values == sorted(values)
    assert values[-1] > values[0] + 50
