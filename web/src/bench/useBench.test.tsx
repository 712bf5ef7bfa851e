import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Build, Measured } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { sender } from "./sender";
import { type Means, useBench } from "./useBench";

const three = build([station(1), station(2), station(3)]);
const means: Means = {
  unit: "in",
  read: "dial",
  gauges: {
    outside: "mic",
    inside: "bore",
    wall: "ball",
    gap: "strip",
    travel: "base",
    radius: "",
    depth: "",
    height: "",
    blades: "blades",
  },
  referenceFor: () => "2.6240 in",
  zeroFor: () => undefined,
  temperatures: { part: "", gauge: "", degrees: "C" },
};

function bench(goTo: (station: string) => void, of = three, by = "x", client = new QueryClient()) {
  const around = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const options = (at: string) => ({
    build: of,
    station: at,
    by,
    group: "running" as const,
    means,
    goTo,
  });
  const hook = renderHook((at: string) => useBench(options(at)), { initialProps: "M1", wrapper: around });
  const type = (count: number) => {
    for (let i = 0; i < count; i += 1) {
      act(() => hook.result.current.setText("38"));
      act(() => hook.result.current.keep(false));
    }
  };
  return { ...hook, type };
}

// The server takes its time: everything typed waits.
beforeEach(() => vi.stubGlobal("fetch", () => new Promise(() => undefined)));
afterEach(async () => {
  vi.unstubAllGlobals();
  for (const e of sender.snapshot().waiting) await act(() => sender.forget(e.id));
});

describe("typing along the bench", () => {
  it("is not thrown back by an address that follows late", () => {
    const goTo = vi.fn();
    const { result, rerender, type } = bench(goTo);
    // Four places of M1's journal, four of M2's: the hand is at M3 before the address says M2.
    type(8);
    expect(result.current.active?.station).toBe("M3");
    act(() => result.current.setText("3"));
    rerender("M2");
    expect(result.current.active?.station).toBe("M3");
    expect(result.current.text).toBe("3");
    rerender("M3");
    expect(result.current.active?.station).toBe("M3");
    expect(result.current.onTheirWay.map((e) => e.cell.station)).toEqual([
      ...Array(4).fill("M1"),
      ...Array(4).fill("M2"),
    ]);
    expect(goTo.mock.calls).toEqual([["M2"], ["M3"]]);
  });

  it("goes where somebody chooses to go, also to a station it has passed", () => {
    const { result, rerender, type } = bench(vi.fn());
    type(8);
    rerender("M3");
    rerender("M2");
    expect(result.current.active?.station).toBe("M2");
    rerender("M3");
    expect(result.current.active?.station).toBe("M3");
  });
});

describe("an entry that was refused while no bench was open", () => {
  it("stands in its cell when the bench of its station opens, and nobody else's", async () => {
    const first = bench(vi.fn());
    first.type(1);
    const cell = first.result.current.active;
    if (!cell) throw new Error("the second place is wanted");
    const refused = { code: "out_of_band", detail: "too far" };
    const body = { ...cell, id: "back", gauge: "mic", text: "2.9999", unit: "in" as const };
    await act(() => sender.add({ id: "back", order: 1, build: three.id, by: "y", cell, body, refused }));

    const here = bench(vi.fn(), three, "y").result.current;
    expect([here.text, here.active]).toEqual(["2.9999", cell]);
    const other = bench(vi.fn(), three, "z").result.current;
    expect(other.text).toBe("");
    await act(() => sender.forget("back"));
  });
});

describe("the touch that may ask for another one", () => {
  const twice = (m: Measured): Measured => ({ ...m, positions: m.positions.map((p) => ({ ...p, left: 2 })) });
  const wanting = build([1, 2].map((n) => ({ ...station(n), measured: station(n).measured.map(twice) })));

  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it("keeps what is entered behind it until it is known where that goes", () => {
    const { result } = bench(vi.fn(), wanting);
    const enter = (text: string) => {
      act(() => result.current.setText(text));
      act(() => result.current.keep(false));
    };
    const sent = () => result.current.onTheirWay.map((e) => `${e.cell.position.angle} ${e.text}`);
    const before = sent().length;
    enter("38");
    enter("35");
    enter("37");
    act(() => result.current.setText("3"));
    // The server has not said yet whether the first place wants a third touch.
    expect(sent().slice(before)).toEqual(["0 38", "0 35"]);
    // It does not answer at all: the hand goes on, and nothing is lost or mixed up.
    act(() => void vi.advanceTimersByTime(2_000));
    expect(sent().slice(before)).toEqual(["0 38", "0 35", "90 37"]);
    expect(result.current.text).toBe("3");
  });

  it("loses nothing of what is entered behind it when the bench is left at once", () => {
    const goTo = vi.fn();
    const { result, unmount } = bench(goTo, wanting);
    for (const text of ["38", "35", "37", "36", "34"]) {
      act(() => result.current.setText(text));
      act(() => result.current.keep(false));
    }
    const before = goTo.mock.calls.length;
    unmount();
    const sent = sender.snapshot().waiting.map((e) => `${e.cell.position.angle} ${e.body.text}`);
    expect(sent).toEqual(["0 38", "0 35", "90 37", "90 36", "0 34"]);
    expect(goTo).toHaveBeenCalledTimes(before);
  });

  it("loses nothing either when the page goes without asking, and keeps it once", () => {
    const { result, unmount } = bench(vi.fn(), wanting);
    for (const text of ["38", "35", "37", "36"]) {
      act(() => result.current.setText(text));
      act(() => result.current.keep(false));
    }
    const sent = () => sender.snapshot().waiting.map((e) => `${e.cell.position.angle} ${e.body.text}`);
    const before = sent().length;
    act(() => void window.dispatchEvent(new Event("pagehide")));
    expect(sent().slice(before)).toEqual(["90 37", "90 36"]);
    unmount();
    expect(sent()).toHaveLength(before + 2);
  });

  it("is followed by the next place, however late what was kept is drawn", async () => {
    vi.useRealTimers();
    // Three touches at the front of M1, then two beside it.
    const kept = (touches: number) => {
      const [first, ...rest] = wanting.assessment.figures;
      const [journal, ...others] = first?.measured ?? [];
      if (!first || !journal) throw new Error("a main has a journal");
      const left = [2, 1, 1, 0][touches] ?? 0;
      const at = (i: number) => (i === 0 ? { left, touches: Array(touches).fill({}) } : {});
      const positions = journal.positions.map((p, i) => ({ ...p, ...at(i) }));
      const figures = [{ ...first, measured: [{ ...journal, positions }, ...others] }, ...rest];
      const assessment = { ...wanting.assessment, seq: 1 + touches, figures };
      return recorded({ ...wanting, assessment } as Build);
    };
    const sent: string[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      const body = (await request.clone().json()) as { position: { angle: number }; text: string };
      sent.push(`${body.position.angle} ${body.text}`);
      const answer = JSON.stringify(kept(Math.min(sent.length, 3)));
      return new Response(answer, { headers: { "content-type": "application/json" } });
    });
    const client = new QueryClient();
    client.setQueryData(["build", wanting.code], wanting);
    // What is drawn stays as it was before the first touch.
    const { result } = bench(vi.fn(), wanting, "fast", client);
    await act(() => sender.signedIn("fast"));
    for (const text of ["38", "35", "37", "36", "36"]) {
      act(() => result.current.setText(text));
      act(() => result.current.keep(false));
    }
    await vi.waitFor(() => expect(sent).toHaveLength(5), { timeout: 15_000 });
    expect(sent).toEqual(["0 38", "0 35", "0 37", "90 36", "90 36"]);
    await sender.signedIn(undefined);
  });
});
