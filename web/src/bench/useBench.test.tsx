import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Measured } from "../api/client";
import { build, station } from "../testing/build";
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

function bench(goTo: (station: string) => void, of = three) {
  const client = new QueryClient();
  const around = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const options = (at: string) => ({
    build: of,
    station: at,
    by: "x",
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
afterEach(() => vi.unstubAllGlobals());

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
});
