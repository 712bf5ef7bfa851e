import { useState } from "react";
import type { Build, Schemas } from "../api/client";
import { BuildPage } from "../page/BuildPage";
import { Segments } from "../shared/Choice";
import { momentText } from "../shared/words";
import { PlanForm } from "./PlanForm";
import { RulesForm } from "./RulesForm";
import { SetUpForm } from "./SetUpForm";

/** What the caps are torqued with, what was done to the parts, and by which rules the build is judged. */
export function SetUpPage() {
  return <BuildPage>{(build) => <SetUpOf build={build} />}</BuildPage>;
}

function SetUpOf({ build }: { build: Build }) {
  const [row, setRow] = useState<Schemas["BearingRow"]>("mains");
  const inForce = build.set_ups.find((s) => s.set_up.row === row);
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,640fr)_minmax(0,640fr)] overflow-auto">
      <section aria-label="Set-up" className="px-6 pt-3 pb-4">
        <div className="flex items-center gap-4">
          <h2 className="text-lead font-bold">Set-up</h2>
          {build.layout.rods && (
            <Segments
              label="Row"
              value={row}
              onChange={setRow}
              options={[
                { value: "mains", text: "Mains" },
                { value: "rods", text: "Rods" },
              ]}
            />
          )}
          {inForce && (
            <span className="ml-auto text-small text-ink-2">
              {inForce.by.name}, {momentText(inForce.at)}
            </span>
          )}
        </div>
        <div className="grad mt-1" />
        <SetUpForm key={`${row} ${inForce?.version ?? 0}`} build={build} row={row} inForce={inForce} />
      </section>
      <section
        aria-label="Work and rules"
        className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        <h2 className="text-lead font-bold">What was done</h2>
        <WorkLog build={build} />
        <h2 className="mt-3 text-lead font-bold">Rules of this build</h2>
        <RulesForm key={JSON.stringify(build.assessment.rules)} build={build} />
        <h2 className="mt-3 mb-1 text-lead font-bold">Places to touch</h2>
        <PlanForm build={build} />
      </section>
    </main>
  );
}

/** Facts that end evidence, or might have. */
const LOGGED = ["work", "set_up", "plan", "rules"];

/** Entries shown before the rest is asked for. */
const LATEST = 4;

function WorkLog({ build }: { build: Build }) {
  const [all, setAll] = useState(false);
  const log = build.decisions.filter((d) => LOGGED.includes(d.kind)).reverse();
  if (log.length === 0) {
    return <p className="mt-1 text-ink-2">Nothing yet. W at the bench records work on the part in hand.</p>;
  }
  return (
    <>
      <ol className="mt-1">
        {(all ? log : log.slice(0, LATEST)).map((d) => (
          <li key={d.seq} className="border-b border-hair py-1 text-small leading-snug" data-work={d.kind}>
            {d.text}
            <span className="ml-2 text-note whitespace-nowrap text-ink-2">
              {d.by.name}, {momentText(d.at)}
            </span>
          </li>
        ))}
      </ol>
      {log.length > LATEST && (
        <button
          type="button"
          aria-expanded={all}
          className="mt-1 text-small font-semibold text-dye underline underline-offset-2"
          onClick={() => setAll((a) => !a)}
        >
          {all ? "Only the latest" : `All ${log.length}`}
        </button>
      )}
    </>
  );
}
