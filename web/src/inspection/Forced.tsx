import { useState } from "react";
import type { Build, Schemas } from "../api/client";
import { capital, WORK_WORD } from "../shared/words";
import { CheckDialog } from "./CheckDialog";
import { MishapDialog } from "./MishapDialog";
import { PARTS_LOOKED_AT } from "./parts";
import { SIGN_WORD } from "./pictograms";
import { BEFELL_WORD, CHECK_WORD } from "./words";

type Forced = Schemas["Forced"];

function becauseText(because: Schemas["ForcedBy"]): string {
  switch (because.kind) {
    case "mishap":
      return BEFELL_WORD[because.befell];
    case "sign":
      return `${because.place}: ${SIGN_WORD[because.sign].toLowerCase()}`;
    case "work":
      return WORK_WORD[because.work];
  }
}

function what(forced: Forced): string {
  if (forced.check) return `${capital(CHECK_WORD[forced.check])}${forced.at ? `, ${forced.at}` : ""}`;
  return `${forced.look ? PARTS_LOOKED_AT[forced.look] : ""} looked at`;
}

function State({ forced }: { forced: Forced }) {
  if (forced.look) {
    return forced.left.length === 0 ? <b>seen</b> : <span className="num">{forced.left.join(" ")} left</span>;
  }
  if (forced.found === "good") return <b>good</b>;
  return <b>{forced.found === "bad" ? "bad" : "open"}</b>;
}

/** Checks on record that are shown: the sheet has all of them. */
const LAST_CHECKS = 3;

type ForcedChecksProps = { build: Build };

/** What befell the engine, and what that forces until it is done. */
export function ForcedChecks({ build }: ForcedChecksProps) {
  const [asked, setAsked] = useState<Forced | null>(null);
  const [telling, setTelling] = useState(false);
  const [checking, setChecking] = useState(false);
  const all = build.assessment.forced ?? [];
  const done = build.decisions.filter((d) => d.kind === "checked").slice(-LAST_CHECKS);
  return (
    <section aria-label="What happened to it" className="mb-3 border-b-[1.5px] border-ink pb-3">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="flex-1 whitespace-nowrap text-lead font-bold">What happened to it</h2>
        <div className="flex gap-3">
          <button type="button" className="btn min-h-8 px-3 text-small" onClick={() => setTelling(true)}>
            Something happened
          </button>
          <button type="button" className="btn min-h-8 px-3 text-small" onClick={() => setChecking(true)}>
            A check was done
          </button>
        </div>
      </div>
      {(build.mishaps ?? []).map((m) => (
        <p key={`${m.at} ${m.mishap.befell}`} className="text-small" data-befell={m.mishap.befell}>
          <b>
            {BEFELL_WORD[m.mishap.befell]}
            {m.mishap.at ? `, ${m.mishap.at}` : ""}
          </b>
          : {m.mishap.note} <span className="text-ink-2">({m.by.name})</span>
        </p>
      ))}
      {all.length === 0 ? (
        <p className="text-small text-ink-2">
          Nothing that is known of. A hydraulic lock, heat, too little oil or debris force their checks.
        </p>
      ) : (
        <ul className="mt-1" aria-label="Forced checks">
          {all.map((f) => (
            <li
              key={`${f.seq} ${f.check ?? f.look} ${f.at ?? ""}`}
              data-forced={f.check ?? f.look}
              className="flex items-baseline gap-3 border-t border-hair py-1 text-small"
            >
              <span className="flex-1">
                {what(f)} <span className="text-ink-2">because: {becauseText(f.because)}</span>
              </span>
              <State forced={f} />
              {f.check && (
                <button
                  type="button"
                  className="font-semibold text-dye underline underline-offset-2"
                  aria-label={`${f.found ? "Again" : "Done"}: ${what(f)}`}
                  onClick={() => setAsked(f)}
                >
                  {f.found ? "Again" : "Done"}
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {done.length > 0 && (
        <ul className="mt-1 text-small text-ink-2" aria-label="Checks on record">
          {done.map((d) => (
            <li key={d.id} data-checked={d.seq}>
              {d.station ? `${d.station}, ` : ""}
              {d.text} ({d.by.name})
            </li>
          ))}
        </ul>
      )}
      {asked?.check && (
        <CheckDialog build={build} check={asked.check} at={asked.at ?? null} onClose={() => setAsked(null)} />
      )}
      {checking && <CheckDialog build={build} check={null} at={null} onClose={() => setChecking(false)} />}
      {telling && <MishapDialog build={build} onClose={() => setTelling(false)} />}
    </section>
  );
}
