import type { Build, StationAssessment, Unit } from "../api/client";
import { Mark } from "../marks/Mark";
import { Figure } from "../shared/Figure";
import { stepText, stepWord } from "../shared/figure";
import { initials, METHOD_WORD } from "../shared/words";
import { RowTape } from "../tape/RowTape";

type MainsTableProps = { build: Build; unit: Unit; onOpen: (station: string) => void };

/** Everybody whose readings count at a station. */
function takenBy(build: Build, station: string): string {
  const names = build.readings.filter((r) => r.station === station && !r.struck).map((r) => r.by.name);
  return [...new Set(names)].map(initials).join(", ");
}

const WASH: Record<string, string> = { tight: "bg-tight-wash", loose: "bg-loose-wash", edge: "bg-edge-wash" };

/** A row that still blocks is washed in its state's hue. */
function wash(s: StationAssessment): string {
  return s.judged && s.judged.state !== "in" && !s.concession ? (WASH[s.judged.state] ?? "") : "";
}

/** Every main: target, figure, proof, mark, who measured it, and what was accepted. */
export function MainsTable({ build, unit, onOpen }: MainsTableProps) {
  const clearance = (nm: number) => <Figure nm={nm} unit={unit} as="clearance" short />;
  return (
    <table className="w-full border-collapse" aria-label="Mains">
      <thead>
        <tr className="h-6 border-b border-ink text-left text-small text-ink-2">
          <th className="font-medium">Main</th>
          <th className="font-medium">Window</th>
          <th className="w-[112px] font-medium">Tape</th>
          <th className="font-medium">Measured</th>
          <th className="font-medium">±{unit === "in" ? " tenths" : " µm"}</th>
          <th className="font-medium">Mark</th>
          <th className="font-medium">Method</th>
          <th className="font-medium">By</th>
          <th className="font-medium">Note</th>
        </tr>
      </thead>
      <tbody>
        {build.assessment.stations.map((s) => (
          <tr
            key={s.station}
            className={`h-[29px] border-b border-hair ${wash(s)}`}
            data-row={s.station}
            data-state={s.judged?.state ?? "open"}
          >
            <th scope="row" className="text-left">
              <button
                type="button"
                className="font-semibold underline-offset-2 hover:underline"
                onClick={() => onOpen(s.station)}
                aria-label={`${s.station}, open on the bench`}
              >
                {s.station}
              </button>
            </th>
            <td className="text-[14px] text-ink-2">
              {s.target && (
                <>
                  {clearance(s.target.window.low)}–{clearance(s.target.window.high)}
                  {s.target.own && <span title={s.target.reason}>*</span>}
                </>
              )}
            </td>
            <td>
              {s.target && <RowTape target={s.target.window} value={s.judged ?? undefined} unit={unit} />}
            </td>
            <td className="text-[17px]">
              {s.judged ? (
                <Figure nm={s.judged.clearance} unit={unit} as="clearance" short className="font-bold" />
              ) : (
                <span className="num text-ink-3">–</span>
              )}
            </td>
            <td
              className="num text-[14px] text-ink-2"
              title={s.judged ? stepWord(s.judged.expanded, unit) : undefined}
            >
              {s.judged && stepText(s.judged.expanded, unit)}
            </td>
            <td>
              <Mark state={s.judged?.state ?? "open"} nearest={s.judged?.nearest} size={16} />
            </td>
            <td className="text-small text-ink-2">{s.judged && METHOD_WORD[s.judged.method]}</td>
            <td className="text-small text-ink-2">{takenBy(build, s.station)}</td>
            <td className="max-w-[180px] text-small">
              {s.concession && (
                <span
                  className="block truncate font-semibold text-brass-ink"
                  title={`${s.concession.by.name}: ${s.concession.reason}`}
                >
                  {initials(s.concession.by.name)}: {s.concession.reason}
                </span>
              )}
              {s.thrust && !s.concession && <span className="text-ink-2">thrust</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
