import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { FigureAssessment, Schemas } from "../api/client";
import { build, judged, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { Barrel } from "./Barrel";
import { BoresView } from "./BoresView";

const T = 2_540;

function cylinder(at: string, more: Partial<Schemas["CylinderPlan"]> = {}): Schemas["CylinderPlan"] {
  return {
    at,
    piston: 34_717 * T,
    bore: [34_744 * T, 34_749 * T],
    condemned: false,
    plate_off: false,
    finished: 34_750 * T,
    take: [6 * T, 1 * T],
    too_large: false,
    hone: true,
    gaps: [],
    rounds: [],
    ...more,
  };
}

function plan(
  cylinders: Schemas["CylinderPlan"][],
  more: Partial<Schemas["BoresPlan"]> = {},
): Schemas["BoresPlan"] {
  return {
    target: { low: 30 * T, aim: 33 * T, high: 36 * T },
    tolerance: T,
    expanded: T,
    one_size: { spread: 5 * T, needs: 9 * T, has: 6 * T, bore: null },
    cylinders,
    assignment: null,
    ...more,
  };
}

function showBores(answer: unknown) {
  const asked = server({ "GET /builds/T-1/bores": answer });
  show(<BoresView build={build([station(1)])} unit="in" chosen="B5" />);
  return asked;
}

describe("the bores of an engine", () => {
  it("each want their own size where one does not serve all", async () => {
    showBores(plan([cylinder("B5", { plate_off: true }), cylinder("B6", { bore: null, take: null })]));
    const five = await screen.findByRole("row", { name: /^B5/ });
    expect(five).toHaveTextContent("3.4750");
    expect(five).toHaveTextContent("plate off: not to cut by");
    expect(screen.getByRole("row", { name: /^B6/ })).toHaveTextContent("not measured");
    expect(screen.getByText(/One size does not serve all/).closest("p")).toHaveTextContent("0.0009");
  });

  it("say the one size that serves, and which is too large for any hone", async () => {
    const one = { spread: T, needs: 5 * T, has: 6 * T, bore: 34_750 * T };
    showBores(plan([cylinder("B1", { too_large: true })], { one_size: one }));
    expect(await screen.findByText(/One size serves all/)).toHaveTextContent("3.4750");
    expect(screen.getByRole("row", { name: /^B1/ })).toHaveTextContent("too large: a larger piston");
  });

  it("name the pistons that belong elsewhere", async () => {
    const pistons = [
      { from: "W2", to: "B1", clearance: 33 * T, largest: 34 * T, inside: true, married: false },
      { from: "W1", to: "B2", clearance: 33 * T, largest: 34 * T, inside: true, married: false },
      { from: "W3", to: "B3", clearance: 33 * T, largest: 34 * T, inside: true, married: false },
    ];
    showBores(plan([cylinder("B1")], { assignment: { pistons, outside: [2, 0], moves: true } }));
    const said = (await screen.findByText(/proven best/)).closest("p");
    expect(said).toHaveTextContent("W2 into B1 (3.30), W1 into B2 (3.30); outside the window 0 instead of 2");
    expect(said).not.toHaveTextContent("W3");
  });

  it("ask again with what the honer holds, and show why a figure is no length", async () => {
    const asked = showBores({
      status: 422,
      code: "bad_field",
      detail: "this is above zero",
      field: "tolerance",
    });
    await userEvent.type(await screen.findByRole("textbox", { name: /honer holds/ }), "0");
    expect((await screen.findAllByText(/this is above zero/i)).length).toBeGreaterThan(0);
    expect(asked.filter((a) => a.path.endsWith("/bores")).length).toBeGreaterThan(1);
  });
});

describe("the barrel", () => {
  const five = (): FigureAssessment => ({
    ...station(1, judged(27, "tight", -3)),
    station: "B5",
    figure: "piston_to_wall",
    journal_at: "W5",
  });

  it("has the clearance at each wall and the roundness of each depth as the server says them", async () => {
    const gap = (depth: "front" | "middle" | "rear", angle: number, tenths: number) => ({
      depth,
      angle,
      clearance: tenths * T,
      inside: tenths >= 30,
    });
    const gaps = [
      gap("front", 0, 32),
      gap("front", 90, 27),
      gap("middle", 0, 31),
      gap("middle", 90, 29),
      gap("rear", 0, 29),
      gap("rear", 90, 28),
    ];
    const rounds = [{ depth: "front" as const, out_of_round: 5 * T, wide_across: true }];
    server({ "GET /builds/T-1/bores": plan([cylinder("B5", { gaps, rounds })]) });
    show(<Barrel build={build([five()])} station={five()} unit="in" width={616} />);
    const barrel = await screen.findByRole("img", { name: /Barrel of B5/ });
    expect(barrel.querySelector(".b-tight")).toHaveTextContent("2.70");
    expect(barrel).toHaveTextContent("0.50");
    expect(barrel).toHaveTextContent("across, thrust");
  });

  it("is not drawn while nothing is measured there", () => {
    server({ "GET /builds/T-1/bores": plan([cylinder("B5")]) });
    show(<Barrel build={build([five()])} station={five()} unit="in" width={616} />);
    expect(screen.queryByRole("img")).toBeNull();
  });
});
