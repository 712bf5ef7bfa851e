import { render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it, vi } from "vitest";
import type { FigureAssessment, Schemas } from "../api/client";
import { build, judged, station } from "../testing/build";
import { Facts } from "./Facts";

type HotRoom = Schemas["HotRoom"];

function facts(of: FigureAssessment, ...beside: FigureAssessment[]) {
  render(
    <MemoryRouter>
      <Facts
        build={build([of, ...beside])}
        station={of}
        unit="in"
        onTarget={vi.fn()}
        onProof={vi.fn()}
        onBlind={vi.fn()}
        onPart={vi.fn()}
      />
    </MemoryRouter>,
  );
  return [...document.querySelectorAll("[data-hot]")].map((e) => [
    e.getAttribute("data-hot"),
    e.textContent ?? "",
  ]);
}

const hot = (more: Partial<HotRoom>): HotRoom => ({
  by: "expansion",
  closes: 177_800,
  left: 101_600,
  floor: 0,
  stops: false,
  ...more,
});

const bore = (...rooms: HotRoom[]): FigureAssessment => ({ ...station(1, judged(25, "in", 3)), hot: rooms });

describe("what is left when it is hot", () => {
  it("is an estimate by arithmetic alone, which says that it stops nothing and where a figure is said", () => {
    const [room] = facts(bore(hot({ left: -101_600, estimate: true })));
    expect(room?.[0]).toBe("estimate");
    expect(room?.[1]).toMatch(/^No room by arithmetic, closing by 0.0070/);
    expect(room?.[1]).toMatch(/estimate that stops nothing.*Say in the rules/);
  });

  it("asks for no figure that was said", () => {
    const rooms = facts(bore(hot({ by: "allowance", left: 25_400 }), hot({ left: -1, estimate: true })));
    expect(rooms.map((r) => r[0])).toEqual(["holds", "estimate"]);
    expect(rooms[0]?.[1]).toMatch(/0.0010 left of it.*the builder's allowance/);
    expect(rooms[1]?.[1]).not.toMatch(/Say in the rules/);
  });

  it("of a ring stops the work below its floor, in words", () => {
    const [room] = facts(bore(hot({ left: 50_800, floor: 101_600, stops: true })));
    expect(room?.[0]).toBe("stops");
    expect(screen.getByText("Stop: less than the floor is left")).toBeVisible();
    expect(room?.[1]).toMatch(/0.0040 have to be left/);
  });

  it("takes no line where nothing closes", () => {
    expect(facts(station(1, judged(25, "in", 3)))).toEqual([]);
  });
});

describe("a figure beside the main one", () => {
  it("says what has to be looked at there, and repeats nothing", () => {
    const unproven: Schemas["Finding"] = { kind: "unproven", part: "cylinder" };
    const apart: Schemas["Finding"] = { kind: "gap_ends_apart", by: 50_800 };
    const slanted: Schemas["Finding"] = { kind: "gap_follows_taper", by: 30_480 };
    const cylinder = { ...station(1, judged(25, "in", 3)), station: "B1", journal_at: "B1" };
    const main: FigureAssessment = { ...cylinder, figure: "piston_to_wall", findings: [slanted] };
    const gap: FigureAssessment = {
      ...cylinder,
      figure: "top_ring_gap",
      asked: true,
      findings: [unproven, apart, slanted],
    };
    facts(main, gap);
    const beside = document.querySelector("[data-beside=top_ring_gap]")?.closest("tr");
    expect(beside?.querySelector("[data-finding=gap_ends_apart]")).toHaveTextContent(/inside and outside/);
    expect(document.querySelectorAll("[data-finding=gap_follows_taper]")).toHaveLength(1);
    expect(document.querySelector("[data-finding=unproven]")).toBeNull();
  });
});

describe("a size between two blades", () => {
  it("has two ends and no value", () => {
    const of = station(1, judged(125, "in", 25));
    const [first] = of.measured;
    const sized = first && {
      ...first,
      positions: first.positions.map((p) => ({ ...p, value: 317_500 })),
      size: {
        effective: 317_500,
        smallest: 317_500,
        largest: 317_500,
        taper: 0,
        out_of_round: 0,
        max_spread: 0,
        gauge: "blades",
        touches: 1,
        proven: false,
        noted_temperatures: false,
        between: { smallest: [304_800, 330_200], largest: [304_800, 330_200], contradicted: false },
      },
    };
    facts({ ...of, measured: sized ? [sized] : [] });
    expect(document.querySelector("[data-between]")).toHaveTextContent("0.0120 to 0.0130");
    expect(screen.queryByText(/0\.0125/)).toBeNull();
  });
});
