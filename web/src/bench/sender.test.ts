import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { build, recorded, station } from "../testing/build";
import type { Waiting } from "./outbox";
import { Sender, type Told } from "./sender";

const one = build([station(1)]);

function entry(id: string, order: number, by = "oduya"): Waiting {
  const touch = {
    station: "M1",
    characteristic: "main_journal" as const,
    read: "size" as const,
    position: { axial: "front" as const, angle: 0 },
  };
  const body = { ...touch, id, gauge: "mic", text: "38", unit: "in" as const };
  return { id, order, build: one.id, by, cell: { ...touch, touch: 1 }, body };
}

type Sent = { id: string; as: string | null };

/** A server that answers as told; what was sent to it, in order. */
function answering(answer: (id: string) => { status: number; body: unknown } | "away"): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const { id } = JSON.parse(await request.clone().text()) as { id: string };
    sent.push({ id, as: request.headers.get("x-person") });
    const given = answer(id);
    if (given === "away") throw new TypeError("nobody there");
    return new Response(JSON.stringify(given.body), {
      status: given.status,
      headers: { "content-type": "application/json" },
    });
  });
  return sent;
}

const kept = { status: 200, body: recorded(one) };
const problem = (status: number, code: string) => ({ status, body: { status, code, detail: code } });

async function emptied(sender: Sender): Promise<void> {
  for (const e of sender.snapshot().waiting) await sender.forget(e.id);
}

describe("sending what was typed", () => {
  let sender: Sender;
  let told: string[];
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    sender = new Sender();
    told = [];
    sender.onTold((t: Told) => told.push(`${t.entry.id} ${"recorded" in t ? "kept" : t.refused.code}`));
  });
  afterEach(async () => {
    await sender.signedIn(undefined);
    await emptied(sender);
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });
  const until = (what: () => void) => vi.waitFor(what, { interval: 5, timeout: 15_000 });

  it("sends each once, in the order typed, under the name of whoever typed it", async () => {
    const sent = answering(() => kept);
    await sender.signedIn("oduya");
    await sender.add(entry("b", 1));
    await sender.add(entry("a", 2));
    await until(() => expect(sender.snapshot().waiting).toEqual([]));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(sent).toEqual([
      { id: "b", as: "oduya" },
      { id: "a", as: "oduya" },
    ]);
    expect(told).toEqual(["b kept", "a kept"]);
  });

  it("leaves what another person typed until that person signs in", async () => {
    let there = false;
    const sent = answering(() => (there ? kept : "away"));
    await sender.signedIn("oduya");
    await sender.add(entry("a", 1));
    await until(() => expect(sender.snapshot().away).toBe(true));
    await sender.signedIn(undefined);
    there = true;
    await sender.signedIn("wick");
    const before = sent.length;
    await sender.add(entry("w", 2, "wick"));
    await until(() => expect(told).toEqual(["w kept"]));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(sent.slice(before)).toEqual([{ id: "w", as: "wick" }]);
    await sender.signedIn("oduya");
    await until(() => expect(told).toEqual(["w kept", "a kept"]));
    expect(sent.at(-1)).toEqual({ id: "a", as: "oduya" });
  });

  it("goes on where another page of the browser left it", async () => {
    answering(() => "away");
    await sender.signedIn("oduya");
    await sender.add(entry("a", 1));
    await until(() => expect(sender.snapshot().away).toBe(true));
    await sender.signedIn(undefined);
    const sent = answering(() => kept);
    const other = new Sender();
    await other.signedIn("oduya");
    await until(() => expect(other.snapshot().waiting).toEqual([]));
    await sender.signedIn("oduya");
    await vi.advanceTimersByTimeAsync(10_000);
    expect(sent).toHaveLength(1);
    expect(sender.snapshot().waiting).toEqual([]);
    await other.signedIn(undefined);
  });

  it("puts what the server fails over aside, and keeps what stands behind it", async () => {
    const sent = answering((id) => (id === "bad" ? problem(500, "internal") : kept));
    await sender.signedIn("oduya");
    await sender.add(entry("bad", 1));
    await sender.add(entry("good", 2));
    for (let i = 0; i < 3; i += 1) {
      await until(() => expect(sent.filter((s) => s.id === "bad").length).toBeGreaterThan(i));
      await vi.advanceTimersByTimeAsync(2_000);
    }
    await until(() => expect(told).toEqual(["bad internal", "good kept"]));
    expect(sender.snapshot().waiting).toMatchObject([{ id: "bad", refused: { code: "internal" } }]);
  });

  it("does not overlook what is typed while it finds nothing more to send", async () => {
    const sent = answering(() => kept);
    await sender.signedIn("oduya");
    for (let i = 0; i < 20; i += 1) {
      await sender.add(entry(`e${i}`, i));
      // A different moment of the look under way each time.
      for (let turn = 0; turn < i; turn += 1) await Promise.resolve();
    }
    await until(() => expect(sent).toHaveLength(20));
    await until(() => expect(sender.snapshot().waiting).toEqual([]));
  });

  it("gives back what was refused, and goes on with the next", async () => {
    answering((id) => (id === "far" ? problem(422, "out_of_band") : kept));
    await sender.signedIn("oduya");
    await sender.add(entry("far", 1));
    await sender.add(entry("next", 2));
    await until(() => expect(told).toEqual(["far out_of_band", "next kept"]));
    await sender.add(entry("again", 3), "far");
    await until(() => expect(sender.snapshot().waiting).toEqual([]));
  });
});
