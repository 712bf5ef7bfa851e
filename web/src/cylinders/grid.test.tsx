import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { GridView } from "./GridView";

const T = 2_540;

describe("a bridge over a face", () => {
  it("shows where it stands high and whether that is flat, and sends what is typed as it is", async () => {
    const b = build([station(1)]);
    const by = { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" };
    const off = [
      [-2 * T, T],
      [T, 0],
    ];
    const grid = {
      at: "D1",
      when: 0,
      by,
      off,
      least_squares: 31 * T,
      minimum_zone: 30 * T,
      limit: 20 * T,
      flat: false,
    };
    const asked = server({ "GET /builds/T-1/grids": [grid], "POST /builds/T-1/grids": recorded(b) });
    show(<GridView build={b} unit="in" face="D1" />);
    expect(await screen.findByText(/Not flat/)).toBeVisible();
    expect(screen.getByRole("table", { name: "Places over the plane, D1" })).toHaveTextContent("+0.10");
    await userEvent.type(screen.getByLabelText("Place to place"), "3.0");
    await userEvent.type(screen.getByLabelText("Line to line"), "2.0");
    await userEvent.type(screen.getByLabelText(/What the bridge showed/), "0 .0004{enter}-.0002 .0012");
    await userEvent.click(screen.getByRole("button", { name: "Record the grid" }));
    await waitFor(() => expect(asked.some((a) => a.method === "POST")).toBe(true));
    expect(asked.find((a) => a.method === "POST")?.body).toMatchObject({
      at: "D1",
      along: "3.0",
      across: "2.0",
      readings: "0 .0004\n-.0002 .0012",
    });
  });

  it("offers its form where nothing was read yet", async () => {
    server({ "GET /builds/T-1/grids": [] });
    show(<GridView build={build([station(1)])} unit="mm" face="H1" />);
    expect(await screen.findByRole("button", { name: "Record the grid" })).toBeDisabled();
  });
});
