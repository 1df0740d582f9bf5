"""Percussion as General MIDI numbers it."""

__all__ = ["DRUM_OF_VOICE", "PERCUSSION"]

# Source: General MIDI System Level 1, percussion key map.
PERCUSSION = dict(
    enumerate(
        """Acoustic Bass Drum,Bass Drum 1,Side Stick,Acoustic Snare,Hand Clap,Electric Snare,Low Floor Tom,
        Closed Hi Hat,High Floor Tom,Pedal Hi-Hat,Low Tom,Open Hi-Hat,Low-Mid Tom,Hi Mid Tom,Crash Cymbal 1,High Tom,
        Ride Cymbal 1,Chinese Cymbal,Ride Bell,Tambourine,Splash Cymbal,Cowbell,Crash Cymbal 2,Vibraslap,
        Ride Cymbal 2,Hi Bongo,Low Bongo,Mute Hi Conga,Open Hi Conga,Low Conga,High Timbale,Low Timbale,High Agogo,
        Low Agogo,Cabasa,Maracas,Short Whistle,Long Whistle,Short Guiro,Long Guiro,Claves,Hi Wood Block,
        Low Wood Block,Mute Cuica,Open Cuica,Mute Triangle,Open Triangle""".replace("\n", "").split(","),
        start=35,
    )
)
PERCUSSION = {number: name.strip() for number, name in PERCUSSION.items()}

# What comes nearest to each built-in sound, whatever note a kit or a lane plays it on.
DRUM_OF_VOICE = {
    "thud": 36,
    "shell": 37,
    "chain": 38,
    "bottle": 39,
    "plank": 41,
    "clink": 42,
    "winch": 43,
    "hiss": 46,
    "gull": 49,
    "bell": 51,
    "rail": 56,
    "rope": 70,
}
