"""Steps that change how the bar lies or how much is left of it: round, square, taken out at an angle."""

from typing import ClassVar, Literal

from orvek.documents.steps.parts import AT_THE_SAW, Caution, StepDocument, StepWords, angle, length


class RoundStep(StepDocument):
    """Turn the bar round."""

    title: ClassVar = "Turn it round"
    caution: ClassVar = Caution(
        "No gloves or loose sleeves at the lathe.",
        "No gloves, loose sleeves, rings or rags near spinning work; face shield and dust mask. The lathe's manual "
        "decides.",
    )

    kind: Literal["round"] = "round"
    diameter_mm: float = length("Diameter", low=3, high=100, default=16)

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"Round, {words.mm(self.diameter_mm)}"


class SquareStep(StepDocument):
    """Plane or saw the bar down to a square."""

    title: ClassVar = "Make it square"
    caution: ClassVar = AT_THE_SAW

    kind: Literal["square"] = "square"
    side_mm: float = length("Side", low=3, high=100, default=18)

    def line(self, words: StepWords) -> str:
        """The step in a few words, its sizes in the maker's units."""
        return f"Square, {words.mm(self.side_mm)}"


class ReorientStep(StepDocument):
    """Take the bar out of a bigger casting, at an angle to it."""

    title: ClassVar = "Take out at an angle"
    caution: ClassVar = AT_THE_SAW

    kind: Literal["reorient"] = "reorient"
    angle_deg: float = angle("Turned by", low=-90, high=90, default=90)
    azimuth_deg: float = angle("Seen from", default=0)
    shift_mm: float = length("Shifted by", low=-1000, high=1000, default=0)
    across_mm: float = length("Moved across by", low=-1000, high=1000, default=0)
