import type { Schemas } from "../api/client";
import { Digits } from "../shared/Figure";
import { momentText } from "../shared/words";

/** What was done to the shop itself, the latest first. Nothing in it can be changed. */
export function ShopLog({ lines }: { lines: Schemas["LogLine"][] }) {
  return (
    <>
      <h2 className="text-lead font-bold">The shop's log</h2>
      <p className="mb-2 text-small text-ink-2">
        People, roles, and builds that were removed. Lines are only ever added.
      </p>
      {lines.length === 0 && <p className="border-t border-hair py-3 text-ink-2">Nothing was done yet.</p>}
      <ol>
        {lines.map((line) => (
          <li key={line.seq} data-log={line.kind} className="border-t border-hair py-2 text-small">
            <span className="block">{line.text}</span>
            <span className="num text-note text-ink-2">
              <Digits text={momentText(line.at)} />
            </span>
            <span className="text-note text-ink-2">, {line.by?.name ?? "from the command line"}</span>
          </li>
        ))}
      </ol>
    </>
  );
}
