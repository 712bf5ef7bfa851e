import { createContext, useContext } from "react";
import type { StationAssessment } from "../api/client";
import { placeOf, placesOf } from "./cells";
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
  station: StationAssessment;
  stations: string[];
  /** What the server says about the text in the cell. */
  refused: boolean;
  canForce: boolean;
  goTo: (station: string) => void;
  toFeature: (feature: "main_journal" | "main_bearing") => void;
  toggleMethod: () => void;
  toggleView: () => void;
  toReference: () => void;
  strikeLast: () => void;
  setTarget: () => void;
};

/** The main a text such as `m4` names, once no further digit could follow. */
export function namedStation(text: string, stations: string[]): string | undefined {
  const digits = /^m(\d+)$/i.exec(text.trim())?.[1];
  if (!digits) return undefined;
  const name = `M${Number(digits)}`;
  const longer = stations.some((s) => s !== name && s.startsWith(name));
  return !longer && stations.includes(name) ? name : undefined;
}

function neighbour<T>(list: T[], at: number, step: number): T | undefined {
  return list[Math.min(list.length - 1, Math.max(0, at + step))];
}

/** What a key does on the bench. Letters are commands only while the cell is empty. */
export function benchKeys(a: BenchActions): KeyHandler {
  const commands: Record<string, () => void> = {
    b: () => a.toFeature("main_bearing"),
    j: () => a.toFeature("main_journal"),
    d: a.toggleMethod,
    c: a.toggleView,
    r: a.toReference,
    x: a.strikeLast,
    t: a.setTarget,
  };
  return (event) => {
    const { bench } = a;
    const empty = bench.text === "";
    const jump = /^m(\d+)$/i.exec(bench.text.trim())?.[1];
    const act = (what: () => void) => {
      event.preventDefault();
      what();
    };
    if (event.key === "Enter") {
      return act(() => {
        if (jump !== undefined) {
          const name = `M${Number(jump)}`;
          if (a.stations.includes(name)) {
            bench.setText("");
            a.goTo(name);
          }
        } else if (event.ctrlKey && a.canForce) bench.keep(true);
        else if (!a.refused) bench.keep(false);
      });
    }
    if (event.key === "Escape") return act(bench.clear);
    if (event.ctrlKey || event.altKey || event.metaKey) return;
    if (empty && (event.key === "ArrowLeft" || event.key === "ArrowRight")) {
      const at = a.stations.indexOf(a.station.station);
      const next = neighbour(a.stations, at, event.key === "ArrowLeft" ? -1 : 1);
      return act(() => next && a.goTo(next));
    }
    if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      const places = placesOf(a.station, bench.active?.method ?? "direct");
      const at = places.findIndex((p) => bench.active && placeOf(p) === placeOf(bench.active));
      const next = neighbour(places, at, event.key === "ArrowUp" ? -1 : 1);
      return act(() => next && bench.touchAgain(next));
    }
    const command = empty ? commands[event.key.toLowerCase()] : undefined;
    if (command) act(command);
  };
}
