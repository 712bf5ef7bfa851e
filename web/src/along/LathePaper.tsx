import type { Build, Schemas, Unit } from "../api/client";
import { Figure } from "../shared/Figure";
import { lineText } from "../shared/figure";
import { FilletSection } from "./FilletSection";

type LathePaperProps = { build: Build; plan: Schemas["FilletPlan"]; unit: Unit };

/** What is done at the lathe besides the cuts, in its order; each line is ticked by hand. */
const STEPS = [
  "Mandrel measured cool: a warm one reads large.",
  "Fixture turned through by hand, past the cap screws, before the first cut. No gloves.",
  "Stop proven on a used shell.",
  "Spares cut in the same set-up.",
  "Both new edges broken, back and face, to the feel of the factory edge; cleaned; looked at under light.",
  "Inset measured again, and written down.",
];

/** The plan as a paper for whoever stands at the lathe; it is seen in print only. */
export function LathePaper({ build, plan, unit }: LathePaperProps) {
  const step = unit === "in" ? "thou" : "\u00b5m";
  return (
    <article className="print-sheet print-only" aria-hidden="true" data-lathe={plan.at}>
      <h1 className="border-b-[3px] border-ink pb-2 text-title font-bold">
        {build.code}, {plan.at} {plan.end}: narrow both halves by <Figure nm={plan.take} unit={unit} />
      </h1>
      <p className="mt-2">
        {build.engine}. Radius <Figure nm={plan.radius} unit={unit} />; the flat begins at{" "}
        <Figure nm={plan.after.flat} unit={unit} /> from the cheek afterwards.
        {plan.mandrel != null && (
          <>
            {" "}
            Mandrel <Figure nm={plan.mandrel} unit={unit} className="font-bold" />.
          </>
        )}
      </p>
      <FilletSection plan={plan} unit={unit} width={616} />
      <table className="mt-3 w-full text-[15px]">
        <caption className="sr-only">Cut by cut</caption>
        <thead className="border-b-2 border-ink text-left">
          <tr>
            <th>Cut</th>
            <th>Takes, {step}</th>
            <th>The saddle's dial then shows</th>
            <th>Done</th>
          </tr>
        </thead>
        <tbody>
          {plan.passes.map((p, i) => (
            <tr key={p.dial} className="border-b border-hair-strong">
              <td>{i + 1}</td>
              <td className="num">{lineText(p.cut, unit)}</td>
              <td className="num">{lineText(p.dial, unit)}</td>
              <td>
                <span className="inline-block size-4 border border-ink" />
              </td>
            </tr>
          ))}
          <tr className="border-b border-hair-strong">
            <td>spring</td>
            <td>nothing</td>
            <td className="num">{lineText(plan.take, unit)}</td>
            <td>
              <span className="inline-block size-4 border border-ink" />
            </td>
          </tr>
        </tbody>
      </table>
      <ul className="mt-4">
        {STEPS.map((line) => (
          <li key={line} className="flex gap-2 py-0.5">
            <span className="mt-1 size-4 flex-none border border-ink" /> {line}
          </li>
        ))}
      </ul>
      <p className="mt-3">
        A pair is weighed before and after: what comes off rods and shells is told to whoever balances the
        crank.
      </p>
    </article>
  );
}
