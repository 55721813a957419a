"""One step's share of the cut list: what it begins with, its cuts with their settings, what is glued."""

from __future__ import annotations

import math

from msgspec.structs import replace

from orvek.craft.segmenting import ArcCut, DiagonalCut, Ring, compound_stave, wrap_width_mm
from orvek.documents import (
    ArcStep,
    CutStep,
    Glue,
    Job,
    LaminateStep,
    Layer,
    Machine,
    RipStep,
    RoundStep,
    SliceStep,
    SolidStep,
    SquareStep,
    StackStep,
    StavesStep,
    Step,
    WrapStep,
)
from orvek.planning.bar import widest_radius_mm
from orvek.planning.glue_up.saw import GlueJoint, SawCut, Stock, centre_for, face_of, stop_for, to_mark
from orvek.quantities import Dimension, Units, decimal, write
from orvek.workpiece.lengths import bare_sheet_mm, reach_mm, sheet_joints

# The cut meets the fence beyond the axis and the face away from it before: so the blade is turned.
_LEANS = "away from the fence the blade runs towards the stop"
_SHEET_MM = 4.0  # thinner pieces are cut from sheet, not crosscut from a bar
ALLOWANCE_MM = 10.0  # on lengths, to cut clean ends (workshop practice)
_METALS = {"metal"}


class StepShare:
    """One step's share of the cut list."""

    def __init__(
        self,
        job: Job,
        units: Units,
        machine: Machine,
        hand: Glue,
        index: int,
        long: float,
        section: tuple[float, float, bool],
    ) -> None:
        self.section = section
        self._units = units
        self.job, self.machine, self.hand, self.index = job, machine, hand, index
        self.long, self.across = long, max(section[:2])

    def _mm(self, value: float) -> str:
        return write(value, Dimension.LENGTH, self._units)

    def _across_at(self, azimuth_deg: float) -> float:
        """Twice as far as the bar, as it is at this step, reaches towards an azimuth: what a stop is reckoned from."""
        width, depth, is_round = self.section
        return 2 * reach_mm(width, depth, azimuth_deg, is_round=is_round)

    # -- stock -------------------------------------------------------------------------------------------------

    def stock(self, step: Step, lost_mm: float = 0.0) -> list[Stock]:
        """Boards and strips a step begins with; `lost_mm` is what later slices take off the ends."""
        skim, long = self.job.glue_up.skim_mm, self.long + ALLOWANCE_MM + lost_mm
        square = self.across + skim
        match step:
            case SolidStep():
                # Nothing is glued before its first cut, so nothing is skimmed: it is reckoned as it is listed.
                return [self._piece("Bar", step.material, long, self.across, self.across)]
            case LaminateStep():
                return self._strips(step, square, lost_mm)
            case StackStep():
                return [
                    self._piece(f"Piece {n}", layer.material, layer.thickness_mm, square, square)
                    for n, layer in enumerate(step.pieces, 1)
                ]
            case StavesStep():
                return self._staves(step, long)
            case WrapStep() if step.covered == "coated":
                return [self._piece("Core", step.core, long, self.across, self.across)]
            case WrapStep():
                width = wrap_width_mm(step.core_mm, step.sheet_mm, step.overlap_mm)
                core = self._piece("Core", step.core, long, step.core_mm + 4, step.core_mm + 4)
                return [core, self._piece("Sheet", "paper", long, width, step.sheet_mm)]
            case CutStep() | ArcStep():
                return self._sheet(step)
            case _:
                return []

    def _strips(self, step: LaminateStep, square: float, lost_mm: float) -> list[Stock]:
        angle = math.radians(step.angle_deg)
        along = self.long * math.cos(angle) + self.across * math.sin(angle) + ALLOWANCE_MM + lost_mm
        over = self.long * math.sin(angle) + self.across * math.cos(angle)
        found: dict[tuple[str, float], int] = {}
        for layer, count in _pile_over(step.strips, step.glue_mm, over):
            key = (layer.material, layer.thickness_mm)
            found[key] = found.get(key, 0) + count
        return [self._piece("Strip", key, along, square, thick, count) for (key, thick), count in found.items()]

    def _staves(self, step: StavesStep, long: float) -> list[Stock]:
        wide = Ring(step.count).outer_mm(self.across / 2) + self.job.glue_up.skim_mm
        thick = step.thickness_mm or self.across / 2
        if step.ring_mm > 0:
            rings = math.ceil(self.long / step.ring_mm)
            long += (rings - 1) * self.machine.kerf_mm
        counts = [sum(1 for n in range(step.count) if n % len(step.materials) == m) for m in range(len(step.materials))]
        return [
            self._piece("Stave", key, long, wide, thick, count)
            for key, count in zip(step.materials, counts, strict=True)
            if count
        ]

    def _sheet(self, step: CutStep | ArcStep) -> list[Stock]:
        """Every layer of what is let in, as large as the cut's face."""
        if isinstance(step, CutStep):
            long = self.across / math.sin(math.radians(step.angle_deg)) + ALLOWANCE_MM
        else:
            long = 2 * ArcCut(step.radius_mm, step.distance_mm, 0).reach_mm(self.across / 2) + ALLOWANCE_MM
        layers = step.sheet
        if step.sheet_form == "one bonded sheet":
            # One piece to cut; it is listed by what lies outside, and as thick as the whole.
            layers = (Layer(material=layers[0].material, thickness_mm=bare_sheet_mm(step)),) if layers else ()
        name = "Inlay, bonded sheet" if len(layers) < len(step.sheet) else "Inlay"
        return [self._piece(name, layer.material, long, self.across + 2, layer.thickness_mm) for layer in layers]

    @staticmethod
    def _piece(name: str, key: str, long: float, wide: float, thick: float, count: int = 1) -> Stock:
        return Stock(name, key, round(long, 1), round(wide, 1), round(thick, 2), count)

    # -- cuts --------------------------------------------------------------------------------------------------

    def cuts(self, step: Step) -> list[SawCut]:
        """The cuts of a step, with their settings."""
        match step:
            case CutStep():
                return [self._diagonal(step)]
            case SliceStep():
                return [*self._mitred_end(step), self._slices(step)]
            case RipStep():
                fence = self._across_at(step.azimuth_deg) / 2 - step.kerf_mm / 2
                rip = self._along("Rip it along its axis", step.azimuth_deg, fence, step.kerf_mm)
                return [replace(rip, then=_flipped(step, self._units))]
            case ArcStep():
                return [self._arc(step)]
            case StavesStep():
                return self._bevels(step)
            case LaminateStep() if step.angle_deg > 0:
                return [self._out_of_panel(step)]
            case StackStep():
                return self._pieces(step)
            case RoundStep() if step.diameter_mm < self.across:
                return [self._rounded(step)]
            case SquareStep():
                return self._squared(step.side_mm)
            case _:
                return []

    def _diagonal(self, step: CutStep) -> SawCut:
        across = self._across_at(step.azimuth_deg)
        stop = stop_for(step.centre_mm, step.angle_deg, across, step.kerf_mm)
        set_deg, nearest, nearest_stop = self._settings(step.angle_deg, stop)
        # The line z0 + r · cot a · cos θ, as it would be sawn less as it is drawn, where that is most.
        sawn_at = centre_for(nearest_stop, 90 - nearest, across, step.kerf_mm)
        slopes = [DiagonalCut(angle, 0, step.kerf_mm).amplitude_mm(1) for angle in (90 - nearest, step.angle_deg)]
        cost = abs(slopes[0] - slopes[1]) * widest_radius_mm(self.job) + abs(sawn_at - step.centre_mm)
        depth = across - step.tab_mm if step.tab_mm > 0 else None
        slope = 1 / math.tan(math.radians(step.angle_deg))
        reach = across / 2 * slope
        marks = (step.centre_mm - reach, step.centre_mm + (across / 2 - step.tab_mm) * slope) if depth else None
        # What lies against the fence, of the longer of the two pieces.
        held = max(step.centre_mm, self.long - step.centre_mm) + reach
        return SawCut(
            step=self.index,
            title=f"Cut at {decimal(step.angle_deg)}° to the axis"
            + (f", leave a tab of {self._mm(step.tab_mm)}" if depth else ""),
            angle_deg=step.angle_deg,
            azimuth_deg=step.azimuth_deg,
            centre_mm=step.centre_mm,
            kerf_mm=step.kerf_mm,
            set_deg=set_deg,
            set_by="mitre",
            stop_mm=stop,
            fence_mm=None,
            nearest_deg=nearest,
            nearest_stop_mm=nearest_stop,
            cost_mm=cost,
            face_down=face_of(step.azimuth_deg + 270),
            face_fence=face_of(step.azimuth_deg + 180),
            keep="both halves, mark them" if depth is None else "",  # a tab keeps them together
            then=_LEANS if step.angle_deg < 90 else "",
            held_mm=held if depth is None else self.long,
            length_mm=self.long,
            across_mm=across,
            depth_mm=depth,
            marks_mm=marks,
        )

    def _mitred_end(self, step: SliceStep) -> list[SawCut]:
        """Slices that lean begin at an end that leans as they do: it is sawn off first, and waste."""
        if step.angle_deg >= 90:
            return []
        across = self._across_at(step.azimuth_deg)
        reach = across / 2 / math.tan(math.radians(step.angle_deg))
        kerf = step.kerf_mm / math.sin(math.radians(step.angle_deg))
        first = self._crosscuts(step.pitch_mm, step.angle_deg, step.azimuth_deg, step.kerf_mm)
        stop = 2 * reach  # where the plane leaves the fence face: the kerf lies before it, in the waste
        words = f"Mitre the left end first: it loses {self._mm(reach)} on the axis"
        nearest = self._to_stop(stop - kerf)
        return [
            replace(
                first,
                title=words,
                centre_mm=reach - kerf / 2,
                stop_mm=stop - kerf,
                nearest_stop_mm=nearest,
                cost_mm=abs(nearest - (stop - kerf)),
                keep="what lies beyond the kerf",
                then=_LEANS,
                held_mm=self.long,
                across_mm=across,
                count=1,
            )
        ]

    def _slices(self, step: SliceStep) -> SawCut:
        slices = self._crosscuts(step.pitch_mm, step.angle_deg, step.azimuth_deg, step.kerf_mm)
        one, other, still, too = (face_of(step.azimuth_deg + turn) for turn in (0, 180, 90, 270))
        turned = {
            "90": f"a quarter about its cut faces, so that face {one} comes where {still} was",
            "180": f"half round about its cut faces: {one} and {other} change places, {still} and {too} too",
            "end for end": f"end for end: {one} and {other} change places, {still} and {too} stay where they are",
        }[step.turn]
        leans = f"; {_LEANS}" if step.angle_deg < 90 else ""
        return replace(slices, then=f"turn every second slice {turned}{leans}")

    def _crosscuts(self, pitch_mm: float, angle_deg: float, azimuth_deg: float, kerf_mm: float) -> SawCut:
        set_deg, nearest, stop = self._settings(angle_deg, pitch_mm)
        sine = math.sin(math.radians(angle_deg))
        count = max(0, math.ceil(self.long / (pitch_mm + kerf_mm / sine) - 1e-6) - 1)
        return SawCut(
            step=self.index,
            title=f"Crosscut into slices of {self._mm(pitch_mm)}",
            angle_deg=angle_deg,
            azimuth_deg=azimuth_deg,
            centre_mm=pitch_mm,
            kerf_mm=kerf_mm,
            set_deg=set_deg,
            set_by="mitre" if angle_deg < 90 else "",
            stop_mm=pitch_mm,
            fence_mm=None,
            nearest_deg=nearest,
            nearest_stop_mm=stop,
            cost_mm=abs(stop - pitch_mm) * count,
            face_down=face_of(azimuth_deg + 270),
            face_fence=face_of(azimuth_deg + 180),
            keep="every slice, numbered in its order",
            held_mm=pitch_mm,
            length_mm=self.long,
            across_mm=self._across_at(azimuth_deg),
            count=count,
        )

    def _arc(self, step: ArcStep) -> SawCut:
        across = self._across_at(step.azimuth_deg)
        reach = ArcCut(step.radius_mm, step.distance_mm, 0).reach_mm(across / 2)
        return SawCut(
            step=self.index,
            title=f"Saw an arc of {self._mm(step.radius_mm)}",
            angle_deg=90.0,
            azimuth_deg=step.azimuth_deg,
            centre_mm=step.centre_mm,
            kerf_mm=step.kerf_mm,
            set_deg=0.0,
            set_by="",
            stop_mm=step.centre_mm - reach,
            fence_mm=None,
            nearest_deg=0.0,
            nearest_stop_mm=step.centre_mm - reach,
            cost_mm=0.0,  # it is marked out and followed, no scale is set
            face_down=face_of(step.azimuth_deg + 270),
            face_fence=face_of(step.azimuth_deg + 180),
            keep="both pieces",
            held_mm=self.long,
            length_mm=self.long,
            across_mm=across,
            radius_mm=step.radius_mm,
            off_mm=step.distance_mm,
            then=f"the arc's centre lies off the axis beyond face {face_of(step.azimuth_deg)}; it enters there "
            f"{self._mm(step.centre_mm - reach)} and {self._mm(step.centre_mm + reach)} from the left end",
        )

    def _bevels(self, step: StavesStep) -> list[SawCut]:
        bevel, taper = compound_stave(step.count, step.taper_deg)
        nearest = self._to_angle(bevel)
        cost = Ring(step.count).closing_gap_mm(abs(nearest - bevel), step.thickness_mm or self.across / 2)
        wide = Ring(step.count).outer_mm(self.across / 2)
        words = f", tapered {decimal(taper, 2)}° a side" if step.taper_deg else ""
        edges = self._along(f"Bevel both edges of every stave{words}", 0, wide, self.machine.kerf_mm, 2 * step.count)
        found = [replace(edges, set_deg=bevel, set_by="tilt", nearest_deg=nearest, cost_mm=cost)]
        if step.ring_mm > 0:
            count = math.ceil(self.long / step.ring_mm) - 1
            rings = self._crosscuts(step.ring_mm, 90.0, 0.0, self.machine.kerf_mm)
            found.append(replace(rings, title=f"Saw into rings of {self._mm(step.ring_mm)}", count=count))
        return found

    def _out_of_panel(self, step: LaminateStep) -> SawCut:
        cut = self._along("Saw the bar out of the glued panel", step.azimuth_deg, self.across, self.machine.kerf_mm, 2)
        turned = 90 - step.angle_deg
        return replace(
            cut,
            set_deg=step.angle_deg,
            set_by="panel turned",
            nearest_deg=self._to_angle(step.angle_deg),
            angle_deg=turned,
        )

    def _pieces(self, step: StackStep) -> list[SawCut]:
        """Every piece of a stack at its own length; what is as thin as a sheet is cut from one."""
        return [
            self._piece_off(f"Crosscut piece {n}, {self._named((layer,))}", layer.thickness_mm)
            for n, layer in enumerate(step.pieces, 1)
            if layer.thickness_mm >= _SHEET_MM
        ]

    def _piece_off(self, title: str, long_mm: float) -> SawCut:
        """A piece sawn square to its length off a longer bar, which is what is held."""
        cut = self._crosscuts(long_mm, 90.0, 0.0, self.machine.kerf_mm)
        nearest = cut.nearest_stop_mm or long_mm
        return replace(cut, title=title, keep="the piece at the stop", cost_mm=abs(nearest - long_mm), count=1, then="")

    def _rounded(self, step: RoundStep) -> SawCut:
        """Not sawn: a bar is turned, or planed, to a diameter between two cuts."""
        cut = self._along(f"Turn it round to {self._mm(step.diameter_mm)}", 0, 0.0, 0.0)
        words = "the faces go: mark 0° on the end"
        return replace(cut, fence_mm=None, nearest_stop_mm=None, cost_mm=0.0, keep="", then=words)

    def _squared(self, side_mm: float) -> list[SawCut]:
        """Half of what is too much off each face, so that the pattern stays in the middle.

        The first two cuts leave (w + s) / 2 and s stays after the next two, the sawn faces now at the fence.
        """
        kerf, sizes = self.machine.kerf_mm, (self.section[0], self.section[1])
        ways = [(azimuth, size) for azimuth, size in ((0.0, sizes[0]), (90.0, sizes[1])) if size > side_mm]
        halfway = [(azimuth, (size + side_mm) / 2) for azimuth, size in ways]
        last = [(azimuth + 180, side_mm) for azimuth, _ in ways]
        found = [
            replace(
                self._along(f"Square it: saw face {face_of(azimuth)} off", azimuth, fence, kerf),
                keep="what is at the fence",
            )
            for azimuth, fence in (*halfway, *last)
        ]
        if self.section[2]:
            # Once one flat is sawn the bar lies on it, or at the fence with it.
            words = "a round bar rolls: tape it to a flat board for this cut, the fence counted from the bar"
            found = [replace(cut, then=words) for cut in found[:1]] + found[1:]
        return found

    def _along(self, title: str, azimuth: float, fence: float, kerf: float, count: int = 1) -> SawCut:
        nearest = self._to_stop(fence)
        return SawCut(
            step=self.index,
            title=title,
            angle_deg=0.0,
            azimuth_deg=azimuth,
            centre_mm=0.0,
            kerf_mm=kerf,
            set_deg=0.0,
            set_by="",
            stop_mm=None,
            fence_mm=fence,
            nearest_deg=0.0,
            nearest_stop_mm=nearest,
            cost_mm=abs(nearest - fence),
            face_down=face_of(azimuth + 270),
            face_fence=face_of(azimuth + 180),
            keep="both sides",
            held_mm=self.long,
            length_mm=self.long,
            across_mm=self.across,
            count=count,
        )

    def _settings(self, angle_deg: float, stop: float) -> tuple[float, float, float]:
        return 90 - angle_deg, self._to_angle(90 - angle_deg), self._to_stop(stop)

    def _to_angle(self, angle: float) -> float:
        return to_mark(angle, self.machine.angle_step_deg)

    def _to_stop(self, stop: float) -> float:
        return to_mark(stop, self.machine.stop_step_mm)

    # -- joints ------------------------------------------------------------------------------------------------

    def joints(self, step: Step) -> list[GlueJoint]:
        """What is glued for a step, and how long before the next may begin."""
        match step:
            case LaminateStep():
                pile = _pile_over(step.strips, step.glue_mm, self._over(step))
                count = sum(n for _, n in pile) - 1
                return [
                    self._joint(
                        f"Strips side by side: {self._named(step.strips)}, repeated",
                        count,
                        self._metal(step.strips),
                        "Skim flat and square it",
                    )
                ]
            case StackStep():
                words = "Square the ends, flush the faces"
                return [
                    self._joint(
                        f"Pieces end to end: {self._named(step.pieces)}",
                        len(step.pieces) - 1,
                        self._metal(step.pieces),
                        words,
                    )
                ]
            case StavesStep():
                found = [self._joint("Staves in a ring, dry fit first", step.count, False, "Flush the outside")]
                rings = math.ceil(self.long / step.ring_mm) if step.ring_mm > 0 else 1
                if rings > 1:
                    found.append(
                        self._joint("Rings on one another, each turned", rings - 1, False, "Flush the outside")
                    )
                return found
            case CutStep() | ArcStep() if step.sheet:
                closing = "Flush all faces and re-square before the next cut"
                words = f"{self._named(step.sheet)} into the cut"
                return [self._joint(words, sheet_joints(step), self._metal(step.sheet), closing, down="the left face")]
            case SliceStep():
                sine = math.sin(math.radians(step.angle_deg))
                count = max(0, math.ceil(self.long / (step.pitch_mm + step.kerf_mm / sine) - 1e-6) - 1)
                metal = self.job.blank.material(step.spacer).look in _METALS
                return [self._joint("Slices in their order, every other one turned", count, metal, "Flush the faces")]
            case RipStep():
                return [self._joint("The two halves, one flipped", 1, False, "Flush and re-square")]
            case WrapStep() if step.covered == "cast over":
                return [self._joint("The sheet round its core", 1, False, "Seal the edges before it is cast over")]
            case _:
                return []

    def _over(self, step: LaminateStep) -> float:
        angle = math.radians(step.angle_deg)
        return self.long * math.sin(angle) + self.across * math.cos(angle)

    def _joint(self, what: str, count: int, metal: bool, then: str, down: str = "a flat face") -> GlueJoint:
        needed = count * self.job.glue_up.minutes_a_joint
        glue = self.hand
        return GlueJoint(
            self.index, what[:1].upper() + what[1:], count, down, needed, glue.open_min, glue.handle_min, then, metal
        )

    def _named(self, layers: tuple[Layer, ...]) -> str:
        names = ((self.job.blank.material(layer.material).name.lower(), layer.thickness_mm) for layer in layers)
        return ", ".join(f"{name} {decimal(thickness)}" for name, thickness in names)

    def _metal(self, layers: tuple[Layer, ...]) -> bool:
        return any(self.job.blank.material(layer.material).look in _METALS for layer in layers)


def _flipped(step: RipStep, units: Units) -> str:
    """How one half of a rip is laid back on the other."""
    face = face_of(step.azimuth_deg)
    words = f"turn the half with face {face} over about its length: that face comes to the joint"
    if step.flip == "end for end":
        words = f"turn the half with face {face} end for end, its sawn face on the joint again"
    if step.shift_mm == 0:
        return words
    way = "right" if step.shift_mm > 0 else "left"
    return f"{words}; then slide it {write(abs(step.shift_mm), Dimension.LENGTH, units)} to the {way}"


def _pile_over(layers: tuple[Layer, ...], glue_mm: float, over_mm: float) -> list[tuple[Layer, int]]:
    """How many of each strip it takes to cover a width, the pile repeated about its middle."""
    period = sum(layer.thickness_mm for layer in layers) + glue_mm * (len(layers) - 1)
    repeats = math.ceil((over_mm - period) / 2 / period - 1e-9) if over_mm > period else 0
    whole = 1 + 2 * max(0, repeats)
    return [(layer, whole) for layer in layers]
