"""Limits on what the child process may use."""

from __future__ import annotations


def set_limits(plan: object) -> None:
    """Limit memory, processor time and file size, in bytes and seconds; where the system knows no such limits, not."""
    try:
        import resource
    except ImportError:
        return
    wanted = {
        "RLIMIT_AS": plan.memory,
        "RLIMIT_FSIZE": plan.file,
        "RLIMIT_CPU": plan.seconds + 1,
        "RLIMIT_CORE": 0,
    }
    for name, value in wanted.items():
        which = getattr(resource, name, None)
        if which is not None:
            _, hard = resource.getrlimit(which)
            if hard == resource.RLIM_INFINITY or value <= hard:
                resource.setrlimit(which, (value, hard))
