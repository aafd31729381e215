"""What is said of hair."""

from __future__ import annotations

from truesitter.core.hair.locks.lock_forms import LockForm


def form_words(form: LockForm) -> str:
    """How to build a lock, in a sentence."""
    lit = "down its middle" if form.lit == "middle" else f"on its {form.lit} side, seen from the root"
    if form.form == "ribbon":
        return "A flat ribbon: one tone across, its edges drawn."
    if form.form == "round":
        return f"Round like a rope: lightest {lit}, turning evenly to both edges."
    return f"Two planes that meet in an edge: the light one {lit}, the change between them crisp."
