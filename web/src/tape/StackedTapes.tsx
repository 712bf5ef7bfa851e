import { useId } from "react";
import type { FigureAssessment, Target, Unit } from "../api/client";
import { GlyphShape, stateHue } from "../marks/Mark";
import { SvgDigits } from "../shared/Figure";
import { clearanceParts, plain } from "../shared/figure";
import { Graduations, Patterns, Whisker } from "./parts";
import { tapeScale } from "./scale";

type StackedProps = {
  stations: FigureAssessment[];
  /** The window of the build; a station with its own shows its own stops. */
  target: Target;
  /** Clearance of the trend line at each of its stations. */
  trend?: { station: string; clearance: number }[];
  chosen?: string;
  unit: Unit;
  width: number;
  rowHeight: number;
};

const LABEL = 64;
const FIGURE = 74;

/** Every main on one axis: the stops run down the stack, the trend as a scribed line through it. */
export function StackedTapes({ stations, target, trend = [], chosen, unit, width, rowHeight }: StackedProps) {
  const id = useId();
  const values = stations.flatMap((s) =>
    s.judged ? [s.judged.clearance - s.judged.expanded, s.judged.clearance + s.judged.expanded] : [],
  );
  const room = width - LABEL - FIGURE;
  const { x, graduations } = tapeScale(target, values, unit, room);
  const height = rowHeight * stations.length;
  const middle = (i: number) => i * rowHeight + rowHeight / 2;
  const line = trend.flatMap((t) => {
    const row = stations.findIndex((s) => s.station === t.station);
    return row < 0 ? [] : [`${x(t.clearance)} ${middle(row)}`];
  });
  return (
    <svg
      role="img"
      aria-label={label(stations, unit)}
      width={width}
      height={height + 34}
      viewBox={`${-LABEL} 0 ${width} ${height + 34}`}
      className="block"
    >
      <Patterns id={id} />
      <rect x="0" y="0" width={room} height={height} fill={`url(#${id}steel)`} />
      {stations.map((s, i) => {
        const window = s.target?.window ?? target;
        const [low, high] = [x(window.low), x(window.high)];
        const state = s.judged?.state ?? "open";
        return (
          <g key={s.station} className={stateHue(state)}>
            {s.station === chosen && (
              <rect
                x={-LABEL}
                y={i * rowHeight}
                width={LABEL}
                height={rowHeight}
                fill="var(--color-dye-wash)"
              />
            )}
            <rect x={low} y={i * rowHeight} width={high - low} height={rowHeight} fill="var(--color-paper)" />
            <path
              d={`M${low - 5} ${i * rowHeight}h5v${rowHeight}h-5zM${high} ${i * rowHeight}h5v${rowHeight}h-5z`}
              fill="var(--color-ink)"
            />
            <path d={`M${-LABEL} ${(i + 1) * rowHeight}H${room + FIGURE}`} stroke="var(--color-hair)" />
            <text x={-LABEL + 6} y={middle(i) + 5} className="t-word">
              {s.station}
            </text>
            <g transform={`translate(-28 ${middle(i) - 8.5}) scale(.85)`}>
              <GlyphShape state={state} nearest={s.judged?.nearest} />
            </g>
            {s.judged && (
              <>
                <Whisker
                  id={id}
                  from={x(s.judged.clearance - s.judged.expanded)}
                  to={x(s.judged.clearance + s.judged.expanded)}
                  y={middle(i)}
                  state={state}
                  half={5}
                />
                <path
                  d="M0 -7.5L6 0L0 7.5L-6 0z"
                  transform={`translate(${x(s.judged.clearance)} ${middle(i)})`}
                  fill="currentColor"
                />
              </>
            )}
            <text x={room + FIGURE - 4} y={middle(i) + 5} textAnchor="end" className="t-num t-num-heavy">
              <SvgDigits
                text={
                  s.judged ? plain(clearanceParts(s.judged.clearance, unit)).replace(/^0\./, ".") : "open"
                }
              />
            </text>
          </g>
        );
      })}
      <path d={`M${x(target.aim)} 0V${height}`} stroke="var(--color-ink-3)" strokeDasharray="2 4" />
      {line.length > 1 && (
        <path
          d={`M${line.join("L")}`}
          fill="none"
          stroke="var(--color-dye)"
          strokeWidth="1.6"
          strokeDasharray="9 4"
        />
      )}
      <path d={`M0 ${height + 0.5}H${room}`} stroke="var(--color-ink)" />
      <Graduations graduations={graduations} unit={unit} y={height} />
    </svg>
  );
}

function label(stations: FigureAssessment[], unit: Unit): string {
  const one = (s: FigureAssessment) =>
    s.judged
      ? `${s.station} ${plain(clearanceParts(s.judged.clearance, unit))} ${s.judged.state}`
      : `${s.station} open`;
  return `Clearances of all mains: ${stations.map(one).join(", ")}`;
}
