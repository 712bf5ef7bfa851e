import { describe, expect, it } from "vitest";
import { build, station } from "../testing/build";
import { namedStation } from "./BenchKeys";
import { type Cell, firstWanted, following, keyOf, placesOf, wantedCells } from "./cells";

const three = build([station(1), station(2), station(3)]);
const journal = (name: string, axial: "front" | "rear", angle: number): Cell => ({
  station: name,
  feature: "main_journal",
  method: "direct",
  position: { axial, angle },
  touch: 1,
});

describe("moving along the bench", () => {
  it("lists bores by the chosen method only", () => {
    expect(wantedCells(three, "direct")).toHaveLength(15);
    expect(wantedCells(three, "subtract").filter((c) => c.feature === "main_bearing")).toHaveLength(3);
  });

  it("goes from the last place of a journal to the next main", () => {
    const next = following(three, journal("M1", "rear", 90), "direct", new Set());
    expect(next && keyOf(next)).toBe(keyOf(journal("M2", "front", 0)));
  });

  it("leaves out what is on its way to the server", () => {
    const sent = new Set([keyOf(journal("M1", "front", 90))]);
    const next = following(three, journal("M1", "front", 0), "direct", sent);
    expect(next && keyOf(next)).toBe(keyOf(journal("M1", "rear", 0)));
  });

  it("stays at the station after a touch that nobody asked for", () => {
    const extra = { ...journal("M2", "front", 0), touch: 4 };
    expect(following(three, extra, "direct", new Set())?.station).toBe("M2");
  });

  it("begins at the journal of a station, and knows every place of it", () => {
    expect(firstWanted(three, "M3", "direct")?.feature).toBe("main_journal");
    const first = three.assessment.stations[0];
    expect(first && placesOf(first, "direct")).toHaveLength(8);
  });
});

describe("naming a station", () => {
  const seven = ["M1", "M2", "M3", "M4", "M5", "M6", "M7"];

  it("needs no Enter once no further digit could follow", () => {
    expect(namedStation("m4", seven)).toBe("M4");
    expect(namedStation("M9", seven)).toBeUndefined();
    expect(namedStation("4", seven)).toBeUndefined();
    expect(namedStation("m1", [...seven, "M10"])).toBeUndefined();
    expect(namedStation("m10", [...seven, "M10"])).toBe("M10");
  });
});
