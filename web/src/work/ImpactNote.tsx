import type { Schemas } from "../api/client";
import { ProblemNote } from "../shared/ProblemNote";
import { PART_WORD } from "../shared/words";

type ImpactNoteProps = { impact: Schemas["Impact"] | undefined; problem: Error | null };

/** What recording something would end, before it is recorded. */
export function ImpactNote({ impact, problem }: ImpactNoteProps) {
  if (problem) return <ProblemNote problem={problem} />;
  if (!impact) return null;
  const { ended, clearances } = impact;
  if (ended.length === 0) {
    return (
      <p className="hatch-steel px-3 py-2 text-small" data-impact="0">
        Ends nothing: nothing measured so far depends on it.
      </p>
    );
  }
  const readings = ended.reduce((sum, e) => sum + e.readings, 0);
  return (
    <div className="hatch-steel px-3 py-2 text-small" data-impact={readings}>
      <b>
        Makes {readings} {readings === 1 ? "reading" : "readings"} stale:
      </b>{" "}
      {ended.map((e) => `${PART_WORD[e.part]} of ${e.station} (${e.readings})`).join(", ")}.
      {clearances.length > 0 && (
        <> To be measured again before the sheet can be signed: {clearances.join(", ")}.</>
      )}
    </div>
  );
}
