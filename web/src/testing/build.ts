import type {
  Build,
  Characteristic,
  FigureAssessment,
  Judged,
  Measured,
  Read,
  Role,
  Row,
  Schemas,
  Target,
} from "../api/client";

const T = 2_540;
const WINDOW: Target = { low: 22 * T, aim: 25 * T, high: 28 * T };
const BY = { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" };

const at = (axial: Schemas["Position"]["axial"], angle: number): Schemas["Position"] => ({ axial, angle });
const ROUND = [at("front", 0), at("front", 90), at("rear", 0), at("rear", 90)];
const ACROSS = [at("front", 0), at("rear", 0), at("front", 45), at("front", -45)];

/** Something of a main that nobody touched yet; what is off the vertical of a bore only informs. */
function untouched(
  place: string,
  role: Role,
  characteristic: Characteristic,
  read: Read,
  positions: Schemas["Position"][],
): Measured {
  const advisory = (p: Schemas["Position"]) => positions === ACROSS && p.angle !== 0;
  return {
    place,
    role,
    characteristic,
    read,
    positions: positions.map((position) => ({
      position,
      advisory: advisory(position),
      touches: [],
      stale: [],
      value: null,
      spread: 0,
      left: 1,
      expected: 66_649_600,
    })),
    taken: 0,
    planned: positions.length,
    complete: false,
    size: null,
    stale: null,
  };
}

/** Everything that a main's clearance can be made of. */
function ofMain(place: string): Measured[] {
  return [
    untouched(place, "journal", "main_journal", "size", ROUND),
    untouched(place, "housing", "main_housing", "size", []),
    untouched(place, "upper_wall", "upper_wall", "size", []),
    untouched(place, "lower_wall", "lower_wall", "size", []),
    untouched(place, "bore", "main_bearing", "dial", ACROSS),
    untouched(place, "bore", "main_bearing", "size", ACROSS),
    untouched(place, "strip", "strip", "size", []),
  ];
}

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
    worst: tenths * T,
    smallest: tenths * T,
    largest: tenths * T,
    inside: margin >= 0,
    margin: margin * T,
    decidable: true,
    ...more,
  };
}

/** A main, open unless a figure is given. */
export function station(number: number, figure?: Judged): FigureAssessment {
  return {
    station: `M${number}`,
    figure: "oil_clearance",
    row: "mains",
    asked: true,
    begun: figure !== undefined,
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
    measured: ofMain(`M${number}`),
    methods: [],
    agreements: [],
    judged: figure ?? null,
    stale: null,
    class: null,
    concession: null,
    findings: [],
  };
}

const row = (name: Row): Schemas["Row"] => ({
  row: name,
  target: null,
  measured: 0,
  spread: null,
  trend: null,
  undersize: null,
  mixed_undersizes: false,
});

/** A build of three mains. */
export function build(stations: FigureAssessment[], signOff: Partial<Schemas["SignOff"]> = {}): Build {
  const wanted = (read: Read, role: Role): Schemas["Wanted"][] =>
    stations.flatMap((s) =>
      s.measured
        .filter((m) => m.role === role && m.read === read)
        .map((m) => ({
          station: m.place,
          characteristic: m.characteristic,
          read,
          group: "running",
          along_row: false,
          asked: true,
          left: m.positions.reduce((n, p) => n + p.left, 0),
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
    references: [{ characteristic: "main_bearing", text: "2.6240 in" }],
    plans: [],
    set_ups: [],
    tightening: [],
    parts: [],
    inspections: [],
    looks: [],
    mishaps: [],
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
      rows: [{ ...row("mains"), target: stations[0]?.target ?? null }, row("rods")],
      figures: stations,
      sessions: [],
      hypotheses: [],
      forced: [],
      unfit: [],
      blind: [],
      end_play_first: false,
      orders: [],
      wanted: [...wanted("size", "journal"), ...wanted("dial", "bore"), ...wanted("size", "bore")],
      not_checked: [],
      sign_off: {
        status: "blocked",
        revision: 1,
        blocks: [],
        signatures: [],
        broken: null,
        elsewhere: [],
        imported: null,
        lifted: [],
        loosened: [],
        proof: { faults: [], before_key: [] },
        next: { kind: "nothing" },
        ...signOff,
      },
    },
  };
}

/** The answer to a write after which a build stands as given. */
export function recorded(after: Build): Schemas["RecordedView"] {
  const { id, code, assessment } = after;
  const changes = { id, code, since: 0, seq: assessment.seq, whole: after, assessment: {} };
  return { seq: assessment.seq, again: false, changes };
}
