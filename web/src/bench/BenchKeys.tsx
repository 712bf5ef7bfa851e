import { createContext, useContext } from "react";
import { bearingsOf, beginsAPlace, isBearing, isUnnumbered } from "../api/catalog";
import type { Build, FigureAssessment, Role } from "../api/client";
import { layerOf, stationsOn } from "../line/layers";
import { PART_KEY } from "../shared/words";
import { bearingFor, placeOf, placesOf, type Where } from "./cells";
import type { BenchState } from "./useBench";

/** What the bench needs to know of a key, whoever caught it. */
export type PressedKey = Pick<KeyboardEvent, "key" | "ctrlKey" | "altKey" | "metaKey" | "preventDefault">;
type KeyHandler = (event: PressedKey) => void;

/** The keys of the bench, for whatever holds the focus. */
export const BenchKeysContext = createContext<KeyHandler>(() => undefined);

export function useBenchKeys(): KeyHandler {
  return useContext(BenchKeysContext);
}

export type BenchActions = {
  bench: BenchState;
  build: Build;
  station: FigureAssessment;
  where: Where;
  /** What the server says about the text in the cell. */
  refused: boolean;
  canForce: boolean;
  goTo: (station: string) => void;
  toPart: (part: Role) => void;
  toggleRead: () => void;
  toggleView: (view: "crank" | "proof") => void;
  toggleLine: () => void;
  /** To the next layer of the line. */
  stepLayer: (by: 1 | -1) => void;
  toReference: () => void;
  strikeLast: () => void;
  setTarget: () => void;
  /** The letter that chose a part last, while nothing but digits followed: with them it may name a place. */
  letter: { current: string };
  recordWork: () => void;
  checkGauge: () => void;
};

/** The bearing a text such as `m4`, `p2` or `r3` names. */
export function stationNamed(text: string, build: Build, near?: string): string | undefined {
  if (isUnnumbered(text)) return bearingFor(build, text.trim().toUpperCase())?.station;
  const named = /^(\D+)(\d+)$/.exec(text.trim());
  if (!named || !beginsAPlace(text)) return undefined;
  return bearingFor(build, `${named[1]?.toUpperCase()}${Number(named[2])}`, near)?.station;
}

/** The same, once no further digit could follow. */
export function namedForSure(text: string, build: Build, near?: string): string | undefined {
  const bearing = stationNamed(text, build, near);
  const name = text.trim().toUpperCase();
  const places = build.assessment.figures.flatMap((s) => [s.station, s.journal_at]);
  return bearing && !places.some((p) => p !== name && p.startsWith(name)) ? bearing : undefined;
}

function neighbour<T>(list: T[], at: number, step: number): T | undefined {
  return list[Math.min(list.length - 1, Math.max(0, at + step))];
}

/** What stands on the same layer, from the front. */
function besideOf(build: Build, station: FigureAssessment): FigureAssessment[] {
  const layer = layerOf(station.station);
  return layer ? stationsOn(build, layer) : bearingsOf(build, station.row);
}

/** Whether a place of this engine begins with a letter, so that a number may follow. */
function beginsAPlaceOf(build: Build, letter: string): boolean {
  return build.assessment.figures.some((f) =>
    [f.station, f.journal_at].some((place) => place.toLowerCase().startsWith(letter)),
  );
}

/**
 * What a key does on the bench. Letters are commands only while the cell is empty. A letter and a number that name a place of
 * the engine go there from everywhere, and nothing is kept: a letter that begins such a name waits for its number, and Enter
 * alone does what the letter does. The letters of parts turn the hand at once, and name a place all the same.
 */
export function benchKeys(a: BenchActions): KeyHandler {
  const commands: Record<string, () => void> = {
    ...Object.fromEntries(
      Object.entries(PART_KEY)
        // Where there is no such part, its letter begins the name of a place.
        .filter(([, part]) => a.station.measured.some((m) => m.role === part))
        .map(([key, part]) => [key, () => a.toPart(part)]),
    ),
    d: a.toggleRead,
    // Elsewhere it begins the name of a place.
    ...(isBearing(a.station) ? { c: () => a.toggleView("crank") } : {}),
    u: () => a.toggleView("proof"),
    f: a.toggleLine,
    z: a.toReference,
    x: a.strikeLast,
    t: a.setTarget,
    w: a.recordWork,
    g: a.checkGauge,
  };
  return (event) => {
    const { bench } = a;
    const empty = bench.text === "";
    const typed = bench.text.trim().toLowerCase();
    const letter = a.letter.current;
    if (!/^\d$/.test(event.key) && event.key !== "Enter") a.letter.current = "";
    const act = (what: () => void) => {
      event.preventDefault();
      what();
    };
    if (event.key === "Enter") {
      return act(() => {
        a.letter.current = "";
        const behind = /^\d{1,2}$/.test(typed) && letter !== "" ? `${letter}${typed}` : undefined;
        const place = behind && stationNamed(behind, a.build, a.station.station);
        const command = typed.length === 1 ? commands[typed] : undefined;
        if (place) {
          bench.setText("");
          a.goTo(place);
        } else if (command) {
          bench.setText("");
          command();
        } else if (/\d$/.test(bench.text.trim()) && beginsAPlace(bench.text)) {
          const named = stationNamed(bench.text, a.build, a.station.station);
          if (named) {
            bench.setText("");
            a.goTo(named);
          }
        } else if (event.ctrlKey && a.canForce) bench.keep(true);
        else if (!a.refused) bench.keep(false);
      });
    }
    if (event.key === "Escape") return act(bench.clear);
    if (event.key === "PageUp" || event.key === "PageDown")
      return act(() => a.stepLayer(event.key === "PageUp" ? -1 : 1));
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    if (empty && (event.key === "ArrowLeft" || event.key === "ArrowRight")) {
      const row = besideOf(a.build, a.station);
      const at = row.findIndex((s) => s.station === a.station.station);
      const next = neighbour(row, at, event.key === "ArrowLeft" ? -1 : 1);
      return act(() => next && a.goTo(next.station));
    }
    if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      const places = placesOf(a.station, a.where);
      const at = places.findIndex((p) => bench.active && placeOf(p) === placeOf(bench.active));
      const next = neighbour(places, at, event.key === "ArrowUp" ? -1 : 1);
      return act(() => next && bench.touchAgain(next));
    }
    const key = event.key.toLowerCase();
    const command = empty ? commands[key] : undefined;
    if (!command) return;
    const ofPart = PART_KEY[key] !== undefined;
    if (ofPart) a.letter.current = key;
    else if (beginsAPlaceOf(a.build, key)) return;
    act(command);
  };
}
