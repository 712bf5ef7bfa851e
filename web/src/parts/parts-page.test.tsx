import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, showPage } from "../testing/screen";
import { lead } from "../testing/shop";
import { PartsPage } from "./PartsPage";

const both = (at: string[]) => at.map((place) => ({ station: place, at: place }));
const NOTES: Schemas["NotesView"] = {
  columns: [
    { note: "roughness", quantity: "roughness", unit: "\u00b5m", places: both(["M1", "M2", "P1", "B1"]) },
    { note: "hardness", quantity: "hardness", unit: "HRC", places: both(["M1", "M2", "P1"]) },
  ],
  noted: [],
};

describe("the parts of an engine on rollers", () => {
  const crank = { part: "crank", stands: true, condemned: false, rows: [] };

  it("says that no shells run on its crank, and takes the surface of every journal all the same", async () => {
    server({
      "GET /builds/T-1": build([station(1)]),
      "GET /builds/T-1/cranks": [crank],
      "GET /builds/T-1/noted": NOTES,
    });
    showPage(<PartsPage session={lead} />);
    expect(await screen.findByText(/No shells run on it/)).toBeVisible();
    expect(screen.queryByRole("table", { name: "Cranks side by side" })).toBeNull();
    const cells = await screen.findAllByRole("textbox");
    expect(cells.map((c) => c.getAttribute("aria-label"))).toEqual([
      "Ra, \u00b5m, M1",
      "Hardness, HRC, M1",
      "Ra, \u00b5m, M2",
      "Hardness, HRC, M2",
      "Ra, \u00b5m, P1",
      "Hardness, HRC, P1",
    ]);
  });
});
