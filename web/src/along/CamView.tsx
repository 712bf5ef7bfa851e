import { useQuery } from "@tanstack/react-query";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { Figure } from "../shared/Figure";
import { lineText, stepPhrase } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";

type CamViewProps = { build: Build; unit: Unit; chosen: string };
type Journal = Schemas["CamJournalPlan"];

/** Every journal of the cam beside its bearing: what is polished, and what binds however good its size looks. */
export function CamView({ build, unit, chosen }: CamViewProps) {
  const plan = useQuery({
    queryKey: ["cam", build.code, build.assessment.seq],
    queryFn: () => unwrap(api.GET("/api/v1/builds/{build}/cam", { params: { path: { build: build.code } } })),
    retry: false,
  });
  if (!plan.data) return <ProblemNote problem={plan.error} />;
  const { journals, most, open } = plan.data;
  const step = unit === "in" ? "thou" : "\u00b5m";
  const bent = journals.filter((j) => j.binds);
  const claims = journals.filter((j) => j.tight && j.over_drawing > 0);
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
              <td className={`num ${j.binds ? "font-bold text-tight" : ""}`}>{lineText(j.room_now, unit)}</td>
              <td className="num">{polished(j) ? lineText(j.removal, unit) : "\u2013"}</td>
              <td>{polished(j) ? <Figure nm={j.size} unit={unit} className="font-bold" /> : "\u2013"}</td>
              <td className="text-right font-semibold">{outcome(j)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-note text-ink-2">
        In {step}. At most {lineText(most, unit)} off a diameter: half of the hard skin stays.
        {open.length > 0 && ` ${open.join(", ")}: journal, bearing or window not known yet.`}
      </p>
      {claims.length > 0 && (
        <p className="mt-3 leading-snug">
          <b>First the claim:</b>{" "}
          {claims.map((j) => `${j.at} lies ${stepPhrase(j.over_drawing, unit)} over its drawing`).join(", ")}.
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
    </div>
  );
}

/** A bent journal is straightened before anybody polishes it. */
function polished(j: Journal): boolean {
  return j.removal > 0 && !j.binds;
}

function outcome(j: Journal): string {
  if (j.binds) return "binds: bent";
  switch (j.reach) {
    case "aim":
      return "polish to its aim";
    case "window":
      return "polish into the window";
    case "not_by_polish":
      return "another bush";
    case "none":
      return j.tight ? "tight" : "leave it";
  }
}
