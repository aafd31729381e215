"""The one kind of error that is meant for the painter; every other error is a bug."""

from __future__ import annotations


class Refusal(ValueError):
    """Something that cannot be done as asked; the message says why in words for the painter.

    A `ValueError`, so that validators of settings may raise it.
    """

    @property
    def sentence(self) -> str:
        """The message as a whole sentence."""
        words = str(self)
        return words[:1].upper() + words[1:] + ("" if words.endswith((".", "?", "!")) else ".")


class Unavailable(Refusal):
    """Something that cannot be done just now, through no fault of whoever asked: asked again, it may be."""
