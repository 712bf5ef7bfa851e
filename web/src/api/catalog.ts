import type {
  Build,
  Characteristic,
  FigureAssessment,
  Measured,
  Method,
  Read,
  Role,
  Row,
  Schemas,
} from "./client";

type Catalog = Schemas["CatalogView"];

let kept: Catalog | undefined;

/** Keeps what can be measured and judged: nothing is drawn before it is there. */
export function keepCatalog(catalog: Catalog): void {
  kept = catalog;
}

function catalog(): Catalog {
  if (!kept) throw new Error("the catalogue has not been kept yet");
  return kept;
}

function found<T>(row: T | undefined, name: string): T {
  if (!row) throw new Error(`the catalogue has no ${name}`);
  return row;
}

/** What rules count with where nobody has said otherwise. */
export function usualRules(): Schemas["UsualRules"] {
  return catalog().usual;
}

/** The row of something that can be measured. */
export function characteristicRow(id: Characteristic): Schemas["CharacteristicView"] {
  return found(
    catalog().characteristics.find((c) => c.id === id),
    id,
  );
}

/** What it is in the figures made of it. */
export function roleOf(id: Characteristic): Role {
  return characteristicRow(id).role;
}

/** The kind of a place, by the letters it is written with. */
function placeKind(place: string): Schemas["PlaceKindView"] | undefined {
  return catalog().places.find((k) => k.letter === place.replace(/\d+$/, ""));
}

/** What kind of place it is. */
export function kindOf(place: string): Schemas["PlaceKind"] {
  return found(placeKind(place), place).kind;
}

/** The places of a kind, as a deed names them. */
export function pluralOfKind(kind: Schemas["PlaceKind"]): string {
  return found(
    catalog().places.find((k) => k.kind === kind),
    kind,
  ).plural;
}

/** All places of the kind of a place, as a deed names them. */
export function pluralOf(place: string): string {
  return found(placeKind(place), place).plural;
}

/** Whether a text is the whole name of a place that has no number. */
export function isUnnumbered(text: string): boolean {
  return placeKind(text.trim().toUpperCase())?.numbered === false && !/\d/.test(text);
}

/** The row of bearings a place belongs to. */
export function rowOf(place: string): Row | undefined {
  return placeKind(place)?.row;
}

/** All places of the kind of this one, as a deed names them. */
export function allLike(place: string): string {
  return placeKind(place)?.plural ?? place;
}

/** Whether a text begins like the name of a place, whole or not. */
export function beginsAPlace(text: string): boolean {
  const letters = text.trim().toUpperCase().replace(/\d+$/, "");
  return letters !== "" && catalog().places.some((k) => k.letter.startsWith(letters));
}

function figureRow(id: Schemas["Figure"]): Schemas["FigureView"] {
  return found(
    catalog().figures.find((f) => f.id === id),
    id,
  );
}

/** Whether a figure is the room of a bearing, between a journal and its shells. */
export function isBearing(f: Pick<FigureAssessment, "figure">): boolean {
  return figureRow(f.figure).fitted;
}

/** The bearings of a build, or of one of its rows, from the front. */
export function bearingsOf(build: Build, row?: Row): FigureAssessment[] {
  const { figures } = build.assessment;
  const stands = build.layout.rollers ? firstOnRollers(figures) : figures.filter(isBearing);
  return stands.filter((f) => row === undefined || f.row === row);
}

const BEARING_KINDS = new Set<Schemas["PlaceKind"]>(["main", "rod"]);

/** On rollers there is no room for oil: a main or a rod stands for the first that is said of it. */
function firstOnRollers(figures: FigureAssessment[]): FigureAssessment[] {
  const there = figures.filter((f) => BEARING_KINDS.has(kindOf(f.station)));
  // What somebody asks for stands before what nobody does.
  const sorted = [...there.filter((f) => f.asked), ...there.filter((f) => !f.asked)];
  const first = sorted.filter((f, i) => sorted.findIndex((o) => o.station === f.station) === i);
  return first.sort((a, b) => a.station.localeCompare(b.station, "en", { numeric: true }));
}

/** The figures that are no bearing's room. */
export function otherFigures(build: Build): FigureAssessment[] {
  return build.assessment.figures.filter((f) => !isBearing(f));
}

/** Whether a figure has an upper limit only. */
export function hasMaximumOnly(f: Pick<FigureAssessment, "figure">): boolean {
  return figureRow(f.figure).limits === "maximum";
}

/** Whether a figure has a lower limit only. */
export function hasMinimumOnly(f: Pick<FigureAssessment, "figure">): boolean {
  return figureRow(f.figure).limits === "minimum";
}

/** A figure with everything else that is measured at its station: it is typed at one bench. */
export function wholeStation(build: Build, f: FigureAssessment): FigureAssessment {
  const nameOf = (m: Measured) => `${m.place} ${m.track ?? ""} ${m.characteristic} ${m.read}`;
  const seen = new Set(f.measured.map(nameOf));
  const more = build.assessment.figures
    .filter((o) => o !== f && o.station === f.station)
    .flatMap((o) => o.measured)
    .filter((m) => {
      const fresh = !seen.has(nameOf(m));
      seen.add(nameOf(m));
      return fresh;
    });
  return more.length === 0 ? f : { ...f, measured: [...f.measured, ...more] };
}

/** The figures of a place that are no bearing's room. */
export function figuresBeside(place: string): Schemas["Figure"][] {
  const kind = placeKind(place)?.kind;
  return catalog()
    .figures.filter((f) => !f.fitted && kind !== undefined && f.at.includes(kind))
    .map((f) => f.id);
}

/** What a figure is made of. */
export function madeOf(figure: Schemas["Figure"]): Role[] {
  return figureRow(figure).inputs.map((input) => input.role);
}

/** What can be done to a figure's places or to groups that hold them, the nearest first; nothing where it is not done here. */
export function doneTo(work: Schemas["Work"], f: FigureAssessment): string[] {
  const row = found(
    catalog().works.find((w) => w.id === work),
    work,
  );
  const places = [...new Set([f.station, f.journal_at])].filter((p) => row.kinds.includes(kindOf(p)));
  const near = new Set([f.station, f.journal_at].map(allLike));
  const plurals = new Set(catalog().places.map((k) => k.plural));
  return [...places, ...row.groups.filter((g) => near.has(g) || !plurals.has(g))];
}

/** What has to be looked at before a work may be called done. */
export function ticksOf(work: Schemas["Work"]): Schemas["Tick"][] {
  return catalog().works.find((w) => w.id === work)?.ticks ?? [];
}

/** The methods of a figure, the one that proves most first. */
export function methodsOf(id: Schemas["Figure"]): Method[] {
  return figureRow(id).methods.map((m) => m.id);
}

/** What somebody measures together with it. */
export function groupOf(m: Pick<Measured, "characteristic" | "read">): Schemas["Group"] {
  const role = roleOf(m.characteristic);
  const inputs = catalog().figures.flatMap((f) => f.inputs.filter((i) => i.role === role));
  return (inputs.find((i) => i.read === m.read) ?? inputs[0])?.group ?? "running";
}

const GROUPS: Schemas["Group"][] = ["running", "parts", "beside"];

/** What is measured together at a station: the groups that have anything there, at least one. */
export function groupsOf(station: Pick<FigureAssessment, "measured">): Schemas["Group"][] {
  const there = GROUPS.filter((group) => station.measured.some((m) => groupOf(m) === group));
  return there.length === 0 ? ["running"] : there;
}

/** How the method reads something; nothing where it is not made of it. */
export function readBy(f: Schemas["Figure"], method: Method, role: Role): Read | undefined {
  return figureRow(f)
    .methods.find((m) => m.id === method)
    ?.terms.find((t) => t.role === role)?.read;
}

/** How something is read at the bench: as it is preferred, where there is a choice. */
export function readAt(id: Characteristic, preferred: Read): Read {
  const { reads } = characteristicRow(id);
  return reads.includes(preferred) ? preferred : (reads[0] ?? "size");
}

/** What is known of one of its parts, read that way where that is kept apart. */
export function measured(f: FigureAssessment, role: Role, read: Read): Measured | undefined {
  const of = f.measured.filter((m) => m.role === role);
  return of.find((m) => m.read === read) ?? of[0];
}

/** What it is made of and known of it, each part once: as the judged method reads it. */
export function sizesInUse(f: FigureAssessment): Measured[] {
  const method = (f.judged ?? f.methods[0])?.method;
  return f.measured.filter((m) => {
    const others = f.measured.filter((o) => o.role === m.role && o !== m && o.size);
    if (others.length === 0) return m.size != null;
    const read = (method && readBy(f.figure, method, m.role)) ?? others[0]?.read;
    return m.size != null && m.read === read;
  });
}
