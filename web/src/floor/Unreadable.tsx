import { useState } from "react";
import type { Schemas, Session } from "../api/client";
import { Digits } from "../shared/Figure";
import { RemoveBuild } from "./RemoveBuild";

type UnreadableProps = { rows: Schemas["UnreadableRow"][]; session: Session };

/** Builds that cannot be read: said by themselves, and keeping nobody from the others. */
export function Unreadable({ rows, session }: UnreadableProps) {
  const [removing, setRemoving] = useState<Schemas["UnreadableRow"]>();
  if (rows.length === 0) return null;
  return (
    <section aria-label="Builds that cannot be read" className="flex-none border-b border-ink">
      {rows.map((row) => (
        <div
          key={row.id}
          data-unreadable={row.code}
          className="hatch-steel flex min-h-16 items-center gap-4 px-6"
        >
          <b className="num w-[152px] text-[19px]">
            <Digits text={row.code} />
          </b>
          <span className="min-w-0 flex-1 bg-paper px-3 py-1">
            <b>Cannot be read.</b> {row.engine}: {row.why}. Restore it from a backup; the others are as they
            were.
          </span>
          {session.capabilities.run_shop && (
            <button type="button" className="btn" onClick={() => setRemoving(row)}>
              Remove {row.code}
            </button>
          )}
        </div>
      ))}
      {removing && <RemoveBuild code={removing.code} onClose={() => setRemoving(undefined)} />}
    </section>
  );
}
