import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { ForcedChecks } from "./Forced";
import { Hypotheses } from "./Hypotheses";
import { MarksForm } from "./MarksForm";
import { Pictogram, SIGN_WORD } from "./pictograms";

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

    await userEvent.click(screen.getByRole("button", { name: "Something befell it" }));
    await userEvent.type(await screen.findByLabelText("Why, and what was seen"), "hose off");
    await userEvent.click(screen.getByRole("button", { name: "Record it" }));
    await waitFor(() => expect(sent()[1]).toMatchObject({ befell: "hydrolock", at: null, note: "hose off" }));
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
