import { bearingsOf, kindOf, otherFigures } from "../api/catalog";
import type { Build, FigureAssessment } from "../api/client";
import { useWidth } from "../shared/useWidth";
import { type Shown, shownState } from "../shared/words";
import type { Progress } from "./Crank";
import { crankLength, crankReach, crankShape } from "./geometry";

/** Height of the drawing at full size. */
export const BAND = 160;
/** Room for the words at both sides of the drawing. */
const SIDE = 304;
const SIDE_NARROW = 224;

/** The crank with its mains and pins, the rods on it, or the crank along its axis. */
export type LineView = "crank" | "rods" | "along" | "cam";

/** One bearing as it is marked under the drawing. */
export type LineMark = {
  station: string;
  label: string;
  centre: number;
  heavy: boolean;
  assessed: FigureAssessment;
};

function markOf(assessed: FigureAssessment, centre: number, label: string, heavy: boolean): LineMark {
  return { station: assessed.station, label, centre, heavy, assessed };
}

/** Pixels between the rods on one pin. */
const ROD_APART = 34;

function rodCentre(pin: { centre: number; rods: unknown[] }, i: number): number {
  return pin.centre + (i - (pin.rods.length - 1) / 2) * ROD_APART;
}

const GRAVITY: Record<Shown, number> = {
  in: 0,
  edge: 1,
  predicted: 1.5,
  stale: 2,
  open: 3,
  loose: 4,
  tight: 5,
};

/** A pin shows the rod that is chosen, else the one that needs a hand most. */
function worstOf(rods: FigureAssessment[], chosen: string | undefined): FigureAssessment | undefined {
  const here = rods.find((s) => s.station === chosen);
  return here ?? [...rods].sort((a, b) => GRAVITY[shownState(b)] - GRAVITY[shownState(a)])[0];
}

export function progressOf(s: FigureAssessment): Progress {
  if (s.judged) return "measured";
  if (s.stale) return "stale";
  return s.begun ? "begun" : "open";
}

export function pinProgress(s: FigureAssessment): Progress {
  const journal = s.measured.find((m) => m.place === s.journal_at);
  if (journal?.complete) return "measured";
  if (journal?.stale) return "stale";
  return journal && journal.taken > 0 ? "begun" : "open";
}

/** Whether something is measured along the axis of the crank. */
export function isAlong(place: string): boolean {
  const kind = kindOf(place);
  return kind === "thrust" || kind === "side";
}

/** What is measured along the axis, from the front: the rods' sides on their pins, and the thrust between them. */
export function alongTheAxis(build: Build): FigureAssessment[] {
  const { thrust, crank } = build.layout;
  const before = crank.bays.slice(0, Number(thrust.replace(/\D/g, "")) - 1).flat().length + 0.5;
  const at = (f: FigureAssessment) =>
    kindOf(f.station) === "thrust" ? before : Number(f.station.replace(/\D/g, ""));
  const along = otherFigures(build).filter((f) => isAlong(f.station));
  return along.sort((a, b) => at(a) - at(b));
}

/** The cam's journals, from the front. */
export function camJournals(build: Build): FigureAssessment[] {
  return otherFigures(build).filter((f) => kindOf(f.station) === "cam");
}

/** Where journal `i` of the cam stands over the crank: evenly, from the first main to the last. */
export function camCentre(mains: { centre: number }[], i: number, count: number): number {
  const [first, last] = [mains[0]?.centre ?? 0, mains.at(-1)?.centre ?? 0];
  return count < 2 ? (first + last) / 2 : first + ((last - first) * i) / (count - 1);
}

/** The layer on which something is measured, where it has one of its own. */
export function layerOf(place: string): LineView | undefined {
  if (isAlong(place)) return "along";
  return kindOf(place) === "cam" ? "cam" : undefined;
}

/** Where everything of a build's line is: one scale and one place for the full line and for the slit. */
export function useLine(build: Build, chosen: string | undefined, view: LineView) {
  const [ref, width] = useWidth(1280);
  const side = width < 1150 ? SIDE_NARROW : SIDE;
  const room = Math.max(320, width - 2 * side);
  const scale = Math.min(room / crankLength(build.layout), (BAND / 2 - 6) / crankReach(build.layout));
  const shape = crankShape(build.layout, scale, BAND / 2);
  const left = side + (room - shape.width) / 2;
  const mains = bearingsOf(build, "mains");
  const rods = bearingsOf(build, "rods");
  const chosenMain = mains.findIndex((s) => s.station === chosen);
  const chosenRod = rods.find((s) => s.station === chosen);
  const pins = shape.pins.map((pin, i) => ({
    name: `P${i + 1}`,
    centre: pin.centre,
    rods: rods.filter((s) => s.journal_at === `P${i + 1}`),
  }));
  const chosenPin = pins.findIndex((p) => p.name === chosenRod?.journal_at);
  const thrust = mains.findIndex((s) => s.thrust);
  const axial = alongTheAxis(build);
  const cam = camJournals(build);
  const centreAlong = (f: FigureAssessment) =>
    kindOf(f.station) === "thrust"
      ? shape.mains[Math.max(0, thrust)]?.centre
      : pins.find((p) => p.name === f.journal_at)?.centre;
  const marks: LineMark[] =
    view === "cam"
      ? cam.map((f, i) => markOf(f, camCentre(shape.mains, i, cam.length), f.station, false))
      : view === "along"
        ? axial.map((f) => markOf(f, centreAlong(f) ?? 0, f.station, kindOf(f.station) === "thrust"))
        : view === "rods"
          ? pins.flatMap((pin) => pin.rods.map((s, i) => markOf(s, rodCentre(pin, i), s.station, false)))
          : [
              ...mains.map((s, i) => markOf(s, shape.mains[i]?.centre ?? 0, s.station, true)),
              ...pins.flatMap((pin) => {
                const worst = worstOf(pin.rods, chosen);
                return worst ? [markOf(worst, pin.centre, pin.name, false)] : [];
              }),
            ].sort((a, b) => a.centre - b.centre);
  const markWidth = Math.min(54, ...marks.slice(1).map((m, i) => m.centre - (marks[i]?.centre ?? 0)));
  return {
    ref,
    width,
    side,
    scale,
    shape,
    left,
    mains,
    rods,
    pins,
    marks,
    markWidth,
    chosenMain,
    chosenPin,
    thrust,
  };
}
