"""What photos of a bar leave in doubt: for the sheet on which they are taken in, and for the findings of a job."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct

from orvek.documents import FACES, PhotoStep, PhotoView
from orvek.documents.job.printing import size_px
from orvek.quantities import Dimension, Units, write

_OFF = 0.04  # of length over width: what rounded corners do to it (a choice)
_OUTSIDE = 0.01
_OTHER_LIGHT = 1.25  # times as much light on one face as on another: then it is said


class Doubt(Struct, frozen=True):
    """One thing that is not sure, and why; `gravely` where what is drawn from it is wrong."""

    title: str
    because: str
    gravely: bool = True


def doubts(step: PhotoStep, units: Units) -> Iterator[Doubt]:
    """What is doubtful about the photos of a bar, the gravest first."""
    if not step.views:
        yield Doubt("There is no photo of the bar yet.", "Until there is one, it is drawn grey.")
        return
    for view in step.views:
        yield from _of_view(step, view, units)
    seen = {view.azimuth_deg for view in step.views}
    missing = [face for face, at in FACES.items() if at not in seen]
    if step.form == "rectangular" and missing:
        listed = missing[0] if len(missing) == 1 else f"{', '.join(missing[:-1])} and {missing[-1]}"
        faces, are = ("Face", "is") if len(missing) == 1 else ("Faces", "are")
        because = "What they show is supposed from the faces there are. A photo of each makes it sure."
        yield Doubt(f"{faces} {listed} {are} not photographed.", because, gravely=False)
    if step.form == "round" and len(step.views) < 3:
        because = "A round bar is seen all round in three to six photos, rolled by the same turn each time."
        yield Doubt(f"A round bar has {len(step.views)} of 3 photos.", because, gravely=False)


def light_doubt(step: PhotoStep) -> Doubt | None:
    """That the faces were photographed in different light. It reads the photos: no plan asks for it."""
    from orvek.workpiece.photo import light_gains

    found = light_gains(step)
    times = max(found, default=1.0) / min(found, default=1.0)
    if times < _OTHER_LIGHT:
        return None
    return Doubt(
        f"One face has {times:.1f} times the light of another.",
        "They are brought to one level. White paper beside the bar on each photo, clicked as what is white, makes that "
        "sure.",
        gravely=False,
    )


def _of_view(step: PhotoStep, view: PhotoView, units: Units) -> Iterator[Doubt]:
    if size_px(view.artwork) == (0, 0):
        yield Doubt(f"The photo of face {step.called(view)} cannot be read.", "Take it in once more; it is drawn grey.")
        return
    if any(not -_OUTSIDE <= part <= 1 + _OUTSIDE for corner in view.corners for part in corner):
        because = "A corner lies beyond the picture; what is not on it repeats its edge."
        yield Doubt(f"Face {step.called(view)} is not whole on its photo.", because)
    from orvek.workpiece.photo import proportion

    shown = proportion(view)
    wide = step.across_mm(view.azimuth_deg)
    if shown is None or step.form == "round":
        return
    told = step.length_mm / wide
    low, high = shown[0] * (1 - _OFF), shown[1] * (1 + _OFF)
    if not low <= told <= high:
        size = f"{write(step.length_mm, Dimension.LENGTH, units)} × {write(wide, Dimension.LENGTH, units)}"
        because = (
            f"On the photo it is {low:.1f} to {high:.1f} times as long as wide, by its sizes ({size}) {told:.1f}. "
            "A corner lies wrong, or a size; the lens may bend it too, if the bar lies near the picture's edge."
        )
        yield Doubt(f"Face {view.face} looks {'longer' if low > told else 'shorter'} than its sizes say.", because)
