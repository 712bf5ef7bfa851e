import { bearingsOf, kindOf } from "../api/catalog";
import type { Build, FigureAssessment } from "../api/client";
import { useWidth } from "../shared/useWidth";
import { type Shown, shownState } from "../shared/words";
import type { Progress } from "./Crank";
import { type CrankShape, crankLength, crankReach, crankShape } from "./geometry";
import { type LineView, stationsOn } from "./layers";

/** Height of the drawing at full size. */
export const BAND = 160;
/** Room for the words at both sides of the drawing. */
const SIDE = 304;
const SIDE_NARROW = 224;

/** A station of the line with what is known of it. */
export type Seen = { assessed: FigureAssessment };

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

/** Where journal `i` of the cam stands over the crank: evenly, from the first main to the last. */
export function camCentre(mains: { centre: number }[], i: number, count: number): number {
  const [first, last] = [mains[0]?.centre ?? 0, mains.at(-1)?.centre ?? 0];
  return count < 2 ? (first + last) / 2 : first + ((last - first) * i) / (count - 1);
}

/** Pixels that the cam's thrust stands before its first journal. */
const BEFORE_THE_CAM = 46;

/** Pixels between the marks of two banks. */
const MARK_APART = 60;

/** The middle of the nose, 1, or of the flange, 2. */
export function endCentre(shape: Pick<CrankShape, "snout" | "flange">, end: number): number {
  const boxes = end === 1 ? shape.snout : shape.flange;
  const [first, last] = [boxes[0], boxes.at(-1)];
  return first && last ? (first.x + last.x + last.width) / 2 : 0;
}

/** Where the mark of the deck stands, and that of the head beside it. */
export function faceCentre(shape: { width: number }, head: boolean): number {
  return shape.width * (head ? 0.72 : 0.22);
}

/** The number of a place among its kind. */
export const numberOf = (place: string) => Number(place.replace(/\D/g, ""));

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
  const camCount = build.layout.cam?.journals.length ?? 0;
  const perPin = build.layout.rods?.per_pin ?? 1;
  // Cylinders of both banks stand over one pin: their marks stand side by side.
  const ofCylinder = (place: string) => {
    const i = numberOf(place) - 1;
    const centre = shape.pins[Math.floor(i / perPin)]?.centre ?? 0;
    return centre + ((i % perPin) - (perPin - 1) / 2) * ROD_APART;
  };
  const centreOf = (place: string): number => {
    const n = numberOf(place);
    switch (kindOf(place)) {
      case "thrust":
        return shape.mains[Math.max(0, thrust)]?.centre ?? 0;
      case "crank_end":
        return endCentre(shape, n);
      case "main_fillet":
        return shape.mains[n - 1]?.centre ?? 0;
      case "cam":
        return camCentre(shape.mains, n - 1, camCount);
      case "cam_thrust":
        return camCentre(shape.mains, 0, camCount) - BEFORE_THE_CAM;
      case "cylinder":
      case "wrist_pin":
        return ofCylinder(place);
      case "deck":
        return faceCentre(shape, false) + (n - 1) * MARK_APART;
      case "head":
        return faceCentre(shape, true) + (n - 1) * MARK_APART;
      default:
        return shape.pins[n - 1]?.centre ?? 0;
    }
  };
  const heavy = (place: string) => ["thrust", "main_fillet"].includes(kindOf(place));
  const marks: LineMark[] =
    view === "rods"
      ? pins.flatMap((pin) => pin.rods.map((s, i) => markOf(s, rodCentre(pin, i), s.station, false)))
      : view === "crank"
        ? [
            ...mains.map((s, i) => markOf(s, shape.mains[i]?.centre ?? 0, s.station, true)),
            ...pins.flatMap((pin) => {
              const worst = worstOf(pin.rods, chosen);
              return worst ? [markOf(worst, pin.centre, pin.name, false)] : [];
            }),
          ].sort((a, b) => a.centre - b.centre)
        : stationsOn(build, view)
            .map((f) => markOf(f, centreOf(f.station), f.station, heavy(f.station)))
            .sort((a, b) => a.centre - b.centre);
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
