import { bearingsOf } from "../api/catalog";
import type { Build, Schemas, Unit } from "../api/client";
import { SvgDigits } from "../shared/Figure";
import { lineText } from "../shared/figure";

type MainThrow = Schemas["MainThrow"];
type Point = { clock: number; shown: number };
type TurnTracesProps = {
  build: Build;
  mains: MainThrow[];
  /** Most that the bend may come to, in nanometres. */
  limit: number | undefined;
  unit: Unit;
  chosen: string;
  width: number;
};

/** Pixels under the circles: the line of the crank and its figures. */
const LINE = 58;
/** The largest radius of a drawn journal, in pixels, without what it is drawn off its circle. */
const MOST_RADIUS = 30;
/** The smallest radius that has room for a word. */
const WORD = 22;

/** What the indicator showed at each clock of a main. */
function turned(build: Build, at: string): Point[] {
  const measured = build.assessment.figures.flatMap((f) => f.measured);
  const turn = measured.find((m) => m.place === at && m.role === "main_turn");
  return (turn?.positions ?? []).flatMap((p) =>
    p.value == null ? [] : [{ clock: p.position.angle, shown: p.value }],
  );
}

/** From a clock and a radius to the page: clock 0 stands on top, and clocks run as seen from the front. */
function onPage(clock: number, radius: number): [number, number] {
  const turn = (clock * Math.PI) / 180;
  return [radius * Math.sin(turn), -radius * Math.cos(turn)];
}

/**
 * Every main as the indicator went round it, all to one scale: the trace, the circle that the bend alone would make, and its high
 * side. Below them how far each lies off the line of the end mains.
 */
export function TurnTraces({ build, mains, limit, unit, chosen, width }: TurnTracesProps) {
  const stations = bearingsOf(build, "mains").map((f) => f.station);
  const cell = width / Math.max(1, stations.length);
  const radius = Math.min(MOST_RADIUS, cell / 2 - 14);
  const traces = new Map(mains.map((m) => [m.at, turned(build, m.at)] as const));
  const mean = (points: Point[]) => points.reduce((sum, p) => sum + p.shown, 0) / Math.max(1, points.length);
  const off = [...traces.values()].flatMap((t) => t.map((p) => Math.abs(p.shown - mean(t))));
  const most = Math.max(1, (limit ?? 0) / 2, ...off, ...mains.map((m) => Math.abs(m.bow ?? 0)));
  const room = Math.min(14, cell / 2 - radius - 1);
  const px = (nm: number) => (nm / most) * room;
  const middle = radius + room + 18;
  const line = middle + radius + room + 26;
  const x = (at: string) => cell * (stations.indexOf(at) + 0.5);
  const bowed = mains.filter((m) => m.bow != null);
  const step = unit === "in" ? "thou" : "\u00b5m";
  return (
    <svg
      role="img"
      aria-label={`How the mains run: ${mains.map((m) => `${m.at} bends ${lineText(m.bend, unit)} ${step}, high at ${m.high_side}\u00b0`).join("; ")}.`}
      width={width}
      height={line + LINE - 20}
      className="mt-1 block"
    >
      <path d={`M0 ${line}H${width}`} className="turn-line" />
      {bowed.length > 1 && (
        <path
          d={bowed.map((m, i) => `${i === 0 ? "M" : "L"}${x(m.at)} ${line - px(m.bow ?? 0)}`).join("")}
          className="turn-fitted"
        />
      )}
      {stations.map((at) => {
        const main = mains.find((m) => m.at === at);
        const points = traces.get(at) ?? [];
        return (
          <g key={at} transform={`translate(${x(at)} 0)`} data-turn={at}>
            <text y={12} textAnchor="middle" className={at === chosen ? "t-word turn-chosen" : "t-word"}>
              {at}
            </text>
            <g transform={`translate(0 ${middle})`}>
              {limit != null && main && <circle r={radius} className="turn-band" strokeWidth={px(limit)} />}
              <circle r={radius} className={main ? "turn-true" : "turn-open"} />
              {main && <Trace main={main} points={points} mean={mean(points)} px={px} radius={radius} />}
            </g>
            {main ? (
              <>
                {main.bow != null && <circle cy={line - px(main.bow)} r={3} className="turn-point" />}
                <text y={line + 26} textAnchor="middle" className="t-num">
                  {main.bow == null ? "\u2013" : <SvgDigits text={lineText(main.bow, unit)} />}
                </text>
              </>
            ) : radius < WORD ? null : (
              <text y={middle + 4} textAnchor="middle" className="t-note">
                open
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

type TraceProps = {
  main: MainThrow;
  points: Point[];
  mean: number;
  px: (nm: number) => number;
  radius: number;
};

function Trace({ main, points, mean, px, radius }: TraceProps) {
  const ring = points.map((p) => onPage(p.clock, radius + px(p.shown - mean)));
  const [cx, cy] = onPage(main.high_side, px(main.bend / 2));
  const [fromX, fromY] = onPage(main.high_side, radius * 0.35);
  const [toX, toY] = onPage(main.high_side, radius - 4);
  return (
    <>
      <circle cx={cx} cy={cy} r={radius} className="turn-fitted" />
      <path d={`M${ring.map((p) => p.join(" ")).join("L")}Z`} className="turn-trace" />
      {ring.map(([px, py], i) => (
        <circle key={points[i]?.clock} cx={px} cy={py} r={2} className="turn-point" />
      ))}
      <path
        d={`M${fromX} ${fromY}L${toX} ${toY}`}
        className={main.bent ? "turn-high turn-bent" : "turn-high"}
      />
    </>
  );
}
