import { useId, useRef } from "react";
import type { Schemas, Unit } from "../api/client";
import { stateHue } from "../marks/Mark";
import { clearanceParts, plain } from "../shared/figure";
import { Graduations, Patterns, Whisker } from "../tape/parts";
import { tapeScale } from "../tape/scale";

type Proposed = Schemas["ProposedPair"];

type ProposalTapesProps = {
  places: Proposed[];
  unit: Unit;
  width: number;
  rowHeight: number;
  /** By how many gauge steps the target is moved, and moving it; without it, it stays. */
  moved?: number;
  onMove?: (by: number) => void;
};

/** Gauge steps: a tenth, a micrometre. */
const STEP = { in: 2_540, mm: 1_000 } as const;

/** Room above the rows for the graduation and its numbers. */
export const HEAD = 34;

/** Every bearing on one axis, as measured and as proposed: the stops run unbroken down the stack. */
export function ProposalTapes({ places, unit, width, rowHeight, moved = 0, onMove }: ProposalTapesProps) {
  const id = useId();
  const dragged = useRef<number>(undefined);
  const first = places[0];
  if (!first) return null;
  // The scale stays where it is while the window is moved over it.
  const asSet = shifted(first.target, -moved * STEP[unit]);
  const values = places.flatMap((p) => [
    p.measured - p.measured_expanded,
    p.measured + p.measured_expanded,
    p.clearance - p.expanded,
    p.clearance + p.expanded,
  ]);
  const { x, graduations } = tapeScale(asSet, values, unit, width);
  const perStep = Math.abs(x(STEP[unit]) - x(0));
  const drag = (event: React.PointerEvent) => {
    if (dragged.current === undefined || !onMove || perStep === 0) return;
    const steps = Math.trunc((event.clientX - dragged.current) / perStep);
    if (steps !== 0) {
      dragged.current += steps * perStep;
      onMove(steps);
    }
  };
  const height = rowHeight * places.length;
  return (
    <div className="relative" style={{ width }}>
      {onMove && (
        <div
          role="slider"
          tabIndex={0}
          aria-label="Move the target, to see what it would do"
          aria-valuemin={-60}
          aria-valuemax={60}
          aria-valuenow={moved}
          aria-valuetext={`aim ${plain(clearanceParts(first.target.aim, unit))}`}
          data-aim=""
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            dragged.current = event.clientX;
          }}
          onPointerMove={drag}
          onPointerUp={() => {
            dragged.current = undefined;
          }}
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
            if (by) onMove(by);
          }}
          style={{ left: x(first.target.aim) - 9, top: HEAD - 17 }}
          className="absolute z-10 h-[20px] w-[18px] cursor-ew-resize touch-none"
        >
          <svg width="18" height="20" viewBox="0 0 18 20" aria-hidden="true">
            <path d="M2 3h14v8l-7 7l-7-7z" fill="var(--color-dye)" stroke="var(--color-paper)" />
            <path d="M6.500 6v4M9 6v4M11.500 6v4" stroke="var(--color-scribe)" />
          </svg>
        </div>
      )}
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
                <path
                  d={`M${from} ${top + 4}V${top + rowHeight - 4}`}
                  stroke="currentColor"
                  strokeWidth="2"
                />
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
    </div>
  );
}

function shifted(target: Proposed["target"], by: number): Proposed["target"] {
  return { low: target.low + by, aim: target.aim + by, high: target.high + by };
}

function sentence(p: Proposed, unit: Unit): string {
  const figure = (nm: number) => plain(clearanceParts(nm, unit));
  return p.changes
    ? `${p.station} from ${figure(p.measured)} ${p.was} to ${figure(p.clearance)} ${p.state}`
    : `${p.station} stays at ${figure(p.measured)} ${p.was}`;
}
