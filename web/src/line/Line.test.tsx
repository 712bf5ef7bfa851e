import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { build, judged, station } from "../testing/build";
import { predicted } from "../testing/shells";
import { Line } from "./Line";

const three = build([station(1, judged(25, "in", 3)), station(2, judged(31, "loose", -3)), station(3)]);

describe("the line", () => {
  it("shows every main with its mark and its clearance in thou", () => {
    render(<Line build={three} onChoose={() => undefined} ident="" aside="" />);
    const text = (name: RegExp) => screen.getByRole("button", { name }).textContent;
    expect(text(/M1/)).toBe("M1in2.50");
    expect(text(/M2/)).toBe("M2loose3.10");
    expect(text(/M3/)).toBe("M3open\u2013");
  });

  it("shows what is promised, and never as if it were measured", () => {
    const fitted = build([station(1, judged(25, "in", 3)), { ...station(2), predicted: predicted("M2") }]);
    render(<Line build={fitted} onChoose={() => undefined} ident="" aside="" />);
    const m2 = screen.getByRole("button", { name: /M2/ });
    expect(m2).toHaveTextContent("M2predicted2.40");
    expect(m2).toHaveAttribute("data-state", "predicted");
  });

  it("shows nose and flange at both ends of the crank, and the chosen one filled", () => {
    const end = (name: string) => ({ ...station(1), station: name, figure: "end_runout" as const });
    const ends = build([station(1), station(2), end("K1"), end("K2")]);
    const props = { build: ends, view: "ends", onChoose: () => undefined, ident: "", aside: "" } as const;
    const { container, rerender } = render(<Line {...props} chosen="K1" />);
    const filled = () =>
      [...container.querySelectorAll("rect.k-chosen")].map((r) => Number(r.getAttribute("x")));
    const [nose, places] = [
      filled(),
      screen.getAllByRole("button").map((b) => Number.parseFloat(b.style.left)),
    ];
    expect(nose.length).toBeGreaterThan(0);
    expect(places[0]).toBeLessThan(places[1] ?? 0);
    rerender(<Line {...props} chosen="K2" />);
    expect(Math.min(...filled())).toBeGreaterThan(Math.max(...nose));
  });

  it("chooses a main by a press and marks the chosen one", async () => {
    const onChoose = vi.fn();
    render(<Line build={three} chosen="M2" onChoose={onChoose} ident="" aside="" />);
    expect(screen.getByRole("button", { current: true })).toHaveTextContent("M2");
    await userEvent.click(screen.getByRole("button", { name: /M3/ }));
    expect(onChoose).toHaveBeenCalledWith("M3");
  });
});
