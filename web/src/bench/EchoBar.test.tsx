import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { EchoBar } from "./EchoBar";

const idle = {
  place: undefined,
  back: undefined,
  station: undefined,
  idle: "Type the last digits.",
};

describe("the echo of what is typed", () => {
  it("shows what was understood and how", () => {
    const echo = {
      understood: {
        shown: "2.6238 in",
        size: 66_644_520,
        dial: null,
        between_blades: false,
        how: "tail" as const,
      },
      problem: null,
    };
    render(<EchoBar {...idle} text="38" echo={echo} />);
    expect(screen.getByRole("status")).toHaveTextContent("2.6238 in");
    expect(screen.getByRole("status")).toHaveTextContent("the last digits");
  });

  it("says why not, and how to keep it all the same", () => {
    const problem = { code: "out_of_band", detail: "2.5238 in is far away", can_force: true };
    render(<EchoBar {...idle} text="2.5238" echo={{ understood: null, problem }} />);
    expect(screen.getByRole("status")).toHaveTextContent("2.5238 in is far away");
    expect(screen.getByText("Ctrl")).toBeVisible();
  });

  it("says what to type while nothing is typed", () => {
    render(<EchoBar {...idle} text="" echo={undefined} />);
    expect(screen.getByRole("status")).toHaveTextContent("Type the last digits.");
  });
});
