"""What tests of ports, controllers and voices do and read; a browser's MIDI that remembers what it was sent."""

from playwright.sync_api import expect

# A browser's MIDI with one synthesiser and one controller, which remembers what it was sent.
FAKE_MIDI = """
window.fakeMidi = { sent: [], refused: false, hear: null, access: null }
class Input extends EventTarget { constructor() { super(); this.name = 'Eight knobs'; this.state = 'connected' } }
navigator.requestMIDIAccess = async () => {
  if (fakeMidi.refused) throw new DOMException('no', 'NotAllowedError')
  const input = new Input()
  fakeMidi.hear = (bytes) => input.dispatchEvent(
    Object.assign(new Event('midimessage'), { data: Uint8Array.from(bytes) }))
  const out = { name: 'Quay synth', state: 'connected',
    send: (data, stamp) => fakeMidi.sent.push({ data: [...data], stamp, handed: performance.now() }) }
  fakeMidi.out = out
  fakeMidi.access = { outputs: new Map([['1', out]]), inputs: new Map([['2', input]]), onstatechange: null }
  return fakeMidi.access
}
"""


def ports_of(musician, name="Night Ferry"):
    page = musician.open(name).page
    page.get_by_role("link", name="Ports").click()
    expect(page.get_by_role("region", name="Instruments")).to_contain_text("simulated instrument")
    return page


def kit_to(page, port="simulated instrument"):
    page.get_by_label("Port of the kit").select_option(port)


def play(page):
    page.get_by_role("button", name="Play from bar 1").click()


def stop(page):
    page.get_by_role("button", name="Stop", exact=True).and_(page.locator(".play")).click()


SENT = "jolly.sent().map(({message, time, handed}) => ({message: [...message], time, handed}))"


def sent(page):
    return page.evaluate(SENT)


def still_sounding(messages):
    sounding = set()
    for one in sorted(messages, key=lambda one: one["time"]):
        status, *data = one["message"]
        if status & 0xF0 == 0x90 and data[1]:
            sounding.add((status & 15, data[0]))
        elif status & 0xF0 in (0x80, 0x90):
            sounding.discard((status & 15, data[0]))
    return sounding


def begun(messages):
    return [one for one in messages if one["message"][0] & 0xF0 == 0x90 and one["message"][2]]
