import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { FloorRow } from "../api/client";
import { build, station } from "../testing/build";
import { show } from "../testing/screen";
import { FloorBuild } from "./FloorBuild";

const engine = build([station(1), station(2)]);
const here = { stale: false, predicted: false, touched: false };

function row(more: Partial<FloorRow> = {}): FloorRow {
  return {
    id: engine.id,
    code: "T-1",
    engine: "Test three",
    unit: "in",
    layout: engine.layout,
    stations: [
      { station: "M1", ...here },
      { station: "M2", ...here, predicted: true, stale: true },
    ],
    status: "blocked",
    broken: false,
    next: { kind: "measure", station: "M1", open: 2 },
    away: [],
    touched_at: 0,
    touched_by: { id: "x", name: "R. Oduya" },
    ...more,
  };
}

describe("a build on the floor", () => {
  it("says what is at another shop, and since when", () => {
    const away = [{ number: "T-1-1", shop: "the grinder", since: Date.UTC(2026, 10, 22) }];
    show(<FloorBuild row={row({ away })} scale={1e-6} chosen={false} onChoose={vi.fn()} onOpen={vi.fn()} />);
    expect(screen.getByText("T-1-1 at the grinder since 22 Nov")).toBeVisible();
  });

  it("marks what is only promised by its own mark", () => {
    show(<FloorBuild row={row()} scale={1e-6} chosen={false} onChoose={vi.fn()} onOpen={vi.fn()} />);
    expect(screen.getByRole("img")).toHaveAccessibleName("Crank: M1 open, M2 predicted");
  });

  it("says that its record does not match, or was signed elsewhere", () => {
    const doubted = row({ status: "does_not_match", next: { kind: "clear_up" } });
    const shown = (of: FloorRow) =>
      show(<FloorBuild row={of} scale={1e-6} chosen={false} onChoose={vi.fn()} onOpen={vi.fn()} />);
    shown(doubted);
    expect(screen.getByText("The seal does not match")).toBeVisible();
    shown(row({ elsewhere: true }));
    expect(screen.getByText("Signed elsewhere")).toBeVisible();
  });

  it("is chosen by a press", async () => {
    const onChoose = vi.fn();
    show(<FloorBuild row={row()} scale={1e-6} chosen onChoose={onChoose} onOpen={vi.fn()} />);
    await userEvent.click(screen.getByRole("option"));
    expect(onChoose).toHaveBeenCalled();
  });
});
