"""What Fernbeck Drainage owns and hauls, as plain lists. All of it invented.

Masses are in pounds, lengths in inches.
"""

from __future__ import annotations

from typing import Any

PARTS: list[dict[str, Any]] = [
    # name, kind, trailer rating, tongue rating, pair with bars, ball size, shank, own mass
    {
        "name": "Receiver, truck 3",
        "kind": "receiver",
        "rated": (12000, 1500),
        "bars": (14000, 1750),
        "shank": 2.5,
    },
    {
        "name": "Drop mount, 2 1/2 in",
        "kind": "mount",
        "rated": (12500, 1600),
        "shank": 2.5,
        "mass": 34,
    },
    {"name": "Big ball", "kind": "ball", "rated": (12000, None), "ball": 2.3125, "mass": 5},
    {"name": "Bed ball", "kind": "gooseneck_ball", "rated": (25000, 6250), "ball": 2.3125},
    {"name": "Receiver, gooseneck truck", "kind": "receiver", "rated": (14000, 1800), "shank": 2.5},
    {"name": "Two-ball mount", "kind": "mount", "rated": (14000, 1400), "shank": 2.5, "mass": 38},
    {"name": "Two-ball mount, 2 5/16 side", "kind": "ball", "rated": (14000, None), "ball": 2.3125},
    {"name": "Two-ball mount, 2 in side", "kind": "ball", "rated": (8000, None), "ball": 2},
    {"name": "Receiver, half-ton", "kind": "receiver", "rated": (7500, 750), "shank": 2},
    {"name": "Short mount, 2 in", "kind": "mount", "rated": (7500, 750), "shank": 2, "mass": 19},
    {"name": "Small ball", "kind": "ball", "rated": (7500, None), "ball": 2, "mass": 3},
    {"name": "Adapter sleeve", "kind": "sleeve", "rated": (5000, 500), "shank": 2, "mass": 9},
    {
        "name": "Coupler, equipment trailer",
        "kind": "coupler",
        "rated": (12500, None),
        "ball": 2.3125,
    },
    {"name": "Coupler, dump trailer", "kind": "coupler", "rated": (12500, None), "ball": 2.3125},
    {"name": "Gooseneck coupler", "kind": "coupler", "rated": (25000, 6250), "ball": 2.3125},
    {"name": "Coupler, tilt", "kind": "coupler", "rated": (7000, None), "ball": 2},
    {"name": "Chains, 3/8 in", "kind": "chains", "rated": (13000, None)},
    {"name": "Chains, 1/2 in", "kind": "chains", "rated": (22600, None)},
]

TRUCKS: list[dict[str, Any]] = [
    {
        "name": "Work truck 3",
        "drive": "four",
        "cab": "crew",
        "rear_wheels": "single",
        "masses": {
            "front_axle_mass": 4180,
            "rear_axle_mass": 2940,
            "front_gawr": 5200,
            "rear_gawr": 6340,
            "gvwr": 10000,
            "gcwr": 22000,
            "max_trailer_mass": 13000,
            "payload": 2700,
            "rear_tire_capacity": 6390,
        },
        "wheelbase": 160,
        "arches": (38.5, 39.75, 900, -50, 38.75, 38.4375),
        "ball_heights": (21.5, 18.25),
        "loads": [("Driver", 190, 10, 70), ("Tool chest", 160, 10, 28)],
        "hitches": [
            ("Receiver", "ball", 50, 55, ["Receiver, truck 3", "Drop mount, 2 1/2 in", "Big ball"]),
            (
                "Receiver with sleeve",
                "ball",
                52,
                46,
                ["Receiver, truck 3", "Adapter sleeve", "Short mount, 2 in", "Small ball"],
            ),
        ],
    },
    {
        "name": "Gooseneck truck",
        "drive": "four",
        "cab": "crew",
        "rear_wheels": "dual",
        "masses": {
            "front_axle_mass": 4460,
            "rear_axle_mass": 3020,
            "front_gawr": 5600,
            "rear_gawr": 6900,
            "gvwr": 11000,
            "gcwr": 25500,
            "max_trailer_mass": 16000,
            "payload": 3180,
        },
        "wheelbase": 169,
        "arches": (40, 41.5, 1200, 3, None, 40.5),
        "ball_heights": (46.5, 21.5),
        "loads": [("Driver", 205, 10, 74), ("Mate", 180, 20, 74), ("Bed tank, full", 410, 20, 22)],
        "hitches": [
            ("Gooseneck ball", "gooseneck", -3, 60, ["Bed ball"]),
            (
                "Receiver",
                "ball",
                53,
                48,
                [
                    "Receiver, gooseneck truck",
                    "Two-ball mount",
                    "Two-ball mount, 2 5/16 side",
                    "Two-ball mount, 2 in side",
                ],
            ),
        ],
    },
    {
        "name": "Old half-ton",
        "drive": "two",
        "cab": "single",
        "rear_wheels": "single",
        "masses": {
            "front_axle_mass": 3010,
            "rear_axle_mass": 2160,
            "front_gawr": 3750,
            "rear_gawr": 3900,
            "gvwr": 6900,
            "gcwr": None,
            "max_trailer_mass": 7600,
            "payload": 1610,
        },
        "wheelbase": 145,
        "loads": [("Driver", 170, 10, 62)],
        "hitches": [
            (
                "Receiver",
                "ball",
                46,
                30,
                ["Receiver, half-ton", "Short mount, 2 in", "Small ball"],
            )
        ],
    },
]

TRAILERS: list[dict[str, Any]] = [
    {
        "name": "20 ft equipment trailer",
        "psi": 80,
        "tires_made": "2319",
        "kind": "utility",
        "empty": (2900, 40),
        "tongue": (380, 20),
        "gvwr": 10000,
        "axles": [(183, 5200, 5560), (217, 5200, 5560)],
        "suspension": "equalized",
        "track": 84,
        "deck": (52, 240, 82, 26),
        "heights": (20, 14.5),
        "overhang": (0, 24),
        "parts": ["Coupler, equipment trailer", "Chains, 3/8 in"],
        "tail": "ramps",
        "ramp": 66,
        "ramps": (9000, 16, 40, 70),
        "stands": (1, 288, 6000),
        "winch": (5000, 10, 7000),
        "sides": "stakes",
        "added": [
            ("Spare wheel", "fixed", 92, 40, True),
            ("Chains and binders", "aboard", 140, 46, True),
        ],
    },
    {
        "name": "12 ft dump trailer",
        "psi": 65,
        "tires_made": "4121",
        "kind": "dump",
        "empty": (3320, 40),
        "tongue": (560, 20),
        "gvwr": 9990,
        "axles": [(128, 5200, 5080), (161, 5200, 5080)],
        "suspension": "equalized",
        "track": 80,
        "deck": (58, 144, 78, 30),
        "heights": (20.5, 14.5),
        "overhang": (0, 0),
        "parts": ["Coupler, dump trailer", "Chains, 3/8 in"],
        "tail": "ramps",
        "ramp": 72,
        "ramps": (10000, 15, 38, 62),
        "sides": "solid",
        "bed": (178, 1150, 128),
    },
    {
        "name": "25 ft gooseneck",
        "psi": 95,
        "tires_made": "0918",
        "kind": "gooseneck",
        "empty": (5900, 60),
        "tongue": (1180, 40),
        "gvwr": 15900,
        "axles": [(268, 7000, 7040), (304, 7000, 7040)],
        "suspension": "equalized",
        "track": 86,
        "deck": (84, 300, 96, 35),
        "heights": (45, 15),
        "most": (11000, 96),
        "overhang": (0, 24),
        "parts": ["Gooseneck coupler", "Chains, 1/2 in"],
        "tail": "ramps",
        "ramp": 60,
        "ramps": (18000, 24, 44, 72),
        "stands": (0, 384, 12000),
        "dovetail": (60, 9),
    },
    {
        "name": "14 ft tilt",
        "psi": 50,
        "kind": "tilt",
        "empty": (1640, 30),
        "tongue": (205, 15),
        "gvwr": 7000,
        "axles": [(136, 3500, 3640), (170, 3500, 3640)],
        "suspension": "independent",
        "track": 76,
        "deck": (46, 168, 77, 24),
        "heights": (17.5, 13),
        "overhang": (0, 0),
        "parts": ["Coupler, tilt"],
        "tail": "tilts",
        "bed": (146, None, None),
    },
]

MACHINES: list[dict[str, Any]] = [
    {
        "name": "Harrow 48 tractor with loader",
        "shape": "tractor",
        "mass": (5350, 250, "weighed"),
        "mark": "rear axle",
        "balance": (30, 3, "axles"),
        "reach": (118, 46),
        "balance_height": 31,
        "hangs": (22, 13, 30),
        "tread": (54, 13),
        "size": (66, 96, 76),
        "parts": [
            ("Bucket", "bucket", 380, "weighed", 102, 14, {"weighed_in": True, "off": True}),
            ("Forks", "forks", 290, "weighed", 96, 12, {"off": True}),
        ],
        "configurations": [
            ("with forks", ["Forks"], {"reach_front": 126}),
            ("no attachment", [], {"reach_front": 92}),
        ],
    },
    {
        "name": "Kestrel T6 compact loader",
        "shape": "loader",
        "mass": (6480, 130, "weighed"),
        "mark": "rear axle",
        "balance": (17, 2, "axles"),
        "reach": (104, 40),
        "balance_height": 26,
        "hangs": (18, 8, 34),
        "tread": (54, 12),
        "size": (66, 80, 43),
    },
    {
        "name": "Burrow 17 excavator",
        "shape": "excavator",
        "mass": (3860, 80, "plate"),
        "mark": "track centre",
        "balance": (-4, 3, "built_up"),
        "reach": (92, 44),
        "balance_height": 30,
        "hangs": (26, 11, 36),
        "tread": (29, 10),
        "size": (40, 92, 50),
    },
    {
        "name": "Harrow 90 tractor",
        "shape": "tractor",
        "mass": (8900, 180, "weighed"),
        "mark": "rear axle",
        "balance": (37, 2, "axles"),
        "reach": (136, 58),
        "balance_height": 38,
        "hangs": (31, 17, 36),
        "tread": (70, 17),
        "size": (86, 104, 92),
    },
    {
        "name": "Trench plough",
        "shape": "implement",
        "mass": (1450, 145, "brochure"),
        "mark": "lower pins",
        "balance": (-26, 6, "guess"),
        "reach": (14, 62),
        "balance_height": 18,
        "size": (58, 54, None),
    },
    {
        "name": "Harrow 60 backhoe tractor",
        "shape": "tractor",
        "built": "parts",
        "mark": "rear axle",
        "reach": (88, 40),
        "balance_height": 33,
        "hangs": (21, 13, 34),
        "tread": (60, 15),
        "size": (76, 98, 80),
        "parts": [
            # name, kind, mass, known, ahead, height, extras
            ("Base machine", "base", 4150, "plate", 34, 30, {}),
            ("Canopy", "cab", 210, "guess", 8, 76, {}),
            ("Loader", "loader", 890, "brochure", 62, 34, {"reach_front": 112}),
            ("Bucket", "bucket", 410, "weighed", 104, 14, {"reach_front": 128}),
            ("Backhoe", "backhoe", 1420, "weighed", -58, 38, {"reach_rear": 104, "off": True}),
            (
                "Rear tire fluid",
                "tire_fluid",
                None,
                "built_up",
                0,
                24,
                {"contents": ("124 gal", 75, "calcium_chloride_20")},
            ),
            ("Fuel", "fuel", None, "guess", 44, 36, {"contents": ("18 gal", 80, "diesel")}),
        ],
        "configurations": [
            ("backhoe on", ["Backhoe"], {"hangs": (12, None, None)}),
            ("backhoe off", [], {}),
        ],
    },
    {
        "name": "Ridge R5 roller",
        "shape": "loader",
        "built": "axles",
        "axle_masses": (2380, 1960),
        "mark": "rear axle",
        "reach": (88, 26),
        "balance_height": 28,
        "hangs": (22, 12, 14),
        "tread": (40, 54),
        "size": (54, 92, 68),
    },
    {
        "name": "Wren 9 mini dumper",
        "shape": "loader",
        "mass": (1100, None, "guess"),
        "mark": "track centre",
        "reach": (44, 38),
        "balance_height": 20,
        "size": (34, 58, 40),
    },
]

BULK: list[dict[str, Any]] = [
    {
        "name": "Pallet of drain pipe",
        "measured": "count",
        "count": 40,
        "piece_mass": "29.5 lb",
        "heap": "level",
        "size": (48, 42, 44),
    },
    {
        "name": "Gravel, two yards spread",
        "measured": "volume",
        "material": "gravel_dry",
        "volume": "2 yd3",
        "heap": "level",
        "size": (140, 76, None),
    },
    {
        "name": "Gravel, two yards dropped at the tail",
        "measured": "volume",
        "material": "gravel_dry",
        "volume": "2 yd3",
        "heap": "rear",
        "size": (120, 76, None),
    },
]

TICKETS: list[tuple[str, str, int, str, dict[str, int]]] = [
    ("truck", "Work truck 3", 140, "20418", {"front_axle_mass": 4180, "rear_axle_mass": 2940}),
    ("trailer", "20 ft equipment trailer", 402, "16630", {"whole_mass": 2880, "tongue_mass": 370}),
    ("trailer", "20 ft equipment trailer", 140, "20419", {"whole_mass": 2900, "tongue_mass": 380}),
    ("machine", "Harrow 48 tractor with loader", 371, "17012", {"whole_mass": 5320}),
    ("machine", "Harrow 48 tractor with loader", 205, "19544", {"whole_mass": 5360}),
    ("machine", "Harrow 48 tractor with loader", 96, "21007", {"whole_mass": 5340}),
    ("machine", "Kestrel T6 compact loader", 61, "21733", {"whole_mass": 6480}),
    (
        "machine",
        "Ridge R5 roller",
        6,
        "22954",
        {"whole_mass": 4580, "front_axle_mass": 2620, "rear_axle_mass": 1960},
    ),
]
"""Kind of thing, its name, how many days ago, ticket number, readings in pounds."""

GAUGES: list[tuple[str, str, str, str]] = [
    ("Hitch gauge", "lb", "20 lb", "2000 lb"),
    ("Old pin gauge", "kg", "10 kg", "1500 kg"),
]
"""Name, unit it sends, step, rating. The first one is on the work truck."""

PLACED: list[tuple[str, int, list[float], float, float, int | None]] = [
    # as the book has it: the readings agree
    ("Big tractor to Upper Fern on the gooseneck", 9, [-14, -6, 4, 12], 1.0, 0.5, None),
    # the second reading was taken with the gauge switched to kilograms
    ("Compact loader to the Stony Bank culvert", 29, [-10, 0, 8], 1.01, 0.0, 1),
    # a little heavier than the book has it
    ("Orchard tractor to the Quarry Lane block", 17, [-12, -4, 4, 12], 1.012, 0.0, None),
]
"""Haul, how many days ago, places of the mark beside the planned one, true mass over the
book's, true balance point ahead of the book's in inches, and which reading is of kilograms
taken for pounds."""

SCALED: list[tuple[str, int, str, float]] = [
    ("Orchard tractor to the Quarry Lane block", 44, "22015", 96),
    ("Compact loader to the Stony Bank culvert", 30, "22310", 74),
    ("Orchard tractor back from Mill Ponds", 23, "22478", 88),
    ("Plough out behind the half-ton", 12, "22790", 101),
]
"""Haul, how many days ago its outfit stood on the scale, ticket number, and how many pounds
the trailer's axles carried beyond the plan: mud, and a bench nobody has counted."""

HAULS: list[dict[str, Any]] = [
    # all is well
    {
        "name": "Orchard tractor to the Quarry Lane block",
        "outfit": (0, 0, 0),
        "loads": ["Harrow 48 tractor with loader"],
        "at": [150],
        "site": {"surface": "grass_wet"},
        "unloading": {"surface": "gravel", "slope": 0.03},
    },
    # fits, with little to spare on the trailer's plate
    {
        "name": "Compact loader to the Stony Bank culvert",
        "outfit": (0, 0, 0),
        "loads": ["Kestrel T6 compact loader"],
        "at": None,
        # the stands alone make it hold
        "site": {"stands_down": True},
    },
    # the balance point stays too far back wherever this way round it stands
    {
        "name": "Excavator home from Low Fields",
        "outfit": (1, 1, 3),
        "loads": ["Burrow 17 excavator"],
        "at": [94],
    },
    # parked by feel against the tail
    {
        "name": "Orchard tractor back from Mill Ponds",
        "outfit": (0, 0, 0),
        "loads": ["Harrow 48 tractor with loader"],
        "at": [186],
    },
    # the pin weight uses up the truck long before the trailer is full
    {
        "name": "Big tractor to Upper Fern on the gooseneck",
        "outfit": (1, 0, 2),
        "loads": ["Harrow 90 tractor"],
        "at": [190],
    },
    # nobody has looked up what truck and trailer may weigh together
    {
        "name": "Plough and pipe to the spring chamber",
        "outfit": (2, 0, 3),
        "loads": ["Trench plough", "Pallet of drain pipe"],
        "at": [34, 128],
    },
    # a 7,000 lb trailer carries 7,000 lb less its own weight
    {
        "name": "Compact loader on the tilt, in a hurry",
        "outfit": (1, 1, 3),
        "loads": ["Kestrel T6 compact loader"],
        "at": [110],
    },
    # the ball is a size too small for the coupler
    {
        "name": "Plough out behind the half-ton",
        "outfit": (2, 0, 0),
        "loads": ["Trench plough"],
        "at": [120],
    },
    # an adapter sleeve rated far under the truck
    {
        "name": "Roller to the Ash Lane yard, with the sleeve",
        "outfit": (0, 1, 3),
        "loads": ["Ridge R5 roller"],
        "at": [122],
    },
    # the same gravel, spread by hand
    {
        "name": "Gravel to the ford",
        "outfit": (0, 0, 1),
        "loads": ["Gravel, two yards spread"],
        "at": [72],
    },
    # and left as the loader dropped it
    {
        "name": "Gravel to the ford, second trip",
        "outfit": (0, 0, 1),
        "loads": ["Gravel, two yards dropped at the tail"],
        "at": [84],
    },
    # three loads, one of them a configuration of a machine that was built up part by part
    {
        "name": "Drain crew to the Long Drain",
        "outfit": (1, 0, 2),
        "loads": [
            "Harrow 60 backhoe tractor, backhoe off",
            "Pallet of drain pipe",
            "Trench plough",
        ],
        "at": None,
    },
    # from the bank at the gate it goes on as it should
    {
        "name": "Roller to the Chapel Field gate",
        "outfit": (1, 0, 2),
        "loads": ["Ridge R5 roller"],
        "at": None,
        "site": {"surface": "gravel", "foot_rise": 14},
    },
    # too heavy for so light a truck: its rear wheels leave the ground
    {
        "name": "Compact loader behind the half-ton",
        "outfit": (2, 0, 0),
        "loads": ["Kestrel T6 compact loader"],
        "at": [140],
    },
    # what hangs behind it meets the ground at the foot of the ramp
    {
        "name": "Backhoe to the Ash Lane trench",
        "outfit": (1, 0, 2),
        "loads": ["Harrow 60 backhoe tractor, backhoe on"],
        "at": None,
        "site": {"surface": "gravel"},
    },
    # nobody has weighed its axles: where it balances is an estimate
    {
        "name": "Mini dumper to the spring chamber",
        "outfit": (1, 1, 3),
        "loads": ["Wren 9 mini dumper"],
        "at": None,
    },
    # on the tail of an empty dump bed
    {
        "name": "Compact loader to clear the ford",
        "outfit": (0, 0, 1),
        "loads": ["Kestrel T6 compact loader"],
        "at": [98],
        "site": {"park_four_wheel": True},
    },
]
"""``outfit`` is truck, its hitch, trailer. ``at`` holds tape readings in inches, or ``None``
for the aim; ``site`` and ``unloading`` where it is loaded and unloaded, lengths in inches. The
half-ton's GCWR is not in the book."""
