"""The blank as a field of materials. For now: an impression of what a casting of several cups may look like."""

from orvek.workpiece.swirl import SwirlField, swirl_field, swirl_picture

__all__ = ["SwirlField", "swirl_field", "swirl_picture"]
