import { describe, expect, it } from "vitest";
import type { FigureAssessment } from "../api/client";
import { build, station } from "../testing/build";
import { namedForSure } from "./BenchKeys";
import { type Cell, firstWanted, following, keyOf, placesOf, wantedCells } from "./cells";

const three = build([station(1), station(2), station(3)]);
const journal = (name: string, axial: "front" | "rear", angle: number): Cell => ({
  station: name,
  characteristic: "main_journal",
  read: "size",
  position: { axial, angle },
  touch: 1,
});

const WHERE = { read: "dial", group: "running" } as const;
const SIZES = { read: "size", group: "running" } as const;

describe("moving along the bench", () => {
  it("lists bores by the chosen method only", () => {
    expect(wantedCells(three, WHERE, "mains")).toHaveLength(24);
    expect(
      wantedCells(three, SIZES, "mains").filter((c) => c.characteristic === "main_bearing"),
    ).toHaveLength(12);
  });

  it("goes from the last place of a journal to the next main", () => {
    const next = following(three, journal("M1", "rear", 90), WHERE, "mains", new Set());
    expect(next && keyOf(next)).toBe(keyOf(journal("M2", "front", 0)));
  });

  it("goes there by first touches and comes back by the others, in rounds", () => {
    const passes = [
      ["M1", "there"],
      ["M2", "there"],
      ["M2", "back"],
      ["M1", "back"],
    ] as const;
    const wanted = passes.flatMap(([at, pass]) =>
      three.assessment.wanted
        .filter((w) => w.station === at && w.characteristic === "main_journal")
        .map((w) => ({ ...w, pass, left: 4 })),
    );
    const twice = (f: FigureAssessment): FigureAssessment => ({
      ...f,
      measured: f.measured.map((m) => ({ ...m, positions: m.positions.map((p) => ({ ...p, left: 2 })) })),
    });
    const figures = three.assessment.figures.map(twice);
    const inRounds = { ...three, assessment: { ...three.assessment, figures, wanted } };
    const cells = wantedCells(inRounds, WHERE, "mains");
    expect(cells.map((c) => c.touch)).toEqual([...Array(8).fill(1), ...Array(8).fill(2)]);
    expect(keyOf(cells[8] as Cell)).toBe(keyOf({ ...journal("M2", "rear", 90), touch: 2 }));
    expect(keyOf(cells[15] as Cell)).toBe(keyOf({ ...journal("M1", "front", 0), touch: 2 }));
    const turn = following(inRounds, journal("M2", "rear", 90), WHERE, "mains", new Set());
    expect(turn && keyOf(turn)).toBe(keyOf({ ...journal("M2", "rear", 90), touch: 2 }));
  });

  it("leaves out what is on its way to the server", () => {
    const sent = new Set([keyOf(journal("M1", "front", 90))]);
    const next = following(three, journal("M1", "front", 0), WHERE, "mains", sent);
    expect(next && keyOf(next)).toBe(keyOf(journal("M1", "rear", 0)));
  });

  it("stays at the station after a touch that nobody asked for", () => {
    const extra = { ...journal("M2", "front", 0), touch: 4 };
    expect(following(three, extra, WHERE, "mains", new Set())?.station).toBe("M2");
  });

  it("goes through what nobody asks for, once it is begun", () => {
    const nobody = { ...three, assessment: { ...three.assessment, wanted: [] } };
    const first = journal("M2", "front", 0);
    const next = following(nobody, first, WHERE, "mains", new Set([keyOf(first)]));
    expect(next && keyOf(next)).toBe(keyOf(journal("M2", "front", 90)));
    const all = placesOf(nobody.assessment.figures[1] as FigureAssessment, WHERE).map((p) =>
      keyOf({ ...p, touch: 1 }),
    );
    expect(following(nobody, first, WHERE, "mains", new Set(all))).toBeUndefined();
  });

  it("begins at the journal of a station, and knows every place of it", () => {
    expect(firstWanted(three, "M3", WHERE)?.characteristic).toBe("main_journal");
    const first = three.assessment.figures[0];
    expect(first && placesOf(first, WHERE)).toHaveLength(8);
  });
});

describe("naming a station", () => {
  const rod = (number: number): FigureAssessment => ({
    ...station(number),
    station: `R${number}`,
    row: "rods",
    journal_at: `P${number}`,
    measured: station(number).measured.map((m) => ({
      ...m,
      place: m.role === "journal" ? `P${number}` : `R${number}`,
    })),
  });
  const engine = (count: number) =>
    build([...Array.from({ length: count }, (_, i) => station(i + 1)), rod(1), rod(2)]);

  it("needs no Enter once no further digit could follow", () => {
    expect(namedForSure("m4", engine(7))).toBe("M4");
    expect(namedForSure("M9", engine(7))).toBeUndefined();
    expect(namedForSure("4", engine(7))).toBeUndefined();
    expect(namedForSure("m1", engine(10))).toBeUndefined();
    expect(namedForSure("m10", engine(10))).toBe("M10");
  });

  it("finds the rod that runs on a pin", () => {
    expect(namedForSure("p2", engine(7))).toBe("R2");
    expect(namedForSure("r1", engine(7))).toBe("R1");
  });
});
