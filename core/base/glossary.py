"""The names of quantities: one term, one unit, one range, spelled the same everywhere.

The ranges are those in which a figure has a meaning on a house; beyond them an entry is
refused as a slip, inside them it is judged.
"""

from __future__ import annotations

from typing import Annotated, Literal

from core.base.quantity import Quantity, Text

# -- module sheet, at standard test conditions (STC: 1000 W/m2, 25 C, AM 1.5; IEC 61215)
PmaxW = Annotated[float, Quantity("maximum power at STC", "W", 10, 1000)]
VocV = Annotated[float, Quantity("module open-circuit voltage at STC", "V", 1, 200)]
VmpV = Annotated[float, Quantity("module voltage at maximum power, STC", "V", 1, 200)]
IscA = Annotated[float, Quantity("module short-circuit current at STC", "A", 0.1, 40)]
ImpA = Annotated[float, Quantity("module current at maximum power, STC", "A", 0.1, 40)]
BetaVocPctPerK = Annotated[
    float,
    Quantity("temperature coefficient of open-circuit voltage", "%/K", -0.6, -0.1),
]
BetaVmpPctPerK = Annotated[
    float,
    Quantity("temperature coefficient of voltage at maximum power", "%/K", -0.8, -0.1),
]
AlphaIscPctPerK = Annotated[
    float,
    Quantity("temperature coefficient of short-circuit current", "%/K", -0.05, 0.2),
]
GammaPmaxPctPerK = Annotated[
    float, Quantity("temperature coefficient of maximum power", "%/K", -0.8, -0.1)
]
NoctC = Annotated[float, Quantity("nominal operating cell temperature", "°C", 35, 60)]
CellsInSeries = Annotated[int, Quantity("cells in series in one module", "", 1, 200)]
BypassSections = Annotated[int, Quantity("bypass sections in one module", "", 1, 12)]
MaxSeriesFuseA = Annotated[float, Quantity("module maximum series fuse", "A", 1, 60)]
MaxSystemV = Annotated[float, Quantity("module maximum system voltage", "V", 50, 2000)]
ModuleSideMm = Annotated[float, Quantity("side of the module", "mm", 200, 3000)]

# -- inverter sheet
MaxDcV = Annotated[float, Quantity("inverter maximum DC voltage", "V", 30, 2000)]
StartV = Annotated[float, Quantity("inverter start voltage", "V", 5, 1500)]
TrackMinV = Annotated[float, Quantity("lowest tracking voltage", "V", 5, 1500)]
TrackMaxV = Annotated[float, Quantity("highest tracking voltage", "V", 10, 2000)]
FullPowerMinV = Annotated[float, Quantity("lowest voltage at full power", "V", 5, 1500)]
FullPowerMaxV = Annotated[float, Quantity("highest voltage at full power", "V", 10, 2000)]
MaxOperatingA = Annotated[float, Quantity("tracker's maximum operating current", "A", 0.5, 200)]
MaxShortCircuitA = Annotated[
    float, Quantity("tracker's maximum short-circuit current", "A", 0.5, 300)
]
TrackerInputs = Annotated[int, Quantity("inputs of a tracker", "", 1, 6)]
TrackerMaxW = Annotated[float, Quantity("tracker's maximum power", "W", 100, 100_000)]
MaxDcW = Annotated[float, Quantity("inverter maximum DC power", "W", 100, 200_000)]
RatedAcW = Annotated[float, Quantity("rated AC power", "W", 100, 100_000)]

# -- optimiser sheet
SafetyV = Annotated[float, Quantity("safety voltage of one optimiser", "V", 0.1, 10)]
SafetyToleranceV = Annotated[float, Quantity("tolerance of the safety voltage", "V", 0, 1)]
FixedStringV = Annotated[float, Quantity("fixed string voltage", "V", 100, 1500)]
OptimisersInString = Annotated[int, Quantity("optimisers in a string", "", 1, 100)]
MostStringW = Annotated[float, Quantity("most power of an optimiser string", "W", 500, 50_000)]
MaxInputV = Annotated[float, Quantity("optimiser maximum input voltage", "V", 10, 200)]
MaxInputA = Annotated[float, Quantity("optimiser maximum input current", "A", 1, 40)]
MaxModuleW = Annotated[float, Quantity("most module power on an optimiser", "W", 50, 1500)]

# -- microinverter and trunk sheets
UnitVa = Annotated[float, Quantity("output of one unit", "VA", 50, 5000)]
UnitA = Annotated[float, Quantity("current of one unit", "A", 0.1, 25)]
UnitInputs = Annotated[int, Quantity("module inputs of a unit", "", 1, 2)]
UnitIscA = Annotated[float, Quantity("unit's maximum input short-circuit current", "A", 1, 60)]
UnitsOnBranch = Annotated[int, Quantity("units on a branch", "", 1, 60)]
Units = Annotated[int, Quantity("units", "", 0, 400)]
ReachMm = Annotated[float, Quantity("reach of a module's leads", "mm", 50, 5000)]
LeadM = Annotated[float, Quantity("lead", "m", 0.1, 20)]
PitchM = Annotated[float, Quantity("drop spacing of the trunk", "m", 0.3, 6)]
LeadInM = Annotated[float, Quantity("trunk before its first drop", "m", 0, 20)]
WayM = Annotated[float, Quantity("way of the trunk", "m", 0, 100)]
TrunkOhmPerM = Annotated[float, Quantity("resistance of one trunk conductor", "Ω/m", 1e-5, 0.1)]
ConductorOhmPerM = Annotated[float, Quantity("resistance of one conductor", "Ω/m", 1e-5, 0.1)]
Minutes = Annotated[float, Quantity("minutes", "min", 0, 1440)]
BreakerShare = Annotated[float, Quantity("share of the breaker", "", 0.1, 1)]
RoofMm = Annotated[float, Quantity("on the roof", "mm", 0, 60_000)]
GapMm = Annotated[float, Quantity("gap in a row", "mm", 0, 20_000)]
ShiftMm = Annotated[float, Quantity("moved along the row", "mm", -3000, 3000)]
Phase = Annotated[int, Quantity("phase, 0 for all three", "", 0, 3)]

# -- string and site
ModulesInSeries = Annotated[int, Quantity("modules in series", "modules", 1, 100)]
ParallelStrings = Annotated[int, Quantity("parallel strings", "", 1, 20)]
TAirMinC = Annotated[float, Quantity("coldest air", "°C", -60, 40)]
TAirMaxC = Annotated[float, Quantity("hottest air", "°C", -20, 60)]
TAirC = Annotated[float, Quantity("air temperature", "°C", -60, 60)]
TModuleC = Annotated[float, Quantity("back-of-module temperature", "°C", -60, 110)]
TCellC = Annotated[float, Quantity("cell temperature", "°C", -60, 130)]
IrradianceWPerM2 = Annotated[float, Quantity("irradiance on the roof plane", "W/m²", 1, 1500)]
ReadV = Annotated[float, Quantity("voltage read", "V", -2000, 2000)]
MeterOhm = Annotated[float, Quantity("input resistance of the meter", "ohm", 1e4, 1e10)]
FuseA = Annotated[float, Quantity("string fuse", "A", 1, 100)]
WindMPerS = Annotated[float, Quantity("wind at the array", "m/s", 0, 60)]
VocReadV = Annotated[float, Quantity("open-circuit voltage read", "V", -2000, 2000)]
# Computed of a whole string or way, beyond what any single entry may be: judged, not refused.
StringV = Annotated[float, Quantity("string voltage", "V", 0, 100_000)]
ColdModuleV = Annotated[float, Quantity("module open-circuit voltage, cold", "V", 0, 400)]
WholeWayM = Annotated[float, Quantity("way, all its pieces together", "m", 0, 50_000)]
SummedA = Annotated[float, Quantity("current, of all that draw it", "A", 0, 200_000)]
TerminalV = Annotated[float, Quantity("voltage at the terminals", "V", 0, 100_000)]
AtHeightMm = Annotated[float, Quantity("height", "mm", 0, 30_000)]
TiltDeg = Annotated[float, Quantity("tilt from level", "°", 0, 90)]
AzimuthDeg = Annotated[float, Quantity("facing, clockwise from north", "°", 0, 360)]
LatitudeDeg = Annotated[float, Quantity("latitude, north positive", "°", -90, 90)]
LongitudeDeg = Annotated[float, Quantity("longitude, east positive", "°", -180, 180)]
AltitudeM = Annotated[float, Quantity("altitude", "m", -430, 5000)]
RearGainFraction = Annotated[float, Quantity("bifacial rear gain", "", 0, 0.5)]
IdealityN = Annotated[float, Quantity("diode ideality factor", "", 0.8, 1.6)]
SafetyFactor = Annotated[float, Quantity("safety factor on current", "", 1, 2)]

# -- AC run
LengthM = Annotated[float, Quantity("one-way length", "m", 0.1, 500)]
SectionMm2 = Annotated[float, Quantity("conductor size", "mm²", 1.5, 120)]
Cores = Annotated[int, Quantity("cores", "cores", 2, 5)]
Service = Literal["single", "split", "three"]
SupplyV = Annotated[float, Quantity("supply voltage", "V", 60, 500)]
NominalV = Annotated[float, Quantity("nominal voltage", "V", 60, 500)]
FrequencyHz = Annotated[float, Quantity("supply frequency", "Hz", 40, 70)]
ROhmPerKm = Annotated[float, Quantity("conductor resistance", "ohm/km", 0.001, 100)]
XOhmPerKm = Annotated[float, Quantity("conductor reactance", "ohm/km", 0, 2)]
ConductorC = Annotated[float, Quantity("conductor temperature", "°C", -20, 120)]
PowerFactor = Annotated[float, Quantity("power factor", "", 0.5, 1)]
Reactive = Literal["none", "absorbing", "injecting"]
ApparentVa = Annotated[float, Quantity("inverter output", "VA", 1, 200_000)]
LimitPct = Annotated[float, Quantity("limit", "%", 0.1, 20)]
FillPct = Annotated[float, Quantity("share that may be filled", "%", 1, 100)]
LimitV = Annotated[float, Quantity("voltage limit", "V", 1, 5000)]

# -- conductors, their laying, what protects and switches them
RunAirC = Annotated[float, Quantity("hottest air around the run", "°C", -40, 120)]
Grouped = Annotated[int, Quantity("circuits side by side", "", 1, 40)]
LoadedConductors = Annotated[int, Quantity("loaded conductors", "", 2, 3)]
CurrentA = Annotated[float, Quantity("current", "A", 0, 2000)]
RatedA = Annotated[float, Quantity("rated current", "A", 1, 400)]
RatedV = Annotated[float, Quantity("rated voltage", "V", 12, 2000)]
Poles = Annotated[int, Quantity("poles", "", 1, 8)]
OutsideMm = Annotated[float, Quantity("outside diameter", "mm", 2, 60)]
GripMm2 = Annotated[float, Quantity("conductor gripped", "mm²", 0.5, 95)]
TorqueNm = Annotated[float, Quantity("terminal torque", "Nm", 0.2, 20)]
StripMm = Annotated[float, Quantity("strip length", "mm", 4, 60)]
GlandMm = Annotated[float, Quantity("gland insert", "mm", 2, 60)]
ResidualMa = Annotated[float, Quantity("rated residual current", "mA", 6, 500)]
LoopOhm = Annotated[float, Quantity("loop impedance", "Ω", 0, 10_000)]
BusbarA = Annotated[float, Quantity("busbar rating", "A", 10, 1000)]
SharePct = Annotated[float, Quantity("share", "%", 0, 1000)]
LossHours = Annotated[float, Quantity("hours at full output", "h", 0, 8760)]
PowerW = Annotated[float, Quantity("power", "W", 0, 400_000)]
ReactiveVar = Annotated[float, Quantity("reactive power", "var", -400_000, 400_000)]

# -- what hangs on a wall, and the wall
WidthMm = Annotated[float, Quantity("width", "mm", 10, 3000)]
HeightMm = Annotated[float, Quantity("height", "mm", 10, 3000)]
DepthMm = Annotated[float, Quantity("depth from the wall", "mm", 5, 1000)]
MassKg = Annotated[float, Quantity("mass", "kg", 0.1, 500)]
ClearanceMm = Annotated[float, Quantity("clearance", "mm", 0, 3000)]
AcrossMm = Annotated[float, Quantity("from the wall's left edge", "mm", 0, 30_000)]
AboveMm = Annotated[float, Quantity("above the ground line", "mm", 0, 12_000)]
FreeMm = Annotated[float, Quantity("free space", "mm", -30_000, 30_000)]
PatternMm = Annotated[float, Quantity("hole pattern", "mm", 0, 2500)]
LeverMm = Annotated[float, Quantity("lever arm", "mm", 1, 3000)]
FixingCount = Annotated[int, Quantity("fixings", "", 1, 40)]
StudPitchMm = Annotated[float, Quantity("pitch of the studs", "mm", 100, 1500)]
ThicknessMm = Annotated[float, Quantity("thickness of the wall", "mm", 6, 1500)]
HoleMm = Annotated[float, Quantity("depth of the hole", "mm", 5, 500)]
LoadN = Annotated[float, Quantity("load", "N", 0, 100_000)]
LoadFactor = Annotated[float, Quantity("factor on the load", "", 1, 10)]
LevelMmPerM = Annotated[float, Quantity("out of level", "mm/m", -50, 50)]
People = Annotated[int, Quantity("people", "", 0, 12)]
SunHours = Annotated[float, Quantity("direct sun in a day", "h", 0, 24)]

# -- earthing
EarthMm2 = Annotated[float, Quantity("earth conductor", "mm²", 1, 120)]
StudMm = Annotated[float, Quantity("stud of the terminal", "mm", 3, 16)]
ResistanceOhm = Annotated[float, Quantity("resistance", "Ω", 0, 10_000)]
TestCurrentA = Annotated[float, Quantity("test current", "A", 0, 30)]
Joints = Annotated[int, Quantity("joints", "", 0, 400)]

# -- counting goods
Counted = Annotated[float, Quantity("counted", "", 0, 10_000)]

# -- names and notes
Name = Annotated[str, Text("name", 1, 60)]
Note = Annotated[str, Text("note", 0, 500)]
Source = Annotated[str, Text("source", 1, 300)]
Reason = Annotated[str, Text("reason", 3, 300)]
Identity = Annotated[str, Text("identity", 8, 64)]
Host = Annotated[str, Text("device address", 1, 200)]
Port = Annotated[int, Quantity("device port", "", 1, 65535)]
UnitId = Annotated[int, Quantity("device unit number", "", 0, 247)]

ColdMethod = Literal["datasheet", "banded", "flat"]
StartMethod = Literal["vmp_hot", "voc_hot"]
FuseMethod = Literal["iec", "us"]
AgreeMethod = Literal["mean", "max", "median"]
# What a sheet says of something that a device has or has not.
Has = Literal["yes", "no", "unsaid"]
# Whether a code asks for something; how it wants the array parted.
Asked = Literal["asked", "not_asked"]
Disconnect = Literal["isolator", "point"]
# What a device says with its lights.
LightState = Literal[
    "off", "waiting", "starting", "watching", "feeding", "pairing", "fault", "earth_fault"
]
WakeMethod = Literal["dc_first", "ac_first", "no_sun"]
AcIsolator = Literal["needed", "breaker_serves"]
OffMethod = Literal["ac_first", "dc_first"]
Mounting = Literal["close", "raised", "open", "in_roof"]
WallKind = Literal["solid", "hollow", "stud", "board", "wood"]
SurgeType = Literal["none", "1", "2", "1+2"]
Room = Literal["garage", "utility", "living", "bedroom", "loft", "stairs"]
Side = Literal["left", "right", "top", "bottom"]
Entry = Literal["bottom", "side", "back", "top"]
HeightMethod = Literal["readable", "out_of_reach"]
RoofEarth = Literal["washer", "wire", "none"]
Pole = Literal["none", "minus", "plus"]
BusbarMethod = Literal["sum", "share"]
ConductorName = Literal["L", "L1", "L2", "L3", "N", "PE", "plus", "minus"]
Material = Literal["copper", "aluminium"]
Insulation = Literal["pvc", "xlpe"]
# What the terminals of a cable bear, °C.
Terminals = Literal["70", "90"]
Method = Literal["A1", "B1", "B2", "C", "raceway"]
Strands = Literal["solid", "stranded", "fine"]
Laid = Literal["touching", "free"]
TripCurve = Literal["B", "C", "D"]
EarthSystem = Literal["TN", "TT"]
FeedParted = Literal["alone", "divider", "marked", "no"]
ResidualType = Literal["none", "A", "F", "B"]
Orientation = Literal["portrait", "landscape"]
UnitEarth = Literal["core", "washer", "wire"]
BranchFeed = Literal["end", "centre"]
GapRule = Literal["skip", "extension"]
TrunkOrder = Literal["trunk_first", "units_first"]
LabelMethod = Literal["frame_and_map", "map"]

# A signal by which the operator, or a switch, holds the plant back.
Signal = Literal["demand_response", "ripple", "dry_contact", "shutdown"]

# -- labels
LabelId = Literal[
    "dc_run", "dc_switch", "inverter", "ac_isolator", "line_load", "board", "supply_point",
    "emergency", "roof_units", "battery", "backup", "earth", "date",
]  # fmt: skip
ReadFromM = Annotated[float, Quantity("reading distance", "m", 0.1, 30)]
LabelSpacingM = Annotated[float, Quantity("most between two labels of a run", "m", 0.5, 20)]
InspectionMonths = Annotated[int, Quantity("months to the next inspection", "", 1, 240)]
