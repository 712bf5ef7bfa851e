import { render, screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { movesText } from "../shared/words";
import { CrankTable } from "./CrankTable";

type Journal = Schemas["CandidateJournal"];

const T = 2_540;

const journal = (place: string, tenths: number | null, more: Partial<Journal> = {}): Journal => ({
  place,
  size: tenths === null ? null : tenths * T,
  expanded: tenths === null ? null : T,
  undersize: tenths === null ? null : 0,
  ...more,
});

const crank = (
  part: string,
  journals: Journal[],
  needs: Schemas["CandidateRow"]["needs"],
  spread: number | null,
): Schemas["Candidate"] => ({
  part,
  stands: part === "crank",
  condemned: false,
  rows: [{ row: "mains", journals, needs, spread: spread === null ? null : spread * T }],
});

describe("cranks side by side", () => {
  const first = crank(
    "crank",
    [journal("M1", 26_238, { worn: 2 * T, taper: 4 * T }), journal("M2", null)],
    { kind: "measure", open: 1 },
    null,
  );
  const second = crank(
    "crank B",
    [journal("M1", 26_140, { undersize: 100 * T }), journal("M2", 26_100, { undersize: null })],
    { kind: "grind", size: 26_040 * T, undersize: 200 * T },
    40,
  );

  it("says of each journal its size, its class, its wear and its shape", () => {
    render(<CrankTable cranks={[first, second]} unit="in" />);
    const [, m1, m2] = screen.getAllByRole("row");
    expect(m1).toHaveTextContent(/M12\.6238.*std, worn 2 tenths, shape 4.*2\.6140.*\.0100 under/);
    expect(m2).toHaveTextContent(/M2not measured2\.6100.*of no class/);
  });

  it("says what each crank would need", () => {
    render(<CrankTable cranks={[first, second]} unit="in" />);
    const needs = screen.getAllByRole("row").at(-1);
    expect(needs).toHaveTextContent(/1 journal to measure/);
    expect(needs).toHaveTextContent(/ground to 2\.6040, shells \.0200 under.*within 4 thou/);
    const head = within(screen.getByRole("table"));
    expect(head.getByRole("columnheader", { name: /crank B/ })).toHaveTextContent("beside it");
  });

  it("names every move of a change", () => {
    const moves = [{ part: "R1", place: "R2" }, { part: "crank B" }];
    expect(movesText(moves)).toBe("R1 put at R2, crank B put in");
  });
});
