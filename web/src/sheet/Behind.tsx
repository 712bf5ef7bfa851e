import type { Build } from "../api/client";
import { momentText, ROW_WORD } from "../shared/words";

/** What the figures rest on: how caps were torqued, and with which gauges it was measured. */
export function Behind({ build }: { build: Build }) {
  const used = new Map<string, number>();
  for (const r of build.readings) if (!r.struck) used.set(r.gauge, (used.get(r.gauge) ?? 0) + 1);
  const gauges = build.gauges.filter((g) => used.has(g.gauge.id));
  return (
    <div className="mt-3 grid grid-cols-2 gap-6 text-small max-[1150px]:grid-cols-1">
      <section aria-label="Set-up">
        <h2 className="border-b border-ink pb-0.5 text-body font-bold">Set-up</h2>
        {build.set_ups.length === 0 && <p className="py-1 text-ink-2">Nobody wrote down what was torqued.</p>}
        {build.set_ups.map(({ set_up, steps, by, at }) => (
          <p key={set_up.row} className="border-b border-hair py-1">
            <b className="mr-2">{ROW_WORD[set_up.row]}</b>
            {set_up.fasteners}, {set_up.lubricant}, {steps.join(", then ")}
            {!set_up.as_finished && <b> Not the fasteners the bores were finished with.</b>}
            <span className="block text-note text-ink-2">
              {by.name}, {momentText(at)}
            </span>
          </p>
        ))}
      </section>
      <section aria-label="Gauges used">
        <h2 className="border-b border-ink pb-0.5 text-body font-bold">Gauges used</h2>
        {gauges.map(({ gauge, past_due }) => (
          <p key={gauge.id} className="flex gap-3 border-b border-hair py-1" data-used-gauge={gauge.id}>
            <span className="flex-1">
              <b>{gauge.name}</b>
              <span className="num ml-2">{gauge.serial ?? "no number"}</span>
            </span>
            <span className={past_due ? "font-bold" : "text-ink-2"}>
              {gauge.due
                ? `${past_due ? "past due since" : "calibrated until"} ${gauge.due}`
                : "no calibration"}
            </span>
            <span className="num w-10 text-right">{used.get(gauge.id)}</span>
          </p>
        ))}
      </section>
    </div>
  );
}
