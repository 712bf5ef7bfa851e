import type {
  Build,
  Feature,
  FeatureAssessment,
  Method,
  Part,
  Schemas,
  StationAssessment,
} from "../api/client";

export type Position = Schemas["Position"];
type BoreMethod = "direct" | "subtract";

/** A place on the bench where a touch can be typed: on a main, a pin or a rod. */
export type Cell = {
  station: string;
  feature: Feature;
  method: BoreMethod;
  position: Position;
  touch: number;
};

/** What the entry side shows: what makes the clearance, or the parts around it. */
export type Group = "clearance" | "parts";

const PART: Record<Feature, Part> = {
  main_journal: "journal",
  pin_journal: "journal",
  main_housing: "housing",
  rod_housing: "housing",
  main_bearing: "bore",
  rod_bearing: "bore",
  upper_wall: "upper_wall",
  lower_wall: "lower_wall",
  strip: "strip",
};

export function partOf(feature: Feature): Part {
  return PART[feature];
}

/** The parts of a group, in the order they stand on the bench. */
export const PARTS: Record<Group, Part[]> = {
  clearance: ["journal", "bore"],
  parts: ["housing", "upper_wall", "lower_wall", "strip"],
};

export function groupOf(part: Part): Group {
  return PARTS.clearance.includes(part) ? "clearance" : "parts";
}

/** The feature of a part at a bearing, and the place it belongs to: a rod's journal is its pin. */
export function featureAt(s: StationAssessment, part: Part): { station: string; feature: Feature } {
  const main = s.station.startsWith("M");
  switch (part) {
    case "journal":
      return { station: s.journal_at, feature: main ? "main_journal" : "pin_journal" };
    case "housing":
      return { station: s.station, feature: main ? "main_housing" : "rod_housing" };
    case "bore":
      return { station: s.station, feature: main ? "main_bearing" : "rod_bearing" };
    default:
      return { station: s.station, feature: part };
  }
}

/** The bearing whose bench a place is typed at; several rods share a pin. */
export function bearingFor(build: Build, place: string, near?: string): StationAssessment | undefined {
  const { stations } = build.assessment;
  const at = stations.filter((s) => s.station === place || s.journal_at === place);
  return at.find((s) => s.station === near) ?? at[0];
}

/** The place of a cell, whichever touch it is. Only a bore is told apart by method. */
export function placeOf(c: Omit<Cell, "touch">): string {
  const method = partOf(c.feature) === "bore" ? c.method : "";
  return `${c.station} ${c.feature} ${method} ${c.position.axial} ${c.position.angle}`;
}

export function keyOf(c: Cell): string {
  return `${placeOf(c)} ${c.touch}`;
}

/** What is known of a part, a bore measured by that method. */
export function assessedOf(s: StationAssessment, part: Part, method: Method): FeatureAssessment {
  switch (part) {
    case "journal":
      return s.journal;
    case "housing":
      return s.housing;
    case "bore":
      return method === "direct" ? s.bore_direct : s.bore_subtract;
    case "upper_wall":
      return s.upper_wall;
    case "lower_wall":
      return s.lower_wall;
    case "strip":
      return s.strip;
  }
}

/** Whether a place of that part is read on a zeroed dial. */
export function onDial(part: Part, method: Method): boolean {
  return method === "direct" && (part === "bore" || part === "housing");
}

/** The places of one part of a bearing, in the order of its plan. */
function placesOfPart(s: StationAssessment, part: Part, method: BoreMethod): Omit<Cell, "touch">[] {
  const at = featureAt(s, part);
  return assessedOf(s, part, method).positions.map((p) => ({ ...at, method, position: p.position }));
}

/** The places of a bearing in the order they stand on the bench, for moving up and down. */
export function placesOf(s: StationAssessment, method: BoreMethod, group: Group): Omit<Cell, "touch">[] {
  return PARTS[group].flatMap((part) => placesOfPart(s, part, method));
}

function missing(s: StationAssessment, part: Part, method: BoreMethod): Cell[] {
  const at = featureAt(s, part);
  return assessedOf(s, part, method).positions.flatMap((p) =>
    Array.from({ length: p.left }, (_, i) => ({
      ...at,
      method,
      position: p.position,
      touch: p.touches.length + i + 1,
    })),
  );
}

/**
 * The touches still wanted, in the order of the work, with bores by the chosen method. Of the parts
 * around a clearance all housings of a row come first, then the walls bearing by bearing.
 */
export function wantedCells(build: Build, method: BoreMethod, group: Group, row: string): Cell[] {
  if (group === "clearance") {
    return build.assessment.wanted
      .filter((w) => groupOf(partOf(w.feature)) === group && (!w.method || w.method === method))
      .map((w) => ({ ...w, method }));
  }
  const stations = build.assessment.stations.filter((s) => s.station.startsWith(row));
  const walls = (s: StationAssessment) =>
    (["upper_wall", "lower_wall"] as const).flatMap((part) => missing(s, part, method));
  return [...stations.flatMap((s) => missing(s, "housing", method)), ...stations.flatMap(walls)];
}

/** The cell for one more touch at a place. */
export function nextTouch(build: Build, place: Omit<Cell, "touch">): Cell {
  const s = bearingFor(build, place.station);
  const position = s && positionOf(s, place);
  return { ...place, touch: (position?.touches.length ?? 0) + 1 };
}

function positionOf(s: StationAssessment, place: Omit<Cell, "touch">) {
  return assessedOf(s, partOf(place.feature), place.method).positions.find(
    (p) => p.position.axial === place.position.axial && p.position.angle === place.position.angle,
  );
}

type Where = { method: BoreMethod; group: Group };

/** The first wanted cell of a bearing, or of one of its parts. */
export function firstWanted(
  build: Build,
  station: string,
  { method, group }: Where,
  part?: Part,
): Cell | undefined {
  const s = build.assessment.stations.find((a) => a.station === station);
  const here = (c: Cell) => c.station === station || c.station === s?.journal_at;
  return wantedCells(build, method, group, station.charAt(0)).find(
    (c) => here(c) && (!part || partOf(c.feature) === part),
  );
}

/** The wanted cell that follows `after`, leaving out those that are on their way. */
export function following(
  build: Build,
  after: Cell,
  { method, group }: Where,
  row: string,
  onTheirWay: Set<string>,
): Cell | undefined {
  const cells = wantedCells(build, method, group, row);
  const at = cells.findIndex((c) => keyOf(c) === keyOf(after));
  const free = (c: Cell) => !onTheirWay.has(keyOf(c));
  // A touch that nobody asked for moves the hand nowhere else.
  if (at < 0) return cells.find((c) => c.station === after.station && free(c));
  return cells.slice(at + 1).find(free);
}
