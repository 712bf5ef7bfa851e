import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { characteristicRow, groupOf, rowOf } from "../api/catalog";
import type { Build, GaugeUse, Group, Read, Schemas, Unit } from "../api/client";
import { showRecorded } from "../api/queries";
import { newId } from "../shared/id";
import {
  bearingOfCell,
  type Cell,
  firstWanted,
  following,
  keyOf,
  leftAt,
  nextTouch,
  onDial,
  placeOf,
} from "./cells";
import type { Waiting } from "./outbox";
import { sender, type Told } from "./sender";

/** An entry that the server refused. */
export type Entry = { id: string; cell: Cell; text: string; problem?: { code: string; detail: string } };

export type Gauges = Record<GaugeUse, string>;

export function gaugeUse(cell: Pick<Cell, "characteristic">): GaugeUse {
  return characteristicRow(cell.characteristic).gauge;
}

/** With what a touch is taken: everything but the text. */
export type Means = {
  unit: Unit;
  /** How what can be read in two ways is read. */
  read: Read;
  gauges: Gauges;
  /** What a gauge with a dial is zeroed at there. */
  referenceFor: (cell: Cell) => string;
  /** What the bore gauge was zeroed in, where it is said with the reading. */
  zeroFor: (cell: Cell) => Schemas["ZeroSource"] | undefined;
  temperatures: { part: string; gauge: string; degrees: "C" | "F" };
};

type Options = {
  build: Build;
  station: string;
  by: string;
  group: Group;
  means: Means;
  /** The candidate that is measured, beside the part that stands in the engine. */
  part?: string | undefined;
  goTo: (station: string) => void;
};

/** What was entered, and by what. */
type Entered = { text: string; source: "typed" | "gauge"; force: boolean };

/** How long the hand waits for the answer that says where it goes next, in milliseconds. Then the server counts as away. */
const PATIENCE = 2_000;

function order(): number {
  return performance.timeOrigin + performance.now();
}

/**
 * Typing along the bench: which cell is active, what is in it, what of it waits to be kept.
 *
 * What is entered is handed to the {@link sender}, while the hand moves on. What the server refuses goes back to its cell
 * with its text and the reason, keeping its identifier, so that it can never be kept twice.
 */
export function useBench({ build, station, by, group, means, part, goTo }: Options) {
  const client = useQueryClient();
  const { read, unit } = means;
  const where = { read, group };
  const row = rowOf(station);
  const [active, setActive] = useState<Cell | undefined>(() => firstWanted(build, station, where));
  const [text, setText] = useState("");
  const { waiting: everywhere, away } = useSyncExternalStore(sender.subscribe, sender.snapshot);
  const waiting = useMemo(
    () => everywhere.filter((e) => e.build === build.id && (e.body.part ?? undefined) === part),
    [everywhere, build.id, part],
  );
  // What the answer to an entry may look at is what is typed by then.
  const now = useRef({ active, text, build, waiting });
  useLayoutEffect(() => {
    // What an answer brought may be drawn later than the entry leaves those that wait: it counts at once.
    now.current = { active, text, build: newer(build, now.current.build), waiting };
  });
  const mine = waiting.filter((e) => e.by === by);
  // The last touch of a place may ask for one more there. Until the server says so, what is entered waits for its cell:
  // where it lands never depends on how fast the answer comes.
  const [held, setHeld] = useState<string>();
  const [entered, setEntered] = useState<Entered[]>([]);
  const [more, setMore] = useState<Cell>();
  const holding = !away && mine.some((e) => e.id === held && !e.refused);
  const onTheirWay: Entry[] = mine.filter((e) => !e.refused).map(entryOf);
  const sentBack: Entry[] = mine.filter((e) => e.refused).map(entryOf);

  // Another station was chosen, on the line or by its name: begin where it wants a touch. What was half
  // typed belonged to the other one.
  const here = useRef({ station, group });
  // Stations the hand went to by itself: the address follows late when typing is fast, and by then the hand may be
  // further on.
  const ahead = useRef<string[]>([]);
  useLayoutEffect(() => {
    const before = here.current;
    here.current = { station, group };
    if (before.station !== station) {
      const own = ahead.current.indexOf(station);
      ahead.current = own < 0 ? [] : ahead.current.slice(own + 1);
      if (own >= 0) return;
    }
    const at = now.current.active;
    const bearing = at && bearingOfCell(now.current.build, at, station);
    const stays = bearing?.station === station && at && groupOf(at) === group;
    if (stays || (before.station === station && before.group === group)) return;
    setActive(firstWanted(now.current.build, station, { read, group }));
    setText("");
  }, [station, read, group]);

  const left = useRef(false);
  const show = (cell: Cell | undefined) => {
    setActive(cell);
    now.current.active = cell;
    if (left.current) return;
    const bearing = cell && bearingOfCell(now.current.build, cell, station);
    if (!bearing || bearing.station === (ahead.current.at(-1) ?? station)) return;
    ahead.current.push(bearing.station);
    goTo(bearing.station);
  };
  const activate = (cell: Cell | undefined) => {
    setHeld(undefined);
    setMore(undefined);
    const back = cell && sentBack.find((e) => placeOf(e.cell) === placeOf(cell));
    setText(back?.text ?? "");
    show(cell);
  };

  /** The touches differ: one more is wanted here before the hand goes further. What is typed by now belongs to it. */
  const askForMore = (after: Build, { id, cell }: Waiting) => {
    if (id !== held) return;
    setHeld(undefined);
    if (leftAt(after, cell) === 0) return;
    const more = nextTouch(after, cell);
    // The cell under the hand is not taken away while it types: what it enters then lands where it belongs.
    if (now.current.text === "") show(more);
    else setMore(more);
  };
  useEffect(() => {
    if (!more || text !== "") return;
    setMore(undefined);
    setActive(more);
  }, [more, text]);

  const told = useRef<(told: Told) => void>(() => undefined);
  useLayoutEffect(() => {
    told.current = (t) => {
      if (t.entry.build !== build.id || t.entry.by !== by) return;
      if ((t.entry.body.part ?? undefined) !== part) return;
      if ("recorded" in t) {
        if (part) return void client.invalidateQueries({ queryKey: ["as-if", build.code, part] });
        const after = showRecorded(client, t.recorded);
        if (!after) return;
        now.current.build = newer(after, now.current.build);
        askForMore(after, t.entry);
      } else if (now.current.text === "" && entered.length === 0) {
        setText(t.entry.body.text);
        show(t.entry.cell);
      }
    };
  });
  useEffect(() => sender.onTold((t) => told.current(t)), []);
  // What was refused while no bench was open, over a reload say, was told to nobody: it stands in its cell at the first look.
  const opened = useRef(station);
  const offered = useRef(new Set<string>());
  useEffect(() => {
    const back = sentBack.find((e) => !offered.current.has(e.id));
    if (!back || station !== opened.current) return;
    offered.current.add(back.id);
    if (text !== "" || entered.length > 0 || bearingOfCell(build, back.cell, station)?.station !== station)
      return;
    setText(back.text);
    setActive(back.cell);
  });

  const noted = (text: string) => (text.trim() === "" ? "" : `${text.trim()}${means.temperatures.degrees}`);
  /** Hands a text to the sender and moves on. What was entered earlier leaves alone what is typed by now. */
  const enter = ({ text: typed, source, force }: Entered, earlier: boolean) => {
    const at = more ?? now.current.active;
    if (!at) return;
    setMore(undefined);
    const back = sentBack.find((e) => placeOf(e.cell) === placeOf(at));
    const same = back?.text.trim() === typed;
    const id = back && same ? back.id : newId();
    const body: Schemas["NewReading"] = {
      id,
      station: at.station,
      characteristic: at.characteristic,
      position: at.position,
      part: part ?? null,
      read: at.read,
      reference: onDial(at) ? means.referenceFor(at) : null,
      zero: onDial(at) ? (means.zeroFor(at) ?? null) : null,
      gauge: means.gauges[gaugeUse(at)],
      text: typed,
      unit,
      force,
      source,
      part_temperature: noted(means.temperatures.part),
      gauge_temperature: noted(means.temperatures.gauge),
    };
    const entry: Waiting = { id, order: order(), build: build.id, by, cell: at, body };
    const sent = [...now.current.waiting.filter((e) => e.id !== back?.id && e.id !== id), entry];
    now.current.waiting = sent;
    const done = new Set(sent.filter((e) => !e.refused).map((e) => keyOf(e.cell)));
    const next = following(now.current.build, at, where, row, done);
    const ends = !next || placeOf(next) !== placeOf(at);
    setHeld(ends && at.touch > 1 ? id : undefined);
    show(next);
    if (!earlier) setText("");
    void sender.add(entry, back?.id);
  };

  const enterNext = useRef(enter);
  useLayoutEffect(() => {
    enterNext.current = enter;
  });
  useEffect(() => {
    if (!holding) return;
    const timer = setTimeout(() => setHeld(undefined), PATIENCE);
    return () => clearTimeout(timer);
  }, [holding]);
  useEffect(() => {
    const [first, ...rest] = entered;
    if (holding || !first) return;
    setEntered(rest);
    enterNext.current(first, true);
  }, [holding, entered]);

  // Until it is known which cell is next, what was entered is kept nowhere but here. Whoever leaves the bench leaves it where it
  // would have gone had nobody answered, and so does a page that goes without being asked; the browser asks before it closes one.
  const unplaced = entered.length > 0;
  const queue = useRef(entered);
  useLayoutEffect(() => {
    queue.current = entered;
  });
  useEffect(() => {
    left.current = false;
    const leave = () => {
      left.current = true;
      const all = queue.current;
      queue.current = [];
      setEntered([]);
      for (const one of all) enterNext.current(one, true);
    };
    const comeBack = () => {
      left.current = false;
    };
    window.addEventListener("pagehide", leave);
    window.addEventListener("pageshow", comeBack);
    return () => {
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("pageshow", comeBack);
      leave();
    };
  }, []);
  useEffect(() => {
    if (!unplaced) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unplaced]);

  /** Enters something now, or once it is known which cell is next. */
  const take = (one: Entered) => {
    if (!holding && entered.length === 0) return enter(one, false);
    setEntered((all) => [...all, one]);
    setText("");
  };

  /** Sends what is in the active cell and moves on to the next one that wants a touch. */
  const keep = (force: boolean) => {
    if (!active) return;
    const typed = text.trim();
    if (typed !== "") return take({ text: typed, source: "typed", force });
    activate(following(now.current.build, active, where, row, new Set(onTheirWay.map((e) => keyOf(e.cell)))));
  };

  return {
    active,
    text,
    setText,
    activate,
    keep,
    /** A gauge sent its figure: as if typed and entered. */
    sent: (raw: string) => take({ text: raw, source: "gauge", force: false }),
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
      setEntered([]);
      for (const e of sentBack) if (active && placeOf(e.cell) === placeOf(active)) void sender.forget(e.id);
    },
  };
}

/** Of two states of a build the later one; what is shown of another build or part is none. */
function newer(build: Build, before: Build): Build {
  return before.id === build.id && before.assessment.seq > build.assessment.seq ? before : build;
}

function entryOf(e: Waiting): Entry {
  const entry = { id: e.id, cell: e.cell, text: e.body.text };
  return e.refused ? { ...entry, problem: e.refused } : entry;
}

export type BenchState = ReturnType<typeof useBench>;
