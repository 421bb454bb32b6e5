"""The presets that are shipped. Their values are common practice; their names are our own."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Preset:
    """One starting point: its name, what it is for, and the parameters that it sets."""

    name: str
    help: str
    params: Mapping[str, Any]


def _moving(*points: tuple[float, float], ease: str = "smooth") -> dict[str, Any]:
    return {"keyframes": [{"share": s, "value": v, "ease": ease} for s, v in points]}


def _band(kind: str, freq_hz: float, gain_db: float = 0.0, **more: Any) -> dict[str, Any]:
    return {"type": kind, "freq_hz": freq_hz, "gain_db": gain_db, **more}


def _voice(
    semitones: float, gain_db: float = -6.0, pan: float = 0.0, **more: Any
) -> dict[str, Any]:
    return {"semitones": semitones, "gain_db": gain_db, "pan": pan, **more}


PRESETS: dict[str, tuple[Preset, ...]] = {
    "pitch": (
        Preset("A little lower", "More weight in a voice; nobody asks why.",
               {"semitones": -1.5, "formant_shift": -0.7}),
        Preset("A little higher", "Lighter and younger.",
               {"semitones": 1.5, "formant_shift": 0.7}),
        Preset("Large creature", "An octave down, and as large as that.",
               {"semitones": -12, "formants": "follow"}),
        Preset("Small creature", "An octave up, and as small as that.",
               {"semitones": 12, "formants": "follow"}),
        Preset("Hidden witness", "Not to be known again, but understood.",
               {"semitones": -4, "formant_shift": -2.5}),
        Preset("Larger room of a chest", "The same note from a larger speaker.",
               {"formant_shift": -3}),
        Preset("Machine on one note", "Every word on the same note.",
               {"tune": 100, "scale": "one note", "key": "A"}),
        Preset("In tune", "Drawn to the nearest half tone.", {"tune": 100}),
        Preset("Sinking", "Falls by a fifth until it ends.",
               {"semitones": _moving((0.0, 0), (1.0, -7)), "material": "music"}),
    ),
    "harmony": (
        Preset("Double", "The same line sung twice, to both sides.",
               {"voices": [_voice(0, -3, -70, cents=-8, delay_frames=1, low_cut_hz=150),
                           _voice(0, -3, 70, cents=8, delay_ms=25, low_cut_hz=150)]}),
        Preset("Third above", "A second voice, four semitones up.",
               {"voices": [_voice(4, -5, 25, delay_ms=15, low_cut_hz=160)]}),
        Preset("Third and fifth", "A chord of three.",
               {"voices": [_voice(4, -6, -45, delay_ms=15, low_cut_hz=160),
                           _voice(7, -7, 45, delay_ms=28, low_cut_hz=180)]}),
        Preset("Choir", "Many voices, none of them alone.",
               {"voices": [_voice(0, -5, -80, cents=-11, delay_frames=1, high_cut_hz=9000),
                           _voice(0, -5, 80, cents=10, delay_ms=31, high_cut_hz=9000),
                           _voice(12, -12, -40, delay_ms=22, high_cut_hz=7000),
                           _voice(-12, -9, 40, delay_ms=18, low_cut_hz=90),
                           _voice(7, -12, -15, delay_ms=44, high_cut_hz=7000),
                           _voice(4, -12, 15, delay_ms=52, high_cut_hz=7000)]}),
        Preset("Creature", "One octave below and one above, both as large as they sound.",
               {"dry_db": -6, "formants": "follow",
                "voices": [_voice(-12, 0), _voice(12, -10), _voice(-7, -8)]}),
        Preset("Machine", "Two voices that never meet.",
               {"dry_db": -96, "formants": "follow",
                "voices": [_voice(-3, 0, cents=-50), _voice(5, -6, cents=100)]}),
        Preset("Third in C major", "The voice above goes by the scale's own steps.",
               {"scale": "major", "key": "C",
                "voices": [_voice(0, -5, 30, degree=2, delay_ms=15, low_cut_hz=160)]}),
        Preset("Octave below", "Weight under a voice.",
               {"voices": [_voice(-12, -6, high_cut_hz=6000)]}),
    ),
    "muffle": (
        Preset("Just under", "Ears below the surface, the world still near.",
               {"high_cut_hz": 900, "level_db": -4, "wobble": 15}),
        Preset("Deep", "Far down: weight and little else.",
               {"high_cut_hz": 320, "level_db": -9, "resonance": 1.1, "wobble": 10, "width": 60}),
        Preset("Moving water", "The surface wavers overhead.",
               {"high_cut_hz": 700, "level_db": -6, "wobble": 55, "wobble_hz": 0.7}),
        Preset("Next door", "Music through a wall.",
               {"high_cut_hz": 260, "level_db": -8, "width": 30}),
        Preset("In the hood", "A helmet, a hood, hands over the ears.",
               {"high_cut_hz": 1500, "low_cut_hz": 120, "resonance": 1.6, "level_db": -3}),
        Preset("Plunge", "What is heard the moment one goes under.",
               {"high_cut_hz": 420, "level_db": -12, "resonance": 1.3}),
        Preset("Car outside", "Bass from a closed car.",
               {"high_cut_hz": 150, "level_db": -2, "width": 20}),
    ),
    "reverb": (
        Preset("Small chamber", "Close stone walls around one voice.",
               {"decay_s": 0.6, "size": 35, "predelay_ms": 3, "treble_decay": 0.7, "mix": 30}),
        Preset("Furnished", "A lived-in room: short and soft.",
               {"decay_s": 0.35, "size": 40, "treble_decay": 0.45, "mix": 28}),
        Preset("Tiled", "Hard and bright, every step answers.",
               {"decay_s": 1.1, "size": 30, "treble_decay": 1.0, "bass_decay": 0.8,
                "diffusion": 70, "mix": 35}),
        Preset("Long nave", "Stone, height and time.",
               {"decay_s": 5.5, "size": 170, "predelay_ms": 35, "treble_decay": 0.5,
                "bass_decay": 1.3, "mix": 40}),
        Preset("Great chamber", "A cave as large as a hall.",
               {"decay_s": 3.6, "size": 150, "predelay_ms": 24, "treble_decay": 0.4,
                "bass_decay": 1.5, "early_db": -6, "diffusion": 65, "mix": 42}),
        Preset("Song's end", "The last beat rings on over the cut.",
               {"decay_s": 7.0, "size": 140, "predelay_ms": 8, "treble_decay": 0.6, "mix": 55}),
        Preset("Behind the voice", "A room that one only misses when it is gone.",
               {"decay_s": 1.2, "size": 80, "predelay_ms": 25, "low_cut_hz": 180,
                "high_cut_hz": 6500, "mix": 14}),
        Preset("Endless", "No walls any more.",
               {"decay_s": 20, "size": 200, "treble_decay": 0.8, "bass_decay": 0.9, "mix": 60}),
    ),
    "space": (
        Preset("Cell", "Bare and narrow.", {"response": "cell", "mix": 35}),
        Preset("Parlour", "Curtains and chairs.", {"response": "parlour", "mix": 35}),
        Preset("Washroom", "Tiles all around.", {"response": "washroom", "mix": 38}),
        Preset("Stairwell", "Concrete, many floors.", {"response": "stairwell", "mix": 38}),
        Preset("Playhouse", "Rows of seats.", {"response": "playhouse", "mix": 35}),
        Preset("Nave", "A stone church.", {"response": "nave", "mix": 40}),
        Preset("Water tank", "Steel walls, drops and voices.", {"response": "tank", "mix": 42}),
        Preset("Air bell", "A pocket of air under rock.", {"response": "air_bell", "mix": 40}),
        Preset("Cavern", "Rock and a far wall.", {"response": "cavern", "mix": 42}),
        Preset("Steel plate", "Bright and dense, for voices and drums.",
               {"response": "plate", "mix": 30}),
        Preset("Spring", "The twang of an old amplifier.", {"response": "spring", "mix": 32}),
        Preset("Through the pipe", "A voice in a drain.", {"response": "pipe", "mix": 75}),
        Preset("In the barrel", "Wood close around it.", {"response": "barrel", "mix": 70}),
    ),
    "echo": (
        Preset("Called across", "A call and the far wall's answer.",
               {"time_ms": 500, "feedback": 18, "high_cut_hz": 4500, "mix": 45}),
        Preset("Last word", "A spoken line repeats and fades.",
               {"time_ms": 305, "feedback": 50, "dry_db": -2.5, "mix": 50}),
        Preset("Slap", "One hard wall close by.",
               {"time_ms": 120, "repeats": 1, "drop_db": 6, "mix": 45}),
        Preset("Short slaps", "Quick repeats, each three quarters of the last.",
               {"time_ms": 250, "feedback": 75, "mix": 45}),
        Preset("To and fro", "From side to side.",
               {"time_ms": 360, "feedback": 55, "cross": 100, "mix": 50}),
        Preset("Six copies", "Six copies, each 5 dB down, duller and thinner.",
               {"time_ms": 280, "repeats": 6, "drop_db": 5, "low_cut_hz": 160,
                "high_cut_hz": 5000, "mix": 50}),
        Preset("Down the shaft", "Slow, dark, for a long time.",
               {"time_ms": 780, "feedback": 70, "high_cut_hz": 1600, "mix": 50}),
    ),
    "telephone": (
        Preset("Landline", "A telephone of the old exchange.",
               {"low_hz": 300, "high_hz": 3400, "bits": 8, "level_db": -4}),
        Preset("Wide line", "A good modern connection.",
               {"low_hz": 50, "high_hz": 7000, "level_db": -2}),
        Preset("Handset", "Cheap and near, a little torn.",
               {"low_hz": 730, "high_hz": 3400, "drive_db": 9, "level_db": -6}),
        Preset("Two-way radio", "Narrow, hard, with hiss.",
               {"low_hz": 500, "high_hz": 2900, "drive_db": 22, "noise_db": -42, "bits": 6,
                "level_db": -6}),
        Preset("Kitchen set", "A small loudspeaker in another room.",
               {"low_hz": 260, "high_hz": 5200, "drive_db": 5, "level_db": -8}),
        Preset("Station horn", "An announcement over the platforms.",
               {"low_hz": 550, "high_hz": 4200, "drive_db": 16, "level_db": -4}),
        Preset("Bad connection", "Words just get through.",
               {"low_hz": 420, "high_hz": 2600, "bits": 4, "noise_db": -36, "level_db": -5}),
    ),
    "tone": (
        Preset("Warmer", "More below, less above.", {"bass_db": 4, "treble_db": -3}),
        Preset("Clearer", "Less below, more above.", {"bass_db": -5, "treble_db": 4}),
        Preset("Bass only", "Treble down to the stop.", {"bass_db": 12, "treble_db": -24}),
    ),
    "eq": (
        Preset("Voice up", "Rumble out, words forward.",
               {"bands": [_band("low_cut", 90, slope="24"), _band("peak", 260, -3, q=1.0),
                          _band("peak", 3200, 3, q=0.9)]}),
        Preset("Room for words", "A dip in music where speech lives.",
               {"bands": [_band("peak", 1800, -5, q=0.7)]}),
        Preset("No hum", "Mains hum and its overtones.",
               {"bands": [_band("notch", f, q=12.0) for f in (50, 100, 150, 200)]}),
        Preset("Thin", "Nothing below, nothing above.",
               {"bands": [_band("low_cut", 600, slope="24"), _band("high_cut", 4500, slope="24")]}),
        Preset("Four bands", "Neutral, to start from.",
               {"bands": [_band("low_shelf", 120), _band("peak", 500), _band("peak", 2500),
                          _band("high_shelf", 7000)]}),
    ),
    "pan": (
        Preset("Left to right", "Across the picture.", {"position": _moving((0, -80), (1, 80))}),
        Preset("Right to left", "Back across the picture.",
               {"position": _moving((0, 80), (1, -80))}),
        Preset("Left only", "All on the left.", {"left_level": 130, "right_level": 0}),
        Preset("Right only", "All on the right.", {"left_level": 0, "right_level": 130}),
        Preset("Narrow", "Stereo drawn together.", {"width": 35}),
    ),
    "orbit": (
        Preset("Once around", "A full circle around the head.",
               {"azimuth": _moving((0, 0), (1, 360), ease="linear")}),
        Preset("Passes by", "From the left, close in front, away to the right.",
               {"azimuth": _moving((0, -80), (0.5, 0), (1, 80)),
                "distance": _moving((0, 12), (0.5, 1), (1, 12))}),
        Preset("Over the shoulder", "From the front to behind on the right.",
               {"azimuth": _moving((0, 10), (1, 165))}),
        Preset("Walks away", "Straight ahead, further and further.",
               {"azimuth": 0, "distance": _moving((0, 1), (1, 30))}),
        Preset("Restless", "From ear to ear and back.",
               {"azimuth": _moving((0, -90), (0.25, 90), (0.5, -90), (0.75, 90), (1, -90))}),
    ),
    "tremolo": (
        Preset("Rotor", "Blades overhead.", {"rate_hz": 11, "swing": 85, "shape": "triangle"}),
        Preset("Pulse", "Slow, like breath.", {"rate_hz": 0.8, "swing": 60}),
        Preset("Chopped", "On and off.", {"rate_hz": 6, "swing": 100, "shape": "square"}),
    ),
    "vibrato": (
        Preset("Worn tape", "Slow and uneven to the ear.", {"rate_hz": 0.9, "swing": 18}),
        Preset("Shaken", "A nervous voice.", {"rate_hz": 7, "swing": 55}),
        Preset("Drowsy", "Wide and slow.", {"rate_hz": 1.4, "swing": 90}),
    ),
    "chorus": (
        Preset("Two of them", "One voice becomes a few.", {"rate_hz": 0.5, "mix": 45}),
        Preset("Choir", "Wide and soft.",
               {"rate_hz": 0.35, "swing": 55, "delay_ms": 28, "mix": 60}),
    ),
    "flanger": (
        Preset("Jet", "Slow and deep.", {"rate_hz": 0.12, "feedback": 70, "delay_ms": 6}),
        Preset("Hollow", "A tube that breathes.", {"rate_hz": 0.3, "feedback": -65, "delay_ms": 3}),
    ),
    "phaser": (
        Preset("Haze", "Slow and gentle.", {"rate_hz": 0.15, "swing": 60, "feedback": 10}),
        Preset("Dizzy", "Fast and sharp.", {"rate_hz": 1.6, "swing": 90, "feedback": 65}),
    ),
    "ring": (
        Preset("Machine voice", "A voice with a metal edge.", {"freq_hz": 48, "mix": 65}),
        Preset("Bells", "Everything rings.", {"freq_hz": 740, "mix": 100}),
    ),
    "drive": (
        Preset("Warm tape", "A little denser.", {"amount_db": 8, "tone_hz": 12000}),
        Preset("Shouted", "A small microphone, too close.",
               {"amount_db": 26, "shape": "hard", "tone_hz": 5000}),
        Preset("Torn cone", "A loudspeaker that has had enough.",
               {"amount_db": 20, "shape": "fold", "tone_hz": 3500, "mix": 80}),
    ),
    "crush": (
        Preset("Old sampler", "Grainy, but all there.", {"bits": 8, "rate_hz": 11025}),
        Preset("Toy", "Crackling plastic.", {"bits": 5, "rate_hz": 6000}),
    ),
    "compress": (
        Preset("Even voice", "Quiet words come up.",
               {"threshold_db": -24, "ratio": 3, "makeup_db": 4, "attack_ms": 8}),
        Preset("Pressed", "Everything equally near.",
               {"threshold_db": -32, "ratio": 8, "makeup_db": 9, "attack_ms": 2}),
    ),
    "limit": (
        Preset("Safe for delivery", "Peaks at −1 dB.", {"ceiling_db": -1}),
        Preset("Louder", "6 dB more, peaks held.", {"ceiling_db": -1, "gain_db": 6}),
    ),
    "gate": (
        Preset("Between words", "Hiss out of the pauses.", {"threshold_db": -42, "range_db": 18}),
        Preset("Hits only", "Nothing but the loud.",
               {"threshold_db": -28, "range_db": 60, "hold_ms": 40, "release_ms": 60}),
    ),
    "gain": (
        Preset("A step back", "6 dB quieter.", {"level_db": -6}),
        Preset("Under the voice", "12 dB quieter: heard, not listened to.", {"level_db": -12}),
        Preset("A little forward", "3 dB louder.", {"level_db": 3}),
        Preset("Nothing", "Silent while it lasts.", {"level_db": -96}),
    ),
    "duck": (
        Preset("Under a voice", "Gives way softly.", {"range_db": 10, "release_ms": 800}),
        Preset("Out of the way", "Nearly gone while the other speaks.",
               {"range_db": 24, "release_ms": 400}),
    ),
}  # fmt: skip
