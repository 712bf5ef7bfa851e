import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { StraightView } from "./StraightView";

const T = 2_540;

function main(at: string, more: Partial<Schemas["MainThrow"]> = {}): Schemas["MainThrow"] {
  return {
    at,
    travel: 5 * T,
    bend: 4 * T,
    high_side: 45,
    oval: 4 * T,
    out_of_round: 4 * T,
    bow: null,
    step: null,
    bent: false,
    oval_only: false,
    ...more,
  };
}

function showRuns(runs: Partial<Schemas["Straightness"]>) {
  server({ "GET /builds/T-1/straightness": { limit: null, mains: [], open: [], ...runs } });
  show(<StraightView build={build([station(4)])} unit="in" chosen="M4" width={600} />);
}

describe("how a crank runs", () => {
  it("tells bend and ovality of each main apart", async () => {
    showRuns({ mains: [main("M4", { bow: 2 * T })], open: ["M1", "M2"], limit: 10 * T });
    const four = await screen.findByRole("row", { name: /^M4/ });
    expect(four).toHaveTextContent("M40.500.4045°0.400.400.20–");
    expect(screen.getByRole("img")).toHaveAccessibleName(
      "How the mains run: M4 bends 0.40 thou, high at 45\u00b0.",
    );
    expect(screen.getByText(/Not turned: M1, M2/)).toHaveTextContent("At most 0.0010");
  });

  it("convicts the bend and not the ovality", async () => {
    showRuns({ mains: [main("M3", { bent: true }), main("M5", { oval_only: true })] });
    expect(await screen.findByText(/M3 is bent/)).toBeVisible();
    expect(screen.getByText(/M5 is oval, not bent/)).toBeVisible();
  });

  it("says how a main is turned while none was", async () => {
    showRuns({});
    expect(await screen.findByText(/No main was turned yet/)).toBeVisible();
  });
});
