import { roleOf } from "../api/catalog";
import type { Build } from "../api/client";
import { PART_WORD } from "../shared/words";

/** What the signed-in person is asked to measure without seeing what was found there first. */
export function BlindBar({ build, onGo }: { build: Build; onGo: (station: string) => void }) {
  if (build.asked.length === 0) return null;
  return (
    <div role="status" className="flex items-center gap-3 bg-ink px-6 py-1 text-small text-white on-dye">
      <b>Blind second touch</b>
      {build.asked.map((a) => (
        <button
          key={a.id}
          type="button"
          data-asked={a.station}
          onClick={() => onGo(a.station)}
          className="border border-white px-2 font-semibold"
        >
          {PART_WORD[roleOf(a.characteristic)]} of {a.station}
        </button>
      ))}
      <span>The first values are hidden from you until every place has your touch.</span>
    </div>
  );
}
