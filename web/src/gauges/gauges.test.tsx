import { render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Build, Gauge, Schemas } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { type Asked, server, show, showPage } from "../testing/screen";
import { apprentice, lead } from "../testing/shop";
import { CheckDialog } from "./CheckDialog";
import { DriftPlot } from "./DriftPlot";
import { GaugeRoom } from "./GaugeRoom";
import { Gauges } from "./Gauges";

const T = 2_540;
const WICK = { id: "00000000-0000-4000-8000-000000000003", name: "J. Wick" };

const own = (id: string, measures: Schemas["GaugeUse"], name: string): Schemas["Gauge"] => ({
  id,
  name,
  measures,
  resolution: T,
  repeatability: T / 4,
  calibration: T / 2,
});
const MIC = own("mic-tenths", "outside", "Outside mic 2-3 in");
const BORE = own("bore-tenths", "inside", "Bore gauge, tenths");

const atHand = (gauge: Schemas["Gauge"], more: Partial<Gauge> = {}): Gauge => ({
  gauge,
  past_due: false,
  ...more,
});

function session(proof: Schemas["SessionProof"], more: Partial<Schemas["Session"]> = {}): Schemas["Session"] {
  return {
    id: `s-${proof}`,
    gauge: MIC,
    proof,
    open: { standard: 20_000 * T, shown: 20_000 * T, raw: "2.0000" },
    opened_at: 0,
    opened_by: WICK,
    ...more,
  };
}

function engine(gauges: Gauge[], sessions: Schemas["Session"][] = []): Build {
  const one = build([station(1)]);
  return {
    ...one,
    gauges,
    references: [{ characteristic: "main_bearing", text: "2.6240" }],
    assessment: { ...one.assessment, sessions },
  };
}

/** The page of the gauges of a build. */
function opened(of: Build) {
  const asked = server({ "GET /builds/T-1": of });
  showPage(<Gauges />);
  return asked;
}

describe("the gauges of a build", () => {
  it("say which must not decide, and which is past due", async () => {
    opened(
      engine([
        atHand(MIC, { ratio_tenths: 28, mains: "too_coarse", rods: "coarse" }),
        atHand(BORE, { past_due: true, gauge: { ...BORE, due: "2026-05-01" } } as Partial<Gauge>),
      ]),
    );
    const hand = await screen.findByRole("region", { name: "Gauges at hand" });
    expect(within(hand).getByText(/3 to 1, must not decide on the window/)).toBeVisible();
    expect(within(hand).getByText("Past due 2026-05-01")).toBeVisible();
    expect(screen.getByText(/No gauge was checked in yet/)).toBeVisible();
  });

  it("say of every session how it walked, and what that did to its readings", async () => {
    const closed = { closed_at: 1, closed_by: WICK };
    opened(
      engine(
        [atHand(MIC)],
        [
          session("running"),
          session("held", { ...closed, drift: 0 }),
          session("corrected", { ...closed, drift: T }),
          session("thrown_out", { ...closed, drift: -2 * T }),
          session("unproven", { ...closed, open: null }),
        ],
      ),
    );
    const told = await screen.findByRole("region", { name: "Sessions" });
    for (const text of [
      /Not checked out yet: whether it walked is not known/,
      /Shows the same on its standard as at the start/,
      /Walked 1 tenth up: /,
      /Walked 2 tenths down: more than a step, so every reading is to be taken again/,
      /Taken without a check: its readings are unproven/,
    ]) {
      expect(within(told).getByText(text)).toBeVisible();
    }
    // Only what still runs can be checked out.
    expect(within(told).getAllByRole("button", { name: "Check out" })).toHaveLength(1);
  });
});

describe("a check of a gauge", () => {
  const sentIn = (asked: Asked[]) => asked.find((a) => a.method === "POST");

  it("of what is zeroed asks what it was zeroed in", async () => {
    const of = engine([atHand(BORE)]);
    const asked = server({ "POST /builds/T-1/sessions": recorded(of) });
    const closed = vi.fn();
    show(<CheckDialog build={of} gauge="bore-tenths" unit="in" onClose={closed} />);
    expect(screen.getByLabelText("Reference it is set to")).toHaveValue("2.6240");
    await userEvent.type(screen.getByLabelText("Dial shows"), "0");
    await userEvent.click(screen.getByRole("radio", { name: /ring/i }));
    await userEvent.click(screen.getByRole("button", { name: "Check in" }));
    await waitFor(() => expect(closed).toHaveBeenCalled());
    expect(asked[0]?.body).toMatchObject({
      gauge: "bore-tenths",
      check: { standard: "2.6240", shown: "0" },
      zero: expect.stringMatching(/ring/),
      unit: "in",
    });
  });

  it("of what has a scale serves every build that it is needed on", async () => {
    const of = engine([atHand(MIC)]);
    const bench = { engine: "Test three", session: null, since: null };
    const running = { ...bench, code: "T-4", session: "s-4", since: 0 };
    const asked = server({
      "GET /gauges/mic-tenths/benches": [
        { ...bench, code: "T-1" },
        { ...bench, code: "T-2" },
        { ...bench, code: "T-3" },
        running,
      ],
      "POST /builds/T-1/sessions": recorded(of),
      "POST /builds/T-3/sessions": recorded(of),
    });
    const closed = vi.fn();
    show(<CheckDialog build={of} gauge="mic-tenths" unit="in" onClose={closed} />);
    await userEvent.click(await screen.findByLabelText("T-3"));
    expect(screen.queryByLabelText("T-1")).toBeNull();
    expect(screen.queryByLabelText("T-4")).toBeNull();
    await userEvent.type(screen.getByLabelText("Standard"), "2.0000");
    await userEvent.type(screen.getByLabelText("It shows"), "2.0001");
    await userEvent.click(screen.getByRole("button", { name: "Check in" }));
    await waitFor(() => expect(closed).toHaveBeenCalled());
    const sent = asked.filter((a) => a.method === "POST");
    expect(sent.map((a) => a.path)).toEqual(["/builds/T-1/sessions", "/builds/T-3/sessions"]);
    expect(sent[1]?.body).toMatchObject({
      check: { standard: "2.0000", shown: "2.0001" },
      gauge: "mic-tenths",
    });
  });

  it("of what has a scale can be left out, and says what that costs", async () => {
    const of = engine([atHand(MIC)]);
    const asked = server({ "POST /builds/T-1/sessions": recorded(of) });
    show(<CheckDialog build={of} gauge="mic-tenths" unit="in" onClose={vi.fn()} />);
    expect(screen.queryByRole("radio")).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Take it unchecked" }));
    await waitFor(() => expect(sentIn(asked)?.body).toMatchObject({ check: null, zero: null }));
  });

  it("at the end is made on the same standard, and a refusal keeps what was typed", async () => {
    const running = session("running");
    const of = engine([atHand(MIC, { session: running.id })], [running]);
    const asked = server({
      "POST /builds/T-1/sessions/close": {
        status: 422,
        code: "bad_field",
        field: "shown",
        detail: "that is no size",
      },
    });
    show(<CheckDialog build={of} gauge="mic-tenths" unit="in" onClose={vi.fn()} />);
    expect(screen.getByLabelText("Standard")).toHaveValue("2.0000");
    const shown = screen.getByLabelText("It shows");
    await userEvent.type(shown, "two");
    await userEvent.click(screen.getByRole("button", { name: "Check out" }));
    await waitFor(() => expect(shown).toHaveAccessibleDescription(/no size/));
    expect(shown).toHaveValue("two");
    expect(sentIn(asked)?.body).toMatchObject({
      session: running.id,
      check: { standard: "2.0000", shown: "two" },
    });
  });
});

describe("the walk of a gauge", () => {
  it("is drawn with a tick for every reading, and its end only once it was checked", () => {
    const of = { opened_at: 0, gauge: MIC };
    const { container, rerender } = render(<DriftPlot session={of} readings={[1, 2, 3]} unit="in" />);
    const ticks = () => container.querySelectorAll("path[stroke='var(--color-ink-3)']").length;
    expect(ticks()).toBe(3);
    expect(container.querySelector("text")).toBeNull();
    rerender(<DriftPlot session={{ ...of, closed_at: 4, drift: T }} readings={[1, 2, 3]} unit="in" />);
    const told = [...container.querySelectorAll("text")].map((text) => text.textContent);
    expect(told).toEqual(["1", "tenths"]);
  });
});

describe("the gauge room", () => {
  const texts: Schemas["GaugeTexts"] = {
    resolution: "0.0001",
    repeatability: "0.00003",
    calibration: "0.00005",
    from: "2",
    to: "3",
    calibrated: "2025-05-01",
    due: "2026-05-01",
  };
  const room = [
    { gauge: MIC, past_due: false, texts: { ...texts, due: "" }, unit: "in", version: 1 },
    { gauge: BORE, past_due: true, texts, unit: "in", version: 4 },
  ];

  it("opens on what is past due, and keeps a change by the version that was seen", async () => {
    const asked = server({ "GET /gauges": room, "PUT /gauges/bore-tenths": room });
    show(<GaugeRoom session={lead} />);
    expect(await screen.findByRole("heading", { name: "Bore gauge, tenths" })).toBeVisible();
    expect(screen.getByLabelText("Short name")).toHaveAttribute("readonly");
    const due = screen.getByLabelText("Due");
    await userEvent.clear(due);
    await userEvent.type(due, "2027-05-01");
    await userEvent.click(screen.getByRole("button", { name: "Keep the changes" }));
    await waitFor(() =>
      expect(asked.find((a) => a.method === "PUT")?.body).toMatchObject({
        version: 4,
        texts: { due: "2027-05-01", resolution: "0.0001" },
      }),
    );
  });

  it("registers one from nothing", async () => {
    const asked = server({ "GET /gauges": [], "PUT /gauges/mic-9": [] });
    show(<GaugeRoom session={lead} />);
    expect(await screen.findByText("No gauge is registered yet.")).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: "Register a gauge" }));
    await userEvent.type(screen.getByLabelText("Short name"), "mic-9");
    await userEvent.type(screen.getByLabelText("Name"), "Outside mic 0-1 in");
    await userEvent.type(screen.getByLabelText("Smallest step"), ".0001");
    await userEvent.click(screen.getByRole("button", { name: "Register it" }));
    await waitFor(() =>
      expect(asked.find((a) => a.method === "PUT")).toMatchObject({
        path: "/gauges/mic-9",
        body: { name: "Outside mic 0-1 in", kind: "outside_mic", version: 0, texts: { resolution: ".0001" } },
      }),
    );
  });

  it("is read by whoever registers none", async () => {
    server({ "GET /gauges": room });
    show(<GaugeRoom session={apprentice} />);
    expect(await screen.findByText(/An assembler or the lead registers gauges/)).toBeVisible();
    expect(screen.getByText("Past due 2026-05-01")).toBeVisible();
    expect(screen.queryByRole("button", { name: "Register a gauge" })).toBeNull();
  });
});
