import type { ReactNode } from "react";
import type { Build, Unit } from "../api/client";
import { Glyph } from "../marks/Mark";
import { Digits } from "../shared/Figure";
import { lineText, nmPer } from "../shared/figure";
import { useOwnUnit, useShownUnit } from "../shared/units";
import { marked, shownFigure, shownState } from "../shared/words";
import { Crank } from "./Crank";
import type { CrankShape } from "./geometry";
import { RuleTicks } from "./Line";
import { quantityOf } from "./layers";
import { BAND, type LineMark, pinProgress, progressOf, useLine } from "./useLine";

/** Height of the slit, and of the rule under it. */
const SLIT = 48;
/** Least height of a journal in the slit that takes its label. */
const TAKES_LABEL = 13;

type CompactLineProps = { build: Build; onChoose: (station: string) => void; aside: ReactNode };

/** The line through a slit along its centre: same scale and same places, for pages that need the height. */
export function CompactLine({ build, onChoose, aside }: CompactLineProps) {
  const unit = useShownUnit(build.unit);
  useOwnUnit(build.unit);
  const { ref, width, side, scale, shape, left, mains, rods, pins, marks, markWidth, thrust } = useLine(
    build,
    undefined,
    "crank",
  );
  const top = (BAND - SLIT) / 2;
  return (
    <section
      ref={ref}
      aria-label={`Crankshaft of ${build.code}, front at left`}
      className="relative flex-none"
    >
      <div className="on-dye relative h-[48px] overflow-hidden bg-dye text-scribe">
        <svg
          width={width}
          height={SLIT}
          viewBox={`0 ${top} ${width} ${SLIT}`}
          aria-hidden="true"
          className="absolute inset-0"
        >
          <g transform={`translate(${left} 0)`}>
            <Crank
              shape={shape}
              progress={mains.map(progressOf)}
              pinProgress={pins.map((p) => (p.rods[0] ? pinProgress(p.rods[0]) : undefined))}
              thrust={thrust < 0 ? undefined : thrust}
            />
            <path d={`M-16 ${BAND / 2}H${shape.width + 16}`} className="k-centre" />
            <Labels shape={shape} names={mains.map((m) => m.station)} pins={pins.map((p) => p.name)} />
          </g>
        </svg>
        <div className="absolute inset-y-0 left-6 overflow-hidden py-1.5" style={{ width: side - 40 }}>
          <h1 className="num text-[19px]/[19px] font-bold text-white">
            <Digits text={build.code} />
          </h1>
          <div className="truncate text-small leading-tight text-scribe-2">{build.engine}</div>
        </div>
        <div
          className="absolute inset-y-0 right-6 overflow-hidden py-1.5 text-note leading-tight text-scribe-2"
          style={{ width: side - 46 }}
        >
          {aside}
        </div>
      </div>
      <nav aria-label="Stations" className="relative h-[48px] border-b border-hair-strong bg-paper">
        <RuleTicks width={width} left={left} length={shape.width} perEighth={(nmPer("in") / 8) * scale} />
        <div
          className="absolute top-2 left-6 text-note leading-tight text-ink-2"
          style={{ width: side - 40 }}
        >
          {quantityOf(build, "crank")}, {unit === "in" ? "thou" : "\u00b5m"}
          <br />
          {rods.length === 0 ? "mains" : "mains, pins"}
        </div>
        {marks.map((m) => (
          <SlitMark
            key={m.label}
            mark={m}
            unit={unit}
            left={left + m.centre}
            width={markWidth}
            onChoose={onChoose}
          />
        ))}
      </nav>
    </section>
  );
}

/** Journals carry their own names, where enough of them shows in the slit. */
function Labels({ shape, names, pins }: { shape: CrankShape; names: string[]; pins: string[] }) {
  const [from, to] = [(BAND - SLIT) / 2, (BAND + SLIT) / 2];
  const seen = (box: { top: number; bottom: number }) =>
    [Math.max(from, box.top), Math.min(to, box.bottom)] as const;
  const all = [
    ...shape.mains.map((m, i) => ({ name: names[i] ?? "", centre: m.centre, seen: seen(m) })),
    ...shape.pins.map((p, i) => ({ name: pins[i] ?? "", centre: p.centre, seen: seen(p) })),
  ];
  return all
    .filter((l) => l.seen[1] - l.seen[0] >= TAKES_LABEL)
    .map((l) => (
      <text
        key={l.name}
        x={l.centre}
        y={(l.seen[0] + l.seen[1]) / 2 + 4}
        textAnchor="middle"
        className="k-name"
      >
        {l.name}
      </text>
    ));
}

/** Glyph and figure under the slit; the name is on the journal. */
function SlitMark({
  mark,
  unit,
  left,
  width,
  onChoose,
}: {
  mark: LineMark;
  unit: Unit;
  left: number;
  width: number;
  onChoose: (station: string) => void;
}) {
  const s = mark.assessed;
  const state = shownState(s);
  const figure = shownFigure(s);
  return (
    <button
      type="button"
      tabIndex={-1}
      data-station={mark.label}
      data-state={state}
      title={`${mark.label}, to the bench`}
      onClick={() => onChoose(mark.station)}
      className="absolute top-0 flex flex-col items-center pt-2.5 text-center"
      style={{ left: left - width / 2, width, height: SLIT }}
    >
      <span className="sr-only">
        {mark.label}, {state}
      </span>
      <Glyph
        state={marked(s, state)}
        nearest={figure?.nearest}
        was={s.stale?.was.state}
        size={mark.heavy ? 15 : 13}
      />
      <span
        className={`num text-[13px]/[17px] ${mark.heavy ? "font-bold text-ink" : "text-ink-2"} ${
          state === "stale" ? "line-through" : state === "predicted" ? "text-dye italic" : ""
        }`}
      >
        <Digits text={figure ? lineText(figure.clearance, unit) : "\u2013"} />
      </span>
    </button>
  );
}
