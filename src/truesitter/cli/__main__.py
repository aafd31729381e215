"""``python -m truesitter.cli``."""

from truesitter.cli.main import app

app()
