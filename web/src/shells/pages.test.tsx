import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { build, judged, recorded, station } from "../testing/build";
import { type Asked, server, showPage } from "../testing/screen";
import { FAMILY_VIEW, proposal } from "../testing/shells";
import { CrankPage } from "./CrankPage";
import { MachiningPage } from "./MachiningPage";
import { ShellsPage } from "./ShellsPage";
import { TrayPage } from "./TrayPage";

const T = 2_540;
/** A main whose journal is measured, with the figure over its shells. */
function measured(number: number, figure: Schemas["Judged"]) {
  const open = station(number, figure);
  return { ...open, measured: open.measured.map((m) => ({ ...m, complete: m.role === "journal" })) };
}

const engine = build([measured(1, judged(25, "in", 3)), measured(2, judged(19, "tight", -3)), station(3)]);
const known = { "GET /builds/T-1": engine, "GET /shells": [FAMILY_VIEW] };

afterEach(() => vi.unstubAllGlobals());

/** The last body that was sent there. */
function last(asked: Asked[], path: string) {
  return asked.filter((a) => a.path === path).at(-1)?.body;
}

describe("the choice of shells", () => {
  const answers = { ...known, "POST /builds/T-1/shells": proposal() };

  it("answers every what-if by a key", async () => {
    const asked = server(answers);
    showPage(<ShellsPage />);
    await screen.findByText("Why nothing beats it");
    const sent = () => last(asked, "/builds/T-1/shells");
    expect(sent()).toMatchObject({ family: "CM", undersize: 0, mix: true, buy: true, moved: 0 });
    await userEvent.keyboard("m");
    await waitFor(() => expect(sent()).toMatchObject({ mix: false }));
    await userEvent.keyboard("p");
    await waitFor(() => expect(sent()).toMatchObject({ buy: false }));
    await userEvent.keyboard("]]]");
    await waitFor(() => expect(sent()).toMatchObject({ moved: 3 }));
    await userEvent.keyboard("[[");
    await waitFor(() => expect(sent()).toMatchObject({ moved: 2 }));
    // The second bearing keeps its pair.
    await userEvent.keyboard("{ArrowDown}k");
    await waitFor(() => expect(sent()).toMatchObject({ kept: ["M2"] }));
    await userEvent.click(screen.getByRole("button", { name: "Use +1" }));
    await waitFor(() => expect(sent()).toMatchObject({ without: ["+1"] }));
    await userEvent.click(screen.getByRole("button", { name: "Coat them" }));
    await waitFor(() => expect(sent()).toMatchObject({ coating: "-0.0005" }));
  });

  it("lists and fits by a key, and leaves keys alone while something is typed", async () => {
    server(answers);
    showPage(<ShellsPage />);
    await screen.findByText("Why nothing beats it");
    await userEvent.keyboard("l");
    expect(await screen.findByText("Pick, in bench order")).toBeVisible();
    await userEvent.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByText("Pick, in bench order")).toBeNull());
    await userEvent.keyboard("f");
    const note = await screen.findByLabelText("Why, and what was seen");
    await userEvent.type(note, "loose lower mop");
    expect(note).toHaveValue("loose lower mop");
  });

  it("offers nothing to fit where everything stays", async () => {
    const stays = proposal({ places: proposal().places.map((p) => ({ ...p, changes: false })) });
    server({ ...known, "POST /builds/T-1/shells": stays });
    showPage(<ShellsPage />);
    await screen.findByText("Why nothing beats it");
    expect(screen.queryByRole("button", { name: "Fit these" })).toBeNull();
    await userEvent.keyboard("f");
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("says why nothing is proposed", async () => {
    const refused = {
      status: 422,
      code: "wrong_family",
      detail: "M1's journal does not belong to these shells",
    };
    server({ ...known, "POST /builds/T-1/shells": refused });
    showPage(<ShellsPage />);
    expect(await screen.findByRole("alert")).toHaveTextContent("M1's journal does not belong");
  });

  it("says what remedies help a bearing that stays outside", async () => {
    const remedies = {
      places: [{ station: "M2", wants: 6 * T, housing: 28_156 * T }],
      grind: { undersize: 100 * T, size: 26_138 * T },
    };
    server({ ...known, "POST /builds/T-1/shells": proposal({ outside: 1, remedies }) });
    showPage(<ShellsPage />);
    const box = (await screen.findByText("One bearing stays outside.")).parentElement as HTMLElement;
    expect(box).toHaveTextContent("M2 wants 6 tenths more: housing at 2.8156");
    expect(box).toHaveTextContent("Ground to 2.6138 for shells 0.0100 under, all come inside.");
  });
});

describe("the crank", () => {
  const journal = (at: string, more: Partial<Schemas["JournalCheck"]>): Schemas["JournalCheck"] => ({
    station: at,
    journal_at: at,
    measured: 26_238 * T,
    undersize: 0,
    catalogue: 26_240 * T,
    worn: 2 * T,
    stamp: null,
    stamped: null,
    says: "agrees",
    ...more,
  });
  const check = (more: Partial<Schemas["FamilyCheck"]>): Schemas["FamilyCheck"] => ({
    nominal: 26_240 * T,
    journals: [journal("M1", {})],
    undersize: 0,
    mixed: false,
    ...more,
  });

  it("is stopped before ordering when its journals are of different undersizes", async () => {
    server({ ...known, "GET /builds/T-1/shells/check": check({ undersize: null, mixed: true }) });
    showPage(<CrankPage />);
    expect(await screen.findByText(/Stop before shells are ordered/)).toBeVisible();
  });

  it("sets stamp against measurement, and the measurement wins", async () => {
    const differs = journal("M1", { stamp: "CMGS25", stamped: 100 * T, says: "stamp_differs" });
    const asked = server({
      ...known,
      "GET /builds/T-1/shells/check": check({ journals: [differs, journal("M2", { stamp: "worn off" })] }),
      "POST /builds/T-1/stamps": recorded(engine),
    });
    showPage(<CrankPage />);
    const m1 = within(await screen.findByRole("row", { name: /^M1/ }));
    expect(m1.getByText("stamp differs: the measurement wins")).toBeVisible();
    expect(within(screen.getByRole("row", { name: /^M2/ })).getByText("cannot be read")).toBeVisible();
    const stamp = m1.getByLabelText("Stamp of M1's old shells");
    await userEvent.clear(stamp);
    await userEvent.type(stamp, "STD{Enter}");
    await waitFor(() =>
      expect(last(asked, "/builds/T-1/stamps")).toMatchObject({ stamps: [{ station: "M1", text: "STD" }] }),
    );
  });
});

describe("machining", () => {
  const plan: Schemas["Machining"] = {
    target: { low: 22 * T, aim: 25 * T, high: 28 * T },
    tolerance: 2 * T,
    bearings: ["M1", "M2"].map((at) => ({
      station: at,
      journal_at: at,
      journal: 26_238 * T,
      smallest: 26_237 * T,
      clean_up: 2 * T,
      runout: { by: 0, from: "nothing" as const },
      damage: { by: 15 * T, from: "ordered" as const },
      over_std: 26_263 * T,
      over_shells: true,
    })),
    open: [],
    spread: T,
    room: 2 * T,
    grinds: [0, 100].map((undersize) => ({
      undersize: undersize * T,
      size: (26_238 - undersize) * T,
      against: undersize === 0 ? ("does_not_clean_up" as const) : null,
      chosen: undersize === 100,
      bearings: [{ station: "M1", clearance: 25 * T, low: 23 * T, high: 27 * T, inside: true }],
      estimate: { lines: [], minutes: 12 },
    })),
    bore: {
      size: 26_230 * T,
      decided_by: "M2",
      bores: [{ station: "M1", to: 26_255 * T }],
      estimate: { lines: [], minutes: 16 },
    },
    polish: [
      { station: "M2", from: 26_239 * T, to: 26_233 * T, possible: false, ladder: [1600], minutes: 12 },
      {
        station: "M4",
        from: 26_239 * T,
        to: 26_237 * T,
        possible: true,
        ladder: [400, 800, 1600],
        minutes: 32,
      },
    ],
    polish_limit: 3 * T,
    resize: [],
    per_grit: 8,
    per_grit_booked: false,
  };

  it("sends damage and tolerance as they are typed, and writes the order of the plan", async () => {
    const asked = server({ ...known, "POST /builds/T-1/machining": plan });
    showPage(<MachiningPage />);
    await screen.findByText("the smallest that does");
    expect(screen.getByText("does not clean up")).toBeVisible();
    expect(screen.getByText(/more than a polish takes off/)).toBeVisible();
    expect(screen.getByText(/M4: 400, 800, 1600, then paste/)).toHaveTextContent(/measure M4 again/);
    expect(screen.getByText(/Allowed for/).parentElement).toHaveTextContent(
      /M1 1.5 thou of damage a side, as its open order allows/,
    );
    expect(screen.getByLabelText("M2")).toHaveAttribute("placeholder", "0.0015");
    await userEvent.type(screen.getByLabelText("Held to ±"), ".0001");
    await userEvent.type(screen.getByLabelText("M2"), ".003");
    await userEvent.click(screen.getByRole("button", { name: "M1", pressed: false }));
    await waitFor(() =>
      expect(last(asked, "/builds/T-1/machining")).toMatchObject({
        row: "mains",
        family: "CM",
        tolerance: ".0001",
        damage: [{ station: "M2", depth: ".003" }],
        without: ["M1"],
      }),
    );
    const ten = screen.getByRole("row", { name: /the smallest that does/ });
    await userEvent.click(within(ten).getByRole("button", { name: "Write the order" }));
    expect(await screen.findByText("Order: grind all to one size")).toBeVisible();
  });

  it("asks nothing of an engine on rollers, and shows its orders all the same", async () => {
    const engine = build([station(1)]);
    const asked = server({
      ...known,
      "GET /builds/T-1": { ...engine, layout: { ...engine.layout, rollers: true } },
    });
    showPage(<MachiningPage />);
    expect(await screen.findByText(/nothing is ground or bored for shells/)).toBeVisible();
    expect(screen.getByRole("region", { name: "Work orders" })).toBeVisible();
    expect(screen.queryByLabelText("Held to ±")).toBeNull();
    expect(screen.queryByRole("link", { name: "Tray" })).toBeNull();
    expect(last(asked, "/builds/T-1/machining")).toBeUndefined();
  });

  it("keeps its fields while what is typed in them cannot be read", async () => {
    const refused = { status: 422, code: "bad_field", field: "damage", detail: '"." is no length' };
    server({ ...known, "POST /builds/T-1/machining": refused });
    showPage(<MachiningPage />);
    const depth = await screen.findByLabelText("M2");
    await userEvent.type(depth, ".");
    expect(await screen.findByRole("alert")).toHaveTextContent("is no length");
    await userEvent.type(depth, "003");
    expect(screen.getByLabelText("M2")).toHaveValue(".003");
  });

  it("does not blame the tunnel for journals that do not clean up", async () => {
    const against = "does_not_clean_up" as const;
    const grinds = plan.grinds.map((g) => ({ ...g, against, chosen: false }));
    server({ ...known, "POST /builds/T-1/machining": { ...plan, grinds } });
    showPage(<MachiningPage />);
    expect((await screen.findAllByText("does not clean up")).length).toBe(2);
    expect(screen.queryByText("No grind serves all.")).toBeNull();
  });

  it("lets a bearing back in when all were put right another way", async () => {
    server({ ...known, "POST /builds/T-1/machining": { ...plan, grinds: [] } });
    showPage(<MachiningPage />);
    await screen.findByText(/no undersize can be planned/);
    expect(screen.getByRole("button", { name: "M1", pressed: false })).toBeVisible();
  });

  it("orders no grind while a journal is not measured", async () => {
    server({ ...known, "POST /builds/T-1/machining": { ...plan, polish: [], open: ["M3"] } });
    showPage(<MachiningPage />);
    expect(await screen.findByText(/a crank is ground as a whole/)).toBeVisible();
    expect(screen.queryByRole("button", { name: "Write the order" })).toBeNull();
  });
});

describe("the tray page", () => {
  const view: Schemas["TrayView"] = {
    version: 4,
    tray: { row: "mains", gauge: "ball", shells: [{ mark: "A1", half: "upper", wall: 956 * T }] },
    typed: [{ mark: "A1", half: "upper", wall: "0.0956" }],
    proposal: null,
    why_not: "the tray has fewer uppers or lowers than there are housings",
  };

  it("takes halves by Enter, goes on with the next mark and keeps the whole tray", async () => {
    const asked = server({
      ...known,
      "GET /builds/T-1/tray": view,
      "POST /builds/T-1/tray": recorded(engine),
    });
    showPage(<TrayPage />);
    expect(await screen.findByText(/Nothing is chosen: the tray has fewer/)).toBeVisible();
    expect(screen.getByRole("button", { name: "Keep this tray" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Mark"), "B1");
    await userEvent.type(screen.getByLabelText("Wall, at the middle"), ".0957{Enter}");
    expect(screen.getByLabelText("Mark")).toHaveValue("B2");
    await userEvent.click(screen.getByRole("button", { name: "Keep this tray" }));
    await waitFor(() =>
      expect(last(asked, "/builds/T-1/tray")).toMatchObject({
        version: 4,
        gauge: "ball",
        shells: [
          { mark: "A1", half: "upper", wall: "0.0956" },
          { mark: "B1", half: "upper", wall: ".0957" },
        ],
      }),
    );
  });
});
