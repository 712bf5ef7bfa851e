import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { build, station } from "../testing/build";
import { type Means, useBench } from "./useBench";

const three = build([station(1), station(2), station(3)]);
const means: Means = {
  unit: "in",
  read: "dial",
  gauges: { outside: "mic", inside: "bore", wall: "ball", gap: "strip", travel: "base", blades: "blades" },
  referenceFor: () => "2.6240 in",
  zeroFor: () => undefined,
  temperatures: { part: "", gauge: "" },
};

function bench(goTo: (station: string) => void) {
  const client = new QueryClient();
  const around = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const options = (at: string) => ({
    build: three,
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
