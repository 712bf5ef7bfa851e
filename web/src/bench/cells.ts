import type { Build, Feature, FeatureAssessment, Method, Schemas, StationAssessment } from "../api/client";

export type Position = Schemas["Position"];

/** A place on the bench where a touch can be typed. */
export type Cell = { station: string; feature: Feature; method: Method; position: Position; touch: number };

/** The place of a cell, whichever touch it is. */
export function placeOf(c: Omit<Cell, "touch">): string {
  // A journal is one size however the bore is measured.
  const method = c.feature === "main_journal" ? "" : c.method;
  return `${c.station} ${c.feature} ${method} ${c.position.axial} ${c.position.angle}`;
}

export function keyOf(c: Cell): string {
  return `${placeOf(c)} ${c.touch}`;
}

/** What is known of a feature, measured by that method. */
export function featureOf(s: StationAssessment, feature: Feature, method: Method): FeatureAssessment {
  if (feature === "main_journal") return s.journal;
  return method === "direct" ? s.bore_direct : s.bore_subtract;
}

/** The touches still wanted, in the order of the work, with bores by the chosen method. */
export function wantedCells(build: Build, method: Method): Cell[] {
  return build.assessment.wanted
    .filter((w) => !w.method || w.method === method)
    .map((w) => ({ ...w, method }));
}

/** The cell for one more touch at a place. */
export function nextTouch(build: Build, place: Omit<Cell, "touch">): Cell {
  const station = build.assessment.stations.find((s) => s.station === place.station);
  const position = station && positionOf(station, place);
  return { ...place, touch: (position?.touches.length ?? 0) + 1 };
}

function positionOf(s: StationAssessment, place: Omit<Cell, "touch">) {
  return featureOf(s, place.feature, place.method).positions.find(
    (p) => p.position.axial === place.position.axial && p.position.angle === place.position.angle,
  );
}

/** The first wanted cell of a station, or of one of its features. */
export function firstWanted(
  build: Build,
  station: string,
  method: Method,
  feature?: Feature,
): Cell | undefined {
  return wantedCells(build, method).find((c) => c.station === station && (!feature || c.feature === feature));
}

/** The wanted cell that follows `after`, leaving out those that are on their way. */
export function following(
  build: Build,
  after: Cell,
  method: Method,
  onTheirWay: Set<string>,
): Cell | undefined {
  const cells = wantedCells(build, method);
  const at = cells.findIndex((c) => keyOf(c) === keyOf(after));
  const free = (c: Cell) => !onTheirWay.has(keyOf(c));
  // A touch that nobody asked for moves the hand nowhere else.
  if (at < 0) return cells.find((c) => c.station === after.station && free(c));
  return cells.slice(at + 1).find(free);
}

/** The places of a station in the order they stand on the bench, for moving up and down. */
export function placesOf(s: StationAssessment, method: Method): Omit<Cell, "touch">[] {
  const of = (feature: Feature) =>
    featureOf(s, feature, method).positions.map((p) => ({
      station: s.station,
      feature,
      method,
      position: p.position,
    }));
  return [...of("main_journal"), ...of("main_bearing")];
}
