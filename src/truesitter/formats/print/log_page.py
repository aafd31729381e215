"""The record of one painting to print: its hours, sittings and pictures in order."""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader

from truesitter.core.log.days import local
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Judged, NextTime, Noted, Settled
from truesitter.core.log.sittings import Sitting
from truesitter.core.types import Bytes
from truesitter.formats.pictures.png import encode_jpeg
from truesitter.formats.print.sheet import MARGIN, Sheet, fit
from truesitter.formats.words.wording import many, worked


@dataclass(frozen=True)
class Shown:
    """A photograph of the painting, squared up, and what is written under it."""

    picture: Bytes
    words: str


def log_pdf(
    title: str, sittings: Sequence[Sitting], entries: Sequence[Entry], pictures: Sequence[Shown],
    zone: ZoneInfo, paper: str,
) -> bytes:  # fmt: skip
    """A painting's record.

    Parameters
    ----------
    entries
        Of this painting.
    pictures
        In order.
    zone
        Where the painter lives.

    Raises
    ------
    Refusal
        For another paper.
    """
    sheet = Sheet(paper, title)
    sheet.start("The record of a painting")
    whole = sum(s.minutes for s in sittings)
    sheet.text(f"{worked(whole)} of work in {many(len(sittings), 'sitting')}", 12, gap=6)
    _pictures(sheet, pictures)
    sheet.section("Sittings")
    if not sittings:
        sheet.text("None is written down yet.", 10)
    for number, sitting in enumerate(sittings, 1):
        sheet.room(40)
        began = local(sitting.began, zone)
        air = f", {sitting.air[0]:.0f} °C and {sitting.air[1]:.0f} % of humidity" if sitting.air else ""
        who = f", {sitting.painter}" if sitting.painter else ""
        sheet.text(f"{number}. {began:%d %B %Y, %H:%M}, {worked(sitting.minutes)}{air}{who}", 10.5)
        for interval in sitting.intervals:
            if interval.work is not None:
                done = f", {interval.done:.0%} done" if interval.done is not None else ""
                mixture = f" ({interval.work.mixture})" if interval.work.mixture else ""
                sheet.text(
                    f"{interval.work.name}: {worked(interval.minutes)}{done}{mixture}", 9, indent=5 * mm
                )
        for used in sitting.used:
            sheet.text(f"{used.name or used.tube}: {used.ml:g} ml", 9, indent=5 * mm, grey=True)
        for note in sitting.notes:
            sheet.text(note, 9, indent=5 * mm, grey=True)
    _told(sheet, entries)
    return sheet.done()


def _pictures(sheet: Sheet, pictures: Sequence[Shown]) -> None:
    """Pictures three to a row, with words below each."""
    width = (sheet.inner - 8 * mm) / 3
    for start in range(0, len(pictures), 3):
        row = pictures[start : start + 3]
        sizes = [fit(p.picture.shape[0] / p.picture.shape[1], width, 75 * mm) for p in row]
        tall = max(size[1] for size in sizes)
        sheet.room(tall + 20)
        for k, (one, size) in enumerate(zip(row, sizes, strict=True)):
            left = MARGIN + k * (width + 4 * mm)
            image = ImageReader(io.BytesIO(encode_jpeg(one.picture, 88)))
            sheet.page.drawImage(image, left, sheet.y - size[1], *size)
            sheet.line(one.words, left, sheet.y - tall - 10, 8)
        sheet.y -= tall + 20


def _told(sheet: Sheet, entries: Sequence[Entry]) -> None:
    """Notes beside the sittings, what is to be done, and how it is liked."""
    standing = [e for e in entries if e.stands]
    settled = {e.what.entry for e in standing if isinstance(e.what, Settled)}
    beside = [e.what.words for e in standing if isinstance(e.what, Noted) and e.what.sitting is None]
    ahead = [e.what.words for e in standing if isinstance(e.what, NextTime) and e.id not in settled]
    judged = [e.what for e in standing if isinstance(e.what, Judged)]
    liked = [f"{j.liked} of 5{f' ({j.by})' if j.by else ''}: {j.why}".rstrip(": ") for j in judged]
    for heading, lines in (("Notes", beside), ("Next time", ahead), ("How it is liked", liked)):
        if lines:
            sheet.section(heading, 20)
            for line in lines:
                sheet.text(line, 10)
