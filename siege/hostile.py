"""Hostile uploads and texts into every reader: each is taken, or refused in a sentence."""

from __future__ import annotations

import io
import json
import random
import tempfile
import zipfile
from collections import Counter
from collections.abc import Callable
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from bench.inputs import demo_bytes
from siege.server import Server

COUNT = 10_000
_WORDS = (
    "",
    "\0",
    "=1+1",
    "../../x",
    "\ud83d\ude00",
    "9" * 400,
    "-inf",
    "NaN",
    "{",
    "[[",
    "\ufeff",
    '"',
    ",,,,",
    "é" * 99,
)


def _picture(lot: random.Random) -> bytes:
    out = io.BytesIO()
    shape = (lot.randrange(1, 90), lot.randrange(1, 90), 3)
    image = Image.fromarray(np.frombuffer(lot.randbytes(int(np.prod(shape))), np.uint8).reshape(shape))
    image.save(out, lot.choice(("JPEG", "PNG", "WEBP", "TIFF", "GIF", "BMP")))
    return out.getvalue()


def _zip(lot: random.Random) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for _ in range(lot.randrange(4)):
            name = lot.choice(("sitter.json", "original", "paintings/x", "../x", "/etc/x"))
            archive.writestr(
                name, lot.choice((b"{}", lot.randbytes(50), b" " * 10**6, _document(lot).encode()))
            )
    return out.getvalue()


def _document(lot: random.Random, deep: int = 0) -> str:
    def value(level: int) -> object:
        kind = lot.randrange(8 if level < 4 else 5)
        if kind < 5:
            return (lot.choice(_WORDS), lot.randrange(-(10**9), 10**9), lot.random() * 1e300, None, True)[
                kind
            ]
        if kind == 5:
            return [value(level + 1) for _ in range(lot.randrange(5))]
        keys = ("key", "name", "passes", "tubes", "settings", "stages", lot.choice(_WORDS))
        return {lot.choice(keys): value(level + 1) for _ in range(lot.randrange(5))}

    if lot.random() < 0.02:
        return "[" * lot.randrange(10, 100_000)
    return json.dumps(value(deep), allow_nan=True)


def _table(lot: random.Random) -> str:
    heads = ("key", "name", "pigment", "amount_ml", "tube", "patch", "L", "a", "b", lot.choice(_WORDS))
    cells = (*_WORDS, "50", "masstone", "yellow-ochre", "1e999")
    rows = [",".join(lot.sample(heads, lot.randrange(1, 9)))]
    rows += [",".join(lot.choice(cells) for _ in range(lot.randrange(9))) for _ in range(lot.randrange(30))]
    text = lot.choice(("\n", "\r\n", "\r")).join(rows)
    return f"CGATS.17\nBEGIN_DATA_FORMAT\n{text}\nEND_DATA" if lot.random() < 0.3 else text


def _spoilt(lot: random.Random, data: bytes) -> bytes:
    """Cut off, with bytes changed, doubled, or with other bytes in it."""
    changed = bytearray(data)
    for _ in range(lot.randrange(1, 12)):
        if changed:
            changed[lot.randrange(min(len(changed), lot.choice((40, 400, 10**9))))] = lot.randrange(256)
    how = lot.randrange(4)
    if how == 0:
        return bytes(changed[: lot.randrange(len(changed) + 1)])
    if how == 1:
        return lot.randbytes(lot.randrange(400))
    return bytes(changed)


def _ask(client: httpx.Client, lot: random.Random, sitter: str, real: bytes) -> httpx.Response:
    url = f"/api/sitters/{sitter}"

    def file(path: str, field: str, data: bytes) -> Callable[[], httpx.Response]:
        name = lot.choice(("a.jpg", "x" * 300, "../../a", "a\0b", "é.png", ""))
        return lambda: client.post(path, files={field: (name or "f", data)})

    picture = _spoilt(lot, real if lot.random() < 0.3 else _picture(lot))
    document, table = _document(lot).encode(errors="replace"), _table(lot).encode(errors="replace")
    stage = lot.choice(("reference", "values", "regions", "flesh", "light", "hair", "passes", "easel", "x"))
    field, rows = (
        lot.choice(("names", "groups", "cuts", "own", "x")),
        lot.choice(("scribbles", "guides", "x")),
    )
    edit = {"change": lot.choice(_WORDS), "set": {field: 0}, "lists": {rows: {"add": [{}]}}}
    body = (json.dumps(edit) if lot.random() < 0.5 else _document(lot)).encode(errors="replace")
    cuts = lot.choice((*_WORDS, "2,nan", "2,4"))
    headers = {"Content-Type": "application/json"}
    kind = lot.choice(("began", "ended", "used", "note", "trial", "judged", "air", "settled", "pace reset"))
    fields = ("words", "sitting", "tube", "ml", "liked", "name", "marks", "work", "done", "subject", "entry")
    what = {"kind": kind, **{lot.choice(fields): lot.choice((*_WORDS, 1, -1, None)) for _ in range(3)}}
    happened = json.dumps({"what": what}).encode(errors="replace")
    log = f'{{"format": "truesitter-log", "version": 1, "entries": [{_document(lot)}]}}'.encode()
    return lot.choice(
        (
            file("/api/sitters", "photo", picture), file(f"{url}/easel/paintings", "photo", picture),
            file("/api/swatches/photo", "photo", picture),
            file("/api/sitter-files", "file", _spoilt(lot, _zip(lot))),
            file("/api/sitter-files", "file", _zip(lot)),
            file("/api/rack", "file", lot.choice((table, document, picture))),
            file("/api/readings", "file", lot.choice((table, document, picture))),
            file("/api/schools/read", "file", lot.choice((document, table, picture))),
            file(f"{url}/log/file", "file", lot.choice((table, document, picture, log))),
            lambda: client.post(f"{url}/log", content=lot.choice((document, happened)), headers=headers),
            lambda: client.post("/api/log", content=lot.choice((document, happened)), headers=headers),
            lambda: client.post(f"{url}/drills/answer", content=document, headers=headers),
            lambda: client.get("/api/log", params={"words": lot.choice(_WORDS), "zone": lot.choice(_WORDS)}),
            lambda: client.patch(f"{url}/settings/{stage}", content=body, headers=headers),
            lambda: client.post("/api/tubes", content=document, headers=headers),
            lambda: client.post("/api/palettes", content=document, headers=headers),
            lambda: client.get(f"{url}/values/preview", params={"cuts": cuts}),
            lambda: client.get(f"{url}/flesh/spot", params={"x": lot.choice((*_WORDS, ".5")), "y": ".5"}),
            lambda: client.get(f"/{lot.choice(_WORDS)}/{lot.choice(_WORDS)}".replace("\0", "%00")),
        )
    )()  # fmt: skip


def hostile(count: int = COUNT, seed: int = 1) -> dict[str, object]:
    lot, statuses, bugs, unsaid = random.Random(seed), Counter[int](), [], 0
    real = demo_bytes("ines")
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server, server.client() as client:
        sitter = client.post("/api/sitters", files={"photo": ("a.jpg", demo_bytes("maren"))}).json()["id"]
        before = client.get(f"/api/sitters/{sitter}").json()["settings"]["reference"]
        for number in range(count):
            try:
                answer = _ask(client, lot, sitter, real)
            except (httpx.InvalidURL, UnicodeError, ValueError):
                continue
            statuses[answer.status_code] += 1
            if answer.status_code >= 500:
                bugs.append(f"{number}: {answer.request.method} {answer.request.url.path} {answer.text[:80]}")
            elif answer.status_code >= 400:
                unsaid += not answer.json().get("detail")
            if answer.status_code == 201 and answer.request.url.path in ("/api/sitters", "/api/sitter-files"):
                client.delete(f"/api/sitters/{answer.json()['id']}")
        after = client.get(f"/api/sitters/{sitter}").json()["settings"]["reference"]
        assert set(before) == set(after)
        return {
            "asked": sum(statuses.values()), "statuses": dict(sorted(statuses.items())), "5xx": bugs,
            "refused without a word": unsaid, "peak MiB": server.peak >> 20, "now MiB": server.resident >> 20,
        }  # fmt: skip
