import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { CylinderOrder } from "./CylinderOrder";
import { GaugePointView } from "./GaugePointView";

const one = build([{ ...station(1), station: "B1", figure: "piston_to_wall" }]);

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
