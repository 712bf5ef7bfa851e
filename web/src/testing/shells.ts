import type { Schemas } from "../api/client";

const T = 2_540;

/** A bearing that stays as it is, unless said. */
export function proposed(
  station: string,
  more: Partial<Schemas["ProposedPair"]> = {},
): Schemas["ProposedPair"] {
  return {
    station,
    measured: 25 * T,
    measured_expanded: T,
    was: "in",
    was_nearest: "low",
    target: { low: 22 * T, aim: 25 * T, high: 28 * T },
    now: { upper: "std", lower: "std" },
    pair: { upper: "std", lower: "std" },
    changes: false,
    clearance: 25 * T,
    expanded: T,
    state: "in",
    nearest: "low",
    ...more,
  };
}

/** M2, tight by three tenths, with a thin lower. */
export const THIN = proposed("M2", {
  measured: 19 * T,
  was: "tight",
  pair: { upper: "std", lower: "+1" },
  changes: true,
  clearance: 24 * T,
});

export function proposal(more: Partial<Schemas["Proposal"]> = {}): Schemas["Proposal"] {
  return {
    places: [proposed("M1"), THIN],
    open: [],
    outside: 0,
    worst: T,
    total: T,
    cost: 0,
    mixed: 1,
    fetch: [],
    buy: [],
    picks: [{ station: "M2", half: "lower", class: "+1", from: { kind: "shelf", place: "A4" } }],
    freed: [{ station: "M2", half: "lower", class: "std" }],
    proven: true,
    gap: 0,
    ways: 117_649,
    binding: "M2",
    next_best: [],
    estimate: { lines: [], minutes: 18 },
    ...more,
  };
}

/** A family with two classes and a set of each undersize. */
export const FAMILY: Schemas["ShellFamily"] = {
  id: "CM",
  name: "Curlew mains",
  unit: "in",
  row: "mains",
  journal: 26_240 * T,
  housing: 28_150 * T,
  wall: 943 * T,
  wall_tolerance: 3 * T,
  grading: 762,
  alike: false,
  classes: [
    { id: "std", shift: 0 },
    { id: "+1", shift: 10 * T },
  ],
  undersizes: [0, 100 * T],
  offers: [
    { part_number: "CMGS00", class: "std", undersize: 0, pairs: 7, price: 1_498_000 },
    { part_number: "CMGS25", class: "std", undersize: 100 * T, pairs: 7, price: 1_498_000 },
  ],
  coating: 0,
  needs: ["grooved"],
  base: "CM",
  suffixes: [],
};

const BY = { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" };
const PAIR = { upper: "std", lower: "+1", clearance: 24 * T, expanded: T };

/** What halves that were fitted promise of a bearing. */
export function predicted(station: string): Schemas["Predicted"] {
  return { pair: { station, ...PAIR }, state: "in", nearest: "low", seq: 9, by: BY, at: 0 };
}

/** A promise of 24 tenths against what was measured, in tenths. */
export function checked(station: string, difference: number, agrees: boolean): Schemas["PredictionCheck"] {
  return {
    pair: { station, ...PAIR },
    measured: (24 + difference) * T,
    measured_expanded: T,
    difference: difference * T,
    combined: 1.4 * T,
    agrees,
    at: 0,
    by: BY,
  };
}

/** The family as the shop shows it, with four standard uppers on the shelf. */
export const FAMILY_VIEW: Schemas["FamilyView"] = {
  version: 3,
  family: FAMILY,
  form: {
    version: 3,
    id: "CM",
    name: "Curlew mains",
    unit: "in",
    row: "mains",
    journal: "2.6240",
    housing: "2.8150",
    wall: "0.0943",
    wall_tolerance: "0.0003",
    grading: "0.00003",
    coating: "-0.0005",
    alike: false,
    needs: ["grooved"],
    base: "CM",
    undersizes: ["0.0000", "0.0100"],
    classes: [
      { id: "std", shift: "0.0000" },
      { id: "+1", shift: "0.0010" },
    ],
    offers: [],
    suffixes: [{ letters: "S", means: "class", text: "std" }],
  },
  shelf: [{ half: "upper", class: "std", undersize: 0, count: 4, place: "A1" }],
};
