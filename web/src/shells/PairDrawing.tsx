import type { Schemas } from "../api/client";

type PairDrawingProps = {
  now: Schemas["ClassPair"];
  pair: Schemas["ClassPair"];
  classes: Schemas["ShellClass"][];
};

const CX = 20;
const CY = 17;
const BORE = 9;

/** Drawn wall of a class: a thicker shell leaves less clearance. */
function wall(id: string, classes: Schemas["ShellClass"][]): number {
  const shifts = classes.map((c) => c.shift);
  const most = Math.max(...shifts.map(Math.abs), 1);
  const shift = classes.find((c) => c.id === id)?.shift ?? 0;
  return 4 - (2 * shift) / most;
}

/** A pair of halves around the journal: a half that changes is filled. */
export function PairDrawing({ now, pair, classes }: PairDrawingProps) {
  const half = (id: string, up: boolean, changed: boolean) => {
    const outer = BORE + wall(id, classes);
    const [there, back] = up ? [1, 0] : [0, 1];
    const gap = up ? -0.8 : 0.8;
    const y = CY + gap;
    return (
      <path
        d={`M${CX - outer} ${y}A${outer} ${outer} 0 0 ${there} ${CX + outer} ${y}H${CX + BORE}A${BORE} ${BORE} 0 0 ${back} ${CX - BORE} ${y}z`}
        fill={changed ? "var(--color-dye)" : "var(--color-steel-3)"}
        stroke={changed ? "var(--color-dye)" : "var(--color-ink-3)"}
      />
    );
  };
  return (
    <svg width="40" height="34" viewBox="0 0 40 34" aria-hidden="true" className="flex-none">
      <path d={`M1 ${CY}H39`} stroke="var(--color-steel-4)" strokeDasharray="2 2" />
      <circle cx={CX} cy={CY} r={BORE - 1.5} fill="var(--color-paper)" stroke="var(--color-ink-3)" />
      {half(pair.upper, true, pair.upper !== now.upper)}
      {half(pair.lower, false, pair.lower !== now.lower)}
    </svg>
  );
}

/** What a class is, beside standard. */
export function classWord(id: string, classes: Schemas["ShellClass"][]): string {
  const shift = classes.find((c) => c.id === id)?.shift ?? 0;
  return shift === 0 ? "" : shift > 0 ? "thin" : "thick";
}
