import type { ReactNode } from "react";
import type { Build, Unit } from "../api/client";
import { Glyph } from "../marks/Mark";
import { Digits } from "../shared/Figure";
import { lineText, nmPer } from "../shared/figure";
import { useOwnUnit, useShownUnit } from "../shared/units";
import { marked, shownFigure, shownState } from "../shared/words";
import { Along } from "./Along";
import { Camshaft } from "./Camshaft";
import { Crank } from "./Crank";
import { Cylinders } from "./Cylinders";
import { Faces } from "./Faces";
import type { CrankShape } from "./geometry";
import { FaceWords, Layers } from "./Layers";
import { faceOf, type LineView, quantityOf } from "./layers";
import { BAND, type LineMark, numberOf, pinProgress, progressOf, useLine } from "./useLine";

export type { LineView } from "./layers";

const RULE = 66;

type LineProps = {
  build: Build;
  chosen?: string | undefined;
  onChoose?: (station: string) => void;
  /** What stands left of the drawing, under name and engine. */
  ident: ReactNode;
  /** What stands right of it. */
  aside: ReactNode;
  /** The crank with its mains and pins, or the rods on it. */
  view?: LineView;
  onView?: (view: LineView) => void;
};

/** The lower edge of whatever stands there, so that a lead begins below it. */
function bottomAt(shape: CrankShape, x: number): number {
  const body = [...shape.mains, ...shape.pins].find((b) => x >= b.x && x <= b.x + b.width);
  return body?.bottom ?? shape.axis;
}

/** The crank as it lies on the bench, with every main's mark and clearance below it. */
export function Line({ build, chosen, onChoose, ident, aside, view = "crank", onView }: LineProps) {
  const unit = useShownUnit(build.unit);
  useOwnUnit(build.unit);
  const line = useLine(build, chosen, view);
  const { ref, width, side, scale, shape, left, mains, pins, marks, markWidth } = line;
  const { chosenMain, chosenPin, thrust } = line;
  const inCylinders = view === "cylinders" || view === "wrists";
  const onFaces = view === "faces";
  const showsCrank = view !== "cam" && !inCylinders && !onFaces;
  const leadFrom = (x: number) =>
    inCylinders || onFaces ? BAND - 12 : (view === "cam" ? BAND / 2 + 24 : bottomAt(shape, x)) + 4;
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
            {showsCrank && (
              <Crank
                shape={shape}
                progress={mains.map(progressOf)}
                pinProgress={pins.map((p) => (p.rods[0] ? pinProgress(p.rods[0]) : undefined))}
                chosen={chosenMain < 0 ? undefined : chosenMain}
                chosenPin={chosenPin < 0 ? undefined : chosenPin}
                chosenEnd={view === "ends" && chosen ? numberOf(chosen) : undefined}
                thrust={thrust < 0 ? undefined : thrust}
                detailed
              />
            )}
            <path d={`M-22 ${BAND / 2}H${shape.width + 22}`} className="k-centre" />
            {marks.map((m) => (
              <path
                key={m.label}
                d={`M${m.centre} ${leadFrom(m.centre)}V${BAND}`}
                className={m.station === chosen ? "k-lead k-lead-on" : "k-lead"}
              />
            ))}
            {view === "rods" && <RodEnds shape={shape} marks={marks} chosen={chosen} />}
            {view === "cam" && build.layout.cam && (
              <Camshaft
                shape={shape}
                journals={build.layout.cam.journals}
                scale={scale}
                states={marks.map((m) => m.assessed).filter((f) => f.station !== "CE")}
                chosen={chosen}
              />
            )}
            {inCylinders && build.layout.cylinders && (
              <Cylinders
                shape={shape}
                bore={build.layout.cylinders.bore * scale}
                marks={[...marks].sort((a, b) => numberOf(a.station) - numberOf(b.station))}
                perPin={build.layout.rods?.per_pin ?? 1}
                phases={build.layout.crank.bays.flat()}
                chosen={chosen}
                wrists={view === "wrists"}
              />
            )}
            {onFaces && build.layout.cylinders && (
              <Faces
                width={shape.width}
                marks={marks}
                bores={pins.length * (build.layout.rods?.per_pin ?? 1)}
                banks={(build.layout.rods?.per_pin ?? 1) === 2 ? 2 : 1}
                chosen={chosen}
              />
            )}
            {view === "along" && (
              <Along
                shape={shape}
                thrust={thrust < 0 ? undefined : thrust}
                rodsPerPin={build.layout.rods?.per_pin ?? 1}
                chosen={marks.some((m) => m.station === chosen)}
              />
            )}
            <text x="-2" y={BAND - 10} className="k-end">
              Front
            </text>
            <text x={shape.width - 2} y={BAND - 10} className="k-end">
              Rear
            </text>
          </g>
        </svg>
        {onView && (
          <div className="absolute inset-y-0 left-0" style={{ width: side - 14 }}>
            <Layers build={build} view={view} onView={onView} />
          </div>
        )}
        <div
          className="pointer-events-none absolute inset-y-0 left-6 py-3"
          style={{ width: side - (onView ? 124 : 40) }}
        >
          <h1 className="num text-[27px]/none font-bold text-white">
            <Digits text={build.code} />
          </h1>
          <div className="mt-1.5 leading-tight font-semibold">{build.engine}</div>
          <div className="mt-1.5 text-small leading-snug text-scribe-2">{ident}</div>
        </div>
        <div
          className="absolute inset-y-0 right-6 overflow-hidden py-3 text-small leading-snug text-scribe-2"
          style={{ width: Math.min(side - 46, 210) }}
        >
          {aside}
        </div>
      </div>
      <nav aria-label="Stations" className="relative h-[66px] border-b border-hair-strong bg-paper">
        <RuleTicks width={width} left={left} length={shape.width} perEighth={(nmPer("in") / 8) * scale} />
        <div
          className={`absolute left-6 text-small leading-tight text-ink-2 ${onView ? "top-1.5" : "top-4"}`}
          style={{ width: side - 40 }}
        >
          {onView && <FaceWords build={build} view={view} onView={onView} />}
          {quantityOf(build, view)}, {unit === "in" ? "thou" : "\u00b5m"}
          <br />
          {faceOf(view).stations}
        </div>
        {marks.map((m) => (
          <StationMark
            key={m.label}
            mark={m}
            unit={unit}
            on={m.station === chosen}
            left={left + m.centre}
            width={markWidth}
            onChoose={onChoose}
          />
        ))}
      </nav>
    </section>
  );
}

/** One mark under the line: label, glyph, clearance. Mains heavy, pins and rods light. */
function StationMark({
  mark,
  unit,
  on,
  left,
  width,
  onChoose,
}: {
  mark: LineMark;
  unit: Unit;
  on: boolean;
  left: number;
  width: number;
  onChoose: ((station: string) => void) | undefined;
}) {
  const s = mark.assessed;
  const state = shownState(s);
  const figure = shownFigure(s);
  const inside = (
    <>
      <span
        className={
          on ? "mb-0.5 w-full bg-dye pt-1.5 pb-0.5 leading-[15px] text-white" : "pt-2.5 leading-[14px]"
        }
      >
        {mark.label}
      </span>
      <Glyph
        state={marked(s, state)}
        nearest={figure?.nearest}
        was={s.stale?.was.state}
        size={mark.heavy ? 17 : 14}
      />
      <span className="sr-only">{state}</span>
      <span
        className={`num text-[13px]/[17px] text-ink ${mark.heavy ? "font-bold text-[14px]" : ""} ${state === "stale" ? "text-ink-3 line-through" : state === "predicted" ? "text-dye italic" : ""}`}
      >
        <Digits text={figure ? lineText(figure.clearance, unit) : "\u2013"} />
      </span>
    </>
  );
  const place = { left: left - width / 2, width, height: RULE };
  const look = `absolute top-0 flex flex-col items-center gap-0.5 text-center text-note ${
    mark.heavy ? "font-semibold text-ink-2" : "text-ink-3"
  } ${on ? "z-10 bg-white shadow-[inset_0_0_0_2px_var(--color-dye)]" : ""}`;
  return onChoose ? (
    <button
      type="button"
      tabIndex={-1}
      data-station={mark.label}
      data-state={state}
      aria-current={on || undefined}
      className={look}
      style={place}
      onClick={() => onChoose(mark.station)}
    >
      {inside}
    </button>
  ) : (
    <div data-station={mark.label} data-state={state} className={look} style={place}>
      {inside}
    </div>
  );
}

/** The big ends on their pins, seen from the side. */
function RodEnds({
  shape,
  marks,
  chosen,
}: {
  shape: CrankShape;
  marks: LineMark[];
  chosen: string | undefined;
}) {
  return marks.map((m) => {
    const pin = shape.pins.reduce<CrankShape["pins"][number] | undefined>(
      (near, p) => (near && Math.abs(near.centre - m.centre) < Math.abs(p.centre - m.centre) ? near : p),
      undefined,
    );
    if (!pin) return null;
    const count = marks.filter((o) => o.assessed.journal_at === m.assessed.journal_at).length;
    const width = pin.width / count - 2;
    const at = marks.filter((o) => o.assessed.journal_at === m.assessed.journal_at).indexOf(m);
    const x = pin.x + 1 + at * (pin.width / count);
    const radius = ((pin.bottom - pin.top) / 2) * 1.32;
    return (
      <rect
        key={m.label}
        x={x}
        y={pin.axis - radius}
        width={width}
        height={2 * radius}
        className={m.station === chosen ? "k-rod k-chosen" : "k-rod"}
      />
    );
  });
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
export function RuleTicks({
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
