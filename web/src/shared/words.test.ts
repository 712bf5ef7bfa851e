import { describe, expect, it } from "vitest";
import { judged, station } from "../testing/build";
import { predicted } from "../testing/shells";
import {
  initials,
  minutesText,
  nextPhrase,
  shownFigure,
  shownState,
  staleText,
  verdictSentence,
} from "./words";

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

  it("calls a figure that rounds to the limit on the limit, from either side", () => {
    expect(verdictSentence(judged(22.1, "edge", 0.1), "in")).toContain("On the lower limit");
    expect(verdictSentence(judged(28.1, "edge", -0.1), "in")).toContain("On the upper limit");
  });

  it("shows a promise before what was, and a judgement before a promise", () => {
    const was = { was: judged(19, "tight", -3), because: [], again: [] };
    const fitted = { ...station(2), stale: was, predicted: predicted("M2") };
    expect(shownState(fitted)).toBe("predicted");
    expect(shownFigure(fitted)?.clearance).toBe(24 * 2_540);
    expect(shownState({ ...fitted, predicted: null })).toBe("stale");
    expect(shownFigure({ ...fitted, predicted: null })?.clearance).toBe(19 * 2_540);
    expect(shownState({ ...fitted, judged: judged(25, "in", 3) })).toBe("in");
    expect(shownFigure(station(3))).toBeUndefined();
  });

  it("says what ended the evidence when shells were fitted or a part came back", () => {
    const at = { seq: 9, at: 0, by: predicted("M2").by };
    const fitting = {
      row: "mains" as const,
      undersize: 0,
      pairs: [predicted("M2").pair, predicted("M5").pair],
      note: "tight",
    };
    expect(staleText({ ...at, cause: { kind: "fitting", fitting } }, "in")).toBe(
      "Other shells fitted in M2, M5: tight",
    );
    const order = { number: "T-1-1", shop: "the grinder", items: [], finish: "", note: "" };
    expect(staleText({ ...at, cause: { kind: "returned", order } }, "in")).toBe(
      "Back from the grinder, order T-1-1",
    );
  });

  it("quotes minutes as people do", () => {
    expect([18, 60, 105].map(minutesText)).toEqual(["18 min", "1 h", "1 h 45 min"]);
  });

  it("names the next step", () => {
    expect(nextPhrase({ kind: "measure", station: "M7", open: 1 })).toBe("Measure M7");
    expect(nextPhrase({ kind: "await", station: "M1" })).toBe(
      "Wait for the other shop: M1 is measured when its part is back",
    );
    expect(nextPhrase({ kind: "measure", station: "M1", open: 7 })).toBe("Measure M1, then 6 more");
    expect(nextPhrase({ kind: "decide", station: "M2", needs: "lead_concession" })).toContain("lead");
    const loose = { kind: "decide", station: "M3", needs: "concession" } as const;
    expect(nextPhrase({ ...loose, figure: "oil_clearance" })).toBe(
      "M3 is loose: other shells, or a concession",
    );
    // What has no shells is not mended by shells.
    expect(nextPhrase({ ...loose, figure: "main_runout" })).toBe(
      "M3 is over: the crank straightened, or a concession",
    );
    expect(nextPhrase(loose)).toBe("M3 is loose: other parts or work, or a concession");
    expect(nextPhrase({ kind: "sign", role: "checker" })).toBe("Checker signs");
  });

  it("shortens names to their first letters", () => {
    expect(initials("R. Oduya")).toBe("RO");
  });
});
