"""What the maker decided: immutable, validated documents and the deeds that make new ones."""

from orvek.documents.base import (
    STANDING_WORDS,
    Document,
    Known,
    Measure,
    Standing,
    checked,
    declared,
)
from orvek.documents.blank import Blank
from orvek.documents.job import Batch, Job, new_id
from orvek.documents.job_file import SUFFIX, from_text, job_schema, schema_text, to_text
from orvek.documents.material import Material, material, materials
from orvek.documents.mould import BarMould, LoafMould, Mould, RoundMould
from orvek.documents.pen import MOST_BARRELS, Barrel, Pen
from orvek.documents.pigment import Pigment, PigmentDose, PigmentKind
from orvek.documents.pour import Insert, Pour, Scale
from orvek.documents.resin import Family, Resin
from orvek.documents.shipped import Catalogue, catalogue, first_shop
from orvek.documents.shop import Preferences, Shop
from orvek.documents.steps import (
    MOST_CUPS,
    STOCK_KINDS,
    ArcStep,
    CastStep,
    Cup,
    CutStep,
    DyeStep,
    InsertStep,
    LaminateStep,
    Layer,
    PlugStep,
    ReorientStep,
    RipStep,
    SliceStep,
    SolidStep,
    StackStep,
    StavesStep,
    Step,
)

__all__ = [
    "MOST_BARRELS",
    "MOST_CUPS",
    "STANDING_WORDS",
    "STOCK_KINDS",
    "SUFFIX",
    "ArcStep",
    "BarMould",
    "Barrel",
    "Batch",
    "Blank",
    "CastStep",
    "Catalogue",
    "Cup",
    "CutStep",
    "Document",
    "DyeStep",
    "Family",
    "Insert",
    "InsertStep",
    "Job",
    "Known",
    "LaminateStep",
    "Layer",
    "LoafMould",
    "Material",
    "Measure",
    "Mould",
    "Pen",
    "Pigment",
    "PigmentDose",
    "PigmentKind",
    "PlugStep",
    "Pour",
    "Preferences",
    "ReorientStep",
    "Resin",
    "RipStep",
    "RoundMould",
    "Scale",
    "Shop",
    "SliceStep",
    "SolidStep",
    "StackStep",
    "Standing",
    "StavesStep",
    "Step",
    "catalogue",
    "checked",
    "declared",
    "first_shop",
    "from_text",
    "job_schema",
    "material",
    "materials",
    "new_id",
    "schema_text",
    "to_text",
]
