import type { Build, FeatureAssessment, Judged, Schemas, StationAssessment, Target } from "../api/client";

const T = 2_540;
const WINDOW: Target = { low: 22 * T, aim: 25 * T, high: 28 * T };
const BY = { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" };

function feature(positions: Schemas["Position"][], advisory: boolean[]): FeatureAssessment {
  return {
    positions: positions.map((position, i) => ({
      position,
      advisory: advisory[i] ?? false,
      touches: [],
      stale: [],
      value: null,
      spread: 0,
      left: advisory[i] ? 1 : 2,
      expected: 66_649_600,
    })),
    taken: 0,
    planned: positions.length * 2,
    complete: false,
    size: null,
    stale: null,
  };
}

const journal = () =>
  feature(
    [
      { axial: "front", angle: 0 },
      { axial: "front", angle: 90 },
      { axial: "rear", angle: 0 },
      { axial: "rear", angle: 90 },
    ],
    [],
  );
const bore = () =>
  feature(
    [
      { axial: "front", angle: 0 },
      { axial: "rear", angle: 0 },
      { axial: "front", angle: 45 },
      { axial: "front", angle: -45 },
    ],
    [false, false, true, true],
  );

/** A judged figure in tenths, with one tenth of doubt. */
export function judged(
  tenths: number,
  state: Judged["state"],
  margin: number,
  more: Partial<Judged> = {},
): Judged {
  return {
    method: "direct",
    because: "preferred",
    clearance: tenths * T,
    expanded: T,
    state,
    nearest: tenths < 25 ? "low" : "high",
    inside: margin >= 0,
    margin: margin * T,
    decidable: true,
    ...more,
  };
}

/** A main, open unless a figure is given. */
export function station(number: number, figure?: Judged): StationAssessment {
  return {
    station: `M${number}`,
    thrust: number === 2,
    journal_at: `M${number}`,
    target: {
      window: WINDOW,
      rule: { kind: "range", low: WINDOW.low, high: WINDOW.high },
      source: "builders_rule",
      reason: "agreed at booking",
      by: BY,
      at: 0,
      own: false,
      version: 1,
      expansion: null,
    },
    journal: journal(),
    housing: feature([], []),
    upper_wall: feature([], []),
    lower_wall: feature([], []),
    strip: feature([], []),
    bore_direct: bore(),
    bore_subtract: bore(),
    methods: [],
    agreements: [],
    judged: figure ?? null,
    stale: null,
    class: null,
    concession: null,
    findings: [],
  };
}

const ROW = {
  target: null,
  measured: 0,
  spread: null,
  trend: null,
  undersize: null,
  mixed_undersizes: false,
};

/** A build of three mains. */
export function build(stations: StationAssessment[], signOff: Partial<Schemas["SignOff"]> = {}): Build {
  const places = stations.flatMap((s) =>
    s.journal.positions.map((p) => ({
      station: s.station,
      feature: "main_journal" as const,
      position: p.position,
      touch: 1,
    })),
  );
  const bores = stations.flatMap((s) =>
    (["direct", "subtract"] as const).map((method) => ({
      station: s.station,
      feature: "main_bearing" as const,
      method,
      position: { axial: "front" as const, angle: 0 },
      touch: 1,
    })),
  );
  return {
    id: "00000000-0000-4000-8000-000000000041",
    code: "T-1",
    engine: "Test three",
    unit: "in",
    layout: {
      mains: stations.length,
      thrust: "M2",
      main_journal: 66_649_600,
      crank: {
        proportional: false,
        main_width: 25_000_000,
        pin_diameter: 54_000_000,
        pin_width: 27_000_000,
        web: 18_000_000,
        throw: 32_000_000,
        counterweight: 72_000_000,
        bays: stations.slice(1).map((_, i) => [i * 180]),
      },
    },
    gauges: [],
    usual_references: { mains: "2.6240 in", rods: "2.1240 in", main_housings: null, rod_housings: null },
    plans: [],
    set_ups: [],
    inspections: [],
    asked: [],
    opened_at: 0,
    opened_by: BY,
    readings: [],
    decisions: [],
    assessment: {
      seq: 1,
      rules: {
        effective: "worst",
        acceptance: "guarded",
        touches: 2,
        size_band: 762_000,
        dial_band: 254_000,
      },
      mains: { ...ROW, target: stations[0]?.target ?? null },
      rods: ROW,
      stations,
      sessions: [],
      hypotheses: [],
      blind: [],
      orders: [],
      wanted: [...places, ...bores],
      sign_off: {
        status: "blocked",
        revision: 1,
        blocks: [],
        signatures: [],
        broken: null,
        next: { kind: "nothing" },
        ...signOff,
      },
    },
  };
}
