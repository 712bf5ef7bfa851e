import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { FAMILY, proposal, THIN } from "../testing/shells";
import { FitDialog } from "./FitDialog";
import { HotTable } from "./HotTable";
import { ListsDialog } from "./ListsDialog";
import { NumberReader } from "./NumberReader";
import { ProposalTapes } from "./ProposalTapes";
import { RodsToPins } from "./RodsToPins";
import { nextMark } from "./TrayForm";
import { TrayRack } from "./TrayRack";

const T = 2_540;
const ask = { family: "CM", undersize: 0, best: "closest" as const, mix: true, buy: true };

const engine = build([station(1), station(2)]);

afterEach(() => vi.unstubAllGlobals());

describe("fitting", () => {
  it("sends the pairs as they were seen, with what was booked", async () => {
    const asked = server({ "POST /builds/T-1/fittings": recorded(engine) });
    const onClose = vi.fn();
    show(<FitDialog build={engine} proposal={proposal()} ask={ask} onClose={onClose} />);
    await userEvent.type(screen.getByLabelText("Why, and what was seen"), "tight");
    await userEvent.type(screen.getByLabelText(/Minutes \(estimate 18 min\)/), "25");
    await userEvent.click(screen.getByRole("button", { name: "They are in" }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(asked[0]?.body).toMatchObject({
      ask,
      pairs: [{ station: "M2", upper: "std", lower: "+1" }],
      back: true,
      minutes: 25,
      note: "tight",
    });
  });

  it("waits for a set that has to come in first", () => {
    const picks = [
      {
        station: "M2",
        half: "lower" as const,
        class: "+1",
        from: { kind: "set" as const, part_number: "CMGN00" },
      },
    ];
    show(<FitDialog build={engine} proposal={proposal({ picks })} ask={ask} onClose={vi.fn()} />);
    expect(screen.getByRole("button", { name: "They are in" })).toBeDisabled();
    expect(screen.getByText(/has to come in first/)).toBeVisible();
  });
});

describe("pick and order", () => {
  it("lists halves as they come, each with where it comes from", () => {
    const pick = (at: string, half: "upper" | "lower", from: Schemas["PickFrom"]) => ({
      station: at,
      half,
      class: "+1",
      from,
    });
    const picks = [
      pick("M2", "upper", { kind: "shelf", place: "A3" }),
      pick("M2", "lower", { kind: "engine", station: "M5" }),
      pick("M6", "lower", { kind: "set", part_number: "CMGN00" }),
    ];
    const buy = [{ part_number: "CMGN00", sets: 1, price: 1_498_000 }];
    show(
      <ListsDialog
        build={engine}
        family={FAMILY}
        proposal={proposal({ picks, buy })}
        ask={ask}
        onClose={vi.fn()}
      />,
    );
    const rows = screen
      .getAllByRole("row")
      .slice(1)
      .map((r) => r.textContent);
    expect(rows).toEqual(["M2upper+1shelf A3", "M2lower+1out of M5", "M6lower+1order CMGN00"]);
    expect(screen.getByText("CMGN00").closest("li")).toHaveTextContent("149.80");
    expect(screen.getByRole("link", { name: "Order, CSV" })).toHaveAttribute(
      "href",
      `/api/v1/builds/T-1/shells/order.csv?ask=${encodeURIComponent(JSON.stringify(ask))}`,
    );
  });

  it("says when nothing has to be bought", () => {
    show(<ListsDialog build={engine} family={FAMILY} proposal={proposal()} ask={ask} onClose={vi.fn()} />);
    expect(screen.getByText("Nothing has to be bought.")).toBeVisible();
    expect(screen.queryByRole("link", { name: "Order, CSV" })).toBeNull();
  });
});

describe("another target", () => {
  it("is tried with the aim in hand, by arrow keys", async () => {
    const onMove = vi.fn();
    show(<ProposalTapes places={[THIN]} unit="in" width={340} rowHeight={44} moved={2} onMove={onMove} />);
    const aim = screen.getByRole("slider");
    expect(aim).toHaveAttribute("aria-valuetext", "aim 0.0025");
    aim.focus();
    await userEvent.keyboard("{ArrowRight}{ArrowRight}{ArrowLeft}{a}");
    expect(onMove.mock.calls).toEqual([[1], [1], [-1]]);
  });

  it("stays where it is without a hand to move it", () => {
    show(<ProposalTapes places={[THIN]} unit="in" width={340} rowHeight={44} />);
    expect(screen.queryByRole("slider")).toBeNull();
  });
});

describe("cold and hot", () => {
  it("names both schools and every assumption", () => {
    const assumptions = {
      block: "aluminium" as const,
      cap: "steel" as const,
      block_share: 50,
      housing_c: 100,
      journal_c: 100,
    };
    const growth = { allowance: null, expansion: { growth: 9 * T, assumptions } };
    const hot = { allowance: null, expansion: 33 * T };
    show(<HotTable places={[{ ...THIN, hot }]} growth={growth} unit="in" />);
    expect(screen.getByText("none stated")).toBeVisible();
    expect(
      screen.getByText(/50 % aluminium, the rest steel, housing at 212 °F and journal at 212 °F/),
    ).toBeVisible();
  });
});

describe("a part number", () => {
  it("is read group by group and held against the crank", async () => {
    const asked = server({
      "POST /shells/read-number": {
        family: "CM",
        name: "Curlew mains",
        decoded: {
          groups: [
            { letters: "K", means: { kind: "class", id: "-1" } },
            { letters: "25", means: { kind: "undersize", undersize: 100 * T } },
            { letters: "X", means: null },
          ],
          unread: "X",
          materials: [],
          traits: [],
        },
        conflicts: [
          { kind: "unread", letters: "X" },
          { kind: "lacks", needs: "dowel" },
          { kind: "undersize", number: 100 * T, measured: 0 },
        ],
      },
    });
    const check = { nominal: 26_240 * T, journals: [], undersize: 0, mixed: false };
    show(<NumberReader check={check} unit="in" />);
    await userEvent.type(screen.getByLabelText("Part number"), "C");
    expect(await screen.findByText("class -1")).toBeVisible();
    expect(screen.getByText("not in the table")).toBeVisible();
    expect(screen.getByText("This engine needs a dowel hole, and the number has none.")).toBeVisible();
    expect(screen.getByText(/the journals are standard: stop/)).toBeVisible();
    expect(asked[0]?.body).toEqual({ number: "C", measured: 0, mixed: false });
  });
});

describe("the tray", () => {
  it("marks go on by themselves", () => {
    expect(nextMark("A11")).toBe("A12");
    expect(nextMark("B9")).toBe("B10");
    expect(nextMark("blue")).toBe("");
  });

  it("says of every half where it goes, and lets go of one", async () => {
    const onRemove = vi.fn();
    const shells = [
      { mark: "A1", half: "upper" as const, wall: "0.0956" },
      { mark: "B1", half: "lower" as const, wall: "0.0957" },
    ];
    show(<TrayRack shells={shells} used={[{ mark: "A1", station: "M3" }]} onRemove={onRemove} />);
    expect(screen.getByText("M3")).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: "Take B1 off the tray" }));
    expect(onRemove).toHaveBeenCalledWith("B1");
  });
});

describe("rods to pins", () => {
  it("tells which rod runs where, also with two on a pin", () => {
    const rod = (name: string, now: string, pin: string): Schemas["AssignedRod"] => ({
      rod: name,
      part: name,
      to: name,
      bore: 21_262 * T,
      over_shells: true,
      now,
      clearance_now: 24 * T,
      pin,
      journal: 21_238 * T,
      clearance: 24 * T,
      inside: true,
      fixed: false,
    });
    show(
      <RodsToPins rods={[rod("R1", "P1", "P2"), rod("R2", "P1", "P1"), rod("R3", "P2", "P1")]} unit="in" />,
    );
    expect(screen.getByRole("img")).toHaveAccessibleName(
      "R1 on P2, 0.0024; R2 on P1, 0.0024; R3 on P1, 0.0024",
    );
  });
});
