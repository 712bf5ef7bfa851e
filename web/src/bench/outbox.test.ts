import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Waiting } from "./outbox";

const position = { axial: "front" as const, angle: 0 };

function entry(id: string, order: number, build = "one"): Waiting {
  const cell = { station: "M1", feature: "main_journal" as const, method: "direct" as const, position };
  const body = { id, station: "M1", feature: cell.feature, position, gauge: "mic", text: "38", unit: "in" };
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
    const { waitingOn, drop } = await reloaded();
    for (const e of [...(await waitingOn("one")), ...(await waitingOn("two"))]) await drop(e.id);
  });

  it("survive a reload, in the order typed, each with its build", async () => {
    const { put } = await reloaded();
    await put(entry("b", 2));
    await put(entry("a", 3));
    await put(entry("c", 1));
    await put(entry("d", 4, "two"));
    const { waitingOn } = await reloaded();
    expect((await waitingOn("one")).map((e) => e.id)).toEqual(["c", "b", "a"]);
    expect((await waitingOn("two")).map((e) => e.body.text)).toEqual(["38"]);
  });

  it("leave the store once only they were kept", async () => {
    const { put, drop, waitingOn } = await reloaded();
    await put(entry("a", 1));
    await put(entry("b", 2));
    await drop("a");
    await drop("a");
    expect((await waitingOn("one")).map((e) => e.id)).toEqual(["b"]);
  });

  it("keep the reason for which one was refused", async () => {
    const { put } = await reloaded();
    await put(entry("a", 1));
    await put({ ...entry("a", 1), refused: { code: "out_of_band", detail: "far away" } });
    const { waitingOn } = await reloaded();
    expect(await waitingOn("one")).toMatchObject([{ id: "a", refused: { code: "out_of_band" } }]);
  });

  it("do not stop the bench where the browser has no store", async () => {
    vi.stubGlobal("indexedDB", undefined);
    const { put, drop, waitingOn } = await reloaded();
    await put(entry("a", 1));
    await drop("a");
    expect(await waitingOn("one")).toEqual([]);
  });
});
