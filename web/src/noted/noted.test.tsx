import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { NotedLines } from "../sheet/NotedLines";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { NotedTable } from "./NotedTable";

const BY = { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" };
const one = build([{ ...station(1), station: "B1", figure: "piston_to_wall" }]);

const column = (
  note: Schemas["Note"],
  unit: string | null,
  places: Schemas["NotePlace"][],
): Schemas["NoteColumn"] => ({ note, quantity: "weight", unit, places });

const WEIGHTS = [
  column("piston_weight", "g", [{ station: "B1", at: "W1" }]),
  column("rod_weight", "g", [{ station: "B1", at: "R1" }]),
];

/** A figure in force. */
function noted(note: Schemas["Note"], at: string, text: string, over?: string): Schemas["NotedView"] {
  const typed = text.split(" ")[0] ?? "";
  return { note, at, text, typed, limit: over ?? null, beyond: over !== undefined, by: BY, when: 0 };
}

const ofOne = (notes: Schemas["Note"][]) => (
  <NotedTable build={one} title="Weighed" of="Bore" stations={["B1"]} notes={notes} />
);

describe("what is weighed and poured", () => {
  it("stands in its cell, and is sent as typed by Enter alone", async () => {
    const notes = { columns: WEIGHTS, noted: [noted("rod_weight", "R1", "601.20 g")] };
    const asked = server({ "GET /builds/T-1/noted": notes, "POST /builds/T-1/noted": recorded(one) });
    show(ofOne(["piston_weight", "rod_weight"]));
    const rod = await screen.findByRole("textbox", { name: "Rod, g, R1" });
    expect(rod).toHaveValue("601.20");
    const piston = screen.getByRole("textbox", { name: "Piston, g, W1" });
    await userEvent.type(piston, "412,35");
    expect(asked.some((a) => a.method === "POST")).toBe(false);
    await userEvent.type(piston, "{enter}");
    await waitFor(() => expect(asked.some((a) => a.method === "POST")).toBe(true));
    expect(asked.find((a) => a.method === "POST")?.body).toMatchObject({
      note: "piston_weight",
      at: "W1",
      text: "412,35",
    });
    await userEvent.clear(rod);
    await userEvent.type(rod, "7{escape}");
    expect(rod).toHaveValue("601.20");
  });

  it("says why a figure was not taken", async () => {
    server({
      "GET /builds/T-1/noted": { columns: WEIGHTS, noted: [] },
      "POST /builds/T-1/noted": {
        status: 422,
        code: "bad_field",
        field: "text",
        detail: "a weight in grams, such as 412.35",
      },
    });
    show(ofOne(["piston_weight"]));
    await userEvent.type(await screen.findByRole("textbox", { name: "Piston, g, W1" }), "heavy{enter}");
    expect(await screen.findByText(/A weight in grams/)).toBeVisible();
    expect(screen.queryByRole("textbox", { name: /Rod/ })).toBeNull();
  });
});

describe("the surface of the journals", () => {
  const columns = [
    column("roughness", "\u00b5in", [
      { station: "M1", at: "M1" },
      { station: "P1", at: "P1" },
      { station: "R1", at: "P1" },
    ]),
    column("hardness", "HRC", [{ station: "P1", at: "P1" }]),
  ];
  const notes = {
    columns,
    noted: [
      noted("roughness", "M1", "6 \u00b5in"),
      noted("roughness", "P1", "12 \u00b5in", "8 \u00b5in"),
      noted("hardness", "P1", "52.5 HRC"),
    ],
  };

  it("is typed where there is such a thing, and what is too rough says beyond what", async () => {
    server({ "GET /builds/T-1/noted": notes });
    show(
      <NotedTable
        build={one}
        title="Surface"
        of="Journal"
        stations={["M1", "P1"]}
        notes={["roughness", "hardness"]}
      />,
    );
    const rough = await screen.findByRole("textbox", { name: "Ra, \u00b5in, P1" });
    expect(rough).toHaveValue("12");
    expect(rough).toHaveAccessibleDescription("over 8 \u00b5in");
    expect(screen.getByRole("textbox", { name: "Ra, \u00b5in, M1" })).not.toHaveAccessibleDescription();
    expect(screen.getAllByRole("textbox")).toHaveLength(3);
  });

  it("stands on the sheet with what else was noted, each kind once", async () => {
    server({ "GET /builds/T-1/noted": notes });
    show(<NotedLines build={one} />);
    const said = await screen.findByRole("region", { name: "Noted of the parts" });
    expect([...said.querySelectorAll("[data-noted-of]")].map((e) => e.textContent)).toEqual([
      "Ra, \u00b5inM16P112over 8 \u00b5in",
      "Hardness, HRCP152.5",
    ]);
  });

  it("is no word on the sheet where nothing was noted", async () => {
    const asked = server({ "GET /builds/T-1/noted": { columns, noted: [] } });
    show(<NotedLines build={one} />);
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(screen.queryByRole("region")).toBeNull();
  });
});
