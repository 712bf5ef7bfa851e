import { useId } from "react";
import type { Side, Target, Unit } from "../api/client";
import { GlyphShape, stateHue } from "../marks/Mark";
import { SvgDigits } from "../shared/Figure";
import { clearanceParts, plain, stepParts } from "../shared/figure";
import { type Shown, STATE_WORD } from "../shared/words";
import { Channel, Patterns, Whisker } from "./parts";
import { tapeScale } from "./scale";

export type TapeValue = {
  clearance: number;
  expanded: number;
  state: Shown;
  /** Distance to the nearest limit, and which that is; drawn as a dimension where given. */
  margin?: number;
  nearest?: Side;
};

type TapeProps = {
  target: Target;
  value?: TapeValue | undefined;
  /** Other figures for the same station, drawn hollow and named below. */
  ghosts?: { clearance: number; name: string }[];
  unit: Unit;
  width: number;
  /** Whether more is always better: there is no stop at the right. */
  least?: boolean;
  /** Whether less is always better: there is no stop at the left, and nothing to aim at. */
  most?: boolean;
};

/** Where a stop stands that there is none of. */
const OUTSIDE = 40;
const TOP = 30;
const FLOOR = 76;

function numberText(nm: number, unit: Unit): string {
  const text = plain(clearanceParts(nm, unit));
  return unit === "in" ? text.replace(/^0/, "") : text;
}

/** Half of what the word takes, with room to what stands beside it. */
const WORD = 34;

/** Where it is said that values are proven: in the middle of them, or beside the value that stands there. */
function provenAt({ from, to }: { from: number; to: number }, at: number | undefined): number | undefined {
  const middle = (from + to) / 2;
  if (at === undefined || Math.abs(at - middle) > WORD) return to - from > 2 * WORD ? middle : undefined;
  const beside = at > middle ? (from + at) / 2 : (at + to) / 2;
  return Math.abs(at - beside) > WORD ? beside : undefined;
}

/** The clearance tape: a window cut into steel, the value scribed over it, its uncertainty a whisker. */
export function Tape({
  target: of,
  value,
  ghosts = [],
  unit,
  width,
  least = false,
  most = false,
}: TapeProps) {
  const id = useId();
  const target = least ? toScale(of, value) : of;
  const shown = [...ghosts.map((g) => g.clearance)];
  if (value) shown.push(value.clearance - value.expanded, value.clearance + value.expanded);
  const { x, graduations } = tapeScale(
    target,
    shown,
    unit,
    width,
    value && value.clearance < 0 ? value.clearance - value.expanded : 0,
  );
  const [low, high, aim] = [
    most ? -OUTSIDE : x(target.low),
    least ? width + OUTSIDE : x(target.high),
    x(target.aim),
  ];
  const at = value && x(value.clearance);
  // A limit's number stands outside, or steps inside when the pointer is over it out there.
  const lowInside = at !== undefined && at < low && low - at < 60;
  const highInside = at !== undefined && at > high && at - high < 60;
  const proven = value && {
    from: most ? 0 : x(target.low + value.expanded),
    to: x(target.high - value.expanded),
  };
  const word = proven && provenAt(proven, at);
  const whisker = value && {
    from: x(value.clearance - value.expanded),
    to: x(value.clearance + value.expanded),
  };
  const free = (from: number) => !whisker || whisker.to < from - 4 || whisker.from > from + TAG + 4;
  return (
    <svg
      role="img"
      aria-label={most ? mostLabel(target, value, unit) : tapeLabel(target, value, unit)}
      width={width}
      height={ghosts.length > 0 ? 148 : 118}
      viewBox={`0 0 ${width} ${ghosts.length > 0 ? 148 : 118}`}
      className="block overflow-visible"
    >
      <Patterns id={id} />
      <Channel id={id} low={low} high={high} width={width} top={TOP} floor={FLOOR} />
      {proven && proven.to > proven.from && (
        <>
          <rect
            x={proven.from}
            y={FLOOR - 5}
            width={proven.to - proven.from}
            height="5"
            fill="var(--color-ink)"
            opacity=".16"
          />
          {word !== undefined && ghosts.length === 0 && (
            <text x={word} y={FLOOR - 9} textAnchor="middle" className="t-note">
              proven
            </text>
          )}
        </>
      )}
      {free(8) && <Tag x={8} state="tight" room={low} />}
      {free(width - 82) && <Tag x={width - 82} state={most ? "over" : "loose"} room={width - high} />}
      <path d={`M0 ${FLOOR + 0.5}H${width}`} stroke="var(--color-ink)" />
      {graduations.map((g) => (
        <path
          key={g.nm}
          d={`M${g.x} ${FLOOR}v${g.rank === "fine" ? 8 : g.rank === "numbered" ? 14 : 19}`}
          stroke={g.rank === "fine" ? "var(--color-ink-3)" : "var(--color-ink)"}
          strokeWidth={g.rank === "heavy" ? 1.8 : 1.1}
        />
      ))}
      {graduations
        .filter((g) => g.rank !== "fine")
        .map((g) => (
          <text
            key={g.nm}
            x={g.x}
            y={FLOOR + 34}
            textAnchor={g.x < 20 ? "start" : g.x > width - 20 ? "end" : "middle"}
            className={g.rank === "heavy" ? "t-num t-num-heavy" : "t-num"}
          >
            <SvgDigits text={numberText(g.nm, unit)} />
          </text>
        ))}
      {!most && (
        <text
          x={lowInside ? low + 12 : low - 9}
          y={TOP - 9}
          textAnchor={lowInside ? "start" : "end"}
          className="t-num t-num-heavy"
        >
          <SvgDigits text={numberText(target.low, unit)} />
        </text>
      )}
      {!least && (
        <>
          <text
            x={highInside ? high - 12 : high + 9}
            y={TOP - 9}
            textAnchor={highInside ? "end" : "start"}
            className="t-num t-num-heavy"
          >
            <SvgDigits text={numberText(target.high, unit)} />
          </text>
          {!most && (
            <path
              d={`M${aim - 7} ${TOP}h14l-7 10z`}
              fill="var(--color-paper)"
              stroke="var(--color-ink)"
              strokeWidth="1.4"
            />
          )}
        </>
      )}
      {!least && !most && (at === undefined || Math.abs(at - aim) > 30) && high - low > 150 && (
        <text x={aim} y={TOP - 9} textAnchor="middle" className="t-word">
          aim
        </text>
      )}
      {together(ghosts, x).map((group) => (
        <Ghost
          key={group.name}
          x={group.x}
          at={group.at}
          name={group.name}
          text={group.text.map((nm) => numberText(nm, unit)).join(", ")}
          width={width}
        />
      ))}
      {value && whisker && at !== undefined && (
        <g className={stateHue(most && value.state === "loose" ? "over" : value.state)}>
          <path d={`M${at} ${TOP}V${FLOOR + 14}`} stroke="currentColor" strokeWidth="2.4" />
          <Whisker id={id} {...whisker} y={53} state={value.state} />
          {value.margin !== undefined && (
            <Margin
              from={value.nearest === "high" ? high : low}
              to={at}
              doubt={x(value.expanded) - x(0)}
              text={marginText(value.margin, unit)}
            />
          )}
          <path d={`M${at - 9} 2h18v14l-9 13l-9 -13z`} fill="currentColor" />
        </g>
      )}
    </svg>
  );
}

/** How far it is to the limit: the arrow says which way. A bare figure is of the steps that are drawn. */
function marginText(margin: number, unit: Unit): string {
  const { text, word } = stepParts(margin, unit);
  return word === "thou" ? `${text} ${word}` : text;
}

/** Pixels that a ghost's words need. */
const GHOST_ROOM = 110;

/** Ghosts side by side share their words, so that none is written over another. */
function together(ghosts: { clearance: number; name: string }[], x: (nm: number) => number) {
  const groups: { x: number; at: number[]; name: string; text: number[] }[] = [];
  for (const g of [...ghosts].sort((a, b) => a.clearance - b.clearance)) {
    const at = x(g.clearance);
    const last = groups.at(-1);
    if (last && at - (last.at.at(-1) ?? 0) < GHOST_ROOM) {
      last.at.push(at);
      last.x = last.at.reduce((sum, a) => sum + a, 0) / last.at.length;
      last.name += `, ${g.name}`;
      last.text.push(g.clearance);
    } else groups.push({ x: at, at: [at], name: g.name, text: [g.clearance] });
  }
  return groups;
}

/** How wide the name of a side is. */
const TAG = 76;

function Tag({ x, state, room }: { x: number; state: "tight" | "loose" | "over"; room: number }) {
  if (room < 92) return null;
  return (
    <g className={stateHue(state)} transform={`translate(${x} 42)`}>
      <rect x="-2" width={TAG + 2} height="22" fill="var(--color-steel-1)" />
      <g transform="translate(2 4) scale(.7)">
        <GlyphShape state={state} />
      </g>
      <text x="22" y="16" fill="currentColor" className="t-tag">
        {STATE_WORD[state]}
      </text>
    </g>
  );
}

type MarginProps = {
  /** Where the limit is. */
  from: number;
  /** Where the value is. */
  to: number;
  /** Half the width of its whisker. */
  doubt: number;
  text: string;
};

/** The distance from the nearest limit to the value, as a dimension line in bench steps. */
function Margin({ from, to, doubt, text }: MarginProps) {
  const side = to > from ? 1 : -1;
  const free = Math.abs(to - from) - doubt;
  if (Math.abs(to - from) < 8) return null;
  return (
    <g>
      <path
        d={`M${from} 36H${to}M${from + side * 5} 33l${-side * 5} 3l${side * 5} 3`}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.2"
      />
      {free > 22 && (
        <text
          x={from + (side * free) / 2}
          y="51"
          textAnchor="middle"
          fill="currentColor"
          className="t-margin"
        >
          <SvgDigits text={text} />
        </text>
      )}
    </g>
  );
}

type GhostProps = {
  /** Where the words stand. */
  x: number;
  /** Where each diamond stands. */
  at: number[];
  name: string;
  text: string;
  width: number;
};

function Ghost({ x, at, name, text, width }: GhostProps) {
  const anchor = x < 60 ? "start" : x > width - 60 ? "end" : "middle";
  return (
    <g>
      <path
        d={at.map((d) => `M${d} ${TOP + 4}V${FLOOR + 40}`).join("")}
        stroke="var(--color-ink-3)"
        strokeDasharray="3 3"
        fill="none"
      />
      <path
        d={at.map((d) => `M${d} 46l6 7l-6 7l-6 -7z`).join("")}
        fill="var(--color-paper)"
        stroke="var(--color-ink-2)"
        strokeWidth="1.5"
      />
      <text x={x} y={FLOOR + 52} textAnchor={anchor} className="s-note">
        {name}
      </text>
      <text x={x} y={FLOOR + 68} textAnchor={anchor} className="t-num t-num-heavy">
        <SvgDigits text={text} />
      </text>
    </g>
  );
}

/** As much of what has no upper limit as the value needs. */
function toScale(target: Target, value: TapeValue | undefined): Target {
  const reach = value ? Math.max(0, value.clearance) + value.expanded : 0;
  const high = Math.max(target.low * 2.5, reach * 1.15);
  return { ...target, aim: target.low, high };
}

function tapeLabel(target: Target, value: TapeValue | undefined, unit: Unit): string {
  const show = (nm: number) => numberText(nm, unit);
  const window = `Window ${show(target.low)} to ${show(target.high)}, aim ${show(target.aim)}`;
  if (!value) return `${window}; nothing measured`;
  return `${window}; ${show(value.clearance)} plus or minus ${show(value.expanded)}, ${value.state}`;
}

function mostLabel(target: Target, value: TapeValue | undefined, unit: Unit): string {
  const show = (nm: number) => numberText(nm, unit);
  if (!value) return `At most ${show(target.high)}; nothing measured`;
  const state = value.state === "loose" ? "over" : value.state;
  return `At most ${show(target.high)}; ${show(value.clearance)} plus or minus ${show(value.expanded)}, ${state}`;
}
