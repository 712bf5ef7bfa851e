import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Boundary } from "./Boundary";
import { momentText } from "./words";

let broken = true;

function Fragile() {
  if (broken) throw new RangeError("date value is not finite in DateTimeFormat.format()");
  return <p>drawn</p>;
}

describe("a boundary", () => {
  afterEach(() => vi.restoreAllMocks());

  it("keeps what is beside it, and draws again once it can", async () => {
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    broken = true;
    const page = (at: string) => (
      <>
        <p>beside</p>
        <Boundary of="SL-041" at={at}>
          <Fragile />
        </Boundary>
      </>
    );
    const { rerender } = render(page("/a"));
    expect(screen.getByText("beside")).toBeVisible();
    expect(screen.getByRole("alert")).toHaveTextContent("SL-041 cannot be drawn");
    broken = false;
    await userEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(screen.getByText("drawn")).toBeVisible();
    broken = true;
    rerender(page("/b"));
    expect(screen.getByRole("alert")).toBeVisible();
    broken = false;
    rerender(page("/c"));
    expect(screen.getByText("drawn")).toBeVisible();
  });

  it("is needed for times that no calendar knows", () => {
    expect(() => momentText(Number.MAX_SAFE_INTEGER)).toThrow();
  });
});
