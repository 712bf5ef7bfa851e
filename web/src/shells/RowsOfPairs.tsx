import type { Schemas, Unit } from "../api/client";
import { Mark, stateHue } from "../marks/Mark";
import { Figure } from "../shared/Figure";
import { useWidth } from "../shared/useWidth";
import { classWord, PairDrawing } from "./PairDrawing";
import { HEAD, ProposalTapes } from "./ProposalTapes";

type RowsOfPairsProps = {
  places: Schemas["ProposedPair"][];
  open: string[];
  family: Schemas["ShellFamily"];
  kept: string[];
  chosen: string | undefined;
  unit: Unit;
  /** By how many gauge steps the target is moved, and moving it. */
  moved: number;
  onMove: (by: number) => void;
  onChoose: (station: string) => void;
  onKeep: (station: string) => void;
};

/** Height of a row at the smallest window. */
const ROW = 44;

/** Measured, tape, and what is proposed: a row each, on one axis. */
export function RowsOfPairs(props: RowsOfPairsProps) {
  const { places, open, family, kept, chosen, unit } = props;
  const [ref, width] = useWidth(364);
  // What is of another family comes out in any case.
  const known = (id: string) => family.classes.some((c) => c.id === id);
  return (
    <div
      className="mt-1 grid grid-cols-[172px_minmax(0,1fr)_312px] gap-x-5 max-[1150px]:grid-cols-[164px_minmax(0,1fr)_262px] max-[1150px]:gap-x-2.5"
      data-proposal={places.length}
    >
      <div style={{ paddingTop: HEAD }}>
        <Head text="Measured" />
        {places.map((p) => (
          <button
            key={p.station}
            type="button"
            aria-current={p.station === chosen || undefined}
            style={{ height: ROW }}
            onClick={() => props.onChoose(p.station)}
            className={`flex w-full items-center gap-2 border-b border-hair text-left ${p.station === chosen ? "bg-dye-wash" : ""}`}
          >
            <b className="w-7">{p.station}</b>
            <span className="flex-1">
              <Mark state={p.was} nearest={p.was_nearest} size={17} word="text-note" />
            </span>
            <Figure
              nm={p.measured}
              unit={unit}
              as="clearance"
              short
              keepHalf
              className={`text-[15px] font-bold ${stateHue(p.was)}`}
            />
          </button>
        ))}
        {open.length > 0 && (
          <p className="mt-1 text-note whitespace-nowrap text-ink-2">
            {open.join(", ")} {open.length === 1 ? "is" : "are"} left out until measured.
          </p>
        )}
      </div>
      <section ref={ref} aria-label="Tapes" className="min-w-0">
        <ProposalTapes
          places={places}
          unit={unit}
          width={width}
          rowHeight={ROW}
          moved={props.moved}
          onMove={props.onMove}
        />
      </section>
      <div style={{ paddingTop: HEAD }}>
        <Head text="With these shells" inset />
        {places.map((p) => (
          <div
            key={p.station}
            style={{ height: ROW }}
            data-pair={`${p.station} ${p.pair.upper} ${p.pair.lower}`}
            className={`flex items-center gap-2 border-b border-hair ${p.station === chosen ? "bg-dye-wash" : ""}`}
          >
            <Figure
              nm={p.clearance}
              unit={unit}
              as="clearance"
              short
              keepHalf
              className={`w-[60px] flex-none text-[15px] ${p.changes ? "font-bold text-dye" : "text-ink-2"}`}
            />
            <span className="w-[60px] flex-none">
              {p.changes ? (
                <Mark state={p.state} nearest={p.nearest} size={17} word="text-note" />
              ) : (
                <span className="text-small text-ink-2">stays</span>
              )}
            </span>
            <span className="max-[1150px]:hidden">
              <PairDrawing now={p.now} pair={p.pair} classes={family.classes} />
            </span>
            <span className="w-[80px] flex-none text-note leading-tight">
              <HalfWord half="upper" id={p.pair.upper} was={p.now.upper} family={family} />
              <HalfWord half="lower" id={p.pair.lower} was={p.now.lower} family={family} />
            </span>
            {known(p.now.upper) && (
              <button
                type="button"
                aria-pressed={kept.includes(p.station)}
                aria-label={`Keep ${p.station} as it is`}
                data-keep={p.station}
                onClick={() => props.onKeep(p.station)}
                className={`ml-auto h-7 border px-1.5 text-note font-semibold ${
                  kept.includes(p.station)
                    ? "border-ink bg-ink text-white"
                    : "border-hair-strong bg-paper text-ink-2"
                }`}
              >
                {kept.includes(p.station) ? "kept" : "keep"}
              </button>
            )}
          </div>
        ))}
      </div>
    </div>
  );
}

function Head({ text, inset = false }: { text: string; inset?: boolean }) {
  return (
    <div className="relative h-0">
      <span className={`absolute bottom-2 text-note text-ink-2 ${inset ? "left-6" : "left-0"}`}>{text}</span>
    </div>
  );
}

type HalfWordProps = { half: string; id: string; was: string; family: Schemas["ShellFamily"] };

function HalfWord({ half, id, was, family }: HalfWordProps) {
  const changed = id !== was;
  return (
    <span className={`block whitespace-nowrap ${changed ? "font-bold text-dye" : "text-ink-2"}`}>
      {half} <b className="num">{id}</b> {id.length < 4 && classWord(id, family.classes)}
    </span>
  );
}
