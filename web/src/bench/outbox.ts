import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Characteristic, Read, Schemas } from "../api/client";
import type { Cell } from "./cells";

/** A touch that was typed and is not known to be kept: it survives a reload and a server that is away. */
export type Waiting = {
  id: string;
  /** Order of typing. */
  order: number;
  /** Identifier of the build. */
  build: string;
  /** Login of whoever typed it: it is sent under no other name. */
  by: string;
  cell: Cell;
  body: Schemas["NewReading"];
  /** Why the server refused it, once it did. */
  refused?: { code: string; detail: string };
};

type OldTouch = { feature: Characteristic; method: "direct" | "subtract"; [other: string]: unknown };
type OldWaiting = { cell: OldTouch; body: OldTouch; [other: string]: unknown };

/** What an earlier version left waiting: it named what is measured, and how it is read, otherwise. */
function renamed({ cell, body, ...rest }: OldWaiting): Waiting {
  // What was read on a dial said what the dial had been zeroed at.
  const read: Read = body.reference == null ? "size" : "dial";
  const now = ({ feature, method: _, ...touch }: OldTouch) => ({ ...touch, characteristic: feature, read });
  return { ...rest, cell: now(cell), body: now(body) } as unknown as Waiting;
}

interface Outbox extends DBSchema {
  waiting: { key: string; value: Waiting };
}

let opened: Promise<IDBPDatabase<Outbox>> | undefined;

function database(): Promise<IDBPDatabase<Outbox>> {
  opened ??= openDB<Outbox>("jagged-pin", 2, {
    async upgrade(db, before, _, transaction) {
      if (before < 1) db.createObjectStore("waiting", { keyPath: "id" });
      else if (before < 2) {
        const store = transaction.objectStore("waiting");
        for (const entry of (await store.getAll()) as unknown[])
          await store.put(renamed(entry as OldWaiting));
      }
    },
  });
  return opened;
}

/** Without a store in the browser the bench works all the same; only a reload loses what waits. */
async function trying<T>(action: (db: IDBPDatabase<Outbox>) => Promise<T>, otherwise: T): Promise<T> {
  try {
    return await action(await database());
  } catch {
    return otherwise;
  }
}

export function put(entry: Waiting): Promise<unknown> {
  return trying<unknown>((db) => db.put("waiting", entry), undefined);
}

export function drop(id: string): Promise<void> {
  return trying((db) => db.delete("waiting", id), undefined);
}

/** Everything that waits, in the order typed; nothing where the browser keeps no store. */
export async function everything(): Promise<Waiting[] | undefined> {
  const all = await trying<Waiting[] | undefined>((db) => db.getAll("waiting"), undefined);
  return all?.sort((a, b) => a.order - b.order);
}
