import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { faultText } from "./faults";
import { Elsewhere, Faults, LiftedNotes } from "./Provenance";
import { SealRule } from "./SealRule";
import { Signatures } from "./Signatures";

const person = (name: string) => ({ id: `00000000-0000-4000-8000-${name.length}`, name });
const signed = (role: "assembler" | "checker", name: string): Schemas["Signed"] => ({
  role,
  by: person(name),
  at: 0,
  digest: "c69b0d1333c0".padEnd(64, "0"),
  revision: 1,
});
const faults: Schemas["SealFault"][] = [
  { seq: 17, flaw: "missing" },
  { seq: 40, flaw: "changed", role: "assembler", by: person("R. Oduya"), at: 0 },
];
const doubted = build([station(1)], {
  status: "does_not_match",
  signatures: [signed("assembler", "R. Oduya"), signed("checker", "T. Kell")],
  proof: { faults, before_key: [] },
  next: { kind: "clear_up" },
});

describe("a record that does not match", () => {
  it("names every fault before anything else, and is no seal", () => {
    render(
      <>
        <Faults build={doubted} />
        <SealRule build={doubted} />
      </>,
    );
    expect(screen.getByRole("alert")).toHaveTextContent("Not as it was signed");
    expect(screen.getByText("Fact 17 is missing")).toBeVisible();
    expect(screen.getByText("Fact 40: what R. Oduya signed is not what stands here")).toBeVisible();
    expect(document.querySelector("[data-seal]")).toHaveAttribute("data-seal", "does_not_match");
    expect(screen.getByText("2 faults, named on the sheet")).toBeVisible();
  });

  it("lets nobody sign", () => {
    render(<Signatures build={build([station(1)], { status: "does_not_match" })} onSign={() => undefined} />);
    for (const button of screen.getAllByRole("button")) expect(button).toBeDisabled();
  });

  it("has words for every fault", () => {
    const by = person("T. Kell");
    const all: Schemas["SealFault"][] = [
      { seq: 1, flaw: "twice" },
      { seq: 2, flaw: "not_ours", role: "checker", by, at: 0 },
      { seq: 3, flaw: "same_person", by },
    ];
    expect(all.map(faultText)).toEqual([
      "Fact 1 is there twice",
      "Fact 2: the signature of T. Kell does not carry this shop's mark",
      "Fact 3: T. Kell signed as both",
    ]);
  });
});

describe("what came with a file", () => {
  it("says who imported it, and that its signatures are of elsewhere", () => {
    const imported = {
      file: "ab".repeat(32),
      facts: 312,
      by: person("J. Wick"),
      at: 0,
    } as Schemas["ImportedBy"];
    render(
      <Elsewhere build={build([station(1)], { imported, elsewhere: [signed("checker", "T. Kell")] })} />,
    );
    expect(screen.getByLabelText("From a file")).toHaveTextContent("312 facts");
    expect(screen.getByText(/Signed elsewhere, checked against this file only: T. Kell/)).toBeVisible();
  });

  it("says nothing where there was no file", () => {
    const { container } = render(<Elsewhere build={build([station(1)])} />);
    expect(container).toBeEmptyDOMElement();
  });
});

describe("what was lifted", () => {
  it("stands on the sheet with what it was and who lifted it", () => {
    const lifted: Schemas["LiftedBy"] = {
      figure: "oil_clearance",
      station: "M2",
      value: 19 * 2540,
      window: { low: 24 * 2540, aim: 26 * 2540, high: 28 * 2540 },
      by: person("M. Harrow"),
      at: 0,
      reason: "the maker's sheet",
    };
    render(<LiftedNotes build={build([station(1)], { lifted: [lifted] })} />);
    const line = document.querySelector("[data-lifted='M2']");
    expect(line).toHaveTextContent(/M2 was \.?0?\.?0019/);
    expect(line).toHaveTextContent("M. Harrow");
  });

  it("stands there with what the rules ask less of, in words", () => {
    const of = { by: person("M. Harrow"), at: 0, reason: "late" };
    const loosened: Schemas["LoosenedBy"][] = [
      { kind: "cleaning", ...of },
      { kind: "gate", gate: "shape", ...of },
      { kind: "sampled", row: "mains", ...of },
    ];
    render(<LiftedNotes build={build([station(1)], { loosened })} />);
    const lines = [...document.querySelectorAll("[data-loosened]")].map((l) => l.textContent);
    expect(lines[0]).toMatch(/Nothing is washed before it signs.*M. Harrow.*late/);
    expect(lines[1]).toMatch(/May be signed past: its shape/);
    expect(lines[2]).toMatch(/mains are sampled/);
  });
});
