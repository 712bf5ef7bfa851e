import type { FigureAssessment } from "../api/client";
import type { CrankShape } from "./geometry";
import { BAND, progressOf, type Seen } from "./useLine";

type CylindersProps = {
  shape: CrankShape;
  /** The bore in pixels. */
  bore: number;
  /** The cylinders with where each stands, from the front. */
  marks: { centre: number; assessed: FigureAssessment }[];
  perPin: number;
  /** Phases of the pins, from the front. */
  phases: number[];
  chosen: string | undefined;
  wrists: boolean;
};

const DECK = 11;
const FOOT = 14;
/** The view angle of the crank. */
const VIEW_DEGREES = -16;
const LEVELS = [0.1, 0.45, 0.82];

/** Cylinders in a long section of their block, over their pins; the banks of a V as two rows. */
export function Cylinders({ shape, bore, marks, perPin, phases, chosen, wrists }: CylindersProps) {
  const rows = Array.from({ length: perPin }, (_, row) => ({
    row,
    marks: marks.flatMap((m, i) => (i % perPin === row ? [{ ...m, pin: Math.floor(i / perPin) }] : [])),
  }));
  const height = BAND / perPin;
  const pitch = Math.min(...shape.pins.slice(1).map((p, i) => p.centre - (shape.pins[i]?.centre ?? 0)), 200);
  const width = Math.min(bore, pitch - 9);
  const [first, last] = [shape.pins[0]?.centre ?? 0, shape.pins.at(-1)?.centre ?? 0];
  const wall = Math.max(10, Math.min(24, shape.mains[0]?.width ?? 20));
  return (
    <g>
      <defs>
        <pattern
          id="k-block"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0v7" className="k-block-line" />
        </pattern>
      </defs>
      {rows.map(({ row, marks: here }) => {
        const top = row * height + DECK;
        const bottom = (row + 1) * height - FOOT;
        const [left, right] = [first - width / 2 - wall, last + width / 2 + wall];
        return (
          <g key={row}>
            <rect x={left} y={top} width={right - left} height={bottom - top} fill="url(#k-block)" />
            <path d={`M${left} ${top}V${bottom}H${right}V${top}`} className="k-block-edge" />
            {here.map((m) => (
              <Bore
                key={m.assessed.station}
                seen={m}
                centre={shape.pins[m.pin]?.centre ?? m.centre}
                width={width}
                top={top}
                bottom={bottom}
                phase={(phases[m.pin] ?? 0) + row * 60}
                on={m.assessed.station === chosen}
                wrists={wrists}
              />
            ))}
            <path d={`M${left - 14} ${top}H${right + 14}`} className="k-deck" />
          </g>
        );
      })}
    </g>
  );
}

type BoreProps = {
  seen: Seen;
  centre: number;
  width: number;
  top: number;
  bottom: number;
  phase: number;
  on: boolean;
  wrists: boolean;
};

/** A bore with its piston at the height that the crank gives it, and the levels where the gauge goes. */
function Bore({ seen, centre, width, top, bottom, phase, on, wrists }: BoreProps) {
  const x = centre - width / 2;
  const depth = bottom - top;
  const lift = (1 - Math.cos(((phase + VIEW_DEGREES) * Math.PI) / 180)) / 2;
  const crown = top + 4 + lift * depth * 0.42;
  const skirt = depth * 0.44;
  const pin = crown + skirt * 0.55;
  const progress = progressOf(seen.assessed);
  const state = on && !wrists ? "k-chosen" : wrists ? "k-measured" : `k-${progress}`;
  return (
    <g>
      <rect x={x} y={top} width={width} height={depth} className={`k-journal ${state}`} />
      {!wrists &&
        LEVELS.map((at) => (
          <path
            key={at}
            d={`M${x + 2} ${top + depth * at}h${width - 4}`}
            className={on ? "k-level k-level-on" : "k-level"}
          />
        ))}
      <path
        d={`M${x + 3} ${crown + skirt}V${crown}H${x + width - 3}V${crown + skirt}M${centre} ${crown + skirt}V${bottom}`}
        className={on ? "k-piston k-piston-on" : "k-piston"}
      />
      {wrists && (
        <circle
          cx={centre}
          cy={pin}
          r={Math.min(9, width / 5)}
          className={`k-journal ${on ? "k-chosen" : `k-${progress}`}`}
        />
      )}
      {!wrists && (
        <g className={on ? "k-thrust k-thrust-on" : "k-thrust"}>
          <circle cx={x + width - 9} cy={bottom - 9} r="4.6" />
          <path d={`M${x + width - 12.2} ${bottom - 12.2}l6.4 6.4m0 -6.4l-6.4 6.4`} />
        </g>
      )}
    </g>
  );
}
