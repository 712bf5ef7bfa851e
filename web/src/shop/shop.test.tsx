import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { server, show } from "../testing/screen";
import { apprentice, lead } from "../testing/shop";
import { ShopPage } from "./ShopPage";

const ROLES: Schemas["RoleView"][] = [
  { name: "lead", capabilities: lead.capabilities, people: ["M. Harrow"], version: 3 },
  { name: "apprentice", capabilities: apprentice.capabilities, people: [], version: 5 },
];
const WINDOW: Schemas["PresetView"] = {
  figure: "oil_clearance",
  at: "main",
  name: "circuit",
  per_shaft: false,
  low: "0.0022",
  aim: "",
  high: "0.0028",
  answer: null,
} as never;
const PRESETS = { presets: [WINDOW], version: 2 };
const SHOP = { "GET /roles": ROLES, "GET /presets": PRESETS };

describe("what a role allows", () => {
  it("is turned over by whoever runs the shop, with the version that was seen", async () => {
    const asked = server({ ...SHOP, "PUT /roles/apprentice": ROLES });
    show(<ShopPage session={lead} />);
    const mark = await screen.findByRole("button", {
      name: "no: apprentice: Run the shop: people, roles, where targets start; remove builds",
    });
    expect(mark).toHaveAttribute("aria-pressed", "false");
    await userEvent.click(mark);
    await waitFor(() =>
      expect(asked.find((a) => a.method === "PUT")?.body).toEqual({
        capabilities: { ...apprentice.capabilities, run_shop: true },
        version: 5,
      }),
    );
  });

  it("is only read by the others, in words", async () => {
    server(SHOP);
    show(<ShopPage session={apprentice} />);
    expect(await screen.findByText("The lead changes what a role allows.")).toBeVisible();
    const table = await screen.findByRole("table", { name: "What each role allows" });
    expect(within(table).queryByRole("button")).toBeNull();
    expect(within(table).getAllByText("may").length).toBeGreaterThan(10);
    expect(within(table).getByText("nobody")).toBeVisible();
    expect(screen.queryByRole("navigation", { name: "The shop" })).toBeNull();
  });
});

describe("where targets start", () => {
  it("is kept as typed, with a window more, and left as it was on demand", async () => {
    const asked = server({ ...SHOP, "PUT /presets": PRESETS });
    show(<ShopPage session={lead} />);
    const low = await screen.findByRole("textbox", { name: "Oil clearance, mains, circuit: Low" });
    expect(screen.queryByRole("button", { name: "Keep the windows" })).toBeNull();
    await userEvent.clear(low);
    await userEvent.type(low, ".0021");
    await userEvent.click(screen.getByRole("button", { name: "Leave it" }));
    expect(low).toHaveValue("0.0022");
    await userEvent.click(
      screen.getByRole("button", { name: "Another window after Oil clearance, mains, circuit" }),
    );
    await userEvent.type(screen.getByRole("textbox", { name: "Oil clearance, mains, new: Use" }), "h");
    await userEvent.click(screen.getByRole("button", { name: "Keep the windows" }));
    await waitFor(() => expect(asked.some((a) => a.method === "PUT")).toBe(true));
    expect(asked.find((a) => a.method === "PUT")?.body).toMatchObject({
      version: 2,
      presets: [{ name: "circuit" }, { name: "h", low: "0.0022" }],
    });
  });

  it("says under its line what is wrong with a window", async () => {
    const wrong = {
      status: 422,
      code: "bad_field",
      field: "presets.0.high",
      detail: "the window has no width",
    };
    server({ ...SHOP, "PUT /presets": wrong });
    show(<ShopPage session={lead} />);
    const high = await screen.findByRole("textbox", { name: "Oil clearance, mains, circuit: High" });
    await userEvent.clear(high);
    await userEvent.type(high, ".002");
    await userEvent.click(screen.getByRole("button", { name: "Keep the windows" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("the window has no width");
    expect(high).toHaveAttribute("aria-invalid", "true");
  });
});

describe("the seals of the shop", () => {
  it("are all looked at when somebody asks, and hold", async () => {
    server({ ...SHOP, "POST /seals": { doubts: [], ledger: [], taken_over: 0, looked_at: 6, key: "4f2a" } });
    show(<ShopPage session={lead} />);
    await userEvent.click(await screen.findByRole("button", { name: "Look at every seal now" }));
    expect(await screen.findByText("All 6 builds are as they were signed.")).toBeVisible();
    expect(screen.getByText("Key 4f2a")).toBeVisible();
  });

  it("name what is wrong with their ledger, and what is older than it", async () => {
    const ledger = [
      { flaw: "missing", number: 7 },
      { flaw: "changed", number: 9 },
    ];
    server({ ...SHOP, "POST /seals": { doubts: [], ledger, taken_over: 2, looked_at: 6 } });
    show(<ShopPage session={lead} />);
    await userEvent.click(await screen.findByRole("button", { name: "Look at every seal now" }));
    expect(await screen.findByText("Line 7 is missing")).toBeVisible();
    expect(screen.getByText("Line 9 is not as it was written")).toBeVisible();
    expect(screen.getByText(/2 of the signatures are older than the ledger/)).toBeVisible();
  });

  it("name the build that cannot be read, and lead to its sheet", async () => {
    const doubts = [{ id: "x", code: "SL-042", kind: "unreadable", why: "fact 3 is no fact" }];
    server({ ...SHOP, "POST /seals": { doubts, ledger: [], taken_over: 0, looked_at: 6 } });
    show(<ShopPage session={lead} />);
    await userEvent.click(await screen.findByRole("button", { name: "Look at every seal now" }));
    expect(await screen.findByText("1 of 6 builds are not as they were signed.")).toBeVisible();
    expect(screen.getByRole("link", { name: "SL-042" })).toHaveAttribute("href", "/builds/SL-042/sheet");
    expect(screen.getByText(/fact 3 is no fact/)).toBeVisible();
  });
});
