import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { WasherView } from "./WasherView";

const T = 2_540;

function side(name: string, growth: number): Schemas["WasherSide"] {
  return { class: growth === 0 ? null : name, name, thickness: 900 * T + growth, growth, lap: 0 };
}

function choice(
  front: number,
  rear: number,
  more: Partial<Schemas["WasherChoice"]> = {},
): Schemas["WasherChoice"] {
  const play = 110 * T - front - rear;
  const name = (growth: number) => (growth === 0 ? "std" : `+${growth / T / 10}`);
  return {
    front: side(name(front), front),
    rear: side(name(rear), rear),
    smallest: play,
    largest: play,
    expanded: 3 * T,
    state: play > 80 * T ? "loose" : "in",
    deviation: 0,
    shift: (front - rear) / 2,
    stands: null,
    sides_changed: [front, rear].filter((g) => g > 0).length,
    buy: [],
    cost: 0,
    leaves: [{ figure: "rod_side", at: "S4", now: 47 * T, left: 47 * T }],
    ...more,
  };
}

const bought = [{ class: "+2", part_number: "CT-2", halves: 2, price: 160_000 }];
const PROPOSAL: Schemas["WasherProposal"] = {
  seq: 9,
  now: choice(0, 0),
  target: { low: 50 * T, aim: 65 * T, high: 80 * T },
  choices: [choice(50 * T, 0), choice(20 * T, 20 * T, { buy: bought, cost: 160_000 }), choice(0, 0)],
  weighed: 9,
  inside: 3,
  tight: null,
  either_side: false,
};

function answer(proposal: Schemas["WasherProposal"]) {
  const washers = { id: "CT", name: "Curlew thrust", unit: "in" };
  server({
    "GET /washers": [{ washers, version: 1, shelf: [] }],
    "POST /builds/T-1/washers": proposal,
  });
}

describe("the washers of a thrust", () => {
  it("are rows, the best first, and only what lies on the shelf and fits can be taken", async () => {
    answer(PROPOSAL);
    show(<WasherView build={build([station(1)])} unit="in" width={616} />);
    const best = await screen.findByRole("radio", { name: /\+5 at the front, std at the rear/ });
    expect(best).toHaveAttribute("aria-checked", "true");
    expect(best).toHaveTextContent("2.50 fwd");
    expect(screen.getByText(/of 9 pairs 3 land inside/)).toHaveTextContent(
      /S4 has the least room beside its rods/,
    );
    const take = screen.getByRole("button", { name: "Take these washers" });
    expect(take).toBeEnabled();
    await userEvent.click(screen.getByRole("radio", { name: /2 halves to buy/ }));
    expect(take).toBeDisabled();
    await userEvent.click(screen.getByRole("radio", { name: /std at the front, std at the rear/ }));
    expect(take).toBeDisabled();
  });

  it("go in only when somebody has looked how they face", async () => {
    answer(PROPOSAL);
    show(<WasherView build={build([station(1)])} unit="in" width={616} />);
    await userEvent.click(await screen.findByRole("button", { name: "Take these washers" }));
    const fit = await screen.findByRole("button", { name: "They are in" });
    expect(fit).toBeDisabled();
    await userEvent.click(screen.getByLabelText(/Steel backs to the housing/));
    expect(fit).toBeDisabled();
    await userEvent.click(screen.getByLabelText(/Grooves open/));
    await waitFor(() => expect(fit).toBeEnabled());
  });

  it("say where metal comes off when none makes room", async () => {
    const tight = {
      total: 35 * T,
      first: "front" as const,
      off_first: 30 * T,
      off_second: 5 * T,
      short: 0,
      off_faces: false,
    };
    answer({ ...PROPOSAL, tight });
    show(<WasherView build={build([station(1)])} unit="in" width={616} />);
    expect(await screen.findByText(/no washer makes room/)).toBeVisible();
    expect(screen.getByText(/carries no load/)).toHaveTextContent("3.00 thou at the front");
    expect(screen.getByText(/carries no load/)).toHaveTextContent("off the steel backs");
  });

  it("are taken off the faces of flanged shells, and the stand of the crank is asked where sides are alike", async () => {
    const tight = { total: 5 * T, first: "front" as const, off_first: 5 * T, off_second: 0, short: 1 * T };
    answer({ ...PROPOSAL, tight: { ...tight, off_faces: true }, either_side: true });
    show(<WasherView build={build([station(1)])} unit="in" width={616} />);
    expect(await screen.findByText(/carries no load/)).toHaveTextContent(
      /off the bearing faces.*ground apart/,
    );
    expect(screen.getByText(/where does the crank stand/)).toBeVisible();
  });

  it("are named by what they have to be where no box of them is on the shelf", async () => {
    server({
      "GET /washers": [],
      "GET /builds/T-1/thrust-need": {
        seq: 9,
        play: [110 * T, 113 * T],
        target: PROPOSAL.target,
        growth: 46.5 * T,
        within: [33 * T, 60 * T],
      },
    });
    show(<WasherView build={build([station(1)])} unit="in" width={616} />);
    expect(await screen.findByText(/4.65 thou thicker/)).toBeVisible();
    expect(screen.getByText(/lands inside/)).toHaveTextContent("from 3.30 thou thicker to 6.00 thou thicker");
  });

  it("are picked from their place, and what is not there is ordered and comes in", async () => {
    const washers = { id: "CT", name: "Curlew thrust", unit: "in", halves: 2 };
    const asked = server({
      "GET /washers": [{ washers, form: {}, shelf: [{ class: "+5", count: 2, place: "T2" }] }],
      "POST /builds/T-1/washers": PROPOSAL,
      "POST /washers/CT/moves": {},
    });
    show(<WasherView build={build([station(1)])} unit="in" width={616} />);
    expect(await screen.findByText(/S4 has the least room beside its rods: 4.70 a cheek/)).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: "Pick and order" }));
    expect(await screen.findByRole("row", { name: /^front \+5/ })).toHaveTextContent("shelf T2");
    expect(screen.getByText("Nothing has to be bought.")).toBeVisible();
    await userEvent.keyboard("{Escape}");
    await userEvent.click(await screen.findByRole("radio", { name: /2 halves to buy/ }));
    await userEvent.click(screen.getByRole("button", { name: "Pick and order" }));
    await userEvent.click(await screen.findByRole("button", { name: "It came in" }));
    const sent = asked.find((a) => a.path === "/washers/CT/moves")?.body;
    expect(sent).toMatchObject({ class: "+2", kind: "received", by: 2, reason: "ordered for T-1" });
  });
});
