import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { TargetRows } from "./TargetRows";

const ROWS: Schemas["TargetRowView"][] = [
  {
    figure: "oil_clearance",
    at: "main",
    window: ["0.0022", "0.0025", "0.0028"],
    version: 3,
    limits: "both",
    choices: [
      { name: "street", window: ["0.0020", "0.0024", "0.0028"] },
      { name: "race", window: ["0.0024", "0.0027", "0.0030"] },
    ],
  },
  {
    figure: "cylinder_round",
    at: "cylinder",
    window: null,
    version: 0,
    limits: "maximum",
    choices: [{ name: "race", window: ["0", "0.0001", "0.0003"] }],
  },
];

describe("the targets of every row", () => {
  it("are filled by use and sent together with one reason; what is empty stays as it is", async () => {
    const asked = server({
      "GET /builds/T-1/target-rows": ROWS,
      "POST /builds/T-1/target-rows": { seq: 9, again: false, changes: {} },
    });
    show(<TargetRows build={build([station(1)])} onClose={vi.fn()} />);
    expect(await screen.findByRole("row", { name: /Oil clearance/ })).toHaveTextContent(
      "0.0022\u20130.0028, aim 0.0025",
    );
    expect(screen.getByRole("button", { name: "Set targets" })).toBeDisabled();
    // One row alone is named after the street: that is no use of the engine.
    expect(screen.queryByRole("button", { name: "street" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "race" }));
    const round = screen.getByRole("row", { name: /cylinders/ });
    expect(within(round).getAllByRole("textbox")).toHaveLength(1);
    expect(within(round).getByRole("textbox")).toHaveValue("0.0003");
    await userEvent.clear(within(round).getByRole("textbox"));
    await userEvent.type(within(round).getByRole("textbox"), ".0004");
    await userEvent.type(screen.getByLabelText("Why"), "agreed at booking");
    await userEvent.click(screen.getByRole("button", { name: "Set 2 targets" }));
    await waitFor(() => expect(asked.filter((a) => a.method === "POST")).toHaveLength(1));
    const sent = asked.find((a) => a.method === "POST")?.body as Schemas["NewTargetRows"];
    expect(sent.reason).toBe("agreed at booking");
    expect(sent.rows).toMatchObject([
      { figure: "oil_clearance", at: "main", low: "0.0024", aim: "0.0027", high: "0.0030", version: 3 },
      { figure: "cylinder_round", at: "cylinder", high: ".0004", version: 0 },
    ]);
  });
});
