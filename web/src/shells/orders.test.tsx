import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { GrindTape } from "./GrindTape";
import { OrderDialog } from "./OrderDialog";
import { Orders } from "./Orders";

const T = 2_540;
const BY = { id: "00000000-0000-4000-8000-000000000001", name: "M. Harrow" };

function item(at: string, more: Partial<Schemas["OrderItemStatus"]> = {}): Schemas["OrderItemStatus"] {
  const item = {
    station: at,
    job: "grind" as const,
    from: 21_238 * T,
    to: 21_138 * T,
    plus: 2 * T,
    minus: 2 * T,
    why: "ten under",
  };
  return { item, smallest: null, largest: null, state: null, ...more };
}

function order(
  step: Schemas["OrderStep"] | null,
  items: Schemas["OrderItemStatus"][],
): Schemas["OrderStatus"] {
  return {
    id: "00000000-0000-4000-8000-0000000000aa",
    order: {
      number: "T-1-1",
      shop: "the grinder",
      items: items.map((i) => i.item),
      fillet: null,
      finish: "0.2 um Ra",
      note: "crack test first",
    },
    by: BY,
    at: 0,
    step,
    step_at: null,
    items,
    accepted: items.every((i) => i.state === "in"),
  };
}

function withOrders(...orders: Schemas["OrderStatus"][]) {
  const b = build([station(1), station(2)]);
  return { ...b, assessment: { ...b.assessment, orders } };
}

afterEach(() => vi.unstubAllGlobals());

describe("work orders", () => {
  it("say what an order is for while there is none", () => {
    show(<Orders build={withOrders()} unit="in" />);
    expect(screen.getByText(/what comes back is measured against it/)).toBeVisible();
  });

  it("can be sent or withdrawn while only written, and only come back once sent", () => {
    const { unmount } = show(<Orders build={withOrders(order(null, [item("P1")]))} unit="in" />);
    expect(screen.getByRole("button", { name: "It was sent" })).toBeVisible();
    expect(screen.getByRole("button", { name: "Withdraw" })).toBeVisible();
    expect(screen.queryByRole("button", { name: "It came back" })).toBeNull();
    unmount();
    show(<Orders build={withOrders(order("sent", [item("P1")]))} unit="in" />);
    expect(screen.getByRole("button", { name: "It came back" })).toBeVisible();
    expect(screen.queryByRole("button", { name: "Withdraw" })).toBeNull();
  });

  it("tell feature by feature what came back", () => {
    const items = [
      item("P1", { state: "in" }),
      item("P2", { state: "tight" }),
      item("P3", { state: "loose" }),
      item("P4", { state: "edge" }),
      item("P5"),
    ];
    show(<Orders build={withOrders(order("returned", items))} unit="in" />);
    const said = (at: string) => within(screen.getByRole("row", { name: new RegExp(`^${at}`) }));
    expect(said("P1").getByText("accepted")).toBeVisible();
    expect(said("P2").getByText("refused: small")).toBeVisible();
    expect(said("P3").getByText("refused: large")).toBeVisible();
    expect(said("P4").getByText("not proven")).toBeVisible();
    expect(said("P5").getByText("measure it")).toBeVisible();
  });

  it("warn what becomes stale before the return is recorded", async () => {
    const b = withOrders(order("sent", [item("P1"), item("P2")]));
    const asked = server({
      [`POST /builds/T-1/orders/${b.assessment.orders[0]?.id}/steps`]: recorded(b),
    });
    show(<Orders build={b} unit="in" />);
    await userEvent.click(screen.getByRole("button", { name: "It came back" }));
    expect(screen.getByText("P1, P2 become stale.")).toBeVisible();
    await userEvent.type(screen.getByLabelText("What was said, or seen"), "ground");
    await userEvent.click(screen.getByRole("button", { name: "Record it" }));
    expect(asked[0]?.body).toMatchObject({ step: "returned", note: "ground" });
  });
});

describe("writing an order", () => {
  const ask = { row: "rods" as const, family: "CR" };

  it("asks for fillets and cautions only where a crank is ground", () => {
    const { unmount } = show(
      <OrderDialog
        build={withOrders()}
        ask={ask}
        choice={{ kind: "grind", undersize: 100 * T }}
        onClose={vi.fn()}
      />,
    );
    expect(screen.getByLabelText("Fillet radius to keep")).toBeVisible();
    expect(screen.getByText(/people qualified for it/)).toBeVisible();
    unmount();
    show(
      <OrderDialog
        build={withOrders()}
        ask={ask}
        choice={{ kind: "resize", stations: ["R1"] }}
        onClose={vi.fn()}
      />,
    );
    expect(screen.queryByLabelText("Fillet radius to keep")).toBeNull();
  });

  it("shows a refusal at its field and stays open", async () => {
    server({
      "POST /builds/T-1/orders": {
        status: 422,
        code: "bad_field",
        field: "shop",
        detail: "the other shop needs this",
      },
    });
    const onClose = vi.fn();
    show(<OrderDialog build={withOrders()} ask={ask} choice={{ kind: "bore_to_fit" }} onClose={onClose} />);
    await userEvent.click(screen.getByRole("button", { name: "Write it" }));
    expect(await screen.findByText("the other shop needs this")).toBeVisible();
    expect(onClose).not.toHaveBeenCalled();
  });
});

describe("the tape of a ground size", () => {
  it("says of every bearing where it lands and which are outside", () => {
    const at = (station: string, clearance: number, inside: boolean) => ({
      station,
      clearance: clearance * T,
      low: (clearance - 2) * T,
      high: (clearance + 2) * T,
      inside,
    });
    const grind: Schemas["GrindPlan"] = {
      undersize: 100 * T,
      size: 21_138 * T,
      against: "one_size_does_not_serve",
      chosen: false,
      bearings: [at("R1", 23, true), at("R2", 29, false)],
      estimate: { lines: [], minutes: 8 },
    };
    const m: Schemas["Machining"] = {
      target: { low: 20 * T, aim: 23 * T, high: 26 * T },
      tolerance: 2 * T,
      bearings: [],
      open: [],
      spread: 6 * T,
      room: 2 * T,
      grinds: [grind],
      bore: { size: 0, decided_by: "P1", bores: [], estimate: { lines: [], minutes: 0 } },
      polish: [],
      polish_limit: 3 * T,
      resize: [],
      per_grit: 8,
      per_grit_booked: false,
    };
    show(<GrindTape m={m} grind={grind} unit="in" />);
    expect(screen.getByRole("img")).toHaveAccessibleName("R1 0.0023; R2 0.0029 outside");
  });
});
