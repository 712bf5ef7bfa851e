import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { build, judged, station } from "../testing/build";
import { CompactLine } from "./CompactLine";

const three = build([station(1, judged(25, "in", 3)), station(2, judged(31, "loose", -3)), station(3)]);

describe("the line through a slit", () => {
  it("says of every main its state and its clearance", () => {
    render(<CompactLine build={three} onChoose={() => undefined} aside="two left" />);
    const text = (name: RegExp) => screen.getByRole("button", { name }).textContent;
    expect(text(/M1/)).toBe("M1, in2.50");
    expect(text(/M2/)).toBe("M2, loose3.10");
    expect(text(/M3/)).toBe("M3, open\u2013");
    expect(screen.getByText("two left")).toBeVisible();
  });

  it("goes to the bench of the one that is pressed", async () => {
    const onChoose = vi.fn();
    render(<CompactLine build={three} onChoose={onChoose} aside="" />);
    await userEvent.click(screen.getByRole("button", { name: /M2/ }));
    expect(onChoose).toHaveBeenCalledWith("M2");
  });
});
