import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { NewBuild } from "./NewBuild";

const PRESETS = {
  version: 1,
  presets: [
    {
      figure: "oil_clearance",
      at: "main",
      name: "circuit",
      per_shaft: true,
      low: "0.00090",
      aim: "",
      high: "0.00110",
      window: [".0024", ".0026", ".0029"],
    },
  ],
};
const SHOP = { "GET /shop": { patterns: [] }, "GET /presets": PRESETS };

const type = (label: string | RegExp, text: string) => userEvent.type(screen.getByLabelText(label), text);

describe("a new build", () => {
  it("of an engine that nobody knew is sent as it was typed", async () => {
    const opened = vi.fn();
    const asked = server({ ...SHOP, "POST /builds": { ...build([station(1)]), code: "SL-050" } });
    show(<NewBuild runsShop={false} onClose={vi.fn()} onOpened={opened} />);
    await type("Name on the floor", "SL-050");
    await type("Engine", "Five mains");
    await type("Main journal, nominal (in)", "2.6240");
    await type("Pins stand at, from the front", "0 90 270 180");
    await type("Stroke (in)", "3.480");
    await type("Low", ".0022");
    await type("High", ".0028");
    await userEvent.click(screen.getByRole("button", { name: "Open the build" }));
    await waitFor(() => expect(opened).toHaveBeenCalledWith("SL-050"));
    expect(asked.find((a) => a.path === "/builds")?.body).toMatchObject({
      code: "SL-050",
      mains: 5,
      thrust: "M3",
      main_journal: "2.6240",
      throws: "0 90 270 180",
      stroke: "3.480",
      low: ".0022",
      aim: "",
      high: ".0028",
      pattern: null,
      keep_engine: false,
      rods: null,
    });
  });

  it("says of its cylinders what decides an oversize and a hot gap, once it has a bore", async () => {
    const asked = server({ ...SHOP, "POST /builds": { ...build([station(1)]), code: "SL-051" } });
    show(<NewBuild runsShop={false} onClose={vi.fn()} onOpened={vi.fn()} />);
    expect(screen.queryByLabelText("Oversize in it")).toBeNull();
    await type("Name on the floor", "SL-051");
    await type("Main journal, nominal (in)", "2.6240");
    await type(/^Bore/, "3.5050");
    await type("Oversize in it", ".030");
    await userEvent.click(screen.getByRole("button", { name: /^Pistons run on/ }));
    await userEvent.click(screen.getByRole("option", { name: "iron, or iron liners" }));
    await userEvent.click(screen.getByRole("button", { name: /^Banks/ }));
    await userEvent.click(screen.getByRole("option", { name: "two" }));
    await type("Degrees between", "60");
    await userEvent.click(screen.getByRole("button", { name: "Open the build" }));
    await waitFor(() =>
      expect(asked.find((a) => a.path === "/builds")?.body).toMatchObject({
        bore: "3.5050",
        present_oversize: ".030",
        wall: "iron",
        alloy: null,
        banks: 2,
        bank_angle: "60",
      }),
    );
  });

  it("takes its window from the use of the engine, worked out for the shaft by the server", async () => {
    const asked = server(SHOP);
    show(<NewBuild runsShop={false} onClose={vi.fn()} onOpened={vi.fn()} />);
    await type("Main journal, nominal (in)", "2.6240");
    await userEvent.click(await screen.findByRole("button", { name: "circuit" }));
    expect(screen.getByLabelText("Low")).toHaveValue(".0024");
    expect(screen.getByLabelText(/^Aim/)).toHaveValue(".0026");
    expect(screen.getByLabelText("High")).toHaveValue(".0029");
    expect(asked.every((a) => a.method === "GET")).toBe(true);
  });

  it("says beside its field what is wrong, and opens the same build when it is sent again", async () => {
    const wrong = { status: 422, code: "bad_field", field: "main_journal", detail: "that is no size" };
    const asked = server({ ...SHOP, "POST /builds": wrong });
    show(<NewBuild runsShop={false} onClose={vi.fn()} onOpened={vi.fn()} />);
    const journal = screen.getByLabelText("Main journal, nominal (in)");
    await userEvent.type(journal, "wide");
    const send = screen.getByRole("button", { name: "Open the build" });
    await userEvent.click(send);
    await waitFor(() => expect(journal).toHaveAccessibleDescription(/no size/));
    await userEvent.click(send);
    await waitFor(() => expect(asked.filter((a) => a.path === "/builds")).toHaveLength(2));
    const [first, second] = asked.filter((a) => a.path === "/builds").map((a) => a.body as { id: string });
    expect(first?.id).toBe(second?.id);
  });

  it("is kept as an engine of the shop by whoever runs it alone", async () => {
    server(SHOP);
    const { unmount } = show(<NewBuild runsShop={false} onClose={vi.fn()} onOpened={vi.fn()} />);
    expect(screen.queryByRole("checkbox")).toBeNull();
    unmount();
    const asked = server({ ...SHOP, "POST /builds": build([station(1)]) });
    show(<NewBuild runsShop onClose={vi.fn()} onOpened={vi.fn()} />);
    await userEvent.click(screen.getByRole("checkbox", { name: /knows this engine from now on/ }));
    await userEvent.click(screen.getByRole("button", { name: "Open the build" }));
    await waitFor(() =>
      expect(asked.find((a) => a.path === "/builds")?.body).toMatchObject({ keep_engine: true }),
    );
  });
});
