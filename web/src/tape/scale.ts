import { scaleLinear } from "d3-scale";
import type { Target, Unit } from "../api/client";

/** Nanometres of a tape's finest graduation, of the numbered ones, and of the heavy ones. */
const GRADUATIONS = {
  in: { fine: 2_540, numbered: 12_700, heavy: 25_400 },
  mm: { fine: 1_000, numbered: 5_000, heavy: 10_000 },
} as const;

export type Graduation = { nm: number; x: number; rank: "fine" | "numbered" | "heavy" };
export type TapeScale = { x: (nm: number) => number; graduations: Graduation[] };

/** Least pixels between two numbers, and by how many steps they may be apart. */
const NUMBER_ROOM = 58;
const APART = [1, 2, 4, 10, 20, 40];

/**
 * An axis around a window that shows every value given, from one numbered graduation to another, with
 * a bit of steel at both sides. It begins at `least`: a clearance is seldom below nothing.
 */
export function tapeScale(target: Target, values: number[], unit: Unit, width: number, least = 0): TapeScale {
  const { fine, numbered, heavy } = GRADUATIONS[unit];
  const margin = Math.max(target.high - target.low, 2 * numbered);
  const low = Math.min(target.low - margin, ...values.map((v) => v - fine * 2));
  const high = Math.max(target.high + margin, ...values.map((v) => v + fine * 2));
  const from = Math.max(Math.floor(least / numbered) * numbered, Math.floor(low / numbered) * numbered);
  const to = Math.ceil(high / numbered) * numbered;
  const x = scaleLinear([from, to], [0, width]);
  const count = Math.round((to - from) / fine);
  // Graduations closer than four pixels would run together.
  const step = width / count < 4 ? numbered / fine : 1;
  const room = (apart: number) => (width * numbered * apart) / (to - from);
  const apart = APART.find((a) => room(a) >= NUMBER_ROOM) ?? 1;
  const graduations: Graduation[] = [];
  for (let i = 0; i <= count; i += step) {
    const nm = from + i * fine;
    const rank = nm % (heavy * apart) === 0 ? "heavy" : nm % (numbered * apart) === 0 ? "numbered" : "fine";
    graduations.push({ nm, x: x(nm), rank });
  }
  return { x, graduations };
}
