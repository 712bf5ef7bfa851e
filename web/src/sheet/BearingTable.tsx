import { bearingsOf, isBearing } from "../api/catalog";
import type { Build, FigureAssessment, Row, Unit } from "../api/client";
import { Mark } from "../marks/Mark";
import { Digits, Figure } from "../shared/Figure";
import { stepText, stepWord } from "../shared/figure";
import { initials, METHOD_WORD, shownState } from "../shared/words";
import { RowTape } from "../tape/RowTape";
import { OpenStation } from "./OpenStation";
import { Values } from "./Values";

type BearingTableProps = { build: Build; row: Row; unit: Unit; onOpen: (station: string) => void };

/** Everybody whose readings count at a station. */
function takenBy(build: Build, s: FigureAssessment): string {
  const here = build.readings.filter((r) => r.station === s.station || r.station === s.journal_at);
  const names = here.filter((r) => !r.struck).map((r) => r.by.name);
  return [...new Set(names)].map(initials).join(", ");
}

const WASH: Record<string, string> = { tight: "bg-tight-wash", loose: "bg-loose-wash", edge: "bg-edge-wash" };

/** A row that still blocks is washed in its state's hue. */
function wash(s: FigureAssessment): string {
  return s.judged && s.judged.state !== "in" && !s.concession ? (WASH[s.judged.state] ?? "") : "";
}

/** Every bearing of a row: target, figure, proof, mark, who measured it, and what was accepted. */
export function BearingTable({ build, row, unit, onOpen }: BearingTableProps) {
  const stations = bearingsOf(build, row);
  const clearance = (nm: number) => <Figure nm={nm} unit={unit} as="clearance" short />;
  // On rollers there is no oil clearance: what is said of these places stands with the other figures.
  if (!stations.some(isBearing)) return null;
  return (
    <table
      className="mb-2 w-full table-fixed border-collapse"
      aria-label={row === "mains" ? "Mains" : "Rods"}
    >
      <colgroup>
        <col className="w-[6%]" />
        <col className="w-[16%]" />
        <col className="w-[13%]" />
        <col className="w-[19%]" />
        <col className="w-[8%]" />
        <col className="w-[12%]" />
        <col className="w-[9%]" />
        <col className="w-[8%]" />
        <col />
      </colgroup>
      <thead>
        <tr className="h-6 border-b border-ink text-left text-small text-ink-2">
          <th className="font-medium">{row === "mains" ? "Main" : "Rod"}</th>
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
        {stations.map((s) => (
          <tr
            key={s.station}
            className={`h-[26px] border-b border-hair ${wash(s)}`}
            data-row={s.station}
            data-state={shownState(s)}
          >
            <OpenStation station={s.station} onOpen={onOpen} />
            <td className="text-[14px] text-ink-2">
              {s.target && (
                <>
                  {clearance(s.target.window.low)}–{clearance(s.target.window.high)}
                  {s.target.own && <span title={s.target.reason}>*</span>}
                </>
              )}
            </td>
            <td>
              {s.target && (
                <RowTape
                  target={s.target.window}
                  value={s.judged ? { ...s.judged, clearance: s.judged.worst } : undefined}
                  unit={unit}
                />
              )}
            </td>
            <td className="text-[17px]">
              {s.judged ? (
                <Values f={s} unit={unit} />
              ) : s.predicted ? (
                <span className="text-dye italic">
                  <Figure nm={s.predicted.pair.clearance} unit={unit} as="clearance" short />
                </span>
              ) : s.stale ? (
                <span className="stale-strike px-1 text-ink-3">
                  <Figure nm={s.stale.was.clearance} unit={unit} as="clearance" short />
                </span>
              ) : (
                <span className="num text-ink-3">–</span>
              )}
            </td>
            <td
              className="num text-[14px] text-ink-2"
              title={s.judged ? stepWord(s.judged.expanded, unit) : undefined}
            >
              {s.judged && <Digits text={stepText(s.judged.expanded, unit)} />}
            </td>
            <td>
              <Mark
                state={shownState(s)}
                nearest={s.judged?.nearest ?? s.stale?.was.nearest}
                was={s.stale?.was.state}
                size={16}
              />
            </td>
            <td className="text-small text-ink-2">{s.judged && METHOD_WORD[s.judged.method]}</td>
            <td className="text-small text-ink-2">{takenBy(build, s)}</td>
            <td className="max-w-[180px] text-small">
              {s.concession && (
                <span
                  className="block truncate font-semibold text-brass-ink"
                  title={`${s.concession.by.name}: ${s.concession.reason}`}
                >
                  {initials(s.concession.by.name)}: {s.concession.reason}
                </span>
              )}
              {!s.concession && (
                <span className="whitespace-nowrap text-ink-2">
                  {s.thrust
                    ? "thrust"
                    : row === "rods" && s.journal_at !== `P${s.station.slice(1)}`
                      ? `on ${s.journal_at}`
                      : ""}
                  {s.prediction && !s.prediction.agrees && (
                    <b className="text-ink" data-promised="missed">
                      {s.thrust ? ", promised " : "promised "}
                      {clearance(s.prediction.pair.clearance)}
                    </b>
                  )}
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
