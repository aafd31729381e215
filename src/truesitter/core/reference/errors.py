"""What can be wrong with a photograph, in a painter's words."""

from __future__ import annotations

from truesitter.core.refusal import Refusal


class UnusablePhotograph(Refusal):
    """The file cannot serve as a reference; the message says why and what to do."""
