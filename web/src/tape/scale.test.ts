import { describe, expect, it } from "vitest";
import { tapeScale } from "./scale";

const T = 2_540;
const WINDOW = { low: 22 * T, aim: 25 * T, high: 28 * T };

describe("the axis of a tape", () => {
  it("has a tick for every tenth, numbers at half thous, heavy ones at thous", () => {
    const { graduations } = tapeScale(WINDOW, [], "in", 616);
    const ranks = new Map(graduations.map((g) => [g.nm / T, g.rank]));
    expect(ranks.get(20)).toBe("heavy");
    expect(ranks.get(25)).toBe("numbered");
    expect(ranks.get(23)).toBe("fine");
    expect(graduations.length).toBeGreaterThan(25);
  });

  it("reaches as far as the furthest value, and never below nothing", () => {
    const { x } = tapeScale(WINDOW, [60 * T, -5 * T], "in", 600);
    expect(x(60 * T)).toBeLessThan(600);
    expect(x(0)).toBe(0);
  });

  it("draws equal steps equally wide", () => {
    const { x } = tapeScale(WINDOW, [], "in", 616);
    expect(x(24 * T) - x(23 * T)).toBeCloseTo(x(28 * T) - x(27 * T), 6);
  });
});
