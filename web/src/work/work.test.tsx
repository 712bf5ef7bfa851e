import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { FastenerGroups } from "./FastenerGroups";
import { ImpactNote } from "./ImpactNote";
import { NutOrder } from "./NutOrder";
import { PlanForm, turned } from "./PlanForm";
import { TorqueScale, torqueUnit } from "./TorqueScale";
import type { Group } from "./useSetUp";

const place = (angle: number, advisory = false): Schemas["Planned"] => ({
  position: { axial: "front", angle },
  advisory,
});

describe("the places of a feature", () => {
  it("a press turns a place from counting to informing to none, and back at the end of the order", () => {
    const plan = [place(0), place(90)];
    const informs = turned(plan, "front", 0);
    expect(informs).toEqual([place(0, true), place(90)]);
    const none = turned(informs, "front", 0);
    expect(none).toEqual([place(90)]);
    expect(turned(none, "front", 0)).toEqual([place(90), place(0)]);
  });

  it("shows the order of the touches and asks why before it changes", async () => {
    const plans = [{ characteristic: "main_journal" as const, positions: [place(0), place(17)] }];
    const client = new QueryClient();
    render(
      <QueryClientProvider client={client}>
        <PlanForm build={{ ...build([station(1)]), plans }} />
      </QueryClientProvider>,
    );
    // A direction of the shop's own has its column.
    expect(screen.getByRole("button", { name: "front 17°: 2, counts" })).toBeVisible();
    expect(screen.queryByLabelText("Why")).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "rear 90°: not touched" }));
    expect(screen.getByRole("button", { name: "rear 90°: 3, counts" })).toBeVisible();
    expect(screen.getByLabelText("Why")).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: "Leave them" }));
    expect(screen.getByRole("button", { name: "rear 90°: not touched" })).toBeVisible();
  });
});

describe("how a row of caps is tightened", () => {
  const torque = (tenths: number): Schemas["TorqueStep"] => ({ kind: "torque", tenths, unit: "pound_foot" });

  it("draws torques on a scale, and what no torque says beyond it", () => {
    const steps: Schemas["TorqueStep"][] = [torque(250), torque(500), { kind: "angle", degrees: 60 }];
    render(<TorqueScale steps={steps} width={600} unit="in" />);
    expect(screen.getByRole("img", { name: "3 steps of torque" })).toBeVisible();
    expect(screen.getByText("then 60\u00b0")).toBeVisible();
    const at = (text: string) => Number(screen.getByText(text).getAttribute("x"));
    expect(at("50")).toBeCloseTo(2 * at("25"));
    expect(torqueUnit(steps)).toBe("lb-ft");
  });

  it("says when no step names a torque", () => {
    render(<TorqueScale steps={[{ kind: "angle", degrees: 60 }]} width={600} unit="in" />);
    expect(screen.getByText("No step names a torque.")).toBeVisible();
  });

  it("counts the nuts from cap to cap of the mains, and anew at every rod", () => {
    const caps = ["M2", "M1"].map((station, i) => ({ station, x: 50 + i * 50 }));
    const { rerender } = render(<NutOrder order={caps} together width={200} />);
    expect(screen.getByRole("img").textContent).toBe("1234");
    rerender(<NutOrder order={caps} together={false} width={200} />);
    expect(screen.getByRole("img").textContent).toBe("1212");
  });

  it("begins a further group empty, and takes it away again", async () => {
    const seen: Group[][] = [];
    const onChange = (groups: Group[]) => seen.push(groups);
    const { rerender } = render(<FastenerGroups groups={[]} problem={null} onChange={onChange} />);
    await userEvent.click(screen.getByRole("button", { name: "Outer fasteners" }));
    expect(seen[0]).toMatchObject([{ group: "outer", fasteners: "", steps: [""] }]);
    rerender(<FastenerGroups groups={seen[0] ?? []} problem={null} onChange={onChange} />);
    await userEvent.type(screen.getByLabelText("Steps, a comma between them"), ",");
    expect(seen.at(-1)?.[0]?.steps).toEqual(["", ""]);
    await userEvent.click(screen.getByRole("button", { name: "There are none" }));
    expect(seen.at(-1)).toEqual([]);
  });
});

describe("what recording would end", () => {
  it("counts the readings and names what is to be measured again", () => {
    const impact: Schemas["Impact"] = {
      ended: [
        { station: "M4", part: "journal", readings: 8 },
        { station: "M4", part: "bore", readings: 1 },
      ],
      clearances: ["M4"],
    };
    render(<ImpactNote impact={impact} problem={null} />);
    expect(screen.getByText(/journal of M4 \(8\), bore of M4 \(1\)/)).toHaveTextContent(
      "Makes 9 readings stale",
    );
    expect(screen.getByText(/To be measured again/)).toHaveTextContent("signed: M4.");
  });

  it("says so when nothing depends on it", () => {
    render(<ImpactNote impact={{ ended: [], clearances: [] }} problem={null} />);
    expect(screen.getByText(/Ends nothing/)).toBeVisible();
  });
});
