import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Reading } from "../api/client";
import { EntryCell } from "./EntryCell";
import type { BenchState } from "./useBench";

const cell = {
  station: "M1",
  characteristic: "main_journal",
  read: "size",
  position: { axial: "front", angle: 0 },
  touch: 1,
} as const;
const reading: Reading = {
  id: "r",
  seq: 2,
  at: 0,
  by: { id: "x", name: "R. Oduya" },
  station: "M1",
  characteristic: "main_journal",
  read: "size",
  position: cell.position,
  size: 66_644_520,
  dial: null,
  reference: null,
  gauge: "mic-tenths",
  raw: "38",
  source: "typed",
  forced: false,
  session: null,
  temperatures: null,
  struck: null,
};

function show(more: Partial<Parameters<typeof EntryCell>[0]>, text = "") {
  const bench = { active: cell, text, setText: vi.fn() } as unknown as BenchState;
  const props = {
    name: "Front of oil hole, 0°, touch 1",
    cellKey: "k",
    unit: "in" as const,
    advisory: false,
    expected: 66_649_600,
    reading: undefined,
    waiting: undefined,
    back: undefined,
    room: true,
    active: false,
    wanted: true,
    bench,
    echo: undefined,
    onActivate: vi.fn(),
    onStrike: vi.fn(),
    ...more,
  };
  render(
    <table>
      <tbody>
        <tr>
          <EntryCell {...props} />
        </tr>
      </tbody>
    </table>,
  );
  return props;
}

describe("a touch on the bench", () => {
  it("shows a kept reading and strikes it when pressed", async () => {
    const props = show({ reading });
    expect(document.querySelector("[data-figure='2.6238']")).not.toBeNull();
    await userEvent.click(screen.getByRole("button"));
    expect(props.onStrike).toHaveBeenCalledWith("r");
  });

  it("shows a dial as it was read", () => {
    show({
      reading: {
        ...reading,
        characteristic: "main_bearing",
        read: "dial",
        dial: -7_620,
        reference: 66_649_600,
      },
    });
    expect(document.querySelector("[data-dial='\u22123']")).not.toBeNull();
  });

  it("puts the digits that do not change before what is typed", () => {
    show({ active: true }, "3");
    expect(screen.getByRole("textbox", { name: /touch 1/ })).toHaveValue("3");
    expect(screen.getByRole("cell")).toHaveTextContent("2.62");
  });

  it("keeps what the server sent back, with the reason at hand", async () => {
    const back = { id: "e", cell, text: "2.5", problem: { code: "out_of_band", detail: "too far away" } };
    const props = show({ back });
    const button = screen.getByRole("button", { name: /not kept/ });
    expect(button).toHaveAttribute("title", "too far away");
    await userEvent.click(button);
    expect(props.onActivate).toHaveBeenCalled();
  });

  it("says that an entry is on its way", () => {
    show({ waiting: "38" });
    expect(screen.getByRole("cell")).toHaveAttribute("data-waiting");
  });
});
