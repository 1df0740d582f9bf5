/** The way of one lane through the built-in sounds: it answers to the controllers that the MIDI standard has names for. */
import { BEND, neutral, PRESSURE } from './neutral'
import type { Move, Sounding } from './port'

const MODULATION = 1
const GLIDE_TIME = 5
const VOLUME = 7
const PAN = 10
const EXPRESSION = 11
const SUSTAIN = 64
const GLIDE = 65
const TIMBRE = 71
const RELEASE = 72
const ATTACK = 73
const BRIGHTNESS = 74
const DECAY = 75
const ROOM = 91
/** Seconds in which a controller moves to its value: short enough to be at once, long enough not to click. */
const SMOOTH = 0.003
const DARKEST = 180
const BRIGHTEST = 20_000
const BRIGHTER = 12 // dB above 3 kHz
const BENT = 200 // cents at the end of the bend
const WAVERS = 5.5 // hertz
const MOST_WAVERING = 60 // cents
const LONGEST_GLIDE = 2 // seconds
const LOUDER = 1 // by pressure: twice as loud

/** How a note is shaped by controllers, each from -1 to 1; 0 changes nothing. */
export interface Shaping {
  readonly timbre: number
  readonly release: number
  readonly attack: number
  readonly decay: number
}
/** A note that may be held by the pedal. */
interface Held {
  readonly sounding: Sounding
  readonly end: number
}

export class Part {
  readonly input: AudioNode
  /** Moves the pitch of all that sounds, in cents: to be connected to what plays. */
  readonly detune: GainNode
  readonly #filter: BiquadFilterNode
  readonly #shelf: BiquadFilterNode
  readonly #panner: StereoPannerNode
  readonly #gain: GainNode
  readonly #expression: GainNode
  readonly #send: GainNode
  readonly #values = new Map<number, number>()
  #bend: ConstantSourceNode | null = null
  #wavering: GainNode | null = null
  #oscillator: OscillatorNode | null = null
  /** Whether the room is sent to already; what the lane itself sends there, 0 to 1. */
  #isInRoom = false
  #room = 0
  #notes: Held[] = []
  /** When all that it was given is over, in seconds on the audio clock. */
  over = 0
  /** The note that began last: where the next glides from. */
  #last: { pitch: number; end: number } | null = null

  constructor(
    private readonly context: BaseAudioContext,
    out: AudioNode,
    private readonly room: () => AudioNode,
  ) {
    this.#filter = new BiquadFilterNode(context, { type: 'lowpass', frequency: BRIGHTEST, Q: 0.7 })
    this.#shelf = new BiquadFilterNode(context, { type: 'highshelf', frequency: 3000, gain: 0 })
    this.#panner = new StereoPannerNode(context)
    this.#gain = new GainNode(context)
    this.#expression = new GainNode(context)
    this.#send = new GainNode(context, { gain: 0 })
    this.detune = new GainNode(context)
    this.#filter
      .connect(this.#shelf)
      .connect(this.#panner)
      .connect(this.#gain)
      .connect(this.#expression)
      .connect(out)
    this.#expression.connect(this.#send)
    this.input = this.#filter
  }

  move({ controller, value, time }: Move) {
    this.#values.set(controller, value)
    const share = value / 127
    switch (controller) {
      case VOLUME:
        return void this.#gain.gain.setTargetAtTime(share ** 2, time, SMOOTH)
      case EXPRESSION:
      case PRESSURE:
        return void this.#expression.gain.setTargetAtTime(this.#loudness(), time, SMOOTH)
      case PAN:
        return void this.#panner.pan.setTargetAtTime(Math.max(-1, (value - 64) / 63), time, SMOOTH)
      case BRIGHTNESS:
        return this.#brighten(value, time)
      case ROOM:
        return this.#sendToRoom(time)
      case MODULATION:
        return this.#waver(share, time)
      case BEND:
        return this.#bendTo((value / 8192) * BENT, time)
      case SUSTAIN:
        return value < 64 ? this.#letGo(time) : this.#holdOn(time)
    }
  }

  /** How a note is shaped that begins now. */
  get shaping(): Shaping {
    return {
      timbre: this.#off(TIMBRE),
      release: this.#off(RELEASE),
      attack: this.#off(ATTACK),
      decay: this.#off(DECAY),
    }
  }
  /** From which pitch a note glides, and in how many seconds; null: it begins where it is. */
  glideTo(pitch: number, time: number, end: number): { from: number; seconds: number } | null {
    const last = this.#last
    this.#last = { pitch, end }
    const seconds = (this.#value(GLIDE_TIME) / 127) * LONGEST_GLIDE
    if (!last || this.#value(GLIDE) < 64 || last.end <= time || !seconds) return null
    return { from: last.pitch, seconds }
  }
  /** What the lane itself sends to the room, in %; controller 91 has the say where it was moved. */
  stand(room: number, time: number) {
    if (room / 100 === this.#room) return
    this.#room = room / 100
    this.#sendToRoom(time)
  }
  /** Look after a note: while the pedal is down it does not end. */
  look(sounding: Sounding, end: number): Sounding {
    const now = this.context.currentTime
    this.over = Math.max(this.over, end)
    this.#notes = [...this.#notes.filter((one) => one.end > now || this.#isDown), { sounding, end }].slice(
      -128,
    )
    if (this.#isDown) sounding.holdOn?.()
    return sounding
  }

  /** As if no controller had ever moved. */
  rest(time: number) {
    for (const [controller, value] of [...this.#values])
      if (value !== neutral(controller)) this.move({ part: '', port: '', channel: 1, controller, value: neutral(controller), time }) // prettier-ignore
    this.#values.clear()
    this.#last = null
    this.#sendToRoom(time)
  }

  /** Leave the desk: nothing of it is heard or kept any more. */
  leave() {
    this.#expression.disconnect()
    this.#send.disconnect()
    this.#bend?.stop()
    this.#oscillator?.stop()
  }

  #value(controller: number): number {
    return this.#values.get(controller) ?? neutral(controller)
  }
  #off(controller: number): number {
    return Math.max(-1, (this.#value(controller) - neutral(controller)) / 63)
  }
  get #isDown(): boolean {
    return this.#value(SUSTAIN) >= 64
  }
  #loudness(): number {
    return (this.#value(EXPRESSION) / 127) ** 2 * (1 + (LOUDER * this.#value(PRESSURE)) / 127)
  }
  /** Below the middle the sound is closed, above it what is bright becomes brighter. */
  #brighten(value: number, time: number) {
    const closed = Math.min(1, value / neutral(BRIGHTNESS))
    const open = Math.max(0, this.#off(BRIGHTNESS))
    this.#filter.frequency.setTargetAtTime(DARKEST * (BRIGHTEST / DARKEST) ** closed, time, SMOOTH)
    this.#shelf.gain.setTargetAtTime(BRIGHTER * open, time, SMOOTH)
  }
  #sendToRoom(time: number) {
    const sent = this.#values.has(ROOM) ? this.#value(ROOM) / 127 : this.#room
    if (sent > 0 && !this.#isInRoom) {
      this.#send.connect(this.room())
      this.#isInRoom = true
    }
    this.#send.gain.setTargetAtTime(sent ** 2, time, SMOOTH)
  }
  #waver(share: number, time: number) {
    if (!this.#wavering) {
      this.#oscillator = new OscillatorNode(this.context, { frequency: WAVERS })
      this.#wavering = new GainNode(this.context, { gain: 0 })
      this.#oscillator.connect(this.#wavering).connect(this.detune)
      this.#oscillator.start()
    }
    this.#wavering.gain.setTargetAtTime(share * MOST_WAVERING, time, SMOOTH)
  }
  #bendTo(cents: number, time: number) {
    if (!this.#bend) {
      this.#bend = new ConstantSourceNode(this.context, { offset: 0 })
      this.#bend.connect(this.detune)
      this.#bend.start()
    }
    this.#bend.offset.setTargetAtTime(cents, time, SMOOTH)
  }
  #holdOn(time: number) {
    for (const { sounding, end } of this.#notes) if (end > time) sounding.holdOn?.()
  }
  #letGo(time: number) {
    for (const { sounding, end } of this.#notes) sounding.letGo?.(Math.max(time, Math.min(end, time + 60)))
    this.#notes = this.#notes.filter(({ end }) => end > time)
  }
}
