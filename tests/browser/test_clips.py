"""The collection of clips on the screen: found, heard, exported, imported, and made into lanes."""

import zipfile

import mido
import pretty_midi
import pytest
from clips.models import Clip
from playwright.sync_api import expect

from lattice.clips import Note, Track
from lattice.formats.midi import midi_file
from tests.lattice.clips.clips import BAR, clip


@pytest.fixture
def collection(musician):
    musician.page.get_by_role("link", name="Clips", exact=True).click()
    expect(musician.page.locator("[data-clip]").first).to_be_visible()
    return musician.page


def card(page, name):
    return page.locator("[data-clip]").filter(has=page.get_by_role("button", name=f"Hear {name}"))


def test_clips_are_found_by_words_sets_and_tags(collection):
    page = collection
    total = page.locator("[data-clip]").count()
    page.get_by_label("Find clips").fill("skerry")
    expect(page.locator("[data-clip]")).to_have_count(1)
    page.get_by_label("Find clips").fill("no such thing")
    expect(page.get_by_text("Nothing found")).to_be_visible()
    page.get_by_role("button", name="Show all clips").click()
    expect(page.locator("[data-clip]")).to_have_count(total)
    page.get_by_label("Sets and tags").get_by_role("button", name="seven").click()
    expect(page.locator("[data-clip]")).to_have_count(2)


def test_a_clip_is_tagged_and_put_into_a_set(collection):
    page = collection
    one = card(page, "Slack tide")
    one.get_by_label("Set of Slack tide").fill("Harbour")
    one.get_by_label("Set of Slack tide").press("Enter")
    expect(page.get_by_label("Sets and tags").get_by_role("button", name="Harbour")).to_be_visible()
    one.get_by_role("button", name="Tags of Slack tide").click()
    one.get_by_label("Tags of Slack tide, with commas between").fill("Wet, late")
    page.keyboard.press("Enter")
    expect(one.locator(".tag")).to_have_text(["late", "wet"])
    page.reload()
    expect(card(page, "Slack tide").get_by_label("Set of Slack tide")).to_have_value("Harbour")


def test_a_set_is_typed_while_the_clip_is_heard(collection):
    one = card(collection, "Slack tide")
    one.get_by_role("button", name="Hear Slack tide").click()
    collection.wait_for_function("jolly.struck().length > 0")
    field = one.get_by_label("Set of Slack tide")
    field.click()
    field.press("Control+a")
    collection.keyboard.type("Quay", delay=80)
    expect(field).to_have_value("Quay")


def test_a_clip_goes_round_at_a_click(collection):
    page = collection
    page.get_by_role("button", name="Hear Two bars off Skerry Light").click()
    page.wait_for_function("async () => (await jolly.level()) > 0.001")
    stored = Clip.objects.get(name="Two bars off Skerry Light").document
    expected = {(note[0], note[2]) for track in stored["tracks"] for note in track["notes"]}
    # Twice round at least: what a machine that stalls leaves out once is there another time.
    page.wait_for_function(
        "([length, count]) => jolly.struck().at(-1).start > 2.2 * length"
        " && new Set(jolly.struck().map(({start, pitch}) => `${start % length} ${pitch}`)).size >= count",
        arg=[2 * BAR, len(expected)],
    )
    struck = page.evaluate("jolly.struck()")
    assert {(one["start"] % (2 * BAR), one["pitch"]) for one in struck} == expected
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Hear Two bars off Skerry Light")).to_have_attribute(
        "aria-pressed", "false"
    )


def test_a_clip_is_exported_as_it_is_asked(collection, tmp_path):
    page = collection
    page.get_by_role("button", name="Export Last crossing").click()
    page.get_by_label("Type of file").select_option("0")
    page.get_by_label("Ticks to the quarter").select_option("480")
    page.get_by_label("Repeats").fill("2")
    with page.expect_download() as download:
        page.get_by_role("link", name="Export .mid").click()
    path = tmp_path / "crossing.mid"
    download.value.save_as(path)
    assert download.value.suggested_filename == "Last crossing.mid"
    midi = mido.MidiFile(path)
    assert (midi.type, midi.ticks_per_beat) == (0, 480)
    assert sum(message.time for message in midi.tracks[0]) == 8 * 4 * 480
    count = sum(len(track["notes"]) for track in Clip.objects.get(name="Last crossing").document["tracks"])
    assert sum(message.type == "note_on" for message in midi.tracks[0]) == 2 * count


def test_a_clip_is_rendered_as_sound_exactly_as_long_as_it_is(collection, tmp_path):
    page = collection
    page.get_by_role("button", name="Export Two bars off Skerry Light").click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Export .wav").click()
    data = download.value.path().read_bytes()
    assert (data[:4], data[8:12]) == (b"RIFF", b"WAVE")
    frames = (len(data) - 44) // 4
    assert frames == round(8 * 60 / 112 * 44100)
    samples = memoryview(data[44:]).cast("h")
    assert max(samples) > 3000
    # Both channels, and not one tone throughout: the loudest tenth is much louder than the softest.
    tenths = [
        max(map(abs, samples[at : at + len(samples) // 10]))
        for at in range(0, len(samples) - 20, len(samples) // 10)
    ]
    assert max(tenths) > 1.2 * min(tenths)


def test_a_set_is_exported_as_one_zip(collection, tmp_path):
    page = collection
    page.get_by_label("Sets and tags").get_by_role("button", name="Slack Water").click()
    expect(page.locator("[data-clip]")).to_have_count(2)
    page.get_by_role("button", name="Export these as one zip").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Export .zip").click()
    archive = zipfile.ZipFile(download.value.path())
    assert sorted(archive.namelist()) == ["Ratchets at the sluice.mid", "Slack tide.mid"]
    path = tmp_path / "x.mid"
    path.write_bytes(archive.read("Slack tide.mid"))
    assert sum(len(one.notes) for one in pretty_midi.PrettyMIDI(str(path)).instruments) > 50


def test_a_file_that_takes_long_is_said_and_can_be_given_up(collection, complaints):
    page = collection
    held = []

    def hold(route):
        held.append(route)

    page.route("**/api/clips/zip?*", hold)
    page.get_by_role("button", name="Export these as one zip").click()
    page.get_by_role("link", name="Export .zip").click()
    notice = page.get_by_text("“clips.zip” is being written …")
    expect(notice).to_be_visible()
    expect(page.get_by_role("progressbar", name="“clips.zip” is being written …")).to_be_visible()
    page.get_by_role("button", name="Cancel", exact=True).click()
    expect(notice).to_have_count(0)
    # What is refused is said, and the page stays where it is.
    page.unroute("**/api/clips/zip?*")
    said = {"error": {"code": "invalid", "message": "at most 100,000 notes in one zip", "errors": []}}
    page.route("**/api/clips/zip?*", lambda route: route.fulfill(status=422, json=said))
    page.get_by_role("button", name="Export these as one zip").click()
    page.get_by_role("link", name="Export .zip").click()
    expect(page.get_by_text("at most 100,000 notes in one zip")).to_be_visible()
    expect(page.get_by_role("heading", name="Clips", exact=True)).to_be_visible()
    page.unroute("**/api/clips/zip?*")
    complaints[:] = [one for one in complaints if "422" not in one and "ERR_" not in one]
    assert len(held) == 1


def test_a_clip_can_be_dragged_out_of_the_page(collection):
    given = collection.evaluate(
        """() => {
          const data = new DataTransfer()
          const event = new DragEvent('dragstart', { dataTransfer: data, bubbles: true })
          document.querySelector('[aria-label="Hear Last crossing"]').dispatchEvent(event)
          return data.getData('DownloadURL')
        }"""
    )
    kind, name, address = given.split(":", 2)
    assert (kind, name) == ("audio/midi", "Last crossing.mid")
    assert collection.request.get(address).body()[:4] == b"MThd"


def bring(page, tmp_path, name, data):
    path = tmp_path / name
    path.write_bytes(data)
    page.locator("input[type=file]").set_input_files(path)


def test_a_midi_file_is_imported_and_can_be_heard(collection, tmp_path):
    page = collection
    notes = tuple(Note(at * 3360, 3000, 60 + at % 5, 90) for at in range(16))
    bells = midi_file(clip(tracks=(Track(lane="Bells", channel=1, notes=notes),), bars=1))
    bring(page, tmp_path, "Bells ashore.mid", bells)
    page.get_by_role("dialog", name="Import MIDI files").get_by_role(
        "button", name="Import", exact=True
    ).click()
    expect(page.get_by_role("button", name="Hear Bells ashore")).to_be_visible()
    page.get_by_role("button", name="Hear Bells ashore").click()
    page.wait_for_function(f"jolly.struck().at(-1)?.start > {BAR}")
    page.wait_for_function("async () => (await jolly.level()) > 0.001")


def test_a_file_that_is_none_is_refused_saying_why(collection, tmp_path, complaints):
    page = collection
    count = page.locator("[data-clip]").count()
    bring(page, tmp_path, "archive.mid", b"PK\x03\x04 something")
    page.get_by_role("button", name="Import", exact=True).click()
    expect(page.get_by_text("archive.mid: It is no MIDI file but a zip archive")).to_be_visible()
    expect(page.locator("[data-clip]")).to_have_count(count)
    complaints.clear()


def test_notes_become_lanes_and_say_what_they_are(collection, tmp_path):
    page = collection
    places = [((hit + 3) % 8 + turn * 8) * 3360 for turn in range(2) for hit in (0, 2, 3, 5, 6)]
    hits = tuple(Note(place, 3360, 42, 90) for place in sorted(places))
    bring(page, tmp_path, "Fives.mid", midi_file(clip(tracks=(Track(lane="Clink", notes=hits),), bars=1)))
    page.get_by_role("button", name="Import", exact=True).click()
    page.get_by_role("button", name="More of Fives").click()
    page.get_by_role("button", name="Make lanes of it").click()
    said = page.get_by_role("group", name="Lanes of Fives")
    expect(said.get_by_role("button", name="✓ this is 5 in 8, rotated 3")).to_be_visible()
    page.get_by_role("button", name="As a new piece").click()
    expect(page.locator(".thread").first).to_be_visible()
    expect(page.locator("[data-lane] .sentence").first).to_contain_text("5 in 8")
    expect(page.locator("[data-lane] .sentence").first).to_contain_text("rotated 3")


def test_the_pattern_of_a_clip_is_opened_again_as_it_stood(collection):
    page = collection
    page.get_by_role("button", name="More of Last crossing").click()
    page.get_by_role("button", name="Open its pattern again as it stood").click()
    expect(page.get_by_label("Name of the piece")).to_have_value("Night Ferry as it stood")
    expect(page.locator("[data-lane=bottle] .sentence")).to_contain_text("5 in 16")


def test_a_midi_file_is_dropped_on_the_page(collection):
    page = collection
    data = list(midi_file(clip(tracks=(Track(lane="Clink", notes=(Note(0, 3360, 42, 90),)),), bars=1)))
    page.evaluate(
        """(bytes) => {
          const files = new DataTransfer()
          files.items.add(new File([new Uint8Array(bytes)], 'Dropped.mid', { type: 'audio/midi' }))
          const drop = new DragEvent('drop', { dataTransfer: files, bubbles: true, cancelable: true })
          document.querySelector('main.clips').dispatchEvent(drop)
        }""",
        data,
    )
    page.get_by_label("A track for each").select_option("note")
    page.get_by_role("button", name="Import", exact=True).click()
    expect(page.get_by_role("button", name="Hear Dropped")).to_be_visible()
    assert Clip.objects.get(name="Dropped").document["tracks"][0]["lane"] == "Closed Hi Hat"


def test_the_notes_are_copied_as_text(collection, context):
    page = collection
    context.grant_permissions(["clipboard-read", "clipboard-write"])
    page.get_by_role("button", name="Export Last crossing").click()
    page.get_by_role("button", name="Copy the notes as text").click()
    expect(page.get_by_text("The notes lie on the clipboard")).to_be_visible()
    told = page.evaluate("navigator.clipboard.readText()")
    assert told.startswith("Last crossing\t112 BPM\t4/4\t4 bars\n")
    assert "Thud\t10\t1:1:1\t" in told


def test_the_pattern_is_exported_as_a_midi_file(musician, tmp_path):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_role("button", name="The pattern as a MIDI file").click()
    page.get_by_label("Bars of the file").fill("3")
    with page.expect_download() as download:
        page.get_by_role("button", name="Export .mid").click()
    midi = mido.MidiFile(download.value.path())
    assert (midi.type, len(midi.tracks) > 8) == (1, True)
    assert {sum(message.time for message in track) for track in midi.tracks} == {3 * 4 * 960}
