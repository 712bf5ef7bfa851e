import { cleanup, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { BlockView } from "./BlockView";
import { BoringView } from "./BoringView";
import { StrokesView } from "./StrokesView";

const T = 2_540;
const by = { id: "p", name: "M. Wick" };

function boring(more: Partial<Schemas["BoringPlan"]> = {}): Schemas["BoringPlan"] {
  return {
    cylinders: [
      {
        at: "B1",
        needs: 34_618 * T,
        decided_at: { axial: "front", angle: 90 },
        plate_off: true,
        wall: 1_850 * T,
        seen: 60 * T,
      },
    ],
    standard: 34_450 * T,
    present: 0,
    unworn_assumed: false,
    coated: false,
    decided_by: "B1",
    needs: 34_618 * T,
    options: [
      {
        oversize: 100 * T,
        finished: 34_550 * T,
        bar: 34_500 * T,
        cleans: false,
        probability: 0.004,
        dirty: ["B1"],
        thin: [],
        wall: 1_800 * T,
      },
      {
        oversize: 300 * T,
        finished: 34_750 * T,
        bar: 34_700 * T,
        cleans: true,
        probability: 0.991,
        dirty: [],
        thin: [],
        wall: 1_701 * T,
      },
    ],
    chosen: 300 * T,
    stages: [
      { tool: "bar", to: 34_700 * T },
      { tool: "plateau", to: 34_750 * T },
    ],
    open: [],
    ...more,
  };
}

describe("the next oversize", () => {
  const view = (answer: unknown) => {
    const asked = server({ "POST /builds/T-1/boring": answer });
    show(<BoringView build={build([station(1)])} unit="in" chosen="B1" width={616} />);
    return asked;
  };

  it("is said with who decides, its stages and what each size leaves", async () => {
    const asked = view(boring());
    const said = await screen.findByText(/cleans all, 99.1 % sure/, { selector: "b" });
    expect(said).not.toHaveTextContent("proven");
    expect(said.closest("p")).toHaveTextContent("B1 decides");
    expect(said.closest("p")).toHaveTextContent("plateau 400 to 600, or brush to 3.4750");
    expect(screen.getByText(/may leave B1 dirty, 0.4 % sure to clean/)).toBeVisible();
    const drawn = screen.getByRole("img", { name: "What each bore needs to clean up: B1 3.4618." });
    expect(drawn).toHaveTextContent("over0.01000.0300B10.18000.1701wall");
    expect(screen.getByRole("row", { name: /^B1/ })).toHaveTextContent("top, along, plate off");
    expect(screen.getByText(/^seen:/)).toHaveTextContent("0.0060");
    await userEvent.type(screen.getByLabelText("Depth of damage in B1"), ".006");
    await userEvent.selectOptions(screen.getByLabelText("Where the damage in B1 is"), "bottom, across");
    const last = asked.at(-1)?.body as { damage: unknown[] };
    expect(last.damage).toEqual([{ at: "B1", text: ".006", near: { axial: "rear", angle: 0 } }]);
  });

  it("is never proven on a bore that nobody measured, and never bored through a coat", async () => {
    view(boring({ unworn_assumed: true, present: 100 * T }));
    const said = (await screen.findByText(/cleans all/, { selector: "b" })).closest("p");
    expect(said).toHaveTextContent("as far as the bore where no ring ran is its nominal");
    expect(said).toHaveTextContent(
      "Measure it above the rings before pistons are ordered. It is 0.0100 over already.",
    );
    cleanup();
    view(boring({ coated: true, chosen: null }));
    expect(await screen.findByText(/they are never bored/)).toBeVisible();
  });

  it("waits for what is not measured, and says when none serves", async () => {
    view(boring({ chosen: null, open: ["B6"], stages: [] }));
    expect(await screen.findByText(/Not before every cylinder is measured/)).toBeVisible();
    expect(screen.getByText(/cleans what is measured/)).toBeVisible();
  });

  it("says when no size serves", async () => {
    view(boring({ chosen: null, stages: [] }));
    expect(await screen.findByText(/No oversize of these serves/)).toBeVisible();
  });
});

describe("the log of a hone", () => {
  const entry = (seq: number, strokes: number, size: number, removed: number | null) => ({
    seq,
    when: 0,
    by,
    at: "B1",
    on: "bore" as const,
    strokes,
    size: size * T,
    id: `s${seq}`,
    raw: "as read",
    part_mc: seq === 2 ? 28_000 : null,
    cool: size * T,
    removed,
  });
  const log = (more: Partial<Schemas["StrokeLog"]> = {}): Schemas["StrokeLog"] => ({
    at: "B1",
    on: "bore",
    goal: 34_750 * T,
    to_go: 3 * T,
    left: { strokes: 15, next: 7, per_tenth: 5 },
    entries: [entry(1, 0, 34_742, null), entry(2, 20, 34_746, 4 * T)],
    ...more,
  });

  it("says how many strokes may be made before the next look, and keeps what was made", async () => {
    const asked = server({ "GET /builds/T-1/strokes": [log()], "POST /builds/T-1/strokes": {} });
    show(<StrokesView build={build([station(1)])} unit="in" at="B1" />);
    expect(await screen.findByText("7")).toBeVisible();
    const rows = within(screen.getByRole("table")).getAllByRole("row");
    expect(rows[1]).toHaveTextContent("28 °C");
    expect(rows[2]).toHaveTextContent("as it was");
    await userEvent.type(screen.getByLabelText("Strokes"), "7");
    await userEvent.type(screen.getByLabelText("Bore then"), "3.4747");
    await userEvent.click(screen.getByRole("button", { name: "Keep it" }));
    const sent = asked.find((a) => a.method === "POST")?.body;
    expect(sent).toMatchObject({ at: "B1", on: "bore", strokes: 7, size: "3.4747" });
  });

  it("says stop once it is past", async () => {
    server({ "GET /builds/T-1/strokes": [log({ to_go: -T, left: null })] });
    show(<StrokesView build={build([station(1)])} unit="in" at="B1" />);
    expect(await screen.findByText("stop")).toBeVisible();
    expect(screen.getByText(/hold it against its window/)).toBeVisible();
  });
});

describe("the block", () => {
  it("names the part whose stack is off, and what a cut changes", async () => {
    const plan: Schemas["BlockPlan"] = {
      decks: [
        {
          at: "D1",
          corners: [84_020 * T, 84_130 * T, 84_040 * T, 84_025 * T],
          mean: 84_030 * T,
          twist: 3 * T,
          front_high: -11 * T,
          misread: { position: { axial: "front", angle: 180 }, by: 100 * T },
        },
      ],
      stacks: [
        {
          at: "B3",
          deck: "D1",
          missing: [],
          reckoned: 20 * T,
          measured: 120 * T,
          differs: 100 * T,
          explained: 9 * T,
          agrees: false,
          suspect: "crown",
        },
      ],
      tunnel: [{ at: "M3", angle: 0, gap: 5 * T, offset: null, step: null }],
      strokes: [{ at: "P1", stroke: 25_740 * T, longer: 6 * T }],
      index: [{ at: "P6", with: ["P1"], high: 20 * T, degrees: 0.09 }],
      changes: {
        clearance: 40 * T,
        least: { at: "B1", left: 80 * T },
        volume_cc: 0.62,
        axis: 0,
        chain: 0,
        backlash: 0,
      },
    };
    server({ "GET /builds/T-1/block": plan });
    show(<BlockView build={build([station(1)])} unit="in" width={616} />);
    const drawn = await screen.findByRole("img", { name: /D1 from its side/ });
    expect(drawn).toHaveAccessibleName("D1 from its side: B3 measured 0.0120, by its parts 0.0020.");
    expect(drawn).toHaveTextContent("8.4130right");
    expect(screen.getByText(/Touch the front, right corner again/)).toHaveTextContent("too high");
    expect(await screen.findByRole("row", { name: /^B3/ })).toHaveTextContent(
      "look at the compression height",
    );
    expect(screen.getByRole("row", { name: /^M3/ })).toHaveTextContent("housing sizes first");
    expect(screen.getByText(/rear/)).toHaveTextContent("0.0011");
    await userEvent.type(screen.getByLabelText("Off the deck"), "0.004");
    expect(await screen.findByText("Before it is ordered:")).toBeVisible();
  });
});
