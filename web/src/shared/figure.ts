import type { Unit } from "../api/client";

/** A figure cut into what does not change, what does, and a small half step behind it. */
export type FigureParts = { sign: string; text: string; half: boolean };

const NM_PER = { in: 25_400_000, mm: 1_000_000 } as const;
/** The half step that is still shown: half a tenth, half a micrometre. */
const HALF = { in: 1_270, mm: 500 } as const;
const DECIMALS = { in: 4, mm: 3 } as const;

/** Rounds half to even, as the core does. */
function roundEven(value: number): number {
  const floor = Math.floor(value);
  const rest = value - floor;
  if (rest !== 0.5) return Math.round(value);
  return floor % 2 === 0 ? floor : floor + 1;
}

function halves(nm: number, unit: Unit): { sign: string; steps: number; half: boolean } {
  const count = roundEven(Math.abs(nm) / HALF[unit]);
  return { sign: nm < 0 && count > 0 ? "\u2212" : "", steps: Math.floor(count / 2), half: count % 2 === 1 };
}

/** A size or a clearance: inches to 4 decimals, millimetres to 3, and a half step when it is there. */
export function sizeParts(nm: number, unit: Unit): FigureParts {
  const { sign, steps, half } = halves(nm, unit);
  const decimals = DECIMALS[unit];
  const digits = steps.toString().padStart(decimals + 1, "0");
  const whole = digits.slice(0, -decimals);
  return { sign, text: `${whole}.${digits.slice(-decimals)}`, half };
}

/** A clearance as it is judged: `0.0021` in inches, whole micrometres in metric. */
export function clearanceParts(nm: number, unit: Unit): FigureParts {
  if (unit === "in") return sizeParts(nm, unit);
  const { sign, steps, half } = halves(nm, unit);
  return { sign, text: String(steps), half };
}

/** A small difference counted in bench steps: tenths or micrometres, with `.5` for a half. */
export function stepText(nm: number, unit: Unit): string {
  const { sign, steps, half } = halves(nm, unit);
  return `${sign}${steps}${half ? ".5" : ""}`;
}

/** A doubt in tenths or micrometres with one decimal, where half steps are too coarse to tell two ways apart. */
export function fineText(nm: number, unit: Unit): string {
  return (nm / (2 * HALF[unit])).toFixed(1);
}

/** What the steps of {@link stepText} are called. */
export function stepWord(nm: number, unit: Unit): string {
  if (unit === "mm") return "\u00b5m";
  const { steps, half } = halves(nm, unit);
  return steps === 1 && !half ? "tenth" : steps === 0 && half ? "tenth" : "tenths";
}

/** A difference as figure and word; from ten tenths on in thou, as it is spoken. */
export function stepParts(nm: number, unit: Unit): { text: string; word: string } {
  const size = Math.abs(nm);
  if (unit === "in" && roundEven(size / HALF.in) >= 20)
    return { text: lineText(size, unit).replace(/\.?0+$/, ""), word: "thou" };
  return { text: stepText(size, unit), word: stepWord(size, unit) };
}

/** A difference in words, such as `1.5 tenths`. */
export function stepPhrase(nm: number, unit: Unit): string {
  if (unit === "in" && roundEven(Math.abs(nm) / HALF.in) === 1) return "half a tenth";
  const { text, word } = stepParts(nm, unit);
  return word === "thou" && text === "1" ? "a thou" : `${text} ${word}`;
}

/** A roughness: millionths of an inch, with half of one where it is there, or micrometres. */
export function roughText(nm: number, unit: Unit): string {
  if (unit === "mm") return `${(nm / 1_000).toFixed(2)} \u00b5m`;
  return `${Math.round(nm / 12.7) / 2} \u00b5in`;
}

/** A clearance as the line shows it: thou with two decimals, or micrometres. */
export function lineText(nm: number, unit: Unit): string {
  const { sign, steps, half } = halves(nm, unit);
  if (unit === "mm") return `${sign}${steps}${half ? ".5" : ""}`;
  return `${sign}${Math.floor(steps / 10)}.${steps % 10}${half ? "5" : "0"}`;
}

/** A figure as one plain text, for labels and titles. */
export function plain(parts: FigureParts): string {
  if (!parts.half) return parts.sign + parts.text;
  return `${parts.sign}${parts.text}${parts.text.includes(".") ? "5" : ".5"}`;
}

/** Nanometres of one unit, for scales. */
export function nmPer(unit: Unit): number {
  return NM_PER[unit];
}

/** A temperature in the degrees that go with the unit: Fahrenheit beside inches. */
export function degreesText(celsius: number, unit: Unit): string {
  return unit === "in" ? `${Math.round((celsius * 9) / 5 + 32)} \u00b0F` : `${celsius} \u00b0C`;
}
