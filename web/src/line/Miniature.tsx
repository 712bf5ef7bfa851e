import { rowOf } from "../api/catalog";
import type { FloorRow } from "../api/client";
import { GlyphShape, stateHue } from "../marks/Mark";
import type { Shown } from "../shared/words";
import { Crank, type Progress } from "./Crank";
import { crankLength, crankReach, crankShape } from "./geometry";

const HEIGHT = 66;
/** Longest miniature, in pixels. */
const LONGEST = 340;

/** One scale for all miniatures, so that a four is visibly shorter than a six: pixels per nanometre. */
export function miniatureScale(rows: FloorRow[]): number {
  const reach = Math.max(...rows.map((r) => crankReach(r.layout)), 1);
  const length = Math.max(...rows.map((r) => crankLength(r.layout)), 1);
  return Math.min((HEIGHT / 2 - 2) / reach, LONGEST / length);
}

/** A crank without detail, with the mark of every main under it. */
export function Miniature({ row, scale }: { row: FloorRow; scale: number }) {
  const shape = crankShape(row.layout, scale, HEIGHT / 2);
  const mains = row.stations.filter((s) => rowOf(s.station) === "mains");
  const progress = mains.map<Progress>((s) =>
    s.state ? "measured" : s.stale ? "stale" : s.touched ? "begun" : "open",
  );
  const stateOf = (s: FloorRow["stations"][number]): Shown =>
    s.state ?? (s.predicted ? "predicted" : s.stale ? "stale" : "open");
  const states = row.stations.map((s) => `${s.station} ${stateOf(s)}`).join(", ");
  return (
    <svg
      role="img"
      aria-label={`Crank: ${states}`}
      width={shape.width + 24}
      height={HEIGHT + 24}
      viewBox={`-12 0 ${shape.width + 24} ${HEIGHT + 24}`}
      className="block"
    >
      <rect x="-12" width={shape.width + 24} height={HEIGHT} className="k-ground" />
      <Crank shape={shape} progress={progress} />
      <path d={`M-8 ${HEIGHT / 2}H${shape.width + 8}`} className="k-centre" />
      {mains.map((s, i) => {
        const state = stateOf(s);
        const x = (shape.mains[i]?.centre ?? 0) - 7.5;
        return (
          <g
            key={s.station}
            className={stateHue(state)}
            transform={`translate(${x} ${HEIGHT + 6}) scale(.75)`}
          >
            <GlyphShape state={state} nearest={s.nearest} was={state === "stale" ? "in" : undefined} />
          </g>
        );
      })}
    </svg>
  );
}
