import type { FigureAssessment } from "../api/client";
import type { CrankShape } from "./geometry";
import { BAND, camCentre, progressOf } from "./useLine";

type CamshaftProps = {
  shape: CrankShape;
  /** Nominal diameters, from the front. */
  journals: number[];
  /** Pixels of a nanometre. */
  scale: number;
  states: FigureAssessment[];
  chosen: string | undefined;
};

/** Width of a journal, of the shaft between them, and of a lobe, in pixels: the drawing knows only the diameters. */
const JOURNAL = 30;
const LOBE = 13;

/** The cam over the crank's axis: journals to scale where they step, lobes between them as plain discs. */
export function Camshaft({ shape, journals, scale, states, chosen }: CamshaftProps) {
  const middle = BAND / 2;
  const centres = journals.map((_, i) => camCentre(shape.mains, i, journals.length));
  const radius = (nm: number) => (nm * scale) / 2;
  const shaft = Math.min(...journals.map(radius)) * 0.62;
  const [first, last] = [centres[0] ?? 0, centres.at(-1) ?? 0];
  const lobes = centres.slice(1).flatMap((to, i) => {
    const from = centres[i] ?? 0;
    const room = to - from - JOURNAL;
    return [1, 2, 3, 4].map((n) => from + JOURNAL / 2 + (room * n) / 5);
  });
  return (
    <g>
      <rect
        x={first - JOURNAL}
        y={middle - shaft}
        width={last - first + 2 * JOURNAL}
        height={2 * shaft}
        className="k-cam-shaft"
      />
      {lobes.map((x, i) => {
        const lift = shaft * (i % 2 === 0 ? 0.7 : 0.25);
        return (
          <rect
            key={x}
            x={x - LOBE / 2}
            y={middle - shaft * 1.15 - lift}
            width={LOBE}
            height={2 * shaft * 1.15 + lift}
            className="k-cam-lobe"
          />
        );
      })}
      {journals.map((nm, i) => {
        const r = radius(nm);
        const s = states[i];
        const on = s?.station === chosen;
        const progress = s ? progressOf(s) : "open";
        return (
          <rect
            key={s?.station ?? i}
            x={(centres[i] ?? 0) - JOURNAL / 2}
            y={middle - r}
            width={JOURNAL}
            height={2 * r}
            className={`k-journal ${on ? "k-chosen" : `k-${progress}`}`}
          />
        );
      })}
    </g>
  );
}
