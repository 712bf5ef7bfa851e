import type { Schemas, Unit } from "../api/client";
import { Figure } from "../shared/Figure";
import { degreesText, stepPhrase } from "../shared/figure";

type HotTableProps = { places: Schemas["ProposedPair"][]; growth: Schemas["HotGrowth"]; unit: Unit };

/** Cold and hot beside each other, by the builder's allowance and by expansion arithmetic. */
export function HotTable({ places, growth, unit }: HotTableProps) {
  const { assumptions, growth: opens } = growth.expansion;
  return (
    <div className="mt-3" data-view="hot">
      <table className="w-full text-small">
        <caption className="sr-only">Clearances cold and hot</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">Hot</th>
            <th className="font-medium">Cold, with these shells</th>
            <th className="font-medium">By the allowance</th>
            <th className="font-medium">By expansion, an estimate</th>
          </tr>
        </thead>
        <tbody>
          {places.map((p) => (
            <tr key={p.station} className="border-t border-hair" data-hot={p.station}>
              <th scope="row" className="py-0.5 text-left">
                {p.station}
              </th>
              <td>
                <Figure nm={p.clearance} unit={unit} as="clearance" short className="font-bold" />
              </td>
              <td>
                {p.hot?.allowance != null ? (
                  <Figure nm={p.hot.allowance} unit={unit} as="clearance" short className="font-bold" />
                ) : (
                  <span className="text-ink-2">none stated</span>
                )}
              </td>
              <td>{p.hot && <Figure nm={p.hot.expansion} unit={unit} as="clearance" short />}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-note text-ink-2">
        {growth.allowance != null && `Allowance ${stepPhrase(growth.allowance, unit)}. `}
        Expansion {stepPhrase(opens, unit)}: {assumptions.block_share} % {assumptions.block}, the rest{" "}
        {assumptions.cap}, housing at {degreesText(assumptions.housing_c, unit)} and journal at{" "}
        {degreesText(assumptions.journal_c, unit)}.
      </p>
    </div>
  );
}
