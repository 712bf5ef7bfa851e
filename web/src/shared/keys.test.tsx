import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { Keys } from "./Keys";

describe("what the keyboard does", () => {
  it("is done by a finger as well, where it can be", async () => {
    const strike = vi.fn();
    render(
      <Keys
        keys={[
          { press: ["S"], does: "strike", run: strike },
          { press: ["Esc"], does: "leave" },
        ]}
      />,
    );
    await userEvent.click(screen.getByRole("button", { name: /strike/ }));
    expect(strike).toHaveBeenCalledOnce();
    expect(screen.queryByRole("button", { name: /leave/ })).toBeNull();
    expect(screen.getByText("leave")).toBeVisible();
  });
});
