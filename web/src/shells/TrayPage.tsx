import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { Mark } from "../marks/Mark";
import { BuildFrame, WithBuild } from "../page/BuildPage";
import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { RowTape } from "../tape/RowTape";
import { FitTrayDialog } from "./FitTrayDialog";
import { type Row, ShellsHead } from "./ShellsHead";
import { TrayForm } from "./TrayForm";

/** Shells measured one by one: which of the tray's halves go into which housing. */
export function TrayPage() {
  return <WithBuild>{(build) => <TrayOf build={build} />}</WithBuild>;
}

function TrayOf({ build }: { build: Build }) {
  const [row, setRow] = useState<Row>("mains");
  const [fitting, setFitting] = useState(false);
  const params = { path: { build: build.code }, query: { row } };
  const tray = useQuery({
    queryKey: ["tray", build.code, build.assessment.seq, row],
    queryFn: () => unwrap(api.GET("/api/v1/builds/{build}/tray", { params })),
  });
  const view = tray.data;
  return (
    <BuildFrame
      build={build}
      row={row}
      actions={
        view?.proposal && (
          <>
            <button type="button" className="btn" onClick={() => window.print()}>
              Print
            </button>
            <button type="button" className="btn btn-main" onClick={() => setFitting(true)}>
              Fit these
            </button>
          </>
        )
      }
    >
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,800fr)_minmax(0,480fr)] relative overflow-auto">
        <section aria-label="Chosen from the tray" className="print-sheet min-w-0 px-6 pt-3 pb-4">
          <div className="no-print">
            <ShellsHead build={build} row={row} onRow={setRow} />
          </div>
          <p className="print-only text-lead font-bold">
            Tray for the {row} of {build.code}, {build.engine}
          </p>
          <ProblemNote problem={tray.error} />
          {view?.why_not && <p className="mt-3 font-semibold">Nothing is chosen: {view.why_not}.</p>}
          {view && !view.tray && (
            <p className="mt-3 max-w-[560px]">
              No tray yet. Measure the wall of every half at its middle with the ball-anvil mic, scribe a mark
              on its back, and type both on the right: the best pair for every housing follows.
            </p>
          )}
          {view?.proposal && <Chosen proposal={view.proposal} build={build} />}
        </section>
        <section
          aria-label="Tray"
          className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
        >
          <div className="grad-down absolute inset-y-0 left-0" />
          {view && <TrayForm key={`${row} ${view.version}`} build={build} row={row} view={view} />}
        </section>
      </main>
      {fitting && view?.proposal && (
        <FitTrayDialog
          build={build}
          row={row}
          view={view}
          proposal={view.proposal}
          onClose={() => setFitting(false)}
        />
      )}
    </BuildFrame>
  );
}

function Chosen({ proposal, build }: { proposal: Schemas["TrayProposal"]; build: Build }) {
  const unit = useShownUnit(build.unit);
  return (
    <>
      <table className="mt-3 w-full text-[15px]" data-tray={proposal.places.length}>
        <caption className="sr-only">Pair by pair</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">Bearing</th>
            <th className="font-medium">Housing</th>
            <th className="font-medium">Journal</th>
            <th className="font-medium">Upper</th>
            <th className="font-medium">Lower</th>
            <th className="w-[110px] font-medium">Tape</th>
            <th className="font-medium">Clearance</th>
            <th className="font-medium">Should be</th>
          </tr>
        </thead>
        <tbody>
          {proposal.places.map((p) => (
            <tr
              key={p.station}
              className="h-11 border-t border-hair"
              data-chosen={`${p.station} ${p.upper.mark} ${p.lower.mark}`}
            >
              <th scope="row" className="text-left">
                {p.station}
              </th>
              <td>
                <Figure nm={p.housing} unit={unit} className="text-ink-2" />
              </td>
              <td>
                <Figure nm={p.journal} unit={unit} className="text-ink-2" />
              </td>
              <td>
                <b className="num">{p.upper.mark}</b>{" "}
                <Figure nm={p.upper.wall} unit={unit} short className="text-[14px] text-ink-2" />
              </td>
              <td>
                <b className="num">{p.lower.mark}</b>{" "}
                <Figure nm={p.lower.wall} unit={unit} short className="text-[14px] text-ink-2" />
              </td>
              <td>
                <RowTape
                  target={p.target}
                  value={{ clearance: p.clearance, expanded: p.expanded, state: p.state }}
                  unit={unit}
                />
              </td>
              <td>
                <Figure
                  nm={p.clearance}
                  unit={unit}
                  as="clearance"
                  short
                  keepHalf
                  className="text-[17px] font-bold text-dye"
                />
              </td>
              <td>
                <Mark state={p.state} nearest={p.nearest} size={16} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 text-small leading-snug" data-proven={proposal.proven}>
        <b>{proposal.proven ? "No other choice from this tray is better." : "The best found in the time."}</b>{" "}
        {proposal.outside > 0 && `${proposal.outside} outside. `}
        Worst {stepPhrase(proposal.worst, unit)} off aim, {stepPhrase(proposal.total, unit)} in all
        {proposal.proven
          ? ", gap 0."
          : `; the worst might still shrink by ${stepPhrase(proposal.gap, unit)}.`}{" "}
        {proposal.spare.length > 0 && `Stays on the tray: ${proposal.spare.join(", ")}.`}{" "}
        {proposal.open.length > 0 &&
          `${proposal.open.join(", ")} left out until housing and journal are measured.`}
      </p>
    </>
  );
}
