import { Radio, RadioGroup } from "@headlessui/react";
import { useId } from "react";
import type { Schemas, Unit } from "../api/client";
import { stateHue } from "../marks/Mark";
import { Digits } from "../shared/Figure";
import { clearanceParts, lineText, plain } from "../shared/figure";
import { STATE_WORD } from "../shared/words";
import { moneyText } from "../shells/money";
import { Graduations, Patterns, Whisker } from "../tape/parts";
import { tapeScale } from "../tape/scale";
import { keyOfChoice, type WasherChoice } from "./useWashers";

type WasherRowsProps = {
  proposal: Schemas["WasherProposal"];
  chosen: WasherChoice | undefined;
  unit: Unit;
  width: number;
  onChoose: (choice: WasherChoice) => void;
};

const ROW = 28;
/** Rows that are shown: what is worse than those nobody takes. */
const MOST = 6;
const HEAD = 34;
/** Columns beside the tape, at the bench and on a tablet: a side each, then play, way, shelf. */
const COLUMNS = {
  wide: { side: 66, play: 66, way: 76, shelf: 90 },
  narrow: { side: 54, play: 60, way: 66, shelf: 52 },
};
type Columns = (typeof COLUMNS)["wide"];
/** Below it a tablet's columns serve. */
const NARROW = 520;
/** The box before a row. */
const BOX = 28;

/** Every choice as a row of one stacked tape: the pair at the left, what comes of it at the right. */
export function WasherRows({ proposal, chosen, unit, width, onChoose }: WasherRowsProps) {
  const columns = width < NARROW ? COLUMNS.narrow : COLUMNS.wide;
  const { side, play, way: moves, shelf: place } = columns;
  const tape = Math.max(72, width - BOX - 2 * side - play - moves - place);
  const { target } = proposal;
  const rows = proposal.choices.slice(0, MOST);
  const values = [proposal.now, ...rows].flatMap((c) => [c.smallest - c.expanded, c.largest + c.expanded]);
  const { x, graduations } = tapeScale(target, values, unit, tape);
  return (
    <div>
      <div className="flex items-end text-note leading-tight text-ink-2" style={{ height: HEAD }}>
        <span className="flex-none" style={{ width: BOX + 2 * side, paddingLeft: BOX }}>
          <span className="inline-block" style={{ width: side }}>
            front
          </span>
          rear
        </span>
        <svg
          width={tape}
          height={HEAD}
          viewBox={`0 ${-HEAD} ${tape} ${HEAD}`}
          aria-hidden="true"
          className="flex-none overflow-visible"
        >
          <Graduations graduations={graduations} unit={unit} y={0} up />
        </svg>
        <span className="flex-none pl-2" style={{ width: play }}>
          End play
        </span>
        <span className="flex-none pl-2" style={{ width: moves }}>
          Crank moves
        </span>
        <span className="flex-1 text-right">Shelf</span>
      </div>
      <RadioGroup
        aria-label="Washers, the best first"
        value={chosen ? keyOfChoice(chosen) : ""}
        onChange={(key: string) => {
          const to = rows.find((c) => keyOfChoice(c) === key);
          if (to) onChoose(to);
        }}
        className="border-t border-ink"
      >
        {rows.map((c, i) => (
          <Radio
            key={keyOfChoice(c)}
            value={keyOfChoice(c)}
            data-washers={`${c.front.name}/${c.rear.name}`}
            aria-label={sentence(c, unit)}
            className="flex cursor-pointer items-center border-b border-hair-strong data-checked:bg-dye-wash"
            style={{ height: ROW }}
          >
            {({ checked }) => (
              <>
                <span
                  aria-hidden="true"
                  className={`mr-2.5 ml-0.5 grid size-4 flex-none place-items-center border ${checked ? "border-dye" : "border-ink-2"}`}
                >
                  {checked && <span className="size-2 bg-dye" />}
                </span>
                <Side side={c.front} unit={unit} width={side} />
                <Side side={c.rear} unit={unit} width={side} />
                <Lane c={c} target={target} x={x} width={tape} first={i === 0} now={proposal.now} />
                <span
                  className={`num flex-none pl-2 font-bold ${c.state === "in" ? "" : stateHue(c.state)}`}
                  style={{ width: play }}
                >
                  <Digits text={plain(clearanceParts(worse(c), unit))} />
                </span>
                <span className="flex-none pl-2 text-small whitespace-nowrap" style={{ width: moves }}>
                  {way(c.shift, unit)}
                </span>
                <span className="flex-1 text-right text-small whitespace-nowrap">{shelf(c, columns)}</span>
              </>
            )}
          </Radio>
        ))}
      </RadioGroup>
    </div>
  );
}

/** A washer: as it is in grey, what it grows in dye. */
function Side({ side, unit, width }: { side: Schemas["WasherSide"]; unit: Unit; width: number }) {
  return (
    <span className="flex flex-none items-center gap-1.5" style={{ width }} aria-hidden="true">
      <svg width="12" height="20" viewBox="0 0 12 20" aria-hidden="true">
        <rect x="0.5" y="0.5" width="4" height="19" fill="var(--color-steel-2)" stroke="var(--color-ink-2)" />
        {side.growth > 0 && <rect x="4.500" y="0.500" width="6" height="19" fill="var(--color-dye)" />}
      </svg>
      <span className="num text-small">
        {side.name}
        {side.lap > 0 && <span className="text-note text-ink-2"> −{lineText(side.lap, unit)}</span>}
      </span>
    </span>
  );
}

type LaneProps = {
  c: WasherChoice;
  now: WasherChoice;
  target: Schemas["Target"];
  x: (nm: number) => number;
  width: number;
  first: boolean;
};

function Lane({ c, now, target, x, width, first }: LaneProps) {
  const id = useId();
  const [low, high, aim] = [x(target.low), x(target.high), x(target.aim)];
  const at = x((c.smallest + c.largest) / 2);
  const same = c.sides_changed === 0;
  const from = x((now.smallest + now.largest) / 2);
  const toward = Math.sign(from - at);
  return (
    <svg
      width={width}
      height={ROW}
      viewBox={`0 0 ${width} ${ROW}`}
      aria-hidden="true"
      className="flex-none overflow-visible"
    >
      <Patterns id={id} />
      <rect width={width} height={ROW} fill={`url(#${id}steel)`} />
      <rect x={low} width={high - low} height={ROW} fill="var(--color-paper)" />
      <path
        d={`M${low - 5} ${first ? -8 : 0}h5V${ROW}h-5zM${high} ${first ? -8 : 0}h5V${ROW}h-5z`}
        fill="var(--color-ink)"
      />
      <path d={`M${aim} 0V${ROW}`} stroke="var(--color-dye)" strokeDasharray="2 4" />
      {first && !same && (
        <path
          d={`M${from} ${ROW / 2}H${at + toward * 16}M${at + toward * 16} ${ROW / 2 - 4}l${-toward * 7} 4 ${toward * 7} 4`}
          fill="none"
          stroke="var(--color-dye)"
          strokeWidth="1.6"
        />
      )}
      <g className={c.state === "in" ? "text-dye" : stateHue(c.state)}>
        <Whisker
          id={id}
          from={x(c.smallest - c.expanded)}
          to={x(c.largest + c.expanded)}
          y={ROW / 2}
          state={c.state}
          half={3}
        />
        <path d={`M${at} ${ROW / 2 - 8}l6 8l-6 8l-6 -8z`} fill="currentColor" />
      </g>
    </svg>
  );
}

/** The end that is judged: the smallest, or the largest where that is too much. */
function worse(c: WasherChoice): number {
  return c.state === "loose" ? c.largest : c.smallest;
}

function way(shift: number, unit: Unit): string {
  if (shift === 0) return "none";
  return `${lineText(Math.abs(shift), unit)} ${shift > 0 ? "fwd" : "back"}`;
}

function shelf(c: WasherChoice, columns: Columns) {
  const wide = columns === COLUMNS.wide;
  if (c.sides_changed === 0) return "fitted";
  const halves = c.buy.reduce((sum, b) => sum + b.halves, 0);
  if (halves > 0) return wide ? `buy ${halves}, ${moneyText(c.cost)}` : `buy ${halves}`;
  if (c.state !== "in") return <b className={stateHue(c.state)}>{STATE_WORD[c.state].toLowerCase()}</b>;
  return <b className="text-dye">{c.front.lap + c.rear.lap > 0 ? "lap" : wide ? "on the shelf" : "shelf"}</b>;
}

function sentence(c: WasherChoice, unit: Unit): string {
  const play = plain(clearanceParts(worse(c), unit));
  const bought = c.buy.reduce((sum, b) => sum + b.halves, 0);
  const buy = bought > 0 ? `, ${bought} halves to buy` : "";
  return `${c.front.name} at the front, ${c.rear.name} at the rear: end play ${play}, ${STATE_WORD[c.state]}, crank moves ${way(c.shift, unit)}${buy}`;
}
