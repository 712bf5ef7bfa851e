import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { proposal, proposed, THIN } from "../testing/shells";
import { moneyText, waysText } from "./money";
import { ProposalTapes } from "./ProposalTapes";
import { Reasons } from "./Reasons";

const T = 2_540;
function reasons(closest: Schemas["Proposal"], thriftiest: Schemas["Proposal"]) {
  const onBest = vi.fn();
  const ask = { mix: true, buy: true, kept: [], without: [], coating: "", moved: 0 };
  render(
    <Reasons
      closest={closest}
      thriftiest={thriftiest}
      best="closest"
      ask={ask}
      family={undefined}
      coating=""
      hot={undefined}
      onHot={vi.fn()}
      unit="in"
      onBest={onBest}
      onAsk={vi.fn()}
      onWithout={vi.fn()}
    />,
  );
  return onBest;
}

describe("why these shells", () => {
  it("tells the proof, what binds and what fitting makes stale", () => {
    reasons(proposal(), proposal());
    expect(screen.getByText(/Best of all 117.649 ways, gap 0/)).toHaveTextContent(
      "M2 binds: 1 tenth off aim",
    );
    expect(screen.getByText(/Fitting makes M2 predicted/)).toBeVisible();
  });

  it("never calls an answer the best that was not proven", () => {
    reasons(proposal({ proven: false, gap: 2 * T }), proposal());
    expect(screen.queryByText("Why nothing beats it")).toBeNull();
    expect(screen.getByText(/might still shrink by 2 tenths/)).toBeVisible();
  });

  it("sets both objectives side by side with what they cost", async () => {
    const buy = [{ part_number: "CMN00", sets: 1, price: 1_498_000 }];
    const onBest = reasons(proposal({ cost: 1_498_000, buy }), proposal({ outside: 1 }));
    expect(screen.getByRole("row", { name: /Closest to aim/ })).toHaveTextContent("149.80");
    expect(screen.getByRole("row", { name: /Least to buy/ })).toHaveTextContent("none");
    expect(screen.getByText("CMN00")).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: /Least to buy/ }));
    expect(onBest).toHaveBeenCalledWith("thriftiest");
  });
});

describe("stacked tapes", () => {
  it("say what stays and what moves from where to where", () => {
    render(<ProposalTapes places={[proposed("M1"), THIN]} unit="in" width={340} rowHeight={44} />);
    expect(screen.getByRole("img")).toHaveAccessibleName(
      "M1 stays at 0.0025 in; M2 from 0.0019 tight to 0.0024 in",
    );
  });
});

describe("counts and money", () => {
  it("are written as people read them", () => {
    expect(moneyText(1_498_000)).toBe("149.80");
    expect(waysText(4_782_969)).toBe("4\u202f782\u202f969");
    expect(waysText(243)).toBe("243");
    expect(waysText(3.2e11)).toBe("10^11");
  });
});
