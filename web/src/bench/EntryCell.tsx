import type { Reading, Unit } from "../api/client";
import { Digits, Figure } from "../shared/Figure";
import { lineText, sizeParts } from "../shared/figure";
import { CellInput } from "./CellInput";
import type { BenchState, Entry } from "./useBench";
import type { Echo } from "./useEcho";

type EntryCellProps = {
  name: string;
  cellKey: string;
  unit: Unit;
  advisory: boolean;
  /** What is expected there, for the light digits before a typed tail. */
  expected: number;
  reading: Reading | undefined;
  /** A reading that no longer counts, while nothing has replaced it. */
  stale?: Reading | undefined;
  /** Text that is on its way to the server. */
  waiting: string | undefined;
  /** An entry that the server sent back. */
  back: Entry | undefined;
  /** Whether a touch may be typed here now. */
  room: boolean;
  active: boolean;
  wanted: boolean;
  bench: BenchState;
  echo: Echo | undefined;
  onActivate: () => void;
  onStrike: (reading: string) => void;
};

/** What a kept reading shows: the dial as it was read, the two blades, or the size. */
function ReadingFigure({ reading, unit }: { reading: Reading; unit: Unit }) {
  if (reading.between) {
    // In thou or micrometres, as it is stamped on the blades.
    const blade = (nm: number) => lineText(nm, unit).replace(/\.?0+$/, "");
    return <span className="num">{reading.between.map(blade).join("\u2013")}</span>;
  }
  if (reading.dial == null) return <Figure nm={reading.size} unit={unit} light={4} />;
  return <DialFigure nm={reading.dial} unit={unit} />;
}

function DialFigure({ nm, unit }: { nm: number; unit: Unit }) {
  const step = unit === "in" ? 2_540 : 1_000;
  const text = String(Math.round((nm / step) * 10) / 10).replace("-", "\u2212");
  return (
    <span className="num" data-dial={text}>
      <Digits text={text} />
    </span>
  );
}

/** One touch: empty, being typed, on its way, kept, or sent back. */
export function EntryCell(props: EntryCellProps) {
  const { name, cellKey, unit, advisory, reading, waiting, back, room, active, wanted } = props;
  const border = advisory ? "border-dashed" : "border-solid";
  const look = `h-full border border-hair-strong p-0 text-center text-[18px] ${border}`;
  if (active) {
    return (
      <td
        className={`${look} bg-white outline-3 -outline-offset-2 outline-dye`}
        data-cell={cellKey}
        data-active=""
      >
        <CellInput
          name={name}
          lead={leadOf(props)}
          bench={props.bench}
          problem={Boolean(back) || Boolean(props.echo?.problem)}
        />
      </td>
    );
  }
  if (reading) {
    return (
      <td className={`${look} bg-paper`} data-cell={cellKey}>
        <button
          type="button"
          tabIndex={-1}
          title={`${reading.by.name}, ${reading.source === "gauge" ? "gauge sent" : "typed"} \u201c${reading.raw}\u201d. Strike this reading`}
          className="size-full hover:line-through hover:decoration-2"
          onClick={() => props.onStrike(reading.id)}
        >
          <span className="sr-only">{name}: </span>
          <ReadingFigure reading={reading} unit={unit} />
          <span className="sr-only">, strike this reading</span>
        </button>
      </td>
    );
  }
  if (back) {
    return (
      <td className={`${look} bg-paper`} data-cell={cellKey}>
        <button
          type="button"
          tabIndex={-1}
          className="num size-full font-bold text-tight"
          title={back.problem?.detail}
          onClick={props.onActivate}
        >
          <span className="sr-only">{name}, not kept: </span>
          {back.text} !
        </button>
      </td>
    );
  }
  if (waiting !== undefined) {
    return (
      <td className={`${look} num bg-paper text-ink-3 italic`} data-cell={cellKey} data-waiting="">
        {waiting}
      </td>
    );
  }
  if (props.stale) {
    return (
      <td className={`${look} hatch-steel`} data-cell={cellKey} data-stale="">
        <button
          type="button"
          tabIndex={-1}
          className="size-full text-ink-3 line-through"
          title="Measured before something was done here: it no longer counts"
          onClick={props.onActivate}
        >
          <span className="sr-only">{name}, stale: </span>
          <ReadingFigure reading={props.stale} unit={unit} />
        </button>
      </td>
    );
  }
  if (!room) return <td className={`${look} hatch-steel`} data-cell={cellKey} />;
  return (
    <td className={`${look} ${wanted ? "bg-paper" : "hatch-steel"}`} data-cell={cellKey}>
      <button
        type="button"
        tabIndex={-1}
        className="size-full"
        aria-label={`${name}: empty`}
        onClick={props.onActivate}
      />
    </td>
  );
}

/** The digits that typed tail digits complete: from what the server understood, or from what is expected. */
function leadOf({ bench, echo, expected, unit }: EntryCellProps): string {
  const { text, active } = bench;
  if (active?.read !== "size" || !/^\d{0,3}$/.test(text)) return "";
  const understood = echo?.understood;
  if (text !== "" && understood) {
    const shown = understood.shown.split(" ")[0] ?? "";
    return understood.how === "tail" && shown.endsWith(text) ? shown.slice(0, -text.length) : "";
  }
  const usual = sizeParts(expected, unit).text;
  return usual.slice(0, usual.length - Math.max(2, text.length));
}
