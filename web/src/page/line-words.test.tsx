import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import type { LineView } from "../line/layers";
import { build, station } from "../testing/build";
import { LineAside, LineIdent } from "./LineWords";

type Needs = Schemas["Needs"];

const blocked = (all: [Needs, string[]][]) => {
  const blocks = all.flatMap(([needs, places]) =>
    places.map((place) => ({ station: place, figure: "oil_clearance" as const, state: null, needs })),
  );
  return build([station(1), station(2)], { blocks, status: "blocked" });
};
const mains = (from: number, to: number, step = 1) =>
  Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => `M${from + i * step}`);

function said(of: ReturnType<typeof build>, brief = false, view?: LineView) {
  const { container } = render(<LineAside build={of} brief={brief} view={view} />);
  const lines = [...container.querySelectorAll("div")].map((line) => line.textContent);
  return brief ? [container.textContent] : lines;
}

describe("what is still to do, beside the line", () => {
  it("stands by what it needs, the gravest first, with runs of places from first to last", () => {
    const of = blocked([
      ["measure", ["M7", "R4", "R5", "R6"]],
      ["part", ["K1"]],
    ]);
    expect(said(of)).toEqual(["Still to do", "K1 without a part that may stay", "M7, R4\u2013R6 to measure"]);
  });

  it("names what comes first and counts the rest, so that all of it has room", () => {
    const many = mains(1, 23, 2);
    const one = said(blocked([["measure", many]]));
    expect(one[1]).toMatch(/^M1, M3, M5, M7, M9, M11, M13, M15 and 4 more to measure$/);
    const four: Needs[] = ["measure_again", "measure", "acknowledgement", "concession"];
    const some = said(blocked(four.map((needs) => [needs, many])));
    expect(some.slice(1)).toHaveLength(4);
    expect(some[1]).toMatch(/^M1, M3, M5, M7 and 8 more to measure again$/);
    expect(some[4]).toBe("and 12 more on the sheet");
    const six: Needs[] = ["part", "check", "clean", "remedy", ...four.slice(2)];
    const all = said(blocked(six.map((needs) => [needs, many])));
    expect(all.slice(1, 4).map((line) => line?.replace(/^.* more /, ""))).toEqual([
      "without a part that may stay",
      "to wash or flush",
      "to check",
    ]);
    expect(all.slice(4)).toEqual(["and 36 more on the sheet"]);
  });

  it("keeps to the layer that is shown, and says where that has nothing", () => {
    const of = blocked([["measure", ["M7", "B2", "FP1"]]]);
    expect(said(of, false, "crank")).toEqual(["Still to do", "M7 to measure", "and 2 more on the sheet"]);
    expect(said(of, false, "wrists")).toEqual(["Still to do", "B2 to measure", "and 2 more on the sheet"]);
    expect(said(of, false, "cam")).toEqual([
      "Still to do",
      "nothing on this layer",
      "and 3 more on the sheet",
    ]);
  });

  it("counts no single place that is left over: its name is as short", () => {
    expect(said(blocked([["measure", mains(1, 17, 2)]]))[1]).toMatch(/M15, M17 to measure$/);
  });

  it("is brief in the slit, and names a station once", () => {
    const of = blocked([
      ["measure", ["M1", "M1", "M3", "M5", "M7"]],
      ["acknowledgement", ["M9", "M11"]],
    ]);
    expect(said(of, true)).toEqual(["Still to doM1, M3, M5, M7 and 2 more"]);
  });

  it("asks for two signatures where nothing blocks, and says that a seal does not hold", () => {
    expect(said(build([station(1)], { status: "ready" }))).toEqual(["Still to do"]);
    expect(said(build([station(1)], { status: "ready" }), true)).toEqual(["Still to doTwo signatures"]);
    expect(said(build([station(1)], { status: "does_not_match" }))[0]).toBe("Not as it was signed");
  });
});

describe("what the band says of a row", () => {
  it("is its nominal and its window, and of another figure its limits", () => {
    const one = build([station(1)]);
    const { container, rerender } = render(<LineIdent build={one} row="mains" />);
    expect(container).toHaveTextContent("Mains 2.6240Window .0022 to .0028Aim .0025");
    const ends = { ...station(1), station: "K1", figure: "end_runout" as const, target: null };
    rerender(<LineIdent build={one} row="mains" of={ends} />);
    expect(container).toHaveTextContent("Runout of an endNo target yet");
  });
});
