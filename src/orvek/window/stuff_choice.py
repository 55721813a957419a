"""What the bar works like under bit and tool: the one question of it, asked at Blank and shown at Bore."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QMenu

from orvek.craft.boring_plan import stuffs
from orvek.documents import AS_THE_STEPS_SAY, JOB, path_to
from orvek.planning.stuff import stuff_by_steps
from orvek.window.session import Session
from orvek.window.widgets.choice import add_action


def fill_stuffs(session: Session, menu: QMenu) -> None:
    """Each kind of stuff, first what follows from the steps."""
    now = session.job.bore.stuff
    by_steps = f"{AS_THE_STEPS_SAY}: {stuff_by_steps(session.job).name}"
    for key, words in ((AS_THE_STEPS_SAY, by_steps), *((one.key, one.name) for one in stuffs())):
        deed = partial(session.edit, path_to(JOB.bore.stuff), key, f"It works like {words}")
        add_action(menu, words[:1].upper() + words[1:], deed, checked=key == now)
