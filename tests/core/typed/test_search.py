"""Words that editors have for things each find the right thing first or second."""

from __future__ import annotations

import pytest

from bathyphon.core.effects import EFFECTS
from bathyphon.core.typed.search import find_effects, not_understood

# What editors call things (common practice), and one of the things that they may mean by it.
WORDS = {
    "room": {"Reverb", "Reverb: Small chamber", "Reverb: Furnished"},
    "hall": {"Reverb: Great chamber", "Place: Playhouse"},
    "church": {"Reverb: Long nave", "Place: Nave"},
    "cathedral": {"Reverb: Long nave", "Place: Nave"},
    "bathroom": {"Reverb: Tiled", "Place: Washroom"},
    "cave": {"Place: Cavern", "Reverb: Great chamber"},
    "stairwell": {"Place: Stairwell"},
    "corridor": {"Place: Stairwell"},
    "tunnel": {"Place: Through the pipe"},
    "plate": {"Place: Steel plate"},
    "spring": {"Place: Spring"},
    "ambience": {"Reverb"},
    "tail": {"Reverb: Song's end", "Reverb"},
    "ring out": {"Reverb: Song's end", "Reverb"},
    "infinite": {"Reverb: Endless"},
    "slapback": {"Echo: Slap"},
    "delay": {"Echo: Last word", "Echo"},
    "ping-pong": {"Echo: To and fro"},
    "to and fro": {"Echo: To and fro"},
    "six copies": {"Echo: Six copies"},
    "canyon": {"Echo: Called across"},
    "muffled": {"Muffle"},
    "underwater": {"Muffle: Just under", "Muffle: Deep", "Muffle"},
    "next door": {"Muffle: Next door"},
    "helmet": {"Muffle: In the hood"},
    "phone": {"Telephone: Landline", "Telephone: Handset"},
    "walkie-talkie": {"Telephone: Two-way radio"},
    "radio": {"Telephone: Two-way radio", "Telephone: Kitchen set"},
    "megaphone": {"Telephone: Station horn"},
    "announcement": {"Telephone: Station horn"},
    "loudspeaker": {"Telephone"},
    "robot": {"Pitch: Machine on one note", "Harmony: Machine", "Ring: Machine voice"},
    "alien": {"Ring: Machine voice"},
    "monster": {"Pitch: Large creature"},
    "creature": {"Harmony: Creature", "Pitch: Large creature"},
    "deeper": {"Pitch: A little lower"},
    "higher": {"Pitch: A little higher"},
    "chipmunk": {"Pitch: Small creature"},
    "disguise": {"Pitch: Hidden witness"},
    "singing": {"Pitch: In tune"},
    "double": {"Harmony: Double"},
    "choir": {"Harmony: Choir"},
    "wider": {"Pan"},
    "narrow": {"Pan: Narrow"},
    "mono": {"Pan: Narrow"},
    "fly by": {"Orbit: Passes by"},
    "around": {"Orbit: Once around"},
    "helicopter": {"Tremolo: Rotor"},
    "wobble": {"Tremolo", "Vibrato"},
    "oscillate": {"Tremolo", "Vibrato"},
    "flutter": {"Vibrato: Worn tape"},
    "drunk": {"Vibrato: Drowsy", "Phaser: Dizzy"},
    "distortion": {"Drive"},
    "quieter": {"Gain: A step back"},
    "louder": {"Gain: A little forward"},
    "mute": {"Gain: Nothing"},
    "normalise": {"Limit: Safe for delivery"},
    "compressor": {"Compress"},
    "hiss": {"Gate: Between words", "Gate"},
    "hum": {"Equaliser: No hum"},
    "bass": {"Tone: Bass only", "Tone"},
    "brighter": {"Tone: Clearer"},
    "tinny": {"Equaliser: Thin"},
    "high pass": {"Equaliser"},
    "equalizer": {"Equaliser"},
    "duck": {"Duck"},
    "volume": {"Gain"},
    "jet": {"Flanger: Jet"},
    "toy": {"Crush: Toy"},
    "dream": {"Reverb: Endless", "Flanger", "Phaser"},
}


@pytest.mark.parametrize("word", WORDS)
def test_a_word_finds_the_right_thing_first_or_second(word: str) -> None:
    assert {hit.label for hit in find_effects(word, {})[:2]} & WORDS[word]


def test_nothing_typed_lists_every_effect_in_its_order() -> None:
    assert [hit.effect for hit in find_effects("", {})] == list(EFFECTS)


def test_every_label_and_every_preset_is_found_first_by_its_own_name() -> None:
    for effect in EFFECTS.values():
        assert find_effects(effect.label, {})[0].label == effect.label
        for preset in effect.presets:
            first = [h for h in find_effects(preset.name, {}) if h.score >= 100]
            assert (effect.id, preset.name) in {(h.effect, h.preset) for h in first}


def test_a_word_that_nothing_goes_by_is_told() -> None:
    assert find_effects("reverb frobnicate", {}) == []
    assert not_understood("reverb frobnicate 3s") == ["frobnicate"]
