import { useId } from "react";
import type { Schemas, Unit } from "../api/client";
import { stateHue } from "../marks/Mark";
import { clearanceParts, plain } from "../shared/figure";
import { Graduations, Patterns, Whisker } from "../tape/parts";
import { tapeScale } from "../tape/scale";

type Proposed = Schemas["Proposed"];

type ProposalTapesProps = { places: Proposed[]; unit: Unit; width: number; rowHeight: number };

/** Room above the rows for the graduation and its numbers. */
export const HEAD = 34;

/** Every bearing on one axis, as measured and as proposed: the stops run unbroken down the stack. */
export function ProposalTapes({ places, unit, width, rowHeight }: ProposalTapesProps) {
  const id = useId();
  const first = places[0];
  if (!first) return null;
  const values = places.flatMap((p) => [
    p.measured - p.measured_expanded,
    p.measured + p.measured_expanded,
    p.clearance - p.expanded,
    p.clearance + p.expanded,
  ]);
  const { x, graduations } = tapeScale(first.target, values, unit, width);
  const height = rowHeight * places.length;
  return (
    <svg
      role="img"
      aria-label={places.map((p) => sentence(p, unit)).join("; ")}
      width={width}
      height={HEAD + height}
      viewBox={`0 ${-HEAD} ${width} ${HEAD + height}`}
      className="block overflow-visible"
    >
      <Patterns id={id} />
      <rect width={width} height={height} fill={`url(#${id}steel)`} />
      {places.map((p, i) => {
        const [low, high, aim] = [x(p.target.low), x(p.target.high), x(p.target.aim)];
        const top = i * rowHeight;
        const middle = top + rowHeight / 2;
        const [from, to] = [x(p.measured), x(p.clearance)];
        const way = Math.sign(to - from);
        return (
          <g key={p.station} data-tape={p.station}>
            <rect x={low} y={top} width={high - low} height={rowHeight} fill="var(--color-paper)" />
            <path
              d={`M${low - 5} ${top - (i === 0 ? 8 : 0)}h5v${rowHeight + (i === 0 ? 8 : 0)}h-5zM${high} ${top - (i === 0 ? 8 : 0)}h5v${rowHeight + (i === 0 ? 8 : 0)}h-5z`}
              fill="var(--color-ink)"
            />
            <path d={`M${aim} ${top}v${rowHeight}`} stroke="var(--color-dye)" strokeDasharray="2 4" />
            <g className={stateHue(p.was)} opacity={p.changes ? 0.75 : 1}>
              <path d={`M${from} ${top + 4}V${top + rowHeight - 4}`} stroke="currentColor" strokeWidth="2" />
              <Whisker
                id={id}
                from={x(p.measured - p.measured_expanded)}
                to={x(p.measured + p.measured_expanded)}
                y={middle}
                state={p.was}
                half={5}
              />
              <path d={`M${from - 6} ${top + 3}h12v7l-6 7l-6 -7z`} fill="currentColor" />
            </g>
            {p.changes && (
              <g className="text-dye">
                <path
                  d={`M${from + way * 12} ${middle}H${to - way * 10}`}
                  stroke="currentColor"
                  strokeWidth="1.6"
                />
                <path d={`M${to - way * 9} ${middle}l${-way * 8} -4v8z`} fill="currentColor" />
                <path
                  d={`M${x(p.clearance - p.expanded)} ${middle - 5}v10M${x(p.clearance - p.expanded)} ${middle}H${x(p.clearance + p.expanded)}M${x(p.clearance + p.expanded)} ${middle - 5}v10`}
                  stroke="currentColor"
                  strokeWidth="1.4"
                />
                <path d={`M${to} ${middle - 9}l6 9l-6 9l-6 -9z`} fill="currentColor" />
              </g>
            )}
            <path d={`M0 ${top + rowHeight}H${width}`} stroke="var(--color-hair-strong)" />
          </g>
        );
      })}
      <path d={`M0 -0.500H${width}`} stroke="var(--color-ink)" />
      <Graduations graduations={graduations} unit={unit} y={0} up />
    </svg>
  );
}

function sentence(p: Proposed, unit: Unit): string {
  const figure = (nm: number) => plain(clearanceParts(nm, unit));
  return p.changes
    ? `${p.station} from ${figure(p.measured)} ${p.was} to ${figure(p.clearance)} ${p.state}`
    : `${p.station} stays at ${figure(p.measured)} ${p.was}`;
}
