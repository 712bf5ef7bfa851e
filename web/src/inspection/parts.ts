import type { Schemas } from "../api/client";
import type { Drawn } from "./pictograms";

export type InspectedPart = Schemas["InspectedPart"];

/** One of a part, as it is named where it is chosen. */
export const PART_NAME: Record<InspectedPart, string> = {
  journal: "journal",
  upper: "upper shell",
  lower: "lower shell",
  thrust_front: "front thrust face",
  thrust_rear: "rear thrust face",
  rod: "rod, bolts and bush",
  bore: "cylinder wall",
  piston: "piston",
  rings: "rings",
  face: "face",
  lobes: "journal, lobes and followers",
  valves: "valves, seats and guides",
  hub: "damper, flywheel or rotor",
  seal_land: "seal land",
  pump: "oil pump",
  fasteners: "studs and bolts",
};

/** All of a part, after a number of places or in front of one. */
export const PARTS_LOOKED_AT: Record<InspectedPart, string> = {
  journal: "Journals",
  upper: "Upper shells",
  lower: "Lower shells",
  thrust_front: "Front thrust face",
  thrust_rear: "Rear thrust face",
  rod: "Rods",
  bore: "Cylinder walls",
  piston: "Pistons",
  rings: "Rings",
  face: "Faces",
  lobes: "Cam and lobes",
  valves: "Valves",
  hub: "Damper, flywheel",
  seal_land: "Seal lands",
  pump: "Oil pump",
  fasteners: "Fasteners",
};

export const DRAWN: Record<InspectedPart, Drawn> = {
  journal: "journal",
  upper: "shell",
  lower: "shell",
  thrust_front: "shell",
  thrust_rear: "shell",
  rod: "shell",
  bore: "wall",
  piston: "piston",
  rings: "ring",
  face: "shell",
  lobes: "journal",
  valves: "valve",
  hub: "hub",
  seal_land: "journal",
  pump: "gears",
  fasteners: "bolt",
};

/** Signs that say all is well. */
export const GOOD: ReadonlySet<Schemas["Sign"]> = new Set(["uniform", "smooth"] as const);

/** What is looked at together: the parts lie on one bench. */
export const TRAYS = [
  {
    value: "bottom",
    text: "Crank, shells",
    parts: ["journal", "upper", "lower", "thrust_front", "thrust_rear"],
  },
  { value: "top", text: "Rods, cylinders", parts: ["rod", "bore", "piston", "rings"] },
  { value: "rest", text: "Faces, valves, cam", parts: ["face", "lobes", "valves"] },
  { value: "around", text: "Ends, pump, bolts", parts: ["hub", "seal_land", "pump", "fasteners"] },
] as const satisfies { value: string; text: string; parts: InspectedPart[] }[];

export type TrayName = (typeof TRAYS)[number]["value"];
