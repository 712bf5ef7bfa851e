import { useState } from "react";
import type { Build } from "../api/client";
import { momentText } from "../shared/words";

/** Facts that end evidence, or might have. */
const LOGGED = ["work", "set_up", "plan", "rules"];

/** Entries shown before the rest is asked for. */
const LATEST = 4;

/** What was done to the parts, the latest first. */
export function WorkLog({ build }: { build: Build }) {
  const [all, setAll] = useState(false);
  const log = build.decisions.filter((d) => LOGGED.includes(d.kind)).reverse();
  if (log.length === 0) {
    return <p className="mt-1 text-ink-2">Nothing yet. W at the bench records work on the part in hand.</p>;
  }
  return (
    <>
      <ol className="mt-1">
        {(all ? log : log.slice(0, LATEST)).map((d) => (
          <li key={d.seq} className="border-b border-hair py-1.5 text-small leading-snug" data-work={d.kind}>
            {d.text}
            <span className="mt-0.5 block text-note text-ink-2">
              {d.by.name}, {momentText(d.at)}
            </span>
          </li>
        ))}
      </ol>
      {log.length > LATEST && (
        <button
          type="button"
          aria-expanded={all}
          className="mt-1 text-small font-semibold text-dye underline underline-offset-2"
          onClick={() => setAll((a) => !a)}
        >
          {all ? "Only the latest" : `All ${log.length}`}
        </button>
      )}
    </>
  );
}
