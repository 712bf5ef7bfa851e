import { render, screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, judged, station } from "../testing/build";
import { contributionText, Proof } from "./Proof";

const T = 2_540;

function part(source: Schemas["DoubtSource"], of: Schemas["Role"], share: number): Schemas["Contribution"] {
  return { source, of, share, standard: 700, gauge: null };
}

function method(
  name: Schemas["Method"],
  tenths: number,
  parts: Schemas["Contribution"][],
  more: Partial<Schemas["MethodResult"]> = {},
): Schemas["MethodResult"] {
  const clearance = tenths * T;
  return {
    method: name,
    clearance,
    low: clearance,
    smallest: clearance,
    largest: clearance,
    high: clearance,
    complete: true,
    ends: [],
    budget: { expanded: T, standard: T / 2, parts },
    advice: [],
    ...more,
  };
}

const direct = method("direct", 24, [part("repeat", "bore", 0.3), part("resolution", "journal", 0.7)], {
  advice: [{ better: { kind: "three_touches" }, expanded: T / 2 }],
});
const walls = method("components", 20, [part("catalogue", "upper_wall", 1)], { low: 18 * T, high: 22 * T });

function shown(methods: Schemas["MethodResult"][], agreements: Schemas["Agreement"][] = []) {
  const s = { ...station(1, judged(24, "in", 2)), methods, agreements };
  render(<Proof build={build([s])} station={s} unit="in" />);
}

describe("what a figure rests on", () => {
  it("lists the shares of the judged method, the largest first", () => {
    shown([direct]);
    const budget = screen.getByRole("region", { name: "Budget of direct" });
    const shares = within(budget)
      .getAllByRole("listitem")
      .slice(0, 2)
      .map((li) => li.textContent);
    expect(shares).toEqual(["journal step of the gauge70 %", "bore feel and repeat30 %"]);
    expect(within(budget).getByText("What would shrink it most")).toBeVisible();
    expect(budget).toHaveTextContent("Touch every place three times");
  });

  it("says what another touch would do for a figure on the edge, and nothing where it is proven", () => {
    const another = { does: "cannot_decide" as const, once_more: T, endless: 0.8 * T };
    const s = { ...station(1, judged(22.5, "edge", 0.5, { another })), methods: [direct] };
    const { unmount } = render(<Proof build={build([s])} station={s} unit="in" />);
    expect(screen.getByText(/No number of touches settles it/)).toBeVisible();
    expect(screen.getByText(/One more at each leaves/)).toHaveTextContent("±1.0, any number of them ±0.8");
    unmount();
    shown([direct]);
    expect(screen.queryByText(/One more at each leaves/)).toBeNull();
  });

  it("says which method judges and by which rule", () => {
    shown([direct, walls]);
    expect(screen.getByText(/Judged by direct: this build's rules prefer it/)).toBeVisible();
    expect(screen.getByText(/limits are guarded by U/)).toBeVisible();
  });

  it("shows the band that catalogue walls leave", () => {
    shown([direct, walls]);
    const row = screen.getByText("components").closest("tr");
    expect(row).toHaveTextContent("band 0.0018–0.0022, walls by the catalogue");
  });

  it("names the suspects of two methods that disagree, and averages nothing", () => {
    const suspects = [
      { method: "components" as const, contribution: part("catalogue", "upper_wall", 1), everywhere: true },
      { method: "direct" as const, contribution: part("seating", "bore", 0.7) },
    ];
    shown(
      [direct, walls],
      [{ of: "direct", with: "components", difference: 4 * T, en: 1.6, agree: false, suspects }],
    );
    expect(screen.getByText("these disagree")).toBeVisible();
    expect(screen.getByText(/Suspects, by how much/)).toHaveTextContent(
      "walls catalogue tolerance, at every bearing (100 %); dirt, a burr or a shell that is not home (70 %)",
    );
  });

  it("says what the bore gauge was zeroed in, and what the worst place adds", () => {
    shown([{ ...direct, zero: "ring", correction: 0.5 * T }]);
    expect(screen.getByText("Bore gauge zeroed in a ring or a block.")).toBeVisible();
    expect(screen.getByText(/The worst of several places/)).toHaveTextContent(
      "+0.5 tenths are in the figure",
    );
  });

  it("says that nothing is proven where nothing is measured", () => {
    shown([]);
    expect(screen.getByText(/so nothing is proven/)).toBeVisible();
  });
});

it("a contribution is named by its part and its source", () => {
  expect(contributionText(part("temperature", "journal", 0.1))).toBe("temperature");
  expect(contributionText(part("zeroing", "bore", 0.1))).toBe("bore zeroing");
});
