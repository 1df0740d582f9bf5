"""Figures of takes, clips and MIDI files: ratios, and what a musician waits for in the browser."""

import random
from io import BytesIO

import mido
from accounts.models import User
from clips import services
from clips.models import Clip
from playwright.sync_api import expect

from lattice.clips import Note, Track, edited, take
from lattice.clips.edits.feel import Quantise
from lattice.document import DOCKSIDE, Euclidean, Lane, Score
from lattice.formats.midi import midi_file
from lattice.formats.midi_reader import read_midi
from lattice.render import Window, render
from tests.lattice.clips.clips import clip
from timings.conftest import milliseconds, tell
from timings.test_edit import open_with

SIXTEEN = Score(
    tempo=112.0,
    kit=DOCKSIDE,
    lanes=tuple(
        Lane(
            id=f"lane-{number}",
            name=f"Lane {number + 1}",
            voice=DOCKSIDE.voices[number % 12].id,
            note=30 + number,
            source=Euclidean(hits=5 + number % 6, steps=16),
            chance_percent=70,
        )
        for number in range(16)
    ),
)


def long_clip(notes: int, name: str = "Long"):
    """Return a clip of so many notes over eight lanes, some off the grid."""
    luck = random.Random(7)
    each = notes // 8
    tracks = tuple(
        Track(
            lane=f"Lane {lane + 1}",
            ink=lane,
            channel=lane + 1,
            notes=tuple(
                Note(
                    at * 3360 + luck.randrange(900),
                    2000 + luck.randrange(400),
                    40 + lane,
                    1 + luck.randrange(127),
                )
                for at in range(each)
            ),
        )
        for lane in range(8)
    )
    return clip(tracks=tracks, bars=-(-each // 16), name=name)


def test_a_megabyte_of_midi_is_read_hardly_slower_than_mido_loads_it():
    data = midi_file(long_clip(98_000))
    assert len(data) > 700_000
    ours = milliseconds(lambda: read_midi(data, "x"), times=1)
    theirs = milliseconds(lambda: mido.MidiFile(file=BytesIO(data)), times=1)
    read = read_midi(data, "x").clip
    assert read.note_count == 98_000
    tell(f"reading {len(data) / 2**20:.1f} MB of MIDI / mido's load", f"{ours / theirs:.2f}", "1.5")


def test_a_take_costs_little_more_than_its_notes():
    window = Window(bars=8)
    numbers = iter(range(10_000))
    taken = milliseconds(lambda: take(SIXTEEN, next(numbers), window))
    rendered = milliseconds(lambda: render(SIXTEEN, next(numbers), window))
    one = take(SIXTEEN, 1, window)
    assert sum(len(track.notes) for track in one.tracks) == len(render(SIXTEEN, 1, window))
    tell("a take of 8 bars x 16 lanes", f"{taken:.0f} ms", "23 ms: 64 in 1.5 s")
    tell("a take / rendering its notes", f"{taken / rendered:.2f}", "2")


def test_an_edit_of_twenty_thousand_notes_takes_a_moment():
    long = long_clip(20_000)
    taken = milliseconds(lambda: edited(long, Quantise()), times=5)
    after = edited(long, Quantise()).clip
    assert {note.start % 3360 for track in after.tracks for note in track.notes} == {0}
    tell("quantising 20,000 notes", f"{taken:.0f} ms", "100 ms")


def test_five_thousand_clips_are_searched_at_once(musician):
    owner = User.objects.get()
    template = Clip.objects.filter(owner=owner).first()
    Clip.objects.bulk_create(
        Clip(
            owner=owner,
            document=template.document | {"name": f"Clip {number} {'gull' if number % 100 == 0 else 'rope'}"},
            tags=["dawn"] if number % 50 == 0 else [],
        )
        for number in range(5000)
    )
    taken = milliseconds(lambda: list(services.matching(owner, "gull")[:50]))
    assert services.matching(owner, "gull").count() == 50
    tell("searching 5,000 clips, a page of 50 found", f"{taken:.0f} ms", "100 ms")
    page = musician.page
    page.get_by_role("link", name="Clips", exact=True).click()
    expect(page.locator("[data-clip]").first).to_be_visible()
    shown = page.evaluate(
        """async () => {
          const field = document.querySelector('[aria-label="Find clips"]')
          const start = performance.now()
          const drawn = new Promise((resolve) => {
            const look = () =>
              document.querySelector('header [role=status]').textContent.trim() === '50 clips'
                ? resolve(performance.now() - start)
                : requestAnimationFrame(look)
            look()
          })
          field.value = 'gull'
          field.dispatchEvent(new Event('input', { bubbles: true }))
          return drawn
        }"""
    )
    assert page.locator("[data-clip]").count() == 50
    tell(
        "from the last letter typed to 50 clips drawn, of which 120 ms are waited",
        f"{shown:.0f} ms",
        "250 ms",
    )


def test_sixty_four_takes_are_thrown_and_drawn(musician):
    page = open_with(musician, SIXTEEN)
    page.get_by_role("link", name="Takes", exact=True).click()
    page.get_by_label("Takes", exact=True).fill("64")
    page.get_by_label("Bars of a take").fill("8")
    taken = page.evaluate(
        """async () => {
          const start = performance.now()
          const seen = []
          document.querySelector('form.throw [type=submit]').click()
          return new Promise((resolve) => {
            const look = () => {
              const count = document.querySelectorAll('[data-take]').length
              if (count !== seen.at(-1)) seen.push(count)
              if (count === 64) resolve({ taken: performance.now() - start, seen })
              else requestAnimationFrame(look)
            }
            look()
          })
        }"""
    )
    assert len(taken["seen"]) > 2, "some were seen before all"
    tell("64 takes of 8 bars x 16 lanes, thrown and drawn", f"{taken['taken']:.0f} ms", "1,500 ms")


def test_a_clip_of_twenty_thousand_notes_opens_and_scrolls(musician):
    owner = User.objects.get()
    stored = services.store(owner, long_clip(20_000, "Twenty thousand"))
    page = musician.page
    page.get_by_role("link", name="Clips", exact=True).click()
    one = page.locator(f"[data-clip='{stored.pk}']")
    expect(one).to_be_visible()
    opened = page.evaluate(
        """async (id) => {
          const start = performance.now()
          document.querySelector(`[data-clip="${id}"] a`).click()
          return new Promise((resolve) => {
            const look = () => {
              const canvas = document.querySelector('[role=application] canvas')
              if (!canvas?.width) return requestAnimationFrame(look)
              requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - start)))
            }
            look()
          })
        }""",
        stored.pk,
    )
    tell("a clip of 20,000 notes opens in the editor", f"{opened:.0f} ms", "1,000 ms")
    frames = page.evaluate(
        """async () => {
          const sheet = document.querySelector('[role=application]')
          const times = []
          let last = performance.now()
          for (let turn = 0; turn < 60; turn++) {
            const how = { deltaY: 120, shiftKey: true, bubbles: true, cancelable: true }
            sheet.dispatchEvent(new WheelEvent('wheel', how))
            await new Promise(requestAnimationFrame)
            times.push(performance.now() - last)
            last = performance.now()
          }
          return times.sort((one, other) => one - other)
        }"""
    )
    tell("scrolling through it, a frame", f"p50 {frames[30]:.0f} ms, p95 {frames[57]:.0f} ms", "17, 33 ms")
    edited_in = page.evaluate(
        """async () => {
          const buttons = [...document.querySelectorAll('button')]
          const button = (says) => buttons.find((one) => one.textContent.includes(says))
          const undo = () => button('Undo')
          const start = performance.now()
          button('Quantise').click()
          return new Promise((resolve) => {
            const look = () => (undo().disabled ? requestAnimationFrame(look) : resolve(performance.now() - start))
            look()
          })
        }"""
    )
    assert {
        note[0] % 3360
        for track in Clip.objects.get(pk=stored.pk).document["tracks"]
        for note in track["notes"]
    } == {0}
    tell("quantising all of it, stored and drawn", f"{edited_in:.0f} ms", "1,000 ms")
