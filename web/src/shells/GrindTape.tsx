import { useId } from "react";
import type { Schemas, Unit } from "../api/client";
import { clearanceParts, plain } from "../shared/figure";
import { useWidth } from "../shared/useWidth";
import { Graduations, Patterns } from "../tape/parts";
import { tapeScale } from "../tape/scale";

type GrindTapeProps = { m: Schemas["Machining"]; grind: Schemas["GrindPlan"]; unit: Unit };

const ROW = 22;
const HEAD = 30;

/** Every bearing at one ground size: where the clearance lands, and how far the grinder's tolerance carries it. */
export function GrindTape({ m, grind, unit }: GrindTapeProps) {
  const [ref, width] = useWidth(760);
  return (
    <section ref={ref} aria-label="Clearances as ground" className="mt-3">
      <Drawing m={m} grind={grind} unit={unit} width={width} />
    </section>
  );
}

function Drawing({ m, grind, unit, width }: GrindTapeProps & { width: number }) {
  const id = useId();
  const label = 44;
  const { x, graduations } = tapeScale(
    m.target,
    grind.bearings.flatMap((b) => [b.low, b.high]),
    unit,
    Math.max(200, width - label),
  );
  const height = ROW * grind.bearings.length;
  const [low, high, aim] = [x(m.target.low), x(m.target.high), x(m.target.aim)];
  return (
    <svg
      role="img"
      aria-label={grind.bearings
        .map((b) => `${b.station} ${plain(clearanceParts(b.clearance, unit))}${b.inside ? "" : " outside"}`)
        .join("; ")}
      width={width}
      height={HEAD + height + 2}
      viewBox={`${-label} ${-HEAD} ${width} ${HEAD + height + 2}`}
      className="block overflow-visible"
    >
      <Patterns id={id} />
      <rect width={width - label} height={height} fill={`url(#${id}steel)`} />
      <rect x={low} width={high - low} height={height} fill="var(--color-paper)" />
      <path d={`M${low - 5} -7h5v${height + 7}h-5zM${high} -7h5v${height + 7}h-5z`} fill="var(--color-ink)" />
      <path d={`M${aim} 0v${height}`} stroke="var(--color-dye)" strokeDasharray="2 4" />
      {grind.bearings.map((b, i) => {
        const y = i * ROW + ROW / 2;
        return (
          <g key={b.station} className={b.inside ? "text-dye" : "text-ink"}>
            <text x={-label} y={y + 4} className="t-note" fill="var(--color-ink)">
              {b.station}
            </text>
            <path
              d={`M${x(b.low)} ${y - 5}v10M${x(b.low)} ${y}H${x(b.high)}M${x(b.high)} ${y - 5}v10`}
              stroke="currentColor"
              strokeWidth="1.4"
            />
            <path
              d={`M${x(b.clearance)} ${y - 7}l5 7l-5 7l-5 -7z`}
              fill={b.inside ? "currentColor" : "none"}
              stroke="currentColor"
            />
            <path d={`M0 ${(i + 1) * ROW}H${width - label}`} stroke="var(--color-hair)" />
          </g>
        );
      })}
      <path d={`M0 -.500H${width - label}`} stroke="var(--color-ink)" />
      <Graduations graduations={graduations} unit={unit} y={0} up />
    </svg>
  );
}
