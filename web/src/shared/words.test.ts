import { describe, expect, it } from "vitest";
import { judged } from "../testing/build";
import { initials, nextPhrase, verdictSentence } from "./words";

describe("what a figure means, in words", () => {
  it("says which way it is off, by how much, and what is proven", () => {
    expect(verdictSentence(judged(19, "tight", -3), "in")).toBe(
      "3 tenths under the window, proven to \u00b11\u00a0tenth.",
    );
    expect(verdictSentence(judged(31, "loose", -3), "in")).toBe(
      "3 tenths over the window, proven to \u00b11\u00a0tenth.",
    );
    expect(verdictSentence(judged(25.5, "in", 2.5), "in")).toBe(
      "2.5 tenths inside the upper limit, proven to \u00b11\u00a0tenth.",
    );
  });

  it("does not claim more for an edge than the gauges prove", () => {
    expect(verdictSentence(judged(21.5, "edge", -0.5), "in")).toBe(
      "Half a tenth under the window, but the gauges only prove to \u00b11\u00a0tenth.",
    );
    expect(verdictSentence(judged(22.5, "edge", 0.5), "in")).toContain("Half a tenth inside the lower limit");
    expect(verdictSentence(judged(22, "edge", 0), "in")).toContain("On the lower limit");
  });

  it("names the next step", () => {
    expect(nextPhrase({ kind: "measure", station: "M7", open: 1 })).toBe("Measure M7");
    expect(nextPhrase({ kind: "measure", station: "M1", open: 7 })).toBe("Measure M1, then 6 more");
    expect(nextPhrase({ kind: "decide", station: "M2", needs: "lead_concession" })).toContain("lead");
    expect(nextPhrase({ kind: "sign", role: "checker" })).toBe("Checker signs");
  });

  it("shortens names to their first letters", () => {
    expect(initials("R. Oduya")).toBe("RO");
  });
});
