import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Schemas } from "../api/client";
import type { Cell } from "./cells";

/** A touch that was typed and is not known to be kept: it survives a reload and a server that is away. */
export type Waiting = {
  id: string;
  /** Order of typing. */
  order: number;
  build: string;
  /** Login of whoever typed it: it is sent under no other name. */
  by: string;
  cell: Cell;
  body: Schemas["NewReading"];
  /** Why the server refused it, once it did. */
  refused?: { code: string; detail: string };
};

interface Outbox extends DBSchema {
  waiting: { key: string; value: Waiting };
}

let opened: Promise<IDBPDatabase<Outbox>> | undefined;

function database(): Promise<IDBPDatabase<Outbox>> {
  opened ??= openDB<Outbox>("jagged-pin", 1, {
    upgrade: (db) => void db.createObjectStore("waiting", { keyPath: "id" }),
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

/** What waits on a build, in the order typed. */
export async function waitingOn(build: string): Promise<Waiting[]> {
  const all = await trying((db) => db.getAll("waiting"), []);
  return all.filter((e) => e.build === build).sort((a, b) => a.order - b.order);
}
