import { useState } from "react";
import { Link } from "react-router";
import type { Build, Gauge, Schemas, Unit } from "../api/client";
import { BuildPage } from "../page/BuildPage";
import { Digits, Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { useShownUnit } from "../shared/units";
import { timeText, ZERO_WORD } from "../shared/words";
import { CheckDialog } from "./CheckDialog";
import { DriftPlot } from "./DriftPlot";

type Session = Schemas["Session"];

const PROOF: Record<Session["proof"], string> = {
  running: "running",
  held: "held its zero",
  corrected: "walked, corrected",
  thrown_out: "walked too far, thrown out",
  unproven: "unproven",
};

/** The gauges of a build: what is checked in, what walked, what was corrected or thrown out by it. */
export function Gauges() {
  return <BuildPage>{(build) => <GaugesOf build={build} />}</BuildPage>;
}

function GaugesOf({ build }: { build: Build }) {
  const unit = useShownUnit(build.unit);
  const [checking, setChecking] = useState<string>();
  const sessions = [...build.assessment.sessions].reverse();
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,560fr)_minmax(0,720fr)] relative overflow-auto">
      <section aria-label="Gauges at hand" className="px-6 pt-3">
        <div className="flex items-baseline">
          <h2 className="text-lead font-bold">Gauges at hand</h2>
          <Link
            to="/gauges"
            className="ml-auto text-small font-semibold text-dye underline underline-offset-2"
          >
            Gauge room
          </Link>
        </div>
        <div className="grad mt-1" />
        <ul>
          {build.gauges.map((g) => (
            <GaugeRow key={g.gauge.id} g={g} unit={unit} onCheck={() => setChecking(g.gauge.id)} />
          ))}
        </ul>
      </section>
      <section aria-label="Sessions" className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pl-7">
        <div className="grad-down absolute inset-y-0 left-0" />
        <h2 className="text-lead font-bold">Sessions</h2>
        {sessions.length === 0 && (
          <p className="mt-2">
            No gauge was checked in yet. Readings are kept all the same, but they are unproven: nobody knows
            what the gauge showed on its standard.
          </p>
        )}
        <ul className="mt-1">
          {sessions.map((s) => (
            <SessionRow key={s.id} s={s} build={build} unit={unit} onCheck={() => setChecking(s.gauge.id)} />
          ))}
        </ul>
      </section>
      {checking && (
        <CheckDialog build={build} gauge={checking} unit={unit} onClose={() => setChecking(undefined)} />
      )}
    </main>
  );
}

function mustNotDecide(g: Gauge): boolean {
  return g.mains === "too_coarse" || g.rods === "too_coarse";
}

/** What is checked in has to be checked out; what must not decide is seldom wanted. */
function checkLook(g: Gauge): string {
  if (g.session) return "btn btn-main min-h-9";
  return mustNotDecide(g) || g.past_due
    ? "min-h-9 px-2 text-ink-2 underline underline-offset-2"
    : "btn min-h-9";
}

function ratioText(g: Gauge): string | undefined {
  if (g.ratio_tenths == null || g.mains == null) return undefined;
  const fit = mustNotDecide(g) ? ", must not decide" : "";
  return `${Math.round(g.ratio_tenths / 10)} to 1${fit}`;
}

function GaugeRow({ g, unit, onCheck }: { g: Gauge; unit: Unit; onCheck: () => void }) {
  const ratio = ratioText(g);
  return (
    <li
      className="flex min-h-[54px] items-center gap-3 border-b border-hair py-1"
      data-gauge={g.gauge.id}
      data-past-due={g.past_due}
    >
      <div className="flex-1">
        <b>{g.gauge.name}</b>
        <span className="block text-small text-ink-2">
          step <Figure nm={g.gauge.resolution} unit={unit} as="clearance" />
          {ratio && `, ${ratio} on the window`}
          {g.gauge.due && !g.past_due && (
            <>
              , <span className="whitespace-nowrap">due {g.gauge.due}</span>
            </>
          )}
        </span>
      </div>
      {g.past_due && (
        <span className="bg-ink px-2 text-small leading-6 font-bold text-white">Past due {g.gauge.due}</span>
      )}
      {g.gauge.measures !== "gap" && (
        <button type="button" className={checkLook(g)} onClick={onCheck}>
          {g.session ? "Check out" : "Check in"}
        </button>
      )}
    </li>
  );
}

type SessionRowProps = { s: Session; build: Build; unit: Unit; onCheck: () => void };

function SessionRow({ s, build, unit, onCheck }: SessionRowProps) {
  const readings = build.readings.filter((r) => r.session === s.id);
  const gone = s.proof === "thrown_out";
  return (
    <li
      className={`grid grid-cols-[1fr_250px] items-center gap-4 border-b border-hair py-2 ${gone ? "hatch-steel" : ""}`}
      data-session={s.proof}
    >
      <div>
        <b>{s.gauge.name}</b>, {PROOF[s.proof]}
        <span className="block text-small text-ink-2">
          {s.opened_by.name}, {timeText(s.opened_at)} to {s.closed_at ? timeText(s.closed_at) : "now"},{" "}
          <b className="num text-ink">
            <Digits text={String(readings.length)} />
          </b>{" "}
          {readings.length === 1 ? "reading" : "readings"}
        </span>
        <span className="block text-small">
          {s.drift == null
            ? s.open
              ? "Not checked out yet: whether it walked is not known."
              : "Taken without a check: its readings are unproven."
            : s.drift === 0
              ? "Shows the same on its standard as at the start."
              : s.proof === "held"
                ? `Shows ${stepPhrase(s.drift, unit)} ${s.drift > 0 ? "more" : "less"} than at the start: no more than two checks show of themselves, so nothing is taken off.`
                : `Walked ${stepPhrase(s.drift, unit)} ${s.drift > 0 ? "up" : "down"}: ${
                    gone
                      ? "more than a step, so every reading is to be taken again."
                      : build.assessment.rules.reckoning === "second"
                        ? "half of it is taken off, and the way in between counts as doubt."
                        : "each reading is corrected by the time passed."
                  }`}
          {s.zero && <span className="text-ink-2"> Zeroed in {ZERO_WORD[s.zero]}.</span>}
        </span>
        {!s.closed_at && (
          <button type="button" className="btn mt-1 min-h-8" onClick={onCheck}>
            Check out
          </button>
        )}
      </div>
      <DriftPlot session={s} readings={readings.map((r) => r.at)} unit={unit} />
    </li>
  );
}
