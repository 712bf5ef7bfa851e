import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { Tape, type TapeValue } from "./Tape";

const UM = 1000;
const TARGET = { low: 50 * UM, aim: 60 * UM, high: 70 * UM };

function drawn(clearance: number, more: Partial<TapeValue> = {}) {
  const value: TapeValue = { clearance: clearance * UM, expanded: 2 * UM, state: "in", ...more };
  return render(<Tape target={TARGET} unit="mm" width={600} value={value} />);
}

describe("the clearance tape", () => {
  it("leaves out the name of a side where the value stands over it", () => {
    drawn(209, { state: "loose" });
    expect(screen.queryByText("LOOSE")).toBeNull();
  });

  it("names both sides of a value between them", () => {
    drawn(60);
    expect(screen.getByText("TIGHT")).toBeInTheDocument();
    expect(screen.getByText("LOOSE")).toBeInTheDocument();
  });

  it("has one stop where only a most is held, and says OVER beyond it", () => {
    const value: TapeValue = { clearance: 55 * UM, expanded: 2 * UM, state: "loose" };
    const atMost = { low: 0, aim: 20 * UM, high: 40 * UM };
    render(<Tape target={atMost} unit="mm" width={600} value={value} most />);
    expect(screen.getByText("OVER")).toBeInTheDocument();
    expect(screen.queryByText("LOOSE")).toBeNull();
    expect(screen.queryByText("aim")).toBeNull();
    expect(screen.getByRole("img", { name: /^At most 40; 55 plus or minus 2, over/ })).toBeInTheDocument();
  });

  it("says what is proven beside a value that stands in the middle of it", () => {
    const { unmount } = drawn(66);
    const middle = Number(screen.getByText("proven").getAttribute("x"));
    unmount();
    drawn(60.1);
    expect(Number(screen.getByText("proven").getAttribute("x"))).toBeLessThan(middle);
  });
});
