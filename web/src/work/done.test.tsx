import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Build, FigureAssessment, Schemas } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { WorkDialog } from "./WorkDialog";
import { WorkLog } from "./WorkLog";

const NOTHING = { ended: [], clearances: [] };
const main = station(1);
const cam: FigureAssessment = { ...main, station: "C2", journal_at: "C2", figure: "cam_clearance" };

function opened(of: FigureAssessment, answers: Record<string, unknown> = {}) {
  const one = build([main, ...(of === main ? [] : [of])]);
  const asked = server({
    "POST /builds/T-1/work/impact": NOTHING,
    "POST /builds/T-1/work": recorded(one),
    ...answers,
  });
  const closed = vi.fn();
  show(<WorkDialog build={one} station={of} onClose={closed} />);
  return { asked, closed, done: () => asked.find((a) => a.path === "/builds/T-1/work")?.body };
}

async function choose(work: string) {
  await userEvent.click(screen.getByRole("button", { name: /^What was done/ }));
  await userEvent.click(await screen.findByRole("option", { name: work }));
}

describe("what was done to a part", () => {
  it("is said by whoever did it: nothing is chosen before", () => {
    const { asked } = opened(main);
    expect(screen.getByRole("button", { name: "What was done: choose what was done" })).toBeVisible();
    expect(screen.getByRole("button", { name: "Record it" })).toBeDisabled();
    expect(asked).toEqual([]);
  });

  it("is recorded with its grits as they were typed, its minutes and a note", async () => {
    const { done, closed } = opened(main);
    await choose("Journal polished");
    expect(screen.getByText(/no gloves, no loose cloth/)).toBeVisible();
    await userEvent.type(screen.getByLabelText("Grits, coarse to fine"), "800, 1200/1500");
    await userEvent.type(screen.getByLabelText("Minutes"), "12");
    await userEvent.type(screen.getByLabelText("Why, and what was seen"), "half a tenth");
    await userEvent.click(screen.getByRole("button", { name: "Record it" }));
    await waitFor(() => expect(closed).toHaveBeenCalled());
    expect(done()).toMatchObject({
      work: "journal_polished",
      on: "M1",
      grits: [800, 1200, 1500],
      minutes: 12,
      note: "half a tenth",
      ticks: [],
    });
  });

  it("says first what it ends, without a word of the note", async () => {
    const { asked } = opened(main);
    await choose("Journal polished");
    await waitFor(() => expect(asked.some((a) => a.path.endsWith("/impact"))).toBe(true));
    expect(asked.find((a) => a.path.endsWith("/impact"))?.body).toMatchObject({
      work: "journal_polished",
      on: "M1",
      note: "asked",
      grits: [],
    });
  });

  it("is not called done before what shows in no figure was looked at", async () => {
    const { done } = opened(cam);
    await choose("Cam bush fitted");
    const record = screen.getByRole("button", { name: "Record it" });
    const ticks = screen.getAllByRole("checkbox");
    expect(record).toBeDisabled();
    for (const tick of ticks) await userEvent.click(tick);
    expect(record).toBeEnabled();
    await userEvent.type(screen.getByLabelText("Why, and what was seen"), "a new one");
    await userEvent.click(record);
    await waitFor(() => expect(done()).toMatchObject({ on: "C2" }));
  });

  it("keeps what was typed where it is refused", async () => {
    const refused = { status: 422, code: "bad_field", field: "note", detail: "say what was seen" };
    const { closed } = opened(main, { "POST /builds/T-1/work": refused });
    await choose("Journal polished");
    await userEvent.type(screen.getByLabelText("Minutes"), "5");
    await userEvent.click(screen.getByRole("button", { name: "Record it" }));
    const note = screen.getByLabelText("Why, and what was seen");
    await waitFor(() => expect(note).toHaveAccessibleDescription(/say what was seen/i));
    expect(screen.getByLabelText("Minutes")).toHaveValue("5");
    expect(closed).not.toHaveBeenCalled();
  });
});

describe("the log of what was done", () => {
  const line = (seq: number, kind: string): Build["decisions"][number] => ({
    id: `d${seq}`,
    seq,
    kind,
    text: `${kind} ${seq}`,
    by: { id: "x", name: "J. Wick" },
    at: 0,
  });

  it("has the latest first, the rest on demand, and nothing that ends no evidence", async () => {
    const kinds: Schemas["DecisionView"]["kind"][] = [
      "work",
      "target",
      "set_up",
      "work",
      "plan",
      "rules",
      "work",
    ];
    const one = { ...build([main]), decisions: kinds.map((kind, i) => line(i + 1, kind)) };
    render(<WorkLog build={one} />);
    const shown = () => screen.getAllByRole("listitem").map((li) => li.firstChild?.textContent);
    expect(shown()).toEqual(["work 7", "rules 6", "plan 5", "work 4"]);
    await userEvent.click(screen.getByRole("button", { name: "All 6" }));
    expect(shown()).toHaveLength(6);
    expect(screen.queryByText("target 2")).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Only the latest" }));
    expect(shown()).toHaveLength(4);
  });

  it("says how something gets in where there is nothing", () => {
    render(<WorkLog build={build([main])} />);
    expect(screen.getByText(/W at the bench records work/)).toBeVisible();
  });
});
