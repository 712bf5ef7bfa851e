import type { FigureAssessment, Unit } from "../api/client";
import { Figure } from "../shared/Figure";
import { clearanceParts, plain } from "../shared/figure";

/** The value, or both ends of it where both are judged. */
export function Values({ f, unit }: { f: FigureAssessment; unit: Unit }) {
  const shown = f.judged ?? f.stale?.was;
  if (!shown) return <span className="num text-ink-3">–</span>;
  // Two that read alike are one figure to whoever reads them.
  const reads = (nm: number) => plain(clearanceParts(nm, unit));
  const clearance = (nm: number) => <Figure nm={nm} unit={unit} as="clearance" short className="font-bold" />;
  return (
    <span className={f.judged ? "" : "stale-strike px-1 text-ink-3"}>
      {reads(shown.smallest) === reads(shown.largest) ? (
        clearance(shown.clearance)
      ) : (
        <span className="max-[1150px]:text-[14px]">
          {clearance(shown.smallest)}–{clearance(shown.largest)}
        </span>
      )}
    </span>
  );
}
