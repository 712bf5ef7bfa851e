import { useId } from "react";
import type { Target, Unit } from "../api/client";
import { stateHue } from "../marks/Mark";
import { Patterns } from "./parts";
import { tapeScale } from "./scale";
import type { TapeValue } from "./Tape";

const WIDTH = 96;
const HEIGHT = 22;

/** A tape without numbers, for a table row between target and figure. */
export function RowTape({
  target,
  value,
  unit,
}: {
  target: Target;
  value?: TapeValue | undefined;
  unit: Unit;
}) {
  const id = useId();
  const { x } = tapeScale(target, [], unit, WIDTH);
  const inside = (px: number) => Math.min(WIDTH - 3, Math.max(3, px));
  const [low, high] = [x(target.low), x(target.high)];
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      aria-hidden="true"
      className="block max-w-full pr-2"
    >
      <Patterns id={id} />
      <rect x="0" y="5" width={WIDTH} height="12" fill={`url(#${id}steel)`} />
      <rect x={low} y="5" width={high - low} height="12" fill="var(--color-paper)" />
      <path d={`M0 17.5H${WIDTH}`} stroke="var(--color-ink-3)" />
      <path d={`M${low - 3} 2h3v16h-3zM${high} 2h3v16h-3z`} fill="var(--color-ink)" />
      {value && (
        <g className={stateHue(value.state)}>
          <path
            d={`M${inside(x(value.clearance - value.expanded))} 11H${inside(x(value.clearance + value.expanded))}`}
            stroke="currentColor"
            strokeWidth="2"
          />
          <path
            d="M0 -5.5L5.5 0L0 5.5L-5.5 0z"
            transform={`translate(${inside(x(value.clearance))} 11)`}
            fill="currentColor"
          />
        </g>
      )}
    </svg>
  );
}
