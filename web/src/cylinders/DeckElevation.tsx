import type { Schemas, Unit } from "../api/client";
import { SvgDigits } from "../shared/Figure";
import { clearanceParts, plain, sizeParts } from "../shared/figure";

type DeckElevationProps = {
  deck: Schemas["DeckPlan"];
  stacks: Schemas["StackAt"][];
  /** What a cut that is asked about takes off every deck clearance, in nanometres. */
  cut: number;
  unit: Unit;
  width: number;
};

/** Room at both ends for the heights of the corners. */
const SIDE = 92;
/** Where the deck is drawn, and the room for what lies below it, in pixels. */
const DECK = 34;
const ROOM = 62;
const BOTTOM = DECK + ROOM + 24;
/** What a figure takes below its piston; where there is less, the table has it. */
const FIGURE = 56;

/**
 * A deck from its side, to one scale: both long edges between their corners, and every piston at dead centre below them. The
 * solid crown is what was measured, the dashed one what the parts of its stack come to.
 */
export function DeckElevation({ deck, stacks, cut, unit, width }: DeckElevationProps) {
  const mean = deck.mean ?? 0;
  const [frontLeft = mean, frontRight = mean, rearRight = mean, rearLeft = mean] = deck.corners ?? [];
  const depths = stacks.flatMap((s) => [s.measured ?? 0, s.reckoned ?? 0]);
  const most = Math.max(1, cut, ...depths, ...(deck.corners ?? []).map((z) => Math.abs(z - mean)));
  const y = (below: number) => DECK + (below / most) * ROOM;
  const [from, to] = [SIDE, width - SIDE];
  const cell = (to - from) / Math.max(1, stacks.length);
  const piston = Math.min(48, cell - 10);
  const text = (nm: number | null | undefined) => (nm == null ? "\u2013" : plain(clearanceParts(nm, unit)));
  const name = (s: Schemas["StackAt"]) =>
    `${s.at} measured ${text(s.measured)}, by its parts ${text(s.reckoned)}`;
  return (
    <svg
      role="img"
      aria-label={`${deck.at} from its side: ${stacks.map(name).join("; ")}.`}
      width={width}
      height={BOTTOM + 20}
      className="mt-2 block"
      data-elevation={deck.at}
    >
      {cut > 0 && <path d={`M${from} ${DECK}H${to}V${y(cut)}H${from}Z`} className="deck-cut" />}
      <path d={`M${from} ${y(mean - frontRight)}L${to} ${y(mean - rearRight)}`} className="deck-far" />
      <path d={`M${from} ${y(mean - frontLeft)}L${to} ${y(mean - rearLeft)}`} className="deck-near" />
      {deck.corners && (
        <>
          <Corner x={from - 8} anchor="end" word="left" nm={frontLeft} unit={unit} row={0} />
          <Corner x={from - 8} anchor="end" word="right" nm={frontRight} unit={unit} row={1} />
          <Corner x={to + 8} anchor="start" word="left" nm={rearLeft} unit={unit} row={0} />
          <Corner x={to + 8} anchor="start" word="right" nm={rearRight} unit={unit} row={1} />
        </>
      )}
      {stacks.map((s, i) => {
        const x = from + cell * (i + 0.5);
        const top = s.measured ?? s.reckoned;
        const off = s.agrees === false;
        return (
          <g key={s.at} transform={`translate(${x} 0)`} data-piston={s.at}>
            <text y={14} textAnchor="middle" className="t-word">
              {s.at}
            </text>
            {top == null ? (
              <path
                d={`M${-piston / 2} ${BOTTOM}V${y(most)}H${piston / 2}V${BOTTOM}`}
                className="deck-open"
              />
            ) : (
              <path
                d={`M${-piston / 2} ${BOTTOM}V${y(top)}H${piston / 2}V${BOTTOM}`}
                className={off ? "deck-piston deck-off" : "deck-piston"}
              />
            )}
            {s.reckoned != null && (
              <path d={`M${-piston / 2 - 5} ${y(s.reckoned)}H${piston / 2 + 5}`} className="deck-reckoned" />
            )}
            {cell >= FIGURE && (
              <text y={BOTTOM + 16} textAnchor="middle" className={off ? "t-num deck-word-off" : "t-num"}>
                {top == null ? "open" : <SvgDigits text={text(top)} />}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

type CornerProps = {
  x: number;
  anchor: "start" | "end";
  word: string;
  nm: number;
  unit: Unit;
  row: number;
};

function Corner({ x, anchor, word, nm, unit, row }: CornerProps) {
  return (
    <text x={x} y={DECK - 6 + row * 17} textAnchor={anchor} className="t-num">
      <SvgDigits text={plain(sizeParts(nm, unit))} />
      <tspan className="t-note" dx={4}>
        {word}
      </tspan>
    </text>
  );
}
