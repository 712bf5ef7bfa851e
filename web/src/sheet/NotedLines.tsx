import type { Build, Schemas } from "../api/client";
import { useNotes } from "../noted/useNotes";
import { NOTE_WORD } from "../shared/words";

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
            <dt className="w-[104px] shrink-0 text-ink-2">{NOTE_WORD[c.note]}</dt>
            <dd className="flex flex-wrap gap-x-4">
              {of(c.note).map((n) => (
                <span key={n.at} className="whitespace-nowrap">
                  {n.at} <b className="num">{n.text}</b>
                  {n.beyond && <b className="text-loose"> over {n.limit}</b>}
                </span>
              ))}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
