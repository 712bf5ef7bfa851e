import { bearingsOf } from "../api/catalog";
import type { Build, FigureAssessment } from "../api/client";
import { progressOf } from "../line/useLine";
import { CAP, CapDrawing } from "./CapDrawing";
import type { SetUpState } from "./useSetUp";

export type Column = { station: string; x: number };

type CapColumnsProps = { build: Build; state: SetUpState; columns: Column[]; width: number };

/** What is fitted at a bearing, where the tool knows it and nobody named the shells. */
function fittedAt(assessed: FigureAssessment | undefined, half: "upper" | "lower"): string | undefined {
  return (assessed?.predicted?.pair ?? assessed?.prediction?.pair)?.[half];
}

/** Each bearing of the row under its place on the line: its parts, its shells, and how its cap sits. */
export function CapColumns({ build, state, columns, width }: CapColumnsProps) {
  const bearings = bearingsOf(build);
  const { written } = state;
  const groups = written.groups ?? [];
  const scale = Math.min(1, (width + 6) / CAP.width);
  const at = (x: number, wide = width) => ({ left: x - wide / 2, width: wide });
  return (
    <>
      <div className="relative" style={{ height: CAP.height }}>
        {columns.map(({ station, x }) => {
          const assessed = bearings.find((s) => s.station === station);
          return (
            <div
              key={station}
              className="absolute top-0 origin-top"
              style={{ ...at(x, CAP.width), transform: `scale(${scale})` }}
            >
              <CapDrawing
                station={station}
                measured={assessed !== undefined && progressOf(assessed) === "measured"}
                fastener={written.fastener}
                washers={written.washers}
                outer={groups.some((g) => g.group === "outer")}
                side={groups.some((g) => g.group === "side")}
                changed={{ upper: state.differs(station, "upper"), lower: state.differs(station, "lower") }}
              />
              <input
                aria-label={`Number on the cap of ${station}`}
                value={state.capOf(station).cap}
                inputMode="numeric"
                className="num absolute top-[186px] left-[31px] h-5 w-6 bg-paper text-center text-[15px] font-bold"
                onChange={(e) => state.setCap(station, { cap: Number(e.target.value.slice(-2)) || 0 })}
              />
            </div>
          );
        })}
      </div>
      {(["upper", "lower"] as const).map((half) => (
        <Lane key={half} label={`${half === "upper" ? "Upper" : "Lower"} shell`}>
          {columns.map(({ station, x }) => {
            const fitted = fittedAt(
              bearings.find((s) => s.station === station),
              half,
            );
            return (
              <input
                key={station}
                aria-label={`${half} shell of ${station}`}
                value={state.shellIn(station, half)}
                placeholder={fitted ?? "\u2013"}
                title={fitted ? `${fitted} is fitted` : undefined}
                style={at(x)}
                className={`num absolute top-0 h-9 bg-paper text-center font-bold ${
                  state.differs(station, half) ? "border-2 border-dye text-dye" : "border border-hair-strong"
                }`}
                onChange={(e) => state.setShell(station, half, e.target.value)}
              />
            );
          })}
        </Lane>
      ))}
      <Lane label="Cap's mark faces">
        {columns.map(({ station, x }) => {
          const { forward } = state.capOf(station);
          return (
            <button
              key={station}
              type="button"
              data-cap={station}
              style={at(x)}
              className={`absolute top-0 flex h-9 items-center justify-center gap-1.5 border text-small font-semibold ${
                forward ? "border-hair-strong bg-paper" : "border-ink bg-ink text-white"
              }`}
              onClick={() => state.setCap(station, { forward: !forward })}
            >
              {width > 60 && (
                <svg width="22" height="10" viewBox="0 0 22 10" aria-hidden="true">
                  <path
                    d={forward ? "M0 5L8 0V10ZM7 5H22" : "M22 5L14 0V10ZM15 5H0"}
                    fill="currentColor"
                    stroke="currentColor"
                    strokeWidth="1.5"
                  />
                </svg>
              )}
              {forward ? "front" : "rear"}
            </button>
          );
        })}
      </Lane>
    </>
  );
}

/** One row across the columns, its label at the left. */
function Lane({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="relative mt-1 h-9">
      <span className="lane-label">{label}</span>
      {children}
    </div>
  );
}
