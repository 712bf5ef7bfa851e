import type { Build } from "../api/client";
import { clearanceParts, plain } from "../shared/figure";
import { momentText, ROLE_WORD } from "../shared/words";
import { faultText } from "./faults";
import { loosenedText } from "./loosened";
import { shortSeal } from "./SealRule";

/** What is wrong with the record of this build: said before everything else. */
export function Faults({ build }: { build: Build }) {
  const { faults } = build.assessment.sign_off.proof;
  if (faults.length === 0) return null;
  return (
    <section
      role="alert"
      aria-label="The record does not match"
      data-faults={faults.length}
      className="mb-3 border-2 border-ink bg-white"
    >
      <h2 className="flex items-center gap-3 bg-ink px-3 py-1.5 text-lead font-bold text-white">
        <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
          <path d="M3 3l14 14M17 3L3 17" stroke="currentColor" strokeWidth="3" />
        </svg>
        Not as it was signed
      </h2>
      <ul className="px-3 pt-2">
        {faults.map((fault) => (
          <li key={`${fault.seq} ${fault.flaw}`}>{faultText(fault)}</li>
        ))}
      </ul>
      <p className="px-3 pt-1 pb-2 text-small text-ink-2">
        Something was changed behind the record. Nobody can sign here until it is cleared up: restore a
        backup, or measure what is in doubt on a new build. Trust no figure of this sheet before.
      </p>
    </section>
  );
}

/** Where the first facts came from, and who signed there. */
export function Elsewhere({ build }: { build: Build }) {
  const { imported, elsewhere } = build.assessment.sign_off;
  if (!imported) return null;
  const ours =
    imported.ours === imported.facts
      ? "All of it stands under this shop's own mark."
      : "What it says of others is the file's word.";
  return (
    <section
      aria-label="From a file"
      data-imported={imported.file}
      className="mb-3 border-l-4 border-steel-4 pl-3"
    >
      <p className="text-small">
        <b>From a file</b> ({imported.facts} facts, {shortSeal(imported.file)}), imported by{" "}
        {imported.by.name}, {momentText(imported.at)}. {ours}
      </p>
      {elsewhere.length > 0 && (
        <ul className="mt-1 text-small text-ink-2">
          {elsewhere.map((s) => (
            <li key={s.digest} data-elsewhere={s.role}>
              Signed elsewhere, checked against this file only: {s.by.name} as{" "}
              {ROLE_WORD[s.role].toLowerCase()}, revision {s.revision}, {momentText(s.at)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What was tight until a target or a rule was changed. */
export function LiftedNotes({ build }: { build: Build }) {
  return (
    <>
      <Lifted build={build} />
      <LoosenedRules build={build} />
    </>
  );
}

/** What the rules of this build ask less of since somebody changed them: as loud as what it says. */
function LoosenedRules({ build }: { build: Build }) {
  const { loosened } = build.assessment.sign_off;
  if (loosened.length === 0) return null;
  return (
    <section aria-label="Asked no more" className="mt-4">
      <h2 className="border-b border-ink pb-0.5 font-bold">The rules of this build ask less than they did</h2>
      <ul>
        {loosened.map((l) => (
          <li
            key={`${JSON.stringify(l)}`}
            data-loosened={l.kind}
            className="border-b border-hair py-1 text-small"
          >
            <b>{loosenedText(l)}</b> {l.by.name}, {momentText(l.at)}: {l.reason}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Lifted({ build }: { build: Build }) {
  const { lifted } = build.assessment.sign_off;
  if (lifted.length === 0) return null;
  const show = (nm: number) => plain(clearanceParts(nm, build.unit));
  return (
    <section aria-label="Lifted by a change" className="mt-4">
      <h2 className="border-b border-ink pb-0.5 font-bold">
        Tight until a target, a rule or a place to measure was changed
      </h2>
      <ul>
        {lifted.map((l) => (
          <li
            key={`${l.station} ${l.figure} ${l.at}`}
            data-lifted={l.station}
            className="border-b border-hair py-1 text-small"
          >
            <b>{l.station}</b> was {show(l.value)}, tight in {show(l.window.low)} to {show(l.window.high)}.{" "}
            {l.by.name}, {momentText(l.at)}: {l.reason}
          </li>
        ))}
      </ul>
    </section>
  );
}
