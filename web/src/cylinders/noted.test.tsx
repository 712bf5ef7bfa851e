import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { CylinderOrder } from "./CylinderOrder";
import { GaugePointView } from "./GaugePointView";
import { NotedView } from "./NotedView";

const BY = { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" };
const one = build([{ ...station(1), station: "B1", figure: "piston_to_wall" }]);

describe("what is weighed and poured", () => {
  it("stands in its cell, and is sent as typed by Enter alone", async () => {
    const notes = {
      columns: [
        { note: "piston_weight", at: "wrist_pin", quantity: "weight" },
        { note: "rod_weight", at: "rod", quantity: "weight" },
      ],
      noted: [{ note: "rod_weight", at: "R1", text: "601.20 g", typed: "601.20", by: BY, when: 0 }],
    };
    const asked = server({ "GET /builds/T-1/noted": notes, "POST /builds/T-1/noted": recorded(one) });
    show(<NotedView build={one} chosen="B1" />);
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
      "GET /builds/T-1/noted": {
        columns: [{ note: "piston_weight", at: "wrist_pin", quantity: "weight" }],
        noted: [],
      },
      "POST /builds/T-1/noted": {
        status: 422,
        code: "bad_field",
        field: "text",
        detail: "a weight in grams, such as 412.35",
      },
    });
    show(<NotedView build={one} chosen="B1" />);
    await userEvent.type(await screen.findByRole("textbox", { name: "Piston, g, W1" }), "heavy{enter}");
    expect(await screen.findByText(/A weight in grams/)).toBeVisible();
  });
});

describe("the gauge point of the pistons", () => {
  const notes = { columns: [], noted: [], gauge_point: null };

  it("is asked for while nobody said it, and sent as typed with its edge", async () => {
    const asked = server({
      "GET /builds/T-1/noted": notes,
      "POST /builds/T-1/gauge-point": recorded(one),
    });
    show(<GaugePointView build={one} unit="in" />);
    expect(await screen.findByText(/Not said yet/)).toBeVisible();
    expect(screen.getByRole("button", { name: "Say it" })).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Height"), ".500");
    await userEvent.click(screen.getByRole("button", { name: "Say it" }));
    await waitFor(() => expect(asked.some((a) => a.method === "POST")).toBe(true));
    expect(asked.find((a) => a.method === "POST")?.body).toMatchObject({
      from: "skirt_bottom",
      height: ".500",
      coating: "none",
    });
  });

  it("is drawn with the edge it is reckoned from", async () => {
    const point = { from: "skirt_bottom", height: 12_700_000, coating: "over", note: "sheet 4" };
    server({ "GET /builds/T-1/noted": { ...notes, gauge_point: point } });
    show(<GaugePointView build={one} unit="in" />);
    const said = await screen.findByText(/square to the pin; over the coating/);
    expect(said).toHaveTextContent("0.5000 up from the skirt's bottom");
    expect(said).toHaveTextContent("sheet 4");
    expect(screen.getByRole("img", { name: "Piston, measured up from the skirt's bottom" })).toBeVisible();
  });
});

describe("an order for cylinders", () => {
  it("is written with what the honer holds, and needs a shop", async () => {
    const asked = server({ "POST /builds/T-1/cylinder-orders": recorded(one) });
    show(<CylinderOrder build={one} tolerance=".0002" label="Order these bores" />);
    await userEvent.click(screen.getByRole("button", { name: "Order these bores" }));
    await userEvent.type(screen.getByLabelText("Which shop"), "the honer");
    await userEvent.click(screen.getByRole("button", { name: "Write it" }));
    await waitFor(() => expect(asked.some((a) => a.method === "POST")).toBe(true));
    const sent = asked.find((a) => a.method === "POST")?.body as Record<string, unknown>;
    expect(sent).toMatchObject({ shop: "the honer", tolerance: ".0002", oversize: null });
    expect(sent).not.toHaveProperty("fillet");
  });
});
