import type { Build, Schemas } from "../api/client";
import { columnText } from "../noted/NotedTable";
import { useNotes } from "../noted/useNotes";
import { Digits } from "../shared/Figure";

/** What was weighed, poured and read off the parts beside the gauges, a line for each kind. */
export function NotedLines({ build }: { build: Build }) {
  const notes = useNotes(build).data;
  const of = (note: Schemas["Note"]) => notes?.noted.filter((n) => n.note === note) ?? [];
  const lines = (notes?.columns ?? []).filter((c) => of(c.note).length > 0);
  if (lines.length === 0) return null;
  return (
    <section className="mt-3" aria-label="Noted of the parts">
      <h3 className="border-b border-ink pb-0.5 text-small font-bold">Noted of the parts</h3>
      <dl className="text-small leading-snug">
        {lines.map((c) => (
          <div key={c.note} className="flex gap-2 border-b border-hair py-1" data-noted-of={c.note}>
            <dt className="w-[104px] shrink-0 text-ink-2">{columnText(c)}</dt>
            <dd className="flex flex-wrap gap-x-5">
              {of(c.note).map((n) => (
                <span key={n.at} className="whitespace-nowrap">
                  <span className="mr-1.5">{n.at}</span>
                  <b className="num">
                    <Digits text={n.typed} />
                  </b>
                  {n.beyond && <b className="ml-1.5 bg-ink px-1 text-white">over {n.limit}</b>}
                </span>
              ))}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
