"""Schools as documents: the built-in ones, their schema, and reading one from a file."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, HTTPException, UploadFile

from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.school_document import School
from truesitter.formats.documents.school_files import MOST_BYTES, read_school, school_schema

router = APIRouter(prefix="/api/schools", tags=["passes"])


@router.get("/schema")
def get_schema() -> dict[str, Any]:
    """JSON schema of a school's file."""
    return school_schema()


@router.get("/{key}")
def get_school(key: str) -> School:
    """A built-in school as a document."""
    if key not in SCHOOLS:
        raise HTTPException(404, "There is no such school.")
    return SCHOOLS[key]


@router.post("/read")
def take_school(file: UploadFile) -> School:
    """Read a school from a file; nothing is kept."""
    return read_school(file.file.read(MOST_BYTES + 1))
