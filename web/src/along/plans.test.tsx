import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Measured, Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { CamView } from "./CamView";
import { NarrowView } from "./NarrowView";

const T = 2_540;

const FACE: Schemas["FacePlan"] = {
  off: 40 * T,
  passes: [
    { cut: 20 * T, dial: 20 * T },
    { cut: 20 * T, dial: 40 * T },
  ],
};
const UNTOUCHED: Schemas["FacePlan"] = { off: 0, passes: [] };

function narrowing(more: Partial<Schemas["RodNarrowing"]> = {}): Schemas["RodNarrowing"] {
  const rods = [
    { rod: "R1", now: 9_400 * T, width: 9_360 * T, front: FACE, rear: UNTOUCHED },
    { rod: "R2", now: 9_400 * T, width: 9_360 * T, front: UNTOUCHED, rear: FACE },
  ];
  return {
    at: "S1",
    now: 60 * T,
    aim: 140 * T,
    removal: 80 * T,
    clearance: 140 * T,
    short: 0,
    rods,
    ...more,
  };
}

/** The sides of a pin that carries two rods. */
function sides() {
  const width = (place: string): Measured[] =>
    station(1)
      .measured.slice(0, 1)
      .map((m) => ({ ...m, place, role: "rod_width" }));
  return { ...station(1), station: "S1", measured: [...width("R1"), ...width("R2")] };
}

function showNarrowing(plan: unknown) {
  const asked = server({ "POST /builds/T-1/narrowing": plan });
  show(<NarrowView build={build([sides()])} station={sides()} unit="in" />);
  return asked;
}

describe("rods to narrow", () => {
  it("have their faces as rows, cut by cut, and their widths once", async () => {
    showNarrowing(narrowing());
    const cut = await screen.findByRole("row", { name: /R1 front/ });
    expect(cut).toHaveTextContent("2.00 → 2.00, 2.00 → 4.00");
    const whole = screen.getByRole("row", { name: /R1 rear/ });
    expect(whole).toHaveTextContent("none");
    expect(whole).toHaveTextContent("0.9360");
    expect(screen.getAllByRole("row")).toHaveLength(5);
    expect(screen.getByText(/Turn the fixture through by hand/)).toBeVisible();
  });

  it("say what is still missing when the faces give no more", async () => {
    showNarrowing(narrowing({ clearance: 110 * T, removal: 50 * T, short: 30 * T }));
    expect(await screen.findByText(/short of the aim/)).toHaveTextContent("3.00 thou short of the aim");
  });

  it("stay as they are when there is room", async () => {
    showNarrowing(narrowing({ removal: 0 }));
    expect(await screen.findByText(/nothing comes off/)).toBeVisible();
    expect(screen.queryByRole("table")).not.toBeInTheDocument();
  });

  it("are asked for their beams and for how far the banks stand apart", async () => {
    const asked = showNarrowing(narrowing());
    await screen.findByRole("table");
    expect(screen.getByLabelText("Beam of R1")).toHaveValue("");
    await userEvent.type(screen.getByLabelText("Bank offset"), "1");
    await userEvent.type(screen.getByLabelText("Beam of R2"), "2");
    await waitFor(() =>
      expect(asked.at(-1)?.body).toMatchObject({ at: "S1", bank_offset: "1", beams: ["", "2"] }),
    );
  });

  it("show why nothing can be planned", async () => {
    showNarrowing({ status: 422, code: "refused", detail: "R1 has no width yet" });
    expect(await screen.findByText(/R1 has no width yet/)).toBeVisible();
  });
});

function journal(more: Partial<Schemas["CamJournalPlan"]>): Schemas["CamJournalPlan"] {
  return {
    at: "C1",
    clearance: 25 * T,
    runout: 4 * T,
    room_now: 21 * T,
    room: 21 * T,
    outcome: "leave",
    removal: 0,
    size: 19_975 * T,
    after: 25 * T,
    ...more,
  };
}

function showCam(
  journals: Schemas["CamJournalPlan"][],
  open: string[] = [],
  trials: Schemas["TrialRead"][] = [],
) {
  const asked = server({ "GET /builds/T-1/cam": { journals, most: 50 * T, open, trials } });
  show(<CamView build={build([station(1)])} unit="in" chosen="C2" />);
  return asked;
}

describe("a cam in its bearings", () => {
  it("is polished where it is tight, and nowhere else", async () => {
    const tight = journal({ at: "C2", clearance: 12 * T, outcome: "polish_to_aim", removal: 13 * T });
    showCam([journal({}), tight]);
    expect(await screen.findByRole("row", { name: /^C2/ })).toHaveTextContent(
      /1\.30.*1\.9975polish to its aim/,
    );
    expect(screen.getByRole("row", { name: /^C1/ })).toHaveTextContent("leave it");
    expect(screen.getByText(/half of the hard skin stays/)).toHaveTextContent("At most 5.00");
  });

  it("is straightened first where it is bent, however tight its size looks", async () => {
    showCam([journal({ at: "C3", room_now: -3 * T, outcome: "straighten" })]);
    const row = await screen.findByRole("row", { name: /^C3/ });
    expect(row).toHaveTextContent("binds: bent");
    expect(screen.getByText(/straighten first/)).toHaveTextContent("C3 binds by the bend");
  });

  it("is claimed for before it is touched when it lies over its drawing", async () => {
    const over = { outcome: "polish_into_window" as const, removal: 5 * T, claim: 8 * T };
    showCam([journal({ at: "C2", ...over })], ["C4"]);
    expect(await screen.findByText(/First the claim/)).toBeVisible();
    expect(screen.getByText(/C2 lies 8 tenths over its drawing/)).toBeVisible();
    expect(screen.getByText(/C4: journal, bearing or window not known yet/)).toBeVisible();
  });

  it("says by each trial whether it drags by size or by a bend, and takes another one as a line of figures", async () => {
    const turn = [2600, 2100, 1200, 800].map((torque, i) => ({ angle: 90 * i, torque }));
    const trial: Schemas["TrialRead"] = {
      id: "t4",
      seq: 4,
      at: 0,
      by: { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" },
      turn,
      oiled: false,
      note: "as it went in",
      mean: 1738,
      first: 1000,
      ratio: 0.57,
      clock: 332,
      says: "bent",
    };
    const asked = showCam([journal({})], [], [trial]);
    const said = await screen.findByRole("listitem");
    expect(said).toHaveTextContent("Drags once a turn");
    expect(said).toHaveTextContent("Mean 1.74 N m, once a turn 1.00, ratio 0.57, most at 332°");
    expect(screen.getByRole("button", { name: "Keep the trial" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText(/Turned: torque/), "8 8 8 8 8 8 8 8");
    await userEvent.type(screen.getByLabelText("What was done before"), "C3 polished");
    await userEvent.click(screen.getByRole("radio", { name: "lb in" }));
    await userEvent.click(screen.getByRole("button", { name: "Keep the trial" }));
    await waitFor(() => expect(asked.some((a) => a.method === "POST")).toBe(true));
    expect(asked.find((a) => a.method === "POST")?.body).toMatchObject({
      torques: "8 8 8 8 8 8 8 8",
      unit: "lb in",
      oiled: true,
      note: "C3 polished",
    });
  });

  it("gets another bush where polishing would go too deep", async () => {
    showCam([journal({ outcome: "other_bush" })]);
    expect(await screen.findByRole("row", { name: /^C1/ })).toHaveTextContent("another bush");
  });
});
