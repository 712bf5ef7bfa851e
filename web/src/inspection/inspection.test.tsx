import { render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { Hypotheses } from "./Hypotheses";
import { JOURNAL_SIGNS, Pictogram, SHELL_SIGNS, SIGN_WORD } from "./pictograms";

function suggests(hypotheses: Schemas["Hypothesis"][], inspections: Schemas["InspectionView"][] = []) {
  const b = build([station(1), station(2)]);
  const shown = { ...b, inspections, assessment: { ...b.assessment, hypotheses } };
  render(<Hypotheses build={shown} />, { wrapper: MemoryRouter });
}

describe("eyes and fingernail", () => {
  it("draws every sign differently, and differently from an untouched part", () => {
    for (const [kind, signs] of [
      ["shell", SHELL_SIGNS],
      ["journal", JOURNAL_SIGNS],
    ] as const) {
      const drawn = signs.map((sign) => {
        const { container } = render(<Pictogram kind={kind} signs={[sign]} />);
        return container.innerHTML;
      });
      const { container } = render(<Pictogram kind={kind} signs={[]} />);
      expect(new Set([...drawn, container.innerHTML]).size).toBe(signs.length + 1);
    }
  });

  it("names every sign once", () => {
    const words = [...SHELL_SIGNS, ...JOURNAL_SIGNS].map((s) => SIGN_WORD[s]);
    expect(new Set(words).size).toBe(words.length);
  });

  it("leads to the place where a check is measured", () => {
    suggests([
      {
        suspicion: "dirt_or_starvation",
        stations: ["M1", "M2"],
        confirm: [{ by: "journal_size", at: "M2", part: "journal" }, { by: "oil_path" }],
      },
    ]);
    expect(screen.getByRole("link", { name: "journal size, M2" })).toHaveAttribute(
      "href",
      "/builds/T-1/bench/M2",
    );
    expect(screen.getByText("cleaning, oil path, the pump")).not.toHaveAttribute("href");
  });

  it("tells nothing looked at from nothing found", () => {
    suggests([]);
    expect(screen.getByText(/Nothing was looked at yet/)).toBeVisible();
  });
});
