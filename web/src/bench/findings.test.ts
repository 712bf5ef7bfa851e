import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { findingPart, findingText, isQuiet } from "./findings";

const T = 2_540;

describe("remarks in words", () => {
  it("suspect dirt, a burr and the seat before the parts, in that order", () => {
    const text = findingText(
      {
        kind: "taper_over_bearing",
        taper: 8 * T,
        explained: T,
        suspects: ["dirt", "burr", "mis_seated_shell", "shell"],
      },
      "in",
      "M4",
    );
    expect(text).toBe(
      "Tapers 8 tenths, housing and journal only 1 tenth. Look for dirt behind the shell, a burr on cap or shell, a mis-seated shell, then the parts; in that order, before anyone buys parts.",
    );
  });

  it("name the place where touches spread as the bench does", () => {
    type Axial = "front" | "middle";
    const spread = (at: string, characteristic: Schemas["Characteristic"], axial: Axial, angle: number) =>
      findingText(
        { kind: "repeats_spread", characteristic, position: { axial, angle }, spread: 4 * T },
        "in",
        at,
      );
    expect(spread("B1", "cylinder", "front", 0)).toMatch(
      /^Cylinder, top, across: touches spread over 4 tenths/,
    );
    expect(spread("M4", "main_bearing", "front", 60)).toMatch(/^Bore, front of groove, 60\u00b0 L: /);
    expect(spread("R4", "rod_bearing", "front", 60)).toMatch(/^Bore, front, 60\u00b0 L: /);
    expect(spread("B1", "top_ring_gap", "middle", 0)).toMatch(/^Top ring gap: /);
  });

  it("say whether a housing is too small or too large", () => {
    expect(findingText({ kind: "housing_off", by: -3 * T }, "in", "M4")).toMatch(
      /small by 3 tenths.*Resize it/,
    );
    expect(findingText({ kind: "housing_off", by: 3 * T }, "in", "M4")).toMatch(/large by 3 tenths/);
    expect(findingPart({ kind: "housing_off", by: T })).toBe("housing");
  });

  it("ask how pistons, tops and rings were touched that betray it", () => {
    expect(findingText({ kind: "piston_apart", by: 55 * T }, "in", "M4")).toMatch(
      /^5.5 thou smaller.*across the pin/,
    );
    expect(findingText({ kind: "touched_in_the_ridge", by: 6 * T }, "in", "M4")).toMatch(
      /6 tenths: touched in the ridge/,
    );
    expect(findingText({ kind: "gap_follows_taper", by: 12 * T }, "in", "M4")).toMatch(
      /1.2 thou. Square the ring/,
    );
    expect(findingText({ kind: "gap_ends_apart", by: 20 * T }, "in", "M4")).toMatch(
      /2 thou apart.*ends parallel.*inside and outside/,
    );
  });

  it("name the surface that is too rough, and what it may have", () => {
    const rough: Schemas["Finding"] = { kind: "rough", at: "P2", roughness: 305, limit: 203 };
    expect(findingText(rough, "in", "M4")).toBe(
      "P2 is rougher than it may be: Ra 12 \u00b5in, at most 8 \u00b5in.",
    );
    expect(findingText(rough, "mm", "M4")).toMatch(/Ra 0\.30 \u00b5m, at most 0\.20/);
    expect(isQuiet(rough)).toBe(false);
  });

  it("give the ratio of a gauge that is too coarse", () => {
    const coarse: Schemas["Finding"] = {
      kind: "too_coarse",
      part: "bore",
      gauge: "Caliper",
      ratio_tenths: 12,
    };
    expect(findingText(coarse, "in", "M4")).toBe("Bore: Caliper is too coarse for this window, 1.2 to 1.");
    expect(findingPart(coarse)).toBe("bore");
  });

  it("say what a wear range allows, and that it is never an aim", () => {
    expect(findingText({ kind: "within_wear" }, "in", "M4")).toMatch(
      /if the lead says so\. It is never an aim/,
    );
    expect(findingText({ kind: "beyond_wear", by: 12 * T }, "in", "M4")).toBe(
      "Beyond the factory's wear range by 1.2 thou: reworked or replaced.",
    );
    expect(isQuiet({ kind: "within_wear" })).toBe(false);
  });

  it("a stop is never quiet", () => {
    expect(isQuiet({ kind: "stop_journal" })).toBe(false);
    expect(findingText({ kind: "stop_journal" }, "in", "M4")).toMatch(/crack test first/);
  });
});
