import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { ImportReadings } from "./ImportReadings";

const one = build([station(1)]);
const FILE = new File(["station,reading\nM1,2.6238\nM9,2.6238\n"], "mains.csv", { type: "text/csv" });
const ROWS = [
  { line: 2, place: "M1 journal", reading: "2.6238", size: 66_644_520 },
  { line: 3, place: "M9", reading: "2.6238", problem: "there is no M9 on this engine" },
];

async function chosen(file: File) {
  await userEvent.click(screen.getByRole("button", { name: "Readings from a file" }));
  const dialog = await screen.findByRole("dialog");
  await userEvent.upload(within(dialog).getByLabelText("Choose a file"), file);
  return dialog;
}

describe("readings from a file", () => {
  it("are shown row by row before anything is kept, and only the good ones are kept", async () => {
    const asked = server({
      "POST /builds/T-1/readings/preview": { good: 1, bad: 1, rows: ROWS },
      "POST /builds/T-1/readings/import": recorded(one),
    });
    show(<ImportReadings build={one} />);
    const dialog = await chosen(FILE);
    expect(await within(dialog).findByText("mains.csv: 1 row would be kept, 1 is wrong.")).toBeVisible();
    expect(within(dialog).getByText("there is no M9 on this engine")).toBeVisible();
    expect(asked.every((a) => a.path.endsWith("/preview"))).toBe(true);
    await userEvent.click(within(dialog).getByRole("button", { name: "Keep 1" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(asked.at(-1)).toMatchObject({
      path: "/builds/T-1/readings/import",
      body: { csv: await FILE.text(), only_good: true, unit: "in" },
    });
  });

  it("that are all wrong cannot be kept", async () => {
    server({ "POST /builds/T-1/readings/preview": { good: 0, bad: 1, rows: ROWS.slice(1) } });
    show(<ImportReadings build={one} />);
    const dialog = await chosen(FILE);
    expect(await within(dialog).findByText(/0 rows would be kept/)).toBeVisible();
    expect(within(dialog).queryByRole("button", { name: /^Keep \d/ })).toBeNull();
    await userEvent.click(within(dialog).getByRole("button", { name: "Keep nothing" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("say why a file is no file of readings", async () => {
    server({
      "POST /builds/T-1/readings/preview": {
        status: 422,
        code: "unsound",
        detail: "the first line names no columns",
      },
    });
    show(<ImportReadings build={one} />);
    const dialog = await chosen(FILE);
    expect(await within(dialog).findByRole("alert")).toHaveTextContent("The first line names no columns");
  });
});
