"""The steps that make a blank, in the order of the hands: stock that makes a bar, then work that changes it.

A file for each family; its twin in `workpiece/kinds/` says what its steps do to the blank. A new kind of step is its
class in its family's file, its name in `every.py`, its rows and its reference in the twin, its case in the kernel.
Editors and the job file follow from the class.
"""

from orvek.documents.steps.boring import PlugStep
from orvek.documents.steps.casting import LINE_POINTS, CastStep, Cup, InsertStep
from orvek.documents.steps.dyeing import DyeStep
from orvek.documents.steps.every import (
    STOCK_KINDS,
    STOCK_STEPS,
    WORK_STEPS,
    Step,
    material_keys,
    missing_stock,
    with_material,
)
from orvek.documents.steps.gluing import LaminateStep, SolidStep, StackStep, StavesStep
from orvek.documents.steps.parts import LEAST_SLICE_MM, MOST_CUPS, Caution, Layer, MaterialKey, StepWords
from orvek.documents.steps.photographed import PhotoStep
from orvek.documents.steps.sawing import ArcStep, CutStep, RipStep, SliceStep
from orvek.documents.steps.shaping import ReorientStep, RoundStep, SquareStep
from orvek.documents.steps.wrapping import WrapStep

__all__ = [
    "LEAST_SLICE_MM",
    "LINE_POINTS",
    "MOST_CUPS",
    "STOCK_KINDS",
    "STOCK_STEPS",
    "WORK_STEPS",
    "ArcStep",
    "CastStep",
    "Caution",
    "Cup",
    "CutStep",
    "DyeStep",
    "InsertStep",
    "LaminateStep",
    "Layer",
    "MaterialKey",
    "PhotoStep",
    "PlugStep",
    "ReorientStep",
    "RipStep",
    "RoundStep",
    "SliceStep",
    "SolidStep",
    "SquareStep",
    "StackStep",
    "StavesStep",
    "Step",
    "StepWords",
    "WrapStep",
    "material_keys",
    "missing_stock",
    "with_material",
]
