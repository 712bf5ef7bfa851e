import type { Schemas } from "../api/client";
import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";

type Machining = Schemas["Machining"];

export type PlanProps = {
  m: Machining;
  unit: Schemas["Unit"];
  onOrder: (choice: Schemas["ChosenPlan"]) => void;
};

/** Bearings that are put right another way: their journals are ground with the rest. */
export function LeaveOut({
  m,
  without,
  onChange,
}: {
  m: Machining;
  without: string[];
  onChange: (without: string[]) => void;
}) {
  const toggle = (s: string) =>
    onChange(without.includes(s) ? without.filter((w) => w !== s) : [...without, s]);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-1.5 text-small text-ink-2">
      Put right another way
      {m.bearings.map((b) => (
        <button
          key={b.station}
          type="button"
          aria-pressed={without.includes(b.station)}
          data-without={b.station}
          onClick={() => toggle(b.station)}
          className={`h-7 border px-2 font-semibold ${without.includes(b.station) ? "border-ink bg-ink text-white" : "border-hair-strong bg-paper text-ink-2"}`}
        >
          {b.station}
        </button>
      ))}
    </div>
  );
}

const AGAINST: Record<Schemas["GrindAgainst"], string> = {
  does_not_clean_up: "does not clean up",
  one_size_does_not_serve: "one size does not serve all",
};

/** Undersize by undersize: the size of every journal, and what is against it. */
export function GrindTable({
  m,
  shown,
  unit,
  onShow,
  onOrder,
}: PlanProps & { shown: Schemas["GrindPlan"]; onShow: (undersize: number) => void }) {
  return (
    <table className="mt-3 w-full text-[15px]" data-grinds={m.grinds.length}>
      <caption className="pb-1 text-left text-small font-bold">Grind all to one size</caption>
      <thead>
        <tr className="text-left text-note text-ink-2">
          <th className="font-medium">Shells</th>
          <th className="font-medium">Every journal to</th>
          <th className="font-medium">Inside at both ends</th>
          <th className="font-medium">So</th>
          <th className="font-medium">
            <span className="sr-only">Order</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {m.grinds.map((g) => (
          <tr
            key={g.undersize}
            data-grind={g.undersize}
            data-chosen={g.chosen || undefined}
            className={`h-9 border-t border-hair ${g === shown ? "bg-dye-wash" : ""}`}
          >
            <th scope="row" className="text-left">
              <button
                type="button"
                onClick={() => onShow(g.undersize)}
                className="text-dye underline underline-offset-2"
              >
                {g.undersize === 0 ? "standard" : <Figure nm={g.undersize} unit={unit} />}
                {g.undersize !== 0 && " under"}
              </button>
            </th>
            <td>
              <Figure nm={g.size} unit={unit} className="font-bold" />{" "}
              <span className="text-note text-ink-2">± {stepPhrase(m.tolerance, unit)}</span>
            </td>
            <td className="num">
              {g.bearings.filter((b) => b.inside).length} of {g.bearings.length}
            </td>
            <td className={g.chosen ? "font-bold" : "text-small text-ink-2"}>
              {g.against ? AGAINST[g.against] : g.chosen ? "the smallest that does" : "does, takes more off"}
            </td>
            <td className="text-right">
              {!g.against && m.open.length === 0 && (
                <button
                  type="button"
                  className="h-7 border border-dye bg-paper px-2 text-small font-semibold whitespace-nowrap text-dye"
                  onClick={() => onOrder({ kind: "grind", undersize: g.undersize })}
                >
                  Write the order
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
