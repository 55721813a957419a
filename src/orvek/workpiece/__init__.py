"""The blank as a field of materials: steps become a program, the program answers for any point."""

from orvek.workpiece.compiling import compiled
from orvek.workpiece.field import Evaluator, load_kernel
from orvek.workpiece.measures import Amount, amounts
from orvek.workpiece.program import Program, Sample
from orvek.workpiece.reference import evaluate_reference
from orvek.workpiece.swirl import SwirlField, swirl_field, swirl_picture

__all__ = [
    "Amount",
    "Evaluator",
    "Program",
    "Sample",
    "SwirlField",
    "amounts",
    "compiled",
    "evaluate_reference",
    "load_kernel",
    "swirl_field",
    "swirl_picture",
]
