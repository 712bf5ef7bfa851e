import { characteristicRow, groupOf, isBearing, readAt, roleOf, rowOf, wholeStation } from "../api/catalog";
import type {
  Build,
  Characteristic,
  FigureAssessment,
  Group,
  Measured,
  Read,
  Role,
  Row,
  Schemas,
} from "../api/client";

export type Position = Schemas["Position"];

/** A place on the bench where a touch can be typed. */
export type Cell = {
  station: string;
  characteristic: Characteristic;
  /** How the gauge is read there. */
  read: Read;
  position: Position;
  touch: number;
};

/** What the entry side shows, and how what can be read in two ways is read. */
export type Where = { read: Read; group: Group };

/** The figure whose bench a place is typed at; several rods share a pin, each with its own track where they have them. */
export function bearingFor(
  build: Build,
  place: string,
  near?: string,
  track?: number | null,
  of?: Characteristic,
): FigureAssessment | undefined {
  const { figures } = build.assessment;
  const isHere = (m: Measured) =>
    m.place === place && (track == null || m.track === track) && (!of || m.characteristic === of);
  const at = figures.filter((s) => (!of && s.station === place) || s.measured.some(isHere));
  return at.find((s) => s.station === near) ?? at.find(isBearing) ?? at[0];
}

/** The figure whose bench a cell is on. */
export function bearingOfCell(build: Build, cell: Omit<Cell, "touch">, near?: string) {
  return bearingFor(build, cell.station, near, cell.position.track, cell.characteristic);
}

/** The same place of the same track. */
export function samePosition(a: Position, b: Position): boolean {
  return a.axial === b.axial && a.angle === b.angle && (a.track ?? null) === (b.track ?? null);
}

/** The place of a cell, whichever touch it is. Ways of reading are told apart where they are kept apart. */
export function placeOf(c: Omit<Cell, "touch">): string {
  const read = characteristicRow(c.characteristic).reads_apart ? c.read : "";
  const { axial, angle, track } = c.position;
  const on = track == null ? "" : ` track ${track}`;
  return `${c.station} ${c.characteristic} ${read} ${axial} ${angle}${on}`;
}

export function keyOf(c: Cell): string {
  return `${placeOf(c)} ${c.touch}`;
}

/** Whether a cell takes a dial, which needs to know what it was zeroed at. */
export function onDial(c: Pick<Cell, "read">): boolean {
  return c.read === "dial";
}

/** Whether something of a figure is on the bench when that is shown. */
function isShown(m: Measured, { read, group }: Where): boolean {
  const apart = characteristicRow(m.characteristic).reads_apart;
  return groupOf(m) === group && (!apart || m.read === readAt(m.characteristic, read));
}

/** What is on the bench of a bearing, in the order it stands there. */
export function shownOf(s: FigureAssessment, where: Where): Measured[] {
  return s.measured.filter((m) => isShown(m, where));
}

/** The cell of a place of something measured. */
export function cellAt(m: Measured, position: Position, read: Read): Omit<Cell, "touch"> {
  const { place: station, characteristic } = m;
  return { station, characteristic, read: readAt(characteristic, read), position };
}

/** The places of a bearing in the order they stand on the bench, for moving up and down. */
export function placesOf(s: FigureAssessment, where: Where): Omit<Cell, "touch">[] {
  return shownOf(s, where).flatMap((m) => m.positions.map((p) => cellAt(m, p.position, where.read)));
}

/** What is measured, by where it is and how it is read. */
function nameOf(m: Pick<Schemas["Wanted"], "station" | "characteristic" | "read" | "track">): string {
  return `${m.station} ${m.track ?? ""} ${m.characteristic} ${m.read}`;
}

/** The touches still wanted on something, place by place; in rounds those of one way, on the way back from the last place. */
function missing(m: Measured, read: Read, pass?: Schemas["Pass"] | null): Cell[] {
  const cells = m.positions.flatMap((p) =>
    Array.from({ length: p.left }, (_, i) => ({
      ...cellAt(m, p.position, read),
      touch: p.touches.length + i + 1,
    })),
  );
  if (pass == null) return cells;
  return pass === "there" ? cells.filter((c) => c.touch === 1) : cells.filter((c) => c.touch > 1).reverse();
}

/**
 * The touches still wanted, in the order of the work. What makes a clearance is touched through the whole engine; the parts
 * around it row by row, and first what is measured along the whole row.
 */
export function wantedCells(build: Build, { read, group }: Where, row: Row | undefined): Cell[] {
  const { wanted, figures } = build.assessment;
  const known = new Map(
    figures.flatMap((f) => f.measured.map((m) => [nameOf({ ...m, station: m.place }), m] as const)),
  );
  const ours = wanted.filter((w) => {
    const apart = characteristicRow(w.characteristic).reads_apart;
    const here = group === "running" ? w.asked : rowOf(w.station) === row;
    return w.group === group && here && (!apart || w.read === readAt(w.characteristic, read));
  });
  const sorted = [...ours.filter((w) => w.along_row), ...ours.filter((w) => !w.along_row)];
  return sorted.flatMap((w) => {
    const m = known.get(nameOf(w));
    return m ? missing(m, read, w.pass) : [];
  });
}

/** What a cell is of. */
function measuredOf(build: Build, c: Omit<Cell, "touch">): Measured | undefined {
  const apart = characteristicRow(c.characteristic).reads_apart;
  return bearingOfCell(build, c)?.measured.find(
    (o) => o.place === c.station && o.characteristic === c.characteristic && (!apart || o.read === c.read),
  );
}

/** What is known of the place of a cell. */
function assessedAt(build: Build, c: Omit<Cell, "touch">): Schemas["PositionAssessment"] | undefined {
  return measuredOf(build, c)?.positions.find((p) => samePosition(p.position, c.position));
}

/** The cell for one more touch at a place. */
export function nextTouch(build: Build, place: Omit<Cell, "touch">): Cell {
  return { ...place, touch: (assessedAt(build, place)?.touches.length ?? 0) + 1 };
}

/** How many touches the place of a cell still wants. */
export function leftAt(build: Build, place: Omit<Cell, "touch">): number {
  return assessedAt(build, place)?.left ?? 0;
}

/** The first wanted cell of a bearing, or of one of its parts. */
export function firstWanted(build: Build, station: string, where: Where, role?: Role): Cell | undefined {
  const there = build.assessment.figures.find((a) => a.station === station);
  const s = there && wholeStation(build, there);
  const here = (c: Cell) => bearingOfCell(build, c, station)?.station === station;
  const wanted = wantedCells(build, where, s?.row).find(
    (c) => here(c) && (!role || roleOf(c.characteristic) === role),
  );
  // What nobody asks for begins at its first place.
  const nobodyAsks = s && (!s.asked || where.group === "beside");
  const first = nobodyAsks && !role ? placesOf(s, where)[0] : undefined;
  return wanted ?? (first && nextTouch(build, first));
}

/** The wanted cell that follows `after`, leaving out those that are on their way. */
export function following(
  build: Build,
  after: Cell,
  where: Where,
  row: Row | undefined,
  onTheirWay: Set<string>,
): Cell | undefined {
  const cells = wantedCells(build, where, row);
  const at = cells.findIndex((c) => keyOf(c) === keyOf(after));
  const free = (c: Cell) => !onTheirWay.has(keyOf(c));
  // A touch that nobody asked for moves the hand nowhere else.
  if (at < 0) {
    const asked = cells.find((c) => c.station === after.station && free(c));
    // What nobody asks for is gone through all the same, once it is begun.
    const begun = measuredOf(build, after);
    return asked ?? (begun && missing(begun, where.read).find(free));
  }
  return cells.slice(at + 1).find(free);
}
