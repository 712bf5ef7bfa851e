import type { FloorRow } from "../api/client";
import { Miniature } from "../line/Miniature";
import { Digits } from "../shared/Figure";
import { dayText, momentText, nextPhrase } from "../shared/words";

const NEXT_WORD: Record<FloorRow["next"]["kind"], string> = {
  measure: "Measuring",
  await: "Away",
  decide: "Decision",
  sign: "Signature",
  nothing: "Sealed",
  clear_up: "Not as it was signed",
};

type FloorBuildProps = {
  row: FloorRow;
  scale: number;
  chosen: boolean;
  onChoose: () => void;
  onOpen: () => void;
};

/** One build on the floor. */
export function FloorBuild({ row, scale, chosen, onChoose, onOpen }: FloorBuildProps) {
  const done = row.stations.filter((s) => s.state).length;
  return (
    // The list holds the focus; its keys choose and open.
    // biome-ignore lint/a11y/useKeyWithClickEvents: arrow keys and Enter are handled by the list
    <div
      id={`build-${row.code}`}
      role="option"
      aria-selected={chosen}
      tabIndex={-1}
      data-build={row.code}
      onClick={onChoose}
      onDoubleClick={onOpen}
      className={`relative grid min-h-[101px] cursor-pointer grid-cols-[160px_minmax(330px,400px)_1fr_190px] items-center gap-2 border-b border-hair-strong px-6 ${
        chosen ? "bg-white shadow-[inset_12px_0_0_var(--color-dye),inset_0_0_0_2px_var(--color-dye)]" : ""
      }`}
    >
      <div>
        <div className="num text-[19px] font-bold">
          <Digits text={row.code} />
        </div>
        <div className="text-[14px] text-ink-2">{row.engine}</div>
        {row.stations.length === 0 && <div className="text-note font-semibold">runs on rollers</div>}
      </div>
      <div className="py-1">
        <Miniature row={row} scale={scale} />
      </div>
      <div>
        <div className={`font-bold ${row.next.kind === "nothing" ? "text-brass-ink" : "text-dye"}`}>
          {NEXT_WORD[row.next.kind]}
        </div>
        <div>{row.next.kind === "nothing" ? "Nothing left to do" : nextPhrase(row.next)}</div>
        {row.away.map((a) => (
          <div
            key={a.number}
            data-away={a.number}
            className="mt-1 inline-block border border-ink px-2 text-note leading-5 font-semibold"
          >
            {a.number} at {a.shop} since {dayText(a.since)}
          </div>
        ))}
        {row.status === "does_not_match" && (
          <div
            data-doubt={row.code}
            className="mt-1 inline-block border-2 border-ink bg-white px-2 text-note leading-5 font-bold"
          >
            The seal does not match
          </div>
        )}
        {row.elsewhere && (
          <div className="mt-1 inline-block border border-dashed border-ink px-2 text-note leading-5 font-semibold">
            Signed elsewhere
          </div>
        )}
        {row.broken && (
          <div className="mt-1 inline-block bg-ink px-2 text-note leading-5 font-bold text-white">
            Seal broken by a later change
          </div>
        )}
      </div>
      <div className="text-small text-ink-2">
        {row.stations.length > 0 && (
          <div className="font-semibold text-ink">
            {done} of {row.stations.length} bearings judged
          </div>
        )}
        {row.touched_by.name}, {momentText(row.touched_at)}
      </div>
    </div>
  );
}
