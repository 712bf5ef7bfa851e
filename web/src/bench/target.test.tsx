import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { AimSum } from "./AimSum";
import { TargetDialog } from "./TargetDialog";

const T = 2_540;
const MADE = { sheet: 30 * T, adders: [{ why: "coating" as const, by: 3 * T }], covers: ["boost" as const] };

function showDialog() {
  const main = station(1);
  const target = main.target && {
    ...main.target,
    made_of: MADE,
    window: { low: 30 * T, aim: 33 * T, high: 36 * T },
  };
  const wall = { ...main, figure: "piston_to_wall" as const, station: "B1", row: "rods" as const, target };
  const b = build([wall]);
  const asked = server({ "GET /presets": { presets: [] }, "POST /builds/T-1/targets": recorded(b) });
  show(<TargetDialog build={b} station={wall} unit="in" onClose={vi.fn()} />);
  return asked;
}

describe("the target of a piston", () => {
  it("is sent with what its aim is made of, which the server adds up", async () => {
    const asked = showDialog();
    expect(screen.getByLabelText(/Smallest of the piston's sheet/)).toHaveValue("0.0030");
    expect(screen.getByLabelText("coating")).toHaveValue("0.0003");
    expect(screen.getByLabelText("The sheet is for boost already")).toBeChecked();
    await userEvent.type(screen.getByLabelText("long full load"), "0.0002");
    await userEvent.type(screen.getByLabelText("Why"), "long stages");
    await userEvent.click(screen.getByRole("button", { name: "Set the target" }));
    await waitFor(() => expect(asked.some((a) => a.path.endsWith("/targets"))).toBe(true));
    expect(asked.find((a) => a.path.endsWith("/targets"))?.body).toMatchObject({
      figure: "piston_to_wall",
      made_of: {
        sheet: "0.0030",
        factor: "",
        covers: ["boost"],
        adders: [
          { why: "long_full_load", by: "0.0002" },
          { why: "coating", by: "0.0003" },
        ],
      },
    });
  });

  it("is printed term by term", () => {
    const made = { ...MADE, per_million: 900, adders: [{ why: "cold_noise" as const, by: -2 * T }] };
    show(<AimSum made={made} aim={31 * T} unit="in" />);
    expect(document.querySelector("[data-aim-sum]")).toHaveTextContent(
      /Aim .*= the larger of sheet .* and 0.0009 of the bore \u2212 quiet when cold .*for boost already/,
    );
  });
});
