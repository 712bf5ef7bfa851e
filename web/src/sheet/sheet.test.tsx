import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas, Session } from "../api/client";
import { build, judged, station } from "../testing/build";
import { checked, predicted } from "../testing/shells";
import { BearingTable } from "./BearingTable";
import { Blocks } from "./Blocks";
import { SealRule, shortSeal } from "./SealRule";
import { Signatures } from "./Signatures";

const stations = [station(1, judged(25, "in", 3)), station(2, judged(19, "tight", -3)), station(3)];
const blocks: Schemas["Block"][] = [
  { station: "M2", figure: "oil_clearance", state: "tight", needs: "lead_concession" },
  { station: "M3", figure: "oil_clearance", state: null, needs: "measure" },
];
const signed = (role: "assembler" | "checker", name: string): Schemas["Signed"] => ({
  role,
  by: { id: "00000000-0000-4000-8000-000000000009", name },
  at: 0,
  digest: "c69b0d1333c0".padEnd(64, "0"),
  revision: 1,
});

function session(concede_tight: boolean): Session {
  const capabilities = {
    open_builds: true,
    measure: true,
    set_targets: true,
    concede: true,
    concede_tight,
    sign_assembler: true,
    sign_checker: false,
    correct_shelf: true,
    strike_others: true,
    run_shop: false,
  };
  return {
    person: { id: "x", name: "R. Oduya" },
    login: "oduya",
    role: "assembler",
    capabilities,
    token: "",
    shop: "",
  };
}

describe("the sheet", () => {
  it("shows every main with its mark in words", () => {
    render(<BearingTable row="mains" build={build(stations)} unit="in" onOpen={() => undefined} />);
    const row = (name: string) =>
      screen.getByRole("button", { name: new RegExp(name) }).closest("tr") as HTMLElement;
    expect(within(row("M1")).getByText("IN")).toBeVisible();
    expect(within(row("M2")).getByText("TIGHT")).toBeVisible();
    expect(within(row("M3")).getByText("OPEN")).toBeVisible();
    expect(row("M2").querySelector("[data-figure='0.0019']")).not.toBeNull();
  });

  it("tells a promise from a measurement, and a promise that was missed", () => {
    const fitted = [
      { ...station(1, judged(25, "in", 3)), prediction: checked("M1", 3, false) },
      { ...station(2), predicted: predicted("M2") },
    ];
    render(<BearingTable row="mains" build={build(fitted)} unit="in" onOpen={() => undefined} />);
    const row = (name: string) =>
      screen.getByRole("button", { name: new RegExp(name) }).closest("tr") as HTMLElement;
    expect(within(row("M1")).getByText(/promised/)).toBeVisible();
    expect(within(row("M2")).getByText("PREDICTED")).toBeVisible();
    expect(row("M2").querySelector("[data-figure='0.0024']")).not.toBeNull();
  });

  it("leaves a tight main to the lead", async () => {
    const onAccept = vi.fn();
    const props = {
      build: build(stations, { blocks }),
      unit: "in" as const,
      onMeasure: vi.fn(),
      onAccept,
      onParts: vi.fn(),
      onLook: vi.fn(),
    };
    const { rerender } = render(<Blocks {...props} session={session(false)} />);
    expect(screen.getByRole("button", { name: "Concede" })).toBeDisabled();
    rerender(<Blocks {...props} session={session(true)} />);
    await userEvent.click(screen.getByRole("button", { name: "Concede" }));
    expect(onAccept).toHaveBeenCalledWith(expect.objectContaining({ station: "M2" }));
    await userEvent.click(screen.getByRole("button", { name: "Measure" }));
    expect(props.onMeasure).toHaveBeenCalledWith("M3");
  });

  it("opens the signatures only when nothing blocks", () => {
    const { rerender } = render(<Signatures build={build(stations, { blocks })} onSign={() => undefined} />);
    for (const button of screen.getAllByRole("button")) expect(button).toBeDisabled();
    const next = { kind: "sign" as const, role: "checker" as const };
    const ready = build(stations, { status: "ready", signatures: [signed("assembler", "R. Oduya")], next });
    rerender(<Signatures build={ready} onSign={() => undefined} />);
    expect(screen.getByText("R. Oduya")).toBeVisible();
    expect(screen.getByRole("button", { name: "Sign as checker" })).toBeEnabled();
  });

  it("shows a seal in brass and a broken one struck through", () => {
    expect(shortSeal("c69b0d1333c0ffff")).toBe("C69B 0D13 33C0");
    const signatures = [signed("assembler", "R. Oduya"), signed("checker", "T. Kell")];
    const { container, rerender } = render(
      <SealRule build={build(stations, { status: "sealed", signatures })} />,
    );
    expect(container.querySelector("[data-seal=sealed]")).not.toBeNull();
    const broken = { signatures, by: { id: "x", name: "J. Wick" }, at: 0, change: "reading" as const };
    rerender(<SealRule build={build(stations, { broken, revision: 2 })} />);
    expect(screen.getByText("broken by a later change")).toBeVisible();
    expect(container.querySelector("s")).toHaveTextContent("C69B 0D13 33C0");
  });
});
