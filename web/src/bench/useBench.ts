import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type Build, type GaugeUse, Problem, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { newId } from "../shared/id";
import {
  bearingFor,
  type Cell,
  firstWanted,
  following,
  type Group,
  groupOf,
  keyOf,
  nextTouch,
  onDial,
  partOf,
  placeOf,
} from "./cells";
import { drop, put, type Waiting, waitingOn } from "./outbox";

/** An entry that the server refused. */
export type Entry = { id: string; cell: Cell; text: string; problem?: { code: string; detail: string } };

export type Gauges = Record<GaugeUse, string>;

const USE: Record<Schemas["Part"], GaugeUse> = {
  journal: "outside",
  housing: "inside",
  bore: "inside",
  upper_wall: "wall",
  lower_wall: "wall",
  strip: "gap",
};

export function gaugeUse(cell: Pick<Cell, "feature">): GaugeUse {
  return USE[partOf(cell.feature)];
}

/** With what a touch is taken: everything but the text. */
export type Means = {
  unit: Unit;
  method: "direct" | "subtract";
  gauges: Gauges;
  /** What the bore gauge is zeroed at, by row and part. */
  referenceFor: (cell: Cell) => string;
  temperatures: { part: string; gauge: string };
};

type Options = {
  build: Build;
  station: string;
  by: string;
  group: Group;
  means: Means;
  goTo: (station: string) => void;
};

/** How long to wait before what could not be sent is tried again, in milliseconds. */
const TRY_AGAIN = 1_500;
/** Problems that pass by themselves: the entry waits and is sent later. */
const PASSING = new Set(["unreachable", "database_away", "not_signed_in", "no_token", "internal"]);

function order(): number {
  return performance.timeOrigin + performance.now();
}

/**
 * Typing along the bench: which cell is active, what is in it, what waits to be kept.
 *
 * Every entry is put into the browser's own store before it is sent, and leaves it only when the server
 * has answered. Entries go one after the other in the order typed, while the hand moves on; while the
 * server is away they wait. One that is refused goes back to its cell with its text and the reason,
 * keeping its identifier, so that it can never be kept twice.
 */
export function useBench({ build, station, by, group, means, goTo }: Options) {
  const client = useQueryClient();
  const { method, unit } = means;
  const where = { method, group };
  const row = station.charAt(0);
  const [active, setActive] = useState<Cell | undefined>(() => firstWanted(build, station, where));
  const [text, setText] = useState("");
  const [waiting, setWaiting] = useState<Waiting[]>([]);
  const [away, setAway] = useState(false);
  const sending = useRef(false);
  // What the answer to an entry may look at is what is typed by then.
  const now = useRef({ active, text, build, waiting });
  useEffect(() => {
    now.current = { active, text, build, waiting };
  });
  const mine = waiting.filter((e) => e.by === by);
  const onTheirWay: Entry[] = mine.filter((e) => !e.refused).map(entryOf);
  const sentBack: Entry[] = mine.filter((e) => e.refused).map(entryOf);

  // Another station was chosen, on the line or by its name: begin where it wants a touch. What was half
  // typed belonged to the other one.
  const here = useRef({ station, group });
  // Stations the hand went to by itself: the address follows late when typing is fast, and by then the hand may be
  // further on.
  const ahead = useRef<string[]>([]);
  useEffect(() => {
    const before = here.current;
    here.current = { station, group };
    if (before.station !== station) {
      const own = ahead.current.indexOf(station);
      ahead.current = own < 0 ? [] : ahead.current.slice(own + 1);
      if (own >= 0) return;
    }
    const at = now.current.active;
    const bearing = at && bearingFor(now.current.build, at.station, station);
    const stays = bearing?.station === station && at && groupOf(partOf(at.feature)) === group;
    if (stays || (before.station === station && before.group === group)) return;
    setActive(firstWanted(now.current.build, station, { method, group }));
    setText("");
  }, [station, method, group]);

  const show = (cell: Cell | undefined) => {
    setActive(cell);
    const bearing = cell && bearingFor(now.current.build, cell.station, station);
    if (!bearing || bearing.station === (ahead.current.at(-1) ?? station)) return;
    ahead.current.push(bearing.station);
    goTo(bearing.station);
  };
  const activate = (cell: Cell | undefined) => {
    const back = cell && sentBack.find((e) => placeOf(e.cell) === placeOf(cell));
    setText(back?.text ?? "");
    show(cell);
  };

  const update = (entry: Waiting) => {
    setWaiting((all) => all.map((e) => (e.id === entry.id ? entry : e)));
    return put(entry);
  };
  const forget = (id: string) => {
    setWaiting((all) => all.filter((e) => e.id !== id));
    return drop(id);
  };

  /** Sends one entry; true when the next one may follow. */
  const send = async (entry: Waiting): Promise<boolean> => {
    try {
      const path = { build: build.code };
      const recorded = await unwrap(
        api.POST("/api/v1/builds/{build}/readings", { params: { path }, body: entry.body }),
      );
      setAway(false);
      showRecorded(client, recorded);
      await forget(entry.id);
      askForMore(recorded.build, entry.cell);
      return true;
    } catch (error) {
      const problem = error instanceof Problem ? error : new Problem(undefined);
      if (PASSING.has(problem.code)) {
        setAway(true);
        return false;
      }
      setAway(false);
      await update({ ...entry, refused: { code: problem.code, detail: problem.message } });
      if (now.current.text === "") {
        setText(entry.body.text);
        show(entry.cell);
      }
      return true;
    }
  };

  /** The touches differ: one more is wanted here before the hand goes further. */
  const askForMore = (after: Build, cell: Cell) => {
    const more = after.assessment.wanted.find(
      (w) => placeOf({ ...w, method: w.method ?? cell.method } as Cell) === placeOf(cell),
    );
    const others = now.current.waiting.some((e) => !e.refused && placeOf(e.cell) === placeOf(cell));
    if (more && more.touch > 2 && now.current.text === "" && !others) {
      show({ ...more, method: cell.method });
    }
  };

  // One at a time, in the order typed; while the server is away, again after a while.
  const pump = useRef<() => void>(() => undefined);
  pump.current = () => {
    if (sending.current) return;
    const next = now.current.waiting.find((e) => e.by === by && !e.refused);
    if (!next) return;
    sending.current = true;
    void send(next).then((goOn) => {
      sending.current = false;
      if (goOn) setTimeout(() => pump.current(), 0);
      else setTimeout(() => pump.current(), TRY_AGAIN);
    });
  };

  // What was left from before a reload is sent first.
  useEffect(() => {
    let gone = false;
    void waitingOn(build.id).then((left) => {
      if (gone || left.length === 0) return;
      setWaiting((all) => [...left.filter((e) => !all.some((a) => a.id === e.id)), ...all]);
    });
    return () => {
      gone = true;
    };
  }, [build.id]);
  const next = mine.find((e) => !e.refused)?.id;
  useEffect(() => {
    if (next) pump.current();
  }, [next]);

  const enter = (typed: string, source: "typed" | "gauge", force: boolean) => {
    if (!active) return;
    const back = sentBack.find((e) => placeOf(e.cell) === placeOf(active));
    const same = back?.text.trim() === typed;
    const dial = onDial(partOf(active.feature), active.method);
    const id = back && same ? back.id : newId();
    const body: Schemas["NewReading"] = {
      id,
      station: active.station,
      feature: active.feature,
      position: active.position,
      method: active.method,
      reference: dial ? means.referenceFor(active) : null,
      gauge: means.gauges[gaugeUse(active)],
      text: typed,
      unit,
      force,
      source,
      part_temperature: means.temperatures.part,
      gauge_temperature: means.temperatures.gauge,
    };
    const entry: Waiting = { id, order: order(), build: build.id, by, cell: active, body };
    const rest = waiting.filter((e) => e.id !== back?.id && e.id !== id);
    if (back && back.id !== id) void drop(back.id);
    const sent = [...rest, entry];
    setWaiting(sent);
    now.current.waiting = sent;
    const done = new Set(sent.filter((e) => !e.refused).map((e) => keyOf(e.cell)));
    show(following(build, active, where, row, done));
    setText("");
    void put(entry).then(() => pump.current());
  };

  /** Sends what is in the active cell and moves on to the next one that wants a touch. */
  const keep = (force: boolean) => {
    if (!active) return;
    const typed = text.trim();
    if (typed !== "") return enter(typed, "typed", force);
    activate(following(build, active, where, row, new Set(onTheirWay.map((e) => keyOf(e.cell)))));
  };

  return {
    active,
    text,
    setText,
    activate,
    keep,
    /** A gauge sent its figure: as if typed and entered. */
    sent: (raw: string) => enter(raw, "gauge", false),
    onTheirWay,
    sentBack,
    /** Entries that wait because the server does not answer. */
    notYetKept: away ? onTheirWay.length : 0,
    /** Entries of somebody else that wait for them to sign in. */
    ofOthers: waiting.filter((e) => e.by !== by).length,
    /** Goes to one more touch at a place, wanted or not. */
    touchAgain: (place: Omit<Cell, "touch">) => activate(nextTouch(build, place)),
    /** Empties the cell, and forgets what the server had sent back into it. */
    clear: () => {
      setText("");
      for (const e of sentBack) if (active && placeOf(e.cell) === placeOf(active)) void forget(e.id);
    },
  };
}

function entryOf(e: Waiting): Entry {
  const entry = { id: e.id, cell: e.cell, text: e.body.text };
  return e.refused ? { ...entry, problem: e.refused } : entry;
}

export type BenchState = ReturnType<typeof useBench>;
