import { api, Problem, type Recorded, unwrap } from "../api/client";
import { drop, everything, put, type Waiting } from "./outbox";

/** What came of an entry. */
export type Told = { entry: Waiting; recorded: Recorded } | { entry: Waiting; refused: Problem };

/** Problems that pass by themselves: the entry waits and is sent later. */
const PASSING = new Set(["unreachable", "database_away", "not_signed_in", "no_token", "internal"]);
/** How long to wait before what could not be sent is tried again, in milliseconds. */
const TRY_AGAIN = 1_500;
/** An entry the server fails over this often steps aside, so that those behind it are kept. */
const TRIES = 3;
const LOCK = "jagged-pin-outbox";

/** One tab of a browser sends at a time. */
async function alone<T>(work: () => Promise<T>): Promise<T> {
  // An old browser, or a page that is not served securely, knows no locks; an entry sent twice is kept once.
  return "locks" in navigator ? await navigator.locks.request(LOCK, () => work()) : work();
}

/** What the bench shows of what waits. */
export type Snapshot = { waiting: Waiting[]; away: boolean };

/**
 * Sends what was typed, outside of any page: it goes on while the bench is left, and over a reload.
 *
 * Entries go one after the other in the order typed, each under the name of whoever typed it, and leave only when the server
 * has answered. While it is away they wait. One that is refused stays with the reason.
 */
export class Sender {
  #shown: Snapshot = { waiting: [], away: false };
  #listeners = new Set<() => void>();
  #told = new Set<(told: Told) => void>();
  #by: string | undefined;
  #busy = false;
  /** Something was added while the last look was under way. */
  #lookAgain = false;
  #later: ReturnType<typeof setTimeout> | undefined;
  #failed = new Map<string, number>();
  /** On their way into the browser's store, or out of it. */
  #arriving = new Set<string>();
  #leaving = new Set<string>();

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  snapshot = (): Snapshot => this.#shown;

  /** Tells of every entry that was kept or refused. */
  onTold(told: (told: Told) => void): () => void {
    this.#told.add(told);
    return () => this.#told.delete(told);
  }

  /** Whose entries may be sent now; nobody's while nobody is signed in. */
  async signedIn(by: string | undefined): Promise<void> {
    this.#by = by;
    if (by === undefined) return;
    await this.#refresh();
    this.#pump();
  }

  /** Takes an entry; one that it replaces goes. */
  async add(entry: Waiting, instead?: string): Promise<void> {
    const rest = this.#shown.waiting.filter((e) => e.id !== entry.id && e.id !== instead);
    this.#show({ waiting: [...rest, entry] });
    this.#arriving.add(entry.id);
    if (instead && instead !== entry.id) await drop(instead);
    await put(entry);
    this.#arriving.delete(entry.id);
    this.#pump();
  }

  async forget(id: string): Promise<void> {
    this.#failed.delete(id);
    this.#leaving.add(id);
    this.#show({ waiting: this.#shown.waiting.filter((e) => e.id !== id) });
    await drop(id);
    this.#leaving.delete(id);
  }

  #show(more: Partial<Snapshot>): void {
    this.#shown = { ...this.#shown, ...more };
    for (const listener of this.#listeners) listener();
  }

  /** What the browser's own store knows is the truth: another tab may have sent some, or have more. */
  async #refresh(): Promise<void> {
    const stored = await everything();
    // Without such a store what was typed is known here only.
    if (!stored) return;
    const here = stored.filter((e) => !this.#leaving.has(e.id));
    const known = new Set(here.map((e) => e.id));
    const arriving = this.#shown.waiting.filter((e) => this.#arriving.has(e.id) && !known.has(e.id));
    this.#show({ waiting: [...here, ...arriving] });
  }

  #pump(): void {
    if (this.#by === undefined) return;
    if (this.#busy) {
      this.#lookAgain = true;
      return;
    }
    clearTimeout(this.#later);
    this.#busy = true;
    this.#lookAgain = false;
    // Whatever went wrong on the way, what waits is tried again.
    const next = this.#next().catch(() => TRY_AGAIN);
    void next.then((wait) => {
      this.#busy = false;
      const after = wait ?? (this.#lookAgain ? 0 : undefined);
      if (after !== undefined) this.#later = setTimeout(() => this.#pump(), after);
    });
  }

  /** Sends the next entry. How long to wait before the one after it; nothing when none is left. */
  #next(): Promise<number | undefined> {
    return alone(async () => {
      await this.#refresh();
      const by = this.#by;
      const entry = this.#shown.waiting.find((e) => e.by === by && !e.refused);
      return entry ? this.#send(entry) : undefined;
    });
  }

  async #send(entry: Waiting): Promise<number> {
    try {
      const recorded = await unwrap(
        api.POST("/api/v1/builds/{build}/readings", {
          params: { path: { build: entry.build } },
          // It may have waited: what was done meanwhile came after it.
          body: { ...entry.body, age_ms: Math.max(0, Math.round(Date.now() - entry.order)) },
          headers: { "x-person": entry.by },
        }),
      );
      this.#show({ away: false });
      for (const told of this.#told) told({ entry, recorded });
      await this.forget(entry.id);
      return 0;
    } catch (error) {
      const problem = error instanceof Problem ? error : new Problem(undefined);
      return this.#refused(entry, problem);
    }
  }

  async #refused(entry: Waiting, problem: Problem): Promise<number> {
    const failed = (this.#failed.get(entry.id) ?? 0) + 1;
    // The server is there and fails over this one: the fault is not in the line.
    const steppedAside = problem.code === "internal" && failed >= TRIES;
    if (PASSING.has(problem.code) && !steppedAside) {
      if (problem.code === "internal") this.#failed.set(entry.id, failed);
      this.#show({ away: true });
      return TRY_AGAIN;
    }
    // It waits for whoever typed it.
    if (problem.code === "somebody_else") return TRY_AGAIN;
    const back = { ...entry, refused: { code: problem.code, detail: problem.message } };
    this.#show({ away: false, waiting: this.#shown.waiting.map((e) => (e.id === entry.id ? back : e)) });
    await put(back);
    for (const told of this.#told) told({ entry: back, refused: problem });
    return 0;
  }
}

/** The one of this tab. */
export const sender = new Sender();
