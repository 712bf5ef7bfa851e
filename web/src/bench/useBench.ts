import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type Build, type Method, Problem, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { newId } from "../shared/id";
import { type Cell, firstWanted, following, keyOf, nextTouch, placeOf } from "./cells";

/** An entry on its way to the server, or sent back by it. */
export type Entry = { id: string; cell: Cell; text: string; problem?: Problem };

export type Gauges = Record<Cell["feature"], string>;

type Options = {
  build: Build;
  station: string;
  unit: Unit;
  method: Method;
  gauges: Gauges;
  reference: string;
  goTo: (station: string) => void;
};

/**
 * Typing along the bench: which cell is active, what is in it, what is on its way.
 *
 * Entries are sent one after the other in the order typed, while the hand moves on. One that is refused
 * goes back to its cell with its text and the reason, keeping its identifier, so that it can never be
 * kept twice.
 */
export function useBench({ build, station, unit, method, gauges, reference, goTo }: Options) {
  const client = useQueryClient();
  const [active, setActive] = useState<Cell | undefined>(() => firstWanted(build, station, method));
  const [text, setText] = useState("");
  const [onTheirWay, setOnTheirWay] = useState<Entry[]>([]);
  const [sentBack, setSentBack] = useState<Entry[]>([]);
  const queue = useRef<Promise<void>>(Promise.resolve());
  // What the answer to an entry may look at is what is typed by then.
  const now = useRef({ active, text, build });
  useEffect(() => {
    now.current = { active, text, build };
  });

  // Another station was chosen, on the line or by its name: begin where it wants a touch. What was half
  // typed belonged to the other one.
  useEffect(() => {
    if (now.current.active?.station === station) return;
    setActive(firstWanted(now.current.build, station, method));
    setText("");
  }, [station, method]);

  const activate = (cell: Cell | undefined) => {
    const back = cell && sentBack.find((e) => placeOf(e.cell) === placeOf(cell));
    setActive(cell);
    setText(back?.text ?? "");
    if (cell && cell.station !== station) goTo(cell.station);
  };

  const send = async (entry: Entry, force: boolean) => {
    const { cell } = entry;
    const body = {
      id: entry.id,
      station: cell.station,
      feature: cell.feature,
      position: cell.position,
      method: cell.method,
      reference: cell.feature === "main_bearing" && cell.method === "direct" ? reference : null,
      gauge: gauges[cell.feature],
      text: entry.text,
      unit,
      force,
    };
    try {
      const path = { build: build.code };
      const recorded = await unwrap(api.POST("/api/v1/builds/{build}/readings", { params: { path }, body }));
      showRecorded(client, recorded);
      setOnTheirWay((all) => all.filter((e) => e.id !== entry.id));
      // The touches differ: one more is wanted here before the hand goes further.
      const more = recorded.build.assessment.wanted.find(
        (w) => placeOf({ ...w, method: w.method ?? method }) === placeOf(cell),
      );
      if (more && more.touch > 2 && now.current.text === "") {
        const again = { ...more, method: cell.method };
        setActive(again);
        if (again.station !== now.current.active?.station) goTo(again.station);
      }
    } catch (error) {
      const problem = error instanceof Problem ? error : new Problem(undefined);
      setOnTheirWay((all) => all.filter((e) => e.id !== entry.id));
      setSentBack((all) => [...all, { ...entry, problem }]);
      if (now.current.text === "") {
        setActive(cell);
        setText(entry.text);
        if (cell.station !== now.current.active?.station) goTo(cell.station);
      }
    }
  };

  /** Sends what is in the active cell and moves on to the next one that wants a touch. */
  const keep = (force: boolean) => {
    if (!active) return;
    const typed = text.trim();
    if (typed === "")
      return activate(following(build, active, method, new Set(onTheirWay.map((e) => keyOf(e.cell)))));
    const back = sentBack.find((e) => placeOf(e.cell) === placeOf(active));
    const same = back?.text.trim() === typed;
    const entry: Entry = { id: back && same ? back.id : newId(), cell: active, text: typed };
    setSentBack((all) => all.filter((e) => e !== back));
    const sent = [...onTheirWay, entry];
    setOnTheirWay(sent);
    const next = following(build, active, method, new Set(sent.map((e) => keyOf(e.cell))));
    setActive(next);
    setText("");
    if (next && next.station !== station) goTo(next.station);
    queue.current = queue.current.then(() => send(entry, force));
  };

  return {
    active,
    text,
    setText,
    activate,
    keep,
    onTheirWay,
    sentBack,
    /** Goes to one more touch at a place, wanted or not. */
    touchAgain: (place: Omit<Cell, "touch">) => activate(nextTouch(build, place)),
    /** Empties the cell, and forgets what the server had sent back into it. */
    clear: () => {
      setText("");
      setSentBack((all) => all.filter((e) => !active || placeOf(e.cell) !== placeOf(active)));
    },
  };
}

export type BenchState = ReturnType<typeof useBench>;
