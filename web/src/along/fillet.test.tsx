import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { FigureAssessment, Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { FilletView } from "./FilletView";

const T = 2_540;

function edge(inset: number, room: number, more: Partial<Schemas["Edge"]> = {}): Schemas["Edge"] {
  const clears = room >= 20;
  return {
    inset: inset * T,
    flat: (inset + 300) * T,
    corner: 200 * T,
    room: room * T,
    corner_room: 138 * T,
    clears,
    ...more,
  };
}

function plan(more: Partial<Schemas["FilletPlan"]> = {}): Schemas["FilletPlan"] {
  return {
    at: "FP2",
    end: "front",
    radius: 900 * T,
    standoff: 0,
    wall: 613 * T,
    now: edge(450, -12),
    margin: 20 * T,
    beyond: null,
    take: 150 * T,
    after: edge(600, 138),
    passes: [
      { cut: 60 * T, dial: 60 * T },
      { cut: 60 * T, dial: 120 * T },
      { cut: 30 * T, dial: 150 * T },
    ],
    cost: null,
    mandrel: 21_160 * T,
    claimed: null,
    body: null,
    ...more,
  };
}

/** The second pin's fillets, the rear one the worse. */
function fillets(worst: "front" | "rear" = "front"): FigureAssessment {
  const of = station(2);
  const method = {
    method: "hard_over",
    ends: [
      { axial: "front", clearance: worst === "front" ? -12 * T : 140 * T },
      { axial: "rear", clearance: worst === "rear" ? -12 * T : 140 * T },
    ],
  };
  return { ...of, station: "FP2", figure: "fillet_room", methods: [method as Schemas["MethodResult"]] };
}

function showSection(answer: unknown, worst: "front" | "rear" = "front") {
  const asked = server({ "POST /builds/T-1/fillet": answer });
  show(<FilletView build={build([fillets(worst)])} station={fillets(worst)} unit="in" width={616} />);
  return asked;
}

describe("the section of a fillet", () => {
  it("begins at the worse end and tells the least that clears, pass by pass", async () => {
    const asked = showSection(plan());
    expect(await screen.findByText(/the least that clears/)).toBeVisible();
    expect(asked[0]?.body).toMatchObject({ at: "FP2", end: "front" });
    expect(screen.getByText(/Passes/)).toHaveTextContent("6.00 → 6.00, 6.00 → 12.00, 3.00 → 15.00");
    expect(screen.getByText(/Passes/)).toHaveTextContent("Mandrel 2.1160");
    expect(screen.getByRole("img", { name: /Section of the front fillet of FP2/ })).toBeVisible();
  });

  it("is printed for the lathe, cut by cut with a box to tick, and asks for the tape", async () => {
    const asked = showSection(plan());
    const print = vi.spyOn(window, "print").mockReturnValue();
    await userEvent.click(await screen.findByRole("button", { name: "Print for the lathe" }));
    expect(print).toHaveBeenCalledOnce();
    const paper = document.querySelector("[data-lathe=FP2]");
    expect(paper?.querySelectorAll("tbody tr")).toHaveLength(4);
    expect(paper).toHaveTextContent("Spares cut in the same set-up");
    await userEvent.type(screen.getByLabelText("Tape on the mandrel"), ".002");
    await vi.waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ tape: ".002" }));
  });

  it("asks for the end that decides", async () => {
    const asked = showSection(plan({ end: "rear" }), "rear");
    await screen.findByText(/the least that clears/);
    expect(asked[0]?.body).toMatchObject({ end: "rear" });
    await userEvent.click(screen.getByRole("radio", { name: "Front" }));
    expect(asked.at(-1)?.body).toMatchObject({ end: "front" });
  });

  it("computes what a narrow series claims, and sends the lead a loss of more than a tenth", async () => {
    const cost = { contact: 700 * T, lost: 177, load: 214, ask_the_lead: true };
    showSection(plan({ claimed: edge(550, -1), cost }));
    expect(await screen.findByText(/whatever its number says/)).toBeVisible();
    expect(screen.getByText(/the lead decides/)).toBeVisible();
    expect(screen.getByText(/load up by/)).toHaveTextContent("17.7 % less, load up by 21.4 %");
  });

  it("takes nothing where it clears, and says what the rod's own edge has", async () => {
    const body = { along: 650 * T, up: 650 * T, room: 13 * T, clears: false };
    showSection(plan({ now: edge(600, 138), take: 0, passes: [], body }));
    expect(await screen.findByText(/It clears as it is/)).toBeVisible();
    expect(screen.getByText(/rod's own edge/)).toHaveTextContent("less than is wanted");
    expect(screen.queryByText(/Passes/)).toBeNull();
  });

  it("shows what has to be measured first", async () => {
    showSection({ status: 409, code: "nothing_measured", detail: "measure the radius first" });
    expect(await screen.findByText(/measure the radius first/i)).toBeVisible();
  });
});
