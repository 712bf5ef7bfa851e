import { Link } from "react-router";

/** Whose readings these are while a candidate is measured beside the part that stands in the engine. */
export function CandidateBar({ code, part }: { code: string; part: string }) {
  return (
    <div
      role="status"
      data-candidate={part}
      className="on-dye flex items-center gap-3 bg-ink px-6 py-1 text-small text-white"
    >
      <b>Measuring {part}</b>
      <span>It does not stand in the engine: what is kept here is its own.</span>
      <Link to={`/builds/${code}/parts`} className="ml-auto border border-white px-2 font-semibold">
        Compare
      </Link>
      <Link to={`/builds/${code}/bench`} className="border border-white px-2 font-semibold">
        Back to the engine
      </Link>
    </div>
  );
}
