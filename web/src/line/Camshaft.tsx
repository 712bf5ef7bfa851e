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

/** How far the nose of a lobe stands out, as a share of its base circle. */
const LIFT = 0.75;

/** Degrees from one lobe to the next: the drawing knows no timing, and a cam has noses all around. */
const STEP = 105;

/** A lobe from the side: its base circle, its nose above or below it, and the edge of the nose where it faces the eye. */
function Lobe({ x, middle, base, turned }: { x: number; middle: number; base: number; turned: number }) {
  const angle = (turned * Math.PI) / 180;
  const nose = base * (1 + LIFT) * Math.cos(angle);
  const [up, down] = [Math.max(base, nose), Math.max(base, -nose)];
  const [left, right] = [x - LOBE / 2, x + LOBE / 2];
  const faces = Math.sin(angle) > 0;
  return (
    <>
      <rect x={left} y={middle - up} width={LOBE} height={up + down} rx={2} className="k-cam-lobe" />
      {faces && <path d={`M${left} ${middle - nose}H${right}`} className="k-cam-nose" />}
      {up > base && <path d={`M${left} ${middle - base}H${right}`} className="k-cam-nose" />}
      {down > base && <path d={`M${left} ${middle + base}H${right}`} className="k-cam-nose" />}
    </>
  );
}

/** The cam over the crank's axis: journals to scale where they step, lobes between them by turns. */
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
      {lobes.map((x, i) => (
        <Lobe key={x} x={x} middle={middle} base={shaft * 1.15} turned={i * STEP} />
      ))}
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
