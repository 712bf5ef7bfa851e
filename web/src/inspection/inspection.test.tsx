import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { server, show, showPage } from "../testing/screen";
import { ForcedChecks } from "./Forced";
import { Hypotheses } from "./Hypotheses";
import { InspectionPage } from "./InspectionPage";
import { MarksForm } from "./MarksForm";
import { Pictogram, SIGN_WORD } from "./pictograms";
import { unusableSentence } from "./words";

const BY = { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" };

function suggests(hypotheses: Schemas["Hypothesis"][], inspections: Schemas["InspectionView"][] = []) {
  const b = build([station(1), station(2)]);
  const shown = { ...b, inspections, assessment: { ...b.assessment, hypotheses } };
  show(<Hypotheses build={shown} />);
}

describe("eyes and fingernail", () => {
  it("draws every sign differently, and differently from an untouched part", () => {
    const signs = Object.keys(SIGN_WORD) as Schemas["Sign"][];
    // Heat is drawn alike on shells and journals: it is one sign by two names.
    const drawn = signs
      .filter((sign) => sign !== "heat_mark")
      .map((sign) => {
        const { container } = render(<Pictogram kind="shell" signs={[sign]} />);
        return container.innerHTML;
      });
    const { container } = render(<Pictogram kind="shell" signs={[]} />);
    expect(new Set([...drawn, container.innerHTML]).size).toBe(signs.length);
  });

  it("frames what stops a part, as the server says", () => {
    const { container } = render(<Pictogram kind="piston" signs={["edge_melted"]} stop />);
    const plain = render(<Pictogram kind="piston" signs={["edge_melted"]} />);
    expect(container.innerHTML).not.toBe(plain.container.innerHTML);
  });

  it("names every sign once", () => {
    const words = Object.values(SIGN_WORD);
    expect(new Set(words).size).toBe(words.length);
  });

  it("leads to the place where a check is measured", () => {
    suggests([
      {
        suspicion: "dirt_or_starvation",
        stations: ["M1", "M2"],
        confirm: [
          { by: "journal_size", minutes: 20, at: "M2", part: "journal" },
          { by: "oil_path", minutes: 30, found: "bad" },
        ],
        causes: [
          { cause: "dirt", share: 96 },
          { cause: "starved", share: 3, killed_by: "oil_path" },
        ],
      },
    ]);
    expect(screen.getByRole("link", { name: "journal size, M2" })).toHaveAttribute(
      "href",
      "/builds/T-1/bench/M2",
    );
    const path = screen.getByRole("button", { name: "Done: cleaning, oil path, the pump" });
    expect(path.closest("li")).toHaveTextContent("found bad");
    expect(screen.getByText(/killed by cleaning/)).toBeVisible();
  });

  it("says what a measured check says, also where that is nothing either way", () => {
    const tested = (says: Schemas["CheckSays"]) => ({ says, at: "B2", value: 209_000 });
    suggests([
      {
        suspicion: "scuffed_wall",
        stations: ["B2"],
        confirm: [
          { by: "piston_to_wall", at: "B2", tested: tested("leaves_open") },
          { by: "cylinder_size", at: "B2", tested: tested("kills") },
          { by: "ring_gap", at: "B2", tested: tested("confirms") },
        ],
        causes: [],
      },
    ]);
    const line = (name: RegExp) => screen.getByRole("link", { name }).closest("li");
    expect(line(/^piston to wall/)).toHaveTextContent(/off the other way, which leaves the question open/);
    expect(line(/^cylinder size/)).toHaveTextContent(/speaks against it/);
    expect(line(/^ring gaps/)).toHaveTextContent(/speaks for it/);
  });

  it("tells nothing looked at from nothing found", () => {
    suggests([]);
    expect(screen.getByText(/Nothing was looked at yet/)).toBeVisible();
  });
});

const LOOKS: Schemas["LookView"][] = [
  { part: "bore", places: ["B1", "B2"], signs: ["smooth", "pits", "crack"], stops: ["crack"] },
];

function forced(more: Partial<Schemas["Forced"]>): Schemas["Forced"] {
  return { because: { kind: "mishap", befell: "hydrolock" }, seq: 9, left: [], ...more };
}

describe("what befell an engine", () => {
  it("is told of one cylinder, and its checks are recorded as they are done", async () => {
    const b = build([station(1)]);
    const rod = forced({ check: "rod_alignment", at: "B2" });
    const seen = forced({ look: "rod", at: "B2", left: ["R2"] });
    const shown = { ...b, looks: LOOKS, assessment: { ...b.assessment, forced: [rod, seen] } };
    const asked = server({
      "POST /builds/T-1/checks": recorded(shown),
      "POST /builds/T-1/mishaps": recorded(shown),
      "POST /builds/T-1/mishaps/impact": { ended: [], clearances: [] },
    });
    show(<ForcedChecks build={shown} />);
    const list = screen.getByRole("list", { name: "Forced checks" });
    expect(list).toHaveTextContent(/Rod alignment, B2.*open/);
    expect(list).toHaveTextContent(/Rods looked at.*R2 left/);

    await userEvent.click(screen.getByRole("button", { name: "Done: Rod alignment, B2" }));
    await userEvent.click(screen.getByRole("radio", { name: "Bad: it is there" }));
    await userEvent.type(screen.getByLabelText("Why, and what was seen"), "two thou in six inches");
    await userEvent.click(screen.getByRole("button", { name: "Record it" }));
    const sent = () => asked.filter((a) => !a.path.endsWith("impact")).map((a) => a.body);
    expect(sent()[0]).toMatchObject({ check: "rod_alignment", at: "B2", found: "bad" });

    await userEvent.click(screen.getByRole("button", { name: "Something happened" }));
    await userEvent.type(await screen.findByLabelText("Why, and what was seen"), "hose off");
    await userEvent.click(screen.getByRole("button", { name: "Record it" }));
    await waitFor(() => expect(sent()[1]).toMatchObject({ befell: "hydrolock", at: null, note: "hose off" }));
  });
});

describe("the page of looks", () => {
  const b = build([station(1), station(2)]);
  const of: typeof b = {
    ...b,
    looks: [
      { part: "journal", places: ["M1", "M2"], signs: ["smooth", "groove", "crack"], stops: ["crack"] },
      {
        part: "hub",
        places: ["K1", "K2"],
        signs: ["smooth", "ring_slipped", "crack"],
        stops: ["ring_slipped"],
      },
      { part: "fasteners", places: ["M1", "M2", "D1"], signs: ["smooth", "galled"], stops: ["galled"] },
    ],
  };

  function opened(asked: Record<string, unknown> = {}) {
    const sent = server({ "GET /builds/T-1": of, ...asked });
    showPage(<InspectionPage />);
    return sent;
  }

  it("offers the trays that the engine has something on", async () => {
    opened();
    expect(await screen.findByRole("radio", { name: "Crank, shells" })).toBeChecked();
    expect(screen.getByRole("radio", { name: "Ends, pump, bolts" })).toBeVisible();
    expect(screen.queryByRole("radio", { name: "Rods, cylinders" })).toBeNull();
    await userEvent.click(screen.getByRole("radio", { name: "Ends, pump, bolts" }));
    expect(screen.getByRole("button", { name: "K1 damper, flywheel or rotor: not looked at" })).toBeVisible();
    // Studs and bolts of the mains and of the deck lie in rows of their own.
    expect(screen.getByText("Main fasteners")).toBeVisible();
    expect(screen.getByText("Deck fasteners")).toBeVisible();
  });

  it("goes from part to part by arrows and records a sign by its key", async () => {
    const sent = opened({ "POST /builds/T-1/inspections": recorded(of) });
    await userEvent.click(await screen.findByRole("radio", { name: "Ends, pump, bolts" }));
    await userEvent.click(screen.getByRole("button", { name: /^K1 damper/ }));
    await userEvent.keyboard("{ArrowRight}");
    expect(screen.getByRole("button", { name: /^K2 damper/ })).toHaveFocus();
    await userEvent.keyboard("2");
    await waitFor(() =>
      expect(sent.find((a) => a.method === "POST")?.body).toMatchObject({
        station: "K2",
        part: "hub",
        signs: ["ring_slipped"],
      }),
    );
  });
});

describe("what stops a part", () => {
  it("is said with its place only where that is another one", () => {
    const seen = { kind: "unusable", seen_on: "hub", sign: "ring_slipped" } as const;
    expect(unusableSentence(seen)).toBe("Damper, flywheel or rotor, ring slipped: not used as it is.");
    expect(unusableSentence({ ...seen, at: "K1" })).toMatch(/^K1 damper, flywheel/);
  });
});

describe("where a sign is", () => {
  it("keeps the marks there are when one is added, and reads no depth itself", async () => {
    const marks: Schemas["Mark"][] = [{ sign: "pits", along: "front", clock: null, depth: 152_400 }];
    const seen = { station: "B1", part: "bore", signs: ["pits"], marks, by: BY, at: 1 } as const;
    const kept = vi.fn();
    show(<MarksForm build={build([])} seen={{ ...seen, signs: [...seen.signs] }} onRecord={kept} />);
    expect(screen.getByRole("list", { name: "Marks" })).toHaveTextContent(/Pits\s*top.*deep/);
    await userEvent.type(screen.getByLabelText("Clock, degrees"), "90");
    await userEvent.type(screen.getByLabelText("How deep"), "0.004 in");
    await userEvent.click(screen.getByRole("button", { name: "Mark it" }));
    expect(kept).toHaveBeenCalledWith([
      { sign: "pits", along: "front", clock: null, depth: "152.4um" },
      { sign: "pits", along: null, clock: 90, depth: "0.004 in" },
    ]);
  });
});
