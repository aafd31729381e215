"""A study: one photograph, one set of settings, and everything computed from them.

Each part of it is one stage of the work. Each result is remembered under a key made of
exactly the settings it depends on, so that a changed handle re-computes what depends on
it and nothing else.
"""

from truesitter.core.stages.study import Study

__all__ = ["Study"]
