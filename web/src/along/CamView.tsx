import { useQuery } from "@tanstack/react-query";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { Figure } from "../shared/Figure";
import { lineText, stepPhrase } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { TrialForm } from "./TrialForm";
import { Trials } from "./Trials";

type CamViewProps = { build: Build; unit: Unit; chosen: string };

const OUTCOME_WORD: Record<Schemas["CamOutcome"], string> = {
  straighten: "binds: bent",
  turn_first: "no room: turn it first",
  polish_to_aim: "polish to its aim",
  polish_into_window: "polish into the window",
  other_bush: "another bush",
  leave: "leave it",
};

/** Every journal of the cam beside its bearing: what is polished, and what binds however good its size looks. */
export function CamView({ build, unit, chosen }: CamViewProps) {
  const plan = useQuery({
    queryKey: ["cam", build.code, build.assessment.seq],
    queryFn: () => unwrap(api.GET("/api/v1/builds/{build}/cam", { params: { path: { build: build.code } } })),
    retry: false,
  });
  if (!plan.data) return <ProblemNote problem={plan.error} />;
  const { journals, most, open, trials } = plan.data;
  const step = unit === "in" ? "thou" : "\u00b5m";
  const bent = journals.filter((j) => j.outcome === "straighten");
  const claims = journals.filter((j) => j.claim != null);
  return (
    <div className="mt-2" data-cam-plan="">
      <table className="w-full text-small">
        <thead className="text-left text-note text-ink-2">
          <tr>
            <th className="font-normal">Journal</th>
            <th className="font-normal">Clearance</th>
            <th className="font-normal">Runout</th>
            <th className="font-normal">Room</th>
            <th className="font-normal">Polish off</th>
            <th className="font-normal">To size</th>
            <th className="text-right font-normal">What it comes to</th>
          </tr>
        </thead>
        <tbody>
          {journals.map((j) => (
            <tr
              key={j.at}
              data-cam-journal={j.at}
              className={`border-t border-hair ${j.at === chosen ? "bg-dye-wash" : ""}`}
            >
              <th scope="row" className="py-2 text-left font-bold">
                {j.at}
              </th>
              <td className="num font-bold">{lineText(j.clearance, unit)}</td>
              <td className="num">{j.runout == null ? "\u2013" : lineText(j.runout, unit)}</td>
              <td className={`num ${j.outcome === "straighten" ? "font-bold text-tight" : ""}`}>
                {lineText(j.room_now, unit)}
              </td>
              <td className="num">
                {j.removal > 0 ? lineText(j.removal, unit) : "\u2013"}
                {j.passes != null && <span className="text-note text-ink-2"> {j.passes} grits</span>}
              </td>
              <td>{j.removal > 0 ? <Figure nm={j.size} unit={unit} className="font-bold" /> : "\u2013"}</td>
              <td className="text-right font-semibold">{OUTCOME_WORD[j.outcome]}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-note text-ink-2">
        {plan.data?.learned &&
          `A grit takes ${lineText(plan.data.learned.per_grit, unit)} off here, as ${plan.data.learned.polishes === 1 ? "one polish" : `${plan.data.learned.polishes} polishes`} went. `}
        In {step}. At most {lineText(most, unit)} off a diameter: half of the hard skin stays.
        {open.length > 0 && ` ${open.join(", ")}: journal, bearing or window not known yet.`}
      </p>
      {claims.length > 0 && (
        <p className="mt-3 leading-snug">
          <b>First the claim:</b>{" "}
          {claims.map((j) => `${j.at} lies ${stepPhrase(j.claim ?? 0, unit)} over its drawing`).join(", ")}.
          Nothing is touched before it is answered.
        </p>
      )}
      {bent.length > 0 && (
        <p className="mt-2 leading-snug">
          <b>
            {bent.map((j) => j.at).join(", ")} {bent.length === 1 ? "binds" : "bind"} by the bend, not by size
            alone:
          </b>{" "}
          straighten first, by a specialist, or replace the cam; then measure again. Polishing the journal
          that shows the mark mends nothing.
        </p>
      )}
      <p className="mt-2 text-small leading-snug">
        One journal at a time: a fine belt, small steps, in and out, and measured after each. Never a scraped
        or slotted bush, and never run in to size: the lining is a few thou, chips embed, and nothing controls
        the size.
      </p>
      <Trials build={build} trials={trials} />
      <TrialForm build={build} />
    </div>
  );
}
