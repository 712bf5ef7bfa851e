import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, type Session, unwrap } from "../api/client";
import { BuildFrame, WithBuild } from "../page/BuildPage";
import { AssignDialog } from "../parts/AssignDialog";
import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { RodsToPins } from "./RodsToPins";
import { ShellsHead } from "./ShellsHead";

/** Which rod runs best on which pin. */
export function PinsPage({ session }: { session: Session }) {
  return <WithBuild>{(build) => <PinsOf build={build} session={session} />}</WithBuild>;
}

function PinsOf({ build, session }: { build: Build; session: Session }) {
  const [doing, setDoing] = useState(false);
  const unit = useShownUnit(build.unit);
  const [fixed, setFixed] = useState<string[]>([]);
  const best = useQuery({
    queryKey: ["rods", build.code, build.assessment.seq, fixed],
    queryFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/rods-to-pins", {
          params: { path: { build: build.code } },
          body: { fixed },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const m = best.data;
  const toggle = (rod: string) =>
    setFixed(fixed.includes(rod) ? fixed.filter((f) => f !== rod) : [...fixed, rod]);
  return (
    <BuildFrame
      build={build}
      full
      row="rods"
      actions={
        m && (
          <>
            <button type="button" className="btn" onClick={() => window.print()}>
              Print
            </button>
            <button
              type="button"
              className="btn btn-main"
              disabled={!session.capabilities.concede || m.rods.every((r) => r.to === r.rod)}
              title={session.capabilities.concede ? undefined : "An assembler or the lead moves rods"}
              onClick={() => setDoing(true)}
            >
              Move the rods
            </button>
          </>
        )
      }
    >
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,888fr)_minmax(0,392fr)] relative overflow-auto">
        <section aria-label="Rods to pins" className="print-sheet min-w-0 px-6 pt-3 pb-4">
          <div className="no-print">
            <ShellsHead build={build} />
          </div>
          <p className="print-only text-lead font-bold">
            Rods to pins of {build.code}, {build.engine}
          </p>
          <ProblemNote problem={best.error} />
          {m && (
            <div className="mt-2 grid grid-cols-[minmax(0,1fr)_280px] gap-4">
              <RodTable m={m} unit={unit} fixed={fixed} onFix={toggle} />
              <RodsToPins rods={m.rods} unit={unit} />
            </div>
          )}
        </section>
        <section
          aria-label="What it brings"
          className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
        >
          <div className="grad-down absolute inset-y-0 left-0" />
          <h2 className="text-lead font-bold">What it brings</h2>
          {m && <Brings m={m} unit={unit} />}
        </section>
      </main>
      {doing && m && (
        <AssignDialog
          build={build}
          title="Move the rods as proposed"
          moves={m.rods.filter((r) => r.to !== r.rod).map((r) => ({ part: r.part, place: r.to }))}
          onClose={() => setDoing(false)}
        >
          What was measured of a rod goes with it. Its bore over shells was read on another pin and is read
          again. Keep every cap with its rod, and the chamfer toward its fillet.
        </AssignDialog>
      )}
    </BuildFrame>
  );
}

type Marriage = Schemas["RodAssignment"];
type Unit = Schemas["Unit"];

function RodTable({
  m,
  unit,
  fixed,
  onFix,
}: {
  m: Marriage;
  unit: Unit;
  fixed: string[];
  onFix: (rod: string) => void;
}) {
  return (
    <table className="w-full text-[15px]" data-rods={m.rods.length}>
      <caption className="sr-only">Rod by rod</caption>
      <thead>
        <tr className="text-left text-note text-ink-2">
          <th className="font-medium">Rod</th>
          <th className="font-medium">Bore over shells</th>
          <th className="font-medium">Now</th>
          <th className="font-medium">Best</th>
          <th className="font-medium">Then</th>
          <th className="font-medium">
            <span className="sr-only">Stays</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {m.rods.map((r) => (
          <tr
            key={r.rod}
            className={`h-11 border-t border-hair ${r.pin !== r.now ? "bg-dye-wash" : ""}`}
            data-rod={`${r.rod} ${r.pin}`}
          >
            <th scope="row" className="pl-1 text-left">
              {r.part}
              {r.part !== r.rod && <span className="ml-1 font-normal text-ink-2">at {r.rod}</span>}
            </th>
            <td>
              <Figure nm={r.bore} unit={unit} />
              {!r.over_shells && <span className="ml-1 text-note text-ink-2">by catalogue walls</span>}
            </td>
            <td className="text-ink-2">
              {r.now} <Figure nm={r.clearance_now} unit={unit} as="clearance" short keepHalf />
            </td>
            <td className={r.pin !== r.now ? "font-bold text-dye" : "text-ink-2"}>{r.pin}</td>
            <td>
              <Figure nm={r.clearance} unit={unit} as="clearance" short keepHalf className="font-bold" />
              <span className="ml-1.5 text-note text-ink-2">{r.inside ? "" : "outside"}</span>
            </td>
            <td className="text-right">
              <button
                type="button"
                aria-pressed={fixed.includes(r.rod)}
                aria-label={`${fixed.includes(r.rod) ? "married" : "marry"}: ${r.rod} stays on its pin`}
                data-fix={r.rod}
                onClick={() => onFix(r.rod)}
                className={`no-print h-7 border px-1.5 text-note font-semibold ${fixed.includes(r.rod) ? "border-ink bg-ink text-white" : "border-hair-strong bg-paper text-ink-2"}`}
              >
                {fixed.includes(r.rod) ? "married" : "marry"}
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Brings({ m, unit }: { m: Marriage; unit: Unit }) {
  const moves = m.rods.filter((r) => r.pin !== r.now);
  const rows: [string, string, string][] = [
    ["Outside the window", String(m.outside[0]), String(m.outside[1])],
    ["Worst off aim", stepPhrase(m.worst[0] ?? 0, unit), stepPhrase(m.worst[1] ?? 0, unit)],
    ["All added", stepPhrase(m.total[0] ?? 0, unit), stepPhrase(m.total[1] ?? 0, unit)],
  ];
  return (
    <>
      <table className="mt-1 w-full text-small">
        <caption className="sr-only">Now and with the rods as proposed</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">
              <span className="sr-only">What</span>
            </th>
            <th className="font-medium">Now</th>
            <th className="font-medium">Then</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([what, now, then]) => (
            <tr key={what} className="border-t border-hair">
              <th scope="row" className="py-1 text-left font-normal">
                {what}
              </th>
              <td className="text-ink-2">{now}</td>
              <td className="font-bold">{then}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 text-small leading-snug">
        {moves.length === 0
          ? "Every rod is best where it is: no other order is better, worst first, then the sum."
          : `${moves.map((r) => `${r.part} to ${r.pin}`).join(", ")}. No other order is better, worst first, then the sum.`}
      </p>
      <p className="mt-2 text-small leading-snug text-ink-2">
        Marry the rods that belong to a piston or are weight-matched in their place: they stay. Keep every cap
        with its rod, and the chamfer toward its fillet.
      </p>
      {m.open.length > 0 && (
        <p className="mt-2 text-small text-ink-2">
          {m.open.join(", ")} left out until rod and pin are measured.
        </p>
      )}
    </>
  );
}
