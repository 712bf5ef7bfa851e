import { act, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { useSettled } from "./useEcho";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe("a text that is typed", () => {
  it("is asked about once the hand rests, not at every key", () => {
    const { result, rerender } = renderHook((text: string) => useSettled(text, 90), { initialProps: "2" });
    for (const text of ["2.", "2.6", "2.62"]) {
      rerender(text);
      act(() => void vi.advanceTimersByTime(60));
      expect(result.current).toBe("2");
    }
    act(() => void vi.advanceTimersByTime(60));
    expect(result.current).toBe("2.62");
  });
});
