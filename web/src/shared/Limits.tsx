import { hasMaximumOnly, hasMinimumOnly } from "../api/catalog";
import type { FigureAssessment, Unit } from "../api/client";
import { Figure } from "./Figure";

type LimitsProps = { f: Pick<FigureAssessment, "figure" | "target">; unit: Unit; strong?: boolean };

/** What a figure is held against: a window, only a maximum, or only a minimum. */
export function LimitsText({ f, unit, strong = false }: LimitsProps) {
  if (!f.target) return null;
  const { low, high } = f.target.window;
  const clearance = (nm: number) => (
    <Figure nm={nm} unit={unit} as="clearance" short={!strong} className={strong ? "font-bold" : ""} />
  );
  if (hasMinimumOnly(f)) return <>at least {clearance(low)}</>;
  if (hasMaximumOnly(f)) return <>at most {clearance(high)}</>;
  return (
    <>
      {clearance(low)}–{clearance(high)}
    </>
  );
}
