"""Light sources of files: what they give, where they hang, which way they throw."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.api
import ifcopenshell.api.aggregate
import ifcopenshell.api.context
import ifcopenshell.api.geometry
import ifcopenshell.api.pset
import ifcopenshell.api.root
import ifcopenshell.api.spatial
import ifcopenshell.api.type
import ifcopenshell.api.unit
import numpy as np
import pytest
from pxr import Gf, Usd, UsdGeom, UsdLux

from altana.core.light.lamps import FIXTURE_KELVIN, FIXTURE_LUMENS, lamps_of
from altana.core.model import Lamp, Model
from altana.core.project import Lamps
from altana.importers.lights import kelvin_of
from altana.importers.table import read_model


class Building:
    """A small IFC file in millimetres, to which light fixtures are added."""

    def __init__(self, schema: str) -> None:
        self.file = ifcopenshell.file(schema=schema)
        run = ifcopenshell.api.run
        if schema == "IFC2X3":
            # Before IFC 4 everything has an owner.
            person = run("owner.add_person", self.file)
            company = run("owner.add_organisation", self.file)
            run("owner.add_person_and_organisation", self.file, person=person, organisation=company)
            run("owner.add_application", self.file)
        project = run("root.create_entity", self.file, ifc_class="IfcProject", name="Lit")
        run("unit.assign_unit", self.file, length={"is_metric": True, "raw": "MILLIMETERS"})
        model = run("context.add_context", self.file, context_type="Model")
        self.body = run(
            "context.add_context", self.file, context_type="Model", context_identifier="Body", target_view="MODEL_VIEW", parent=model
        )  # fmt: skip
        self.storey = run("root.create_entity", self.file, ifc_class="IfcBuildingStorey", name="Ground")
        run("aggregate.assign_object", self.file, products=[self.storey], relating_object=project)
        self.thing("IfcSlab", "Slab", (0.0, 0.0, 0.0), self.block(8000.0, 6000.0, 300.0))

    def thing(self, kind: str, name: str, place: tuple[float, float, float], *items: Any) -> Any:
        """A product at a place (metres) with these items of shape."""
        thing = ifcopenshell.api.run("root.create_entity", self.file, ifc_class=kind, name=name)
        at = np.eye(4)
        at[:3, 3] = place
        ifcopenshell.api.run(
            "geometry.edit_object_placement", self.file, product=thing, matrix=at, is_si=True
        )
        ifcopenshell.api.run(
            "spatial.assign_container", self.file, products=[thing], relating_structure=self.storey
        )
        shapes = []
        solids = [item for item in items if item.is_a("IfcSolidModel")]
        sources = [item for item in items if not item.is_a("IfcSolidModel")]
        for identifier, kind_of_shape, value in (
            ("Body", "SweptSolid", solids),
            ("Lighting", "LightSource", sources),
        ):
            if value:
                shapes.append(
                    self.file.createIfcShapeRepresentation(self.body, identifier, kind_of_shape, value)
                )
        if shapes:
            thing.Representation = self.file.createIfcProductDefinitionShape(None, None, shapes)
        return thing

    def block(self, wide: float, long: float, high: float) -> Any:
        create = self.file
        profile = create.createIfcRectangleProfileDef(
            "AREA", None, create.createIfcAxis2Placement2D(create.createIfcCartesianPoint((0.0, 0.0))), wide, long
        )  # fmt: skip
        return create.createIfcExtrudedAreaSolid(
            profile, create.createIfcAxis2Placement3D(create.createIfcCartesianPoint((0.0, 0.0, 0.0))), create.createIfcDirection((0.0, 0.0, 1.0)), high
        )  # fmt: skip

    def point(self, x: float, y: float, z: float) -> Any:
        return self.file.createIfcCartesianPoint((x, y, z))

    def read(self, folder: Path) -> Model:
        self.file.write(str(folder / "lit.ifc"))
        return read_model(folder / "lit.ifc")[0]


def by_name(model: Model) -> dict[str, Any]:
    return {lamp.name: lamp for lamp in lamps_of(model, Lamps())}


def at(model: Model, lamp: Lamp) -> list[float]:
    """Where a lamp hangs in the file's own numbers, metres."""
    return [a + b for a, b in zip(lamp.place, model.offset, strict=True)]


def test_fixtures_of_ifc_give_what_their_sources_and_properties_say(tmp_path: Path) -> None:
    building = Building("IFC4")
    file = building.file
    white = file.createIfcColourRgb(None, 1.0, 1.0, 1.0)
    axes = file.createIfcAxis2Placement3D(building.point(0.0, 0.0, -200.0))
    shining = file.createIfcLightSourceGoniometric(
        "G", white, None, None, axes, None, 3500.0, 2400.0, "LIGHTEMITTINGDIODE", None
    )
    building.thing("IfcLightFixture", "Drawn", (1.0, 1.0, 2.5), building.block(200.0, 200.0, 60.0), shining)
    hung = file.createIfcLightSourceGoniometric(
        "G", white, None, None, axes, None, 2900.0, 900.0, "LIGHTEMITTINGDIODE", None
    )
    building.thing("IfcLightFixture", "Bare", (2.0, 3.0, 2.5), hung)
    spot = file.createIfcLightSourceSpot(
        "S", white, None, 0.5, building.point(0.0, 0.0, 0.0), 0.0, 1.0, 0.0, 0.0,
        file.createIfcDirection((0.0, 0.0, -1.0)), None, math.radians(30.0), math.radians(20.0),
    )  # fmt: skip
    building.thing("IfcLightFixture", "Downlight", (4.0, 3.0, 2.7), spot)
    plain = building.thing("IfcLightFixture", "Told", (5.0, 3.0, 2.5), building.block(200.0, 200.0, 60.0))
    properties = ifcopenshell.api.run("pset.add_pset", file, product=plain, name="Pset_LampTypeCommon")
    ifcopenshell.api.run(
        "pset.edit_pset",
        file,
        pset=properties,
        properties={"ContributedLuminousFlux": 800.0, "ColorTemperature": 4000.0},
    )
    building.thing("IfcLightFixture", "Silent", (6.0, 3.0, 2.5), building.block(200.0, 200.0, 60.0))
    sun = file.createIfcLightSourceDirectional(
        "Sun", white, None, None, file.createIfcDirection((0.0, 0.0, -1.0))
    )
    building.thing("IfcLightFixture", "Sun", (6.0, 4.0, 2.5), sun)
    model = building.read(tmp_path)
    sources = by_name(model)
    assert set(sources) == {"Drawn", "Bare", "Downlight", "Told", "Silent"}
    assert (sources["Drawn"].lumens, sources["Drawn"].kelvin) == (2400.0, 3500.0)
    assert (sources["Told"].lumens, sources["Told"].kelvin) == (800.0, 4000.0)
    assert (sources["Silent"].lumens, sources["Silent"].kelvin) == (FIXTURE_LUMENS, FIXTURE_KELVIN)
    lamps = {lamp.name: lamp for lamp in model.lamps}
    assert set(lamps) == {"Bare", "Downlight"}
    assert lamps["Bare"].lumens == pytest.approx(900.0) and lamps["Bare"].direction is None
    assert at(model, lamps["Bare"]) == pytest.approx([2.0, 3.0, 2.3])
    down = lamps["Downlight"]
    assert down.direction == pytest.approx((0.0, 0.0, -1.0)) and down.cone_deg == pytest.approx(60.0)
    assert down.lumens == pytest.approx(0.5 * FIXTURE_LUMENS)
    assert at(model, down) == pytest.approx([4.0, 3.0, 2.7])


def test_before_ifc_4_the_type_says_that_it_is_a_light(tmp_path: Path) -> None:
    building = Building("IFC2X3")
    run = ifcopenshell.api.run
    lamp = building.thing("IfcFlowTerminal", "Pendant", (1.0, 1.0, 2.5), building.block(200.0, 200.0, 60.0))
    tap = building.thing("IfcFlowTerminal", "Tap", (3.0, 1.0, 1.0), building.block(50.0, 50.0, 60.0))
    for thing, kind in ((lamp, "IfcLightFixtureType"), (tap, "IfcSanitaryTerminalType")):
        of = run("root.create_entity", building.file, ifc_class=kind, name=kind)
        run("type.assign_type", building.file, related_objects=[thing], relating_type=of)
    model = building.read(tmp_path)
    assert set(by_name(model)) == {"Pendant"}
    assert {item.name: item.category for item in model.objects}["Tap"] != "Light fixture"


def test_lights_of_usd_in_lumens(tmp_path: Path) -> None:
    stage = Usd.Stage.CreateNew(str(tmp_path / "lit.usda"))
    UsdGeom.SetStageUpAxis(stage, UsdGeom.Tokens.y)
    UsdGeom.SetStageMetersPerUnit(stage, 0.01)
    UsdGeom.Cube.Define(stage, "/Block").CreateSizeAttr(300.0)
    globe = UsdLux.SphereLight.Define(stage, "/Globe")
    globe.CreateRadiusAttr(10.0)
    globe.CreateIntensityAttr(1000.0)
    globe.CreateExposureAttr(1.0)
    globe.AddTranslateOp().Set(Gf.Vec3d(100.0, 250.0, -400.0))
    panel = UsdLux.RectLight.Define(stage, "/Panel")
    panel.CreateWidthAttr(60.0)
    panel.CreateHeightAttr(120.0)
    panel.CreateIntensityAttr(500.0)
    panel.CreateNormalizeAttr(True)
    panel.CreateEnableColorTemperatureAttr(True)
    panel.CreateColorTemperatureAttr(3200.0)
    panel.AddRotateXOp().Set(-90.0)
    spot = UsdLux.SphereLight.Define(stage, "/Spot")
    spot.CreateRadiusAttr(2.0)
    spot.CreateIntensityAttr(50_000.0)
    UsdLux.ShapingAPI.Apply(spot.GetPrim()).CreateShapingConeAngleAttr(25.0)
    UsdLux.DistantLight.Define(stage, "/Sun")
    UsdLux.DomeLight.Define(stage, "/Sky")
    stage.Save()
    model = read_model(tmp_path / "lit.usda")[0]
    lamps = {lamp.name: lamp for lamp in model.lamps}
    assert set(lamps) == {"Globe", "Panel", "Spot"}
    # A luminance of 2000 cd/m2 over a globe of 10 cm: pi L A.
    assert lamps["Globe"].lumens == pytest.approx(math.pi * 2000.0 * 4.0 * math.pi * 0.1**2)
    assert at(model, lamps["Globe"]) == pytest.approx([1.0, 4.0, 2.5])
    assert lamps["Globe"].direction is None
    assert lamps["Panel"].lumens == pytest.approx(math.pi * 500.0, rel=1e-6)
    assert lamps["Panel"].kelvin == pytest.approx(3200.0)
    assert lamps["Panel"].direction == pytest.approx((0.0, 0.0, -1.0), abs=1e-6)
    assert lamps["Spot"].cone_deg == pytest.approx(50.0)
    # As bright ahead as all round.
    ahead = 50_000.0 * math.pi * 0.02**2
    assert lamps["Spot"].candela == pytest.approx(ahead, rel=1e-6)


def test_warmth_by_colour() -> None:
    assert kelvin_of(1.0, 1.0) == 6500.0
    assert kelvin_of(1.0, 0.35) == 2700.0
