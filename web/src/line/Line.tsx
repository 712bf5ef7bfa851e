import type { ReactNode } from "react";
import type { Build } from "../api/client";
import { Glyph } from "../marks/Mark";
import { Digits } from "../shared/Figure";
import { lineText, nmPer } from "../shared/figure";
import { useOwnUnit, useShownUnit } from "../shared/units";
import { useWidth } from "../shared/useWidth";
import { Crank, type Progress } from "./Crank";
import { crankLength, crankReach, crankShape } from "./geometry";

const BAND = 160;
const RULE = 66;
/** Room for the words at both sides of the drawing. */
const SIDE = 232;
const SIDE_NARROW = 176;

type LineProps = {
  build: Build;
  chosen?: string | undefined;
  onChoose?: (station: string) => void;
  /** What stands left of the drawing, under name and engine. */
  ident: ReactNode;
  /** What stands right of it. */
  aside: ReactNode;
};

/** The crank as it lies on the bench, with every main's mark and clearance below it. */
export function Line({ build, chosen, onChoose, ident, aside }: LineProps) {
  const [ref, width] = useWidth(1280);
  const unit = useShownUnit(build.unit);
  useOwnUnit(build.unit);
  const side = width < 1150 ? SIDE_NARROW : SIDE;
  const room = Math.max(320, width - 2 * side);
  const scale = Math.min(room / crankLength(build.layout), (BAND / 2 - 6) / crankReach(build.layout));
  const shape = crankShape(build.layout, scale, BAND / 2);
  const left = side + (room - shape.width) / 2;
  const { stations } = build.assessment;
  const chosenIndex = stations.findIndex((s) => s.station === chosen);
  const thrust = stations.findIndex((s) => s.thrust);
  const progress = stations.map<Progress>((s) =>
    s.judged
      ? "measured"
      : s.journal.taken + s.bore_direct.taken + s.bore_subtract.taken > 0
        ? "begun"
        : "open",
  );
  return (
    <section
      ref={ref}
      aria-label={`Crankshaft of ${build.code}, front at left`}
      className="relative flex-none"
    >
      <div className="on-dye relative h-[160px] bg-dye text-scribe">
        <svg
          width={width}
          height={BAND}
          viewBox={`0 0 ${width} ${BAND}`}
          aria-hidden="true"
          className="absolute inset-0"
        >
          <LayoutLines
            width={width}
            side={side}
            marks={shape.mains.map((m) => left + m.centre)}
            pins={shape.pins.map((p) => p.axis)}
          />
          <g transform={`translate(${left} 0)`}>
            <Crank
              shape={shape}
              progress={progress}
              chosen={chosenIndex < 0 ? undefined : chosenIndex}
              thrust={thrust < 0 ? undefined : thrust}
              detailed
            />
            <path d={`M-22 ${BAND / 2}H${shape.width + 22}`} className="k-centre" />
            {shape.mains.map((m, i) => (
              <path
                key={m.x}
                d={`M${m.centre} ${m.bottom + 4}V${BAND}`}
                className={i === chosenIndex ? "k-lead k-lead-on" : "k-lead"}
              />
            ))}
            <text x="-2" y={BAND - 10} className="k-end">
              Front
            </text>
            <text x={shape.width} y={BAND - 10} textAnchor="end" className="k-end">
              Rear
            </text>
          </g>
        </svg>
        <div className="absolute inset-y-0 left-6 py-3" style={{ width: side - 40 }}>
          <h1 className="num text-[27px]/none font-bold text-white">{build.code}</h1>
          <div className="mt-1.5 leading-tight font-semibold">{build.engine}</div>
          <div className="mt-1.5 text-small leading-snug text-scribe-2">{ident}</div>
        </div>
        <div
          className="absolute inset-y-0 right-6 overflow-hidden py-3 text-small leading-snug text-scribe-2"
          style={{ width: side - 46 }}
        >
          {aside}
        </div>
      </div>
      <nav aria-label="Stations" className="relative h-[66px] border-b border-hair-strong bg-paper">
        <RuleTicks width={width} left={left} length={shape.width} perEighth={(nmPer("in") / 8) * scale} />
        <div
          className="absolute top-4 left-6 text-small leading-snug text-ink-2"
          style={{ width: side - 40 }}
        >
          Oil clearance, {unit === "in" ? "thou" : "\u00b5m"}
          <br />
          mains
        </div>
        {stations.map((s, i) => {
          const on = s.station === chosen;
          const text = s.judged ? lineText(s.judged.clearance, unit) : "\u2013";
          const state = s.judged?.state ?? "open";
          const inside = (
            <>
              <span
                className={
                  on
                    ? "mb-0.5 w-full bg-dye pt-1.5 pb-0.5 leading-[15px] text-white"
                    : "pt-2.5 leading-[14px]"
                }
              >
                {s.station}
              </span>
              <Glyph state={state} nearest={s.judged?.nearest} />
              <span className="sr-only">{state}</span>
              <span className="num text-[14px]/[17px] font-bold text-ink">
                <Digits text={text} />
              </span>
            </>
          );
          const place = { left: left + (shape.mains[i]?.centre ?? 0) - 27, height: RULE };
          const look = `absolute top-0 flex w-[54px] flex-col items-center gap-0.5 text-center text-note font-semibold text-ink-2 ${
            on ? "z-10 bg-white shadow-[inset_0_0_0_2px_var(--color-dye)]" : ""
          }`;
          return onChoose ? (
            <button
              key={s.station}
              type="button"
              tabIndex={-1}
              data-station={s.station}
              data-state={state}
              aria-current={on || undefined}
              className={look}
              style={place}
              onClick={() => onChoose(s.station)}
            >
              {inside}
            </button>
          ) : (
            <div key={s.station} data-station={s.station} data-state={state} className={look} style={place}>
              {inside}
            </div>
          );
        })}
      </nav>
    </section>
  );
}

/** Faint layout lines at every main and at each height of the pins, overshooting the part. */
function LayoutLines({
  width,
  side,
  marks,
  pins,
}: {
  width: number;
  side: number;
  marks: number[];
  pins: number[];
}) {
  const heights = [...new Set(pins.map((y) => y.toFixed(1)))];
  return (
    <path
      className="k-layout"
      d={`${heights.map((y) => `M${side - 14} ${y}H${width - side + 14}`).join("")}${marks.map((x) => `M${x} 0V${BAND}`).join("")}`}
    />
  );
}

/** A rule in true eighths of an inch along the crank. */
function RuleTicks({
  width,
  left,
  length,
  perEighth,
}: {
  width: number;
  left: number;
  length: number;
  perEighth: number;
}) {
  const count = Math.floor(length / perEighth);
  const ticks = Array.from(
    { length: count + 1 },
    (_, i) => `M${left + i * perEighth} 0v${i % 8 === 0 ? 8 : i % 4 === 0 ? 6 : 4}`,
  );
  return (
    <svg width={width} height="10" aria-hidden="true" className="absolute top-0 left-0">
      <path d={ticks.join("")} stroke="var(--color-hair-strong)" />
    </svg>
  );
}
