import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { openDB } from "idb";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Waiting } from "./outbox";

const position = { axial: "front" as const, angle: 0 };

function entry(id: string, order: number, build = "one"): Waiting {
  const cell = { station: "M1", characteristic: "main_journal" as const, read: "size" as const, position };
  const body = {
    id,
    station: "M1",
    characteristic: cell.characteristic,
    read: cell.read,
    position,
    gauge: "mic",
    text: "38",
    unit: "in",
  };
  return {
    id,
    order,
    build,
    by: "oduya",
    cell: { ...cell, touch: 1 },
    body: body as Waiting["body"],
  };
}

/** The store as a page finds it that was just loaded. */
async function reloaded() {
  vi.resetModules();
  return import("./outbox");
}

describe("readings that are not yet kept", () => {
  beforeEach(async () => {
    vi.unstubAllGlobals();
    const { everything, drop } = await reloaded();
    for (const e of (await everything()) ?? []) await drop(e.id);
  });

  it("survive a reload, in the order typed, each with its build", async () => {
    const { put } = await reloaded();
    await put(entry("b", 2));
    await put(entry("a", 3));
    await put(entry("c", 1));
    await put(entry("d", 4, "two"));
    const { everything } = await reloaded();
    expect((await everything())?.map((e) => [e.id, e.build])).toEqual([
      ["c", "one"],
      ["b", "one"],
      ["a", "one"],
      ["d", "two"],
    ]);
  });

  it("leave the store once only they were kept", async () => {
    const { put, drop, everything } = await reloaded();
    await put(entry("a", 1));
    await put(entry("b", 2));
    await drop("a");
    await drop("a");
    expect((await everything())?.map((e) => e.id)).toEqual(["b"]);
  });

  it("keep the reason for which one was refused", async () => {
    const { put } = await reloaded();
    await put(entry("a", 1));
    await put({ ...entry("a", 1), refused: { code: "out_of_band", detail: "far away" } });
    const { everything } = await reloaded();
    expect(await everything()).toMatchObject([{ id: "a", refused: { code: "out_of_band" } }]);
  });

  it("do not stop the bench where the browser has no store", async () => {
    vi.stubGlobal("indexedDB", undefined);
    const { put, drop, everything } = await reloaded();
    await put(entry("a", 1));
    await drop("a");
    expect(await everything()).toBeUndefined();
  });

  it("are read as an earlier version left them", async () => {
    const name = "jagged-pin";
    vi.stubGlobal("indexedDB", new IDBFactory());
    const old = await openDB(name, 1, {
      upgrade: (db) => void db.createObjectStore("waiting", { keyPath: "id" }),
    });
    const touch = { station: "R1", feature: "rod_bearing", method: "direct", position };
    const { cell, body, ...rest } = entry("a", 1);
    await old.put("waiting", {
      ...rest,
      cell: { ...touch, touch: cell.touch },
      body: { ...touch, reference: "2.1240", text: body.text },
    });
    old.close();
    const { everything } = await reloaded();
    expect(await everything()).toMatchObject([
      {
        id: "a",
        by: "oduya",
        cell: { characteristic: "rod_bearing", read: "dial", position, touch: 1 },
        body: { characteristic: "rod_bearing", read: "dial", text: "38" },
      },
    ]);
  });
});
