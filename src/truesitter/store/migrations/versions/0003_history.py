"""Patches instead of whole documents, strokes as rows, and ticks of passes as facts."""

import json
from datetime import UTC, datetime

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"

ROWS = {
    "reference": ("measures",), "values": ("joins",), "regions": ("scribbles",), "flesh": ("pins",),
    "hair": ("guides",),
}
NAMES = {
    2: ("dark", "light"), 3: ("dark", "middle", "light"), 4: ("dark accent", "shadow", "halftone", "light"),
    5: ("dark accent", "shadow", "halftone", "light", "highlight"),
}
THIRDS = {"darks": 1, "middle": 2, "lights": 3}


def _of_sitter(primary):
    return sa.Column(
        "sitter_id", sa.String, sa.ForeignKey("sitter.id", ondelete="CASCADE"),
        primary_key=primary, nullable=False,
    )


def upgrade():
    connection = op.get_bind()
    stages = connection.execute(sa.text("SELECT sitter_id, stage, document FROM stage")).all()
    revisions = connection.execute(
        sa.text('SELECT sitter_id, number, stage, change, "before", "after", at FROM revision ORDER BY number')
    ).all()
    heads = dict(connection.execute(sa.text("SELECT id, head FROM sitter")).all())

    op.drop_index("ix_revision_sitter_id", "revision")
    op.drop_table("revision")
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        _of_sitter(False),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("stage", sa.String, nullable=False),
        sa.Column("change", sa.String, nullable=False),
        sa.Column("patch", sa.JSON, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.UniqueConstraint("sitter_id", "number"),
    )
    op.create_index("ix_revision_sitter_id", "revision", ["sitter_id"])
    op.create_table(
        "item",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        _of_sitter(False),
        sa.Column("stage", sa.String, nullable=False),
        sa.Column("field", sa.String, nullable=False),
        sa.Column("at", sa.Float, nullable=False),
        sa.Column("document", sa.JSON, nullable=False),
    )
    op.create_index("ix_item_list", "item", ["sitter_id", "stage", "field", "at"], unique=True)
    op.create_table(
        "edit",
        _of_sitter(True),
        sa.Column("edition", sa.Integer, primary_key=True),
        sa.Column("touched", sa.JSON, nullable=False),
    )
    op.create_table(
        "fact",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        _of_sitter(False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("document", sa.JSON, nullable=False),
        sa.Column("at", sa.DateTime, nullable=False),
        sa.Column("struck_at", sa.DateTime, nullable=True),
    )
    op.create_index("ix_fact_sitter_id", "fact", ["sitter_id"])
    op.add_column("sitter", sa.Column("edition", sa.Integer, nullable=False, server_default="0"))
    op.add_column("stage", sa.Column("version", sa.Integer, nullable=False, server_default="1"))

    kept = {}
    for sitter_id, stage, document in stages:
        kept.setdefault(sitter_id, {})[stage] = _loads(document)
    for sitter_id, head in heads.items():
        changes = [r for r in revisions if r.sitter_id == sitter_id]
        _move_sitter(connection, sitter_id, head, kept.get(sitter_id, {}), changes)


def _loads(value):
    """A JSON column read as text; what is no JSON stays as it is and is dealt with by the application."""
    try:
        return json.loads(value)
    except (TypeError, ValueError):
        return value


def _move_sitter(connection, sitter_id, head, documents, changes):
    done = documents.get("passes", {}).get("done", []) if isinstance(documents.get("passes"), dict) else []
    names = _group_names(documents.get("values"))
    now = datetime.now(UTC).replace(tzinfo=None).isoformat(sep=" ")
    for old in done if isinstance(done, list) else []:
        school = documents["passes"].get("school", "layered-oil")
        _insert(
            connection, "fact", sitter_id=sitter_id, kind="pass done",
            document=json.dumps({"school": school, "pass": _new_key(str(old), names)}), at=now,
        )
    moved = _history(documents, changes, head)
    if moved is None:
        # Two changes at once had left a gap: what lies before it could not be undone anyway.
        moved = [], 0, {stage: _split(stage, document) for stage, document in documents.items()}
    patches, new_head, states = moved
    for number, (change, patch) in enumerate(patches, start=1):
        _insert(
            connection, "revision", sitter_id=sitter_id, number=number, stage=change.stage,
            change=change.change, patch=json.dumps(patch), at=change.at,
        )
    connection.execute(
        sa.text("UPDATE sitter SET head = :head WHERE id = :id"), {"head": new_head, "id": sitter_id}
    )
    for stage, (document, lists) in states.items():
        connection.execute(
            sa.text("UPDATE stage SET document = :document WHERE sitter_id = :id AND stage = :stage"),
            {"document": json.dumps(document), "id": sitter_id, "stage": stage},
        )
        for field, entries in lists.items():
            for at, entry in entries:
                _insert(
                    connection, "item", sitter_id=sitter_id, stage=stage, field=field, at=at,
                    document=json.dumps(entry),
                )


def _insert(connection, table, **values):
    columns = ", ".join(f'"{name}"' for name in values)
    places = ", ".join(f":{name}" for name in values)
    connection.execute(sa.text(f"INSERT INTO {table} ({columns}) VALUES ({places})"), values)


def _split(stage, document):
    """A document without its lists and ticks, and the lists as entries with their places."""
    if not isinstance(document, dict):
        return document, {}
    lists = {}
    for field in ROWS.get(stage, ()):
        if isinstance(document.get(field), list):
            lists[field] = [(float(i), entry) for i, entry in enumerate(document[field], start=1)]
    rest = {k: v for k, v in document.items() if k not in lists and (stage, k) != ("passes", "done")}
    return rest, lists


def _history(documents, changes, head):
    """Patches of all changes, the new head, and the state of each stage at it; None when they do not join."""
    now, states, patches, new_head = {}, {}, [], 0
    for expected, change in enumerate(changes, start=1):
        before, after = _loads(change.before), _loads(change.after)
        if change.number != expected or not isinstance(before, dict) or not isinstance(after, dict):
            return None
        document, lists = now.setdefault(change.stage, _split(change.stage, before))
        if _joined(document, lists) != _joined(*_split(change.stage, before)):
            return None
        rest, _ = _split(change.stage, after)
        patch, fresh = {}, {}
        changed = {k: [document.get(k), rest.get(k)] for k in {*document, *rest} if document.get(k) != rest.get(k)}
        if changed:
            patch["set"] = changed
        for field in ROWS.get(change.stage, ()):
            old, new = lists.get(field, []), after.get(field) or []
            out, put, fresh[field] = _list_change(old, new)
            if out or put:
                patch.setdefault("lists", {})[field] = {"out": out, "in": put}
        now[change.stage] = (rest, fresh)
        if patch:
            patches.append((change, patch))
        if change.number <= head:
            states[change.stage] = now[change.stage]
            new_head = len(patches)
    for change in changes:
        # A stage of which every change was taken back stands as it was before the first of them.
        if change.stage not in states:
            states[change.stage] = _split(change.stage, _loads(change.before))
    for stage, document in documents.items():
        if stage not in states:
            states[stage] = _split(stage, document)
        elif _joined(*states[stage]) != _joined(*_split(stage, document)):
            return None
    return patches, new_head, {stage: state for stage, state in states.items() if stage in documents}


def _joined(document, lists):
    return document, {field: [entry for _, entry in entries] for field, entries in lists.items() if entries}


def _list_change(old, new):
    """Entries to take out, to put in, and the list that results."""
    entries = [entry for _, entry in old]
    same = 0
    while same < min(len(old), len(new)) and entries[same] == new[same]:
        same += 1
    out = old[same:]
    start = out[0][0] if out else (old[-1][0] + 1 if old else 1.0)
    put = [(start + i, entry) for i, entry in enumerate(new[same:])]
    return [list(e) for e in out], [list(e) for e in put], [*old[:same], *put]


def _group_names(values):
    values = values if isinstance(values, dict) else {}
    count = values.get("groups", 5)
    usual = NAMES.get(count, tuple(f"group {i + 1}" for i in range(count)))
    own = [*values.get("names", []), *[""] * count]
    return [str(o).strip() or u for o, u in zip(own, usual)]


def _new_key(old, names):
    """Keys of passes were made of their names; now they count the groups."""
    for number, name in enumerate(names, start=1):
        ending = "-" + name.lower().replace(",", "").replace(" ", "-")
        for stem in ("background", "garment", "flesh"):
            if old == stem + ending:
                return f"{stem}-{number}"
    for name, number in THIRDS.items():
        if old.endswith(f"-{name}"):
            return f"{old.removesuffix(f'-{name}')}-{number}"
    return old


def downgrade():
    raise NotImplementedError("older versions cannot read patches; put a backup of the folder back instead")
