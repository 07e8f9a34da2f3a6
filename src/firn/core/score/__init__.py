"""Footwork as other programs' scores: what is danced, in bars, for MIDI, MusicXML and ABC."""
