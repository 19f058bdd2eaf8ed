"""Words: a reason's code and values in SI become a sentence, in the reader's language and units.

``message`` has the voice and the messages, ``reasons`` the sentences of the core's codes, ``units``
reads and shows quantities, ``forms`` writes values within sentences.
"""

from squall.words import forms as _forms  # noqa: F401  (teaches the core's reasons to speak)
from squall.words.message import N_, Message, Voice, later, later_n, listed, say, say_n, speak_as, speaking, voice

__all__ = ["N_", "Message", "Voice", "later", "later_n", "listed", "say", "say_n", "speak_as", "speaking", "voice"]
