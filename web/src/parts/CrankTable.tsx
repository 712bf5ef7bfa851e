import type { Schemas, Unit } from "../api/client";
import { Figure } from "../shared/Figure";
import { stepPhrase, stepText } from "../shared/figure";

type Candidate = Schemas["Candidate"];
type Journal = Schemas["CandidateJournal"];

/** Cranks side by side: every journal of each, its class, and what each crank would need. */
export function CrankTable({ cranks, unit }: { cranks: Candidate[]; unit: Unit }) {
  const rows = cranks[0]?.rows ?? [];
  return (
    <table className="mt-1 w-full border-collapse text-[15px]" aria-label="Cranks side by side">
      <thead>
        <tr className="border-b border-ink text-left align-bottom">
          <th className="w-[84px] text-small font-medium text-ink-2">Journal</th>
          {cranks.map((c) => (
            <th key={c.part} scope="col" className="px-2 pb-1" data-crank={c.part}>
              <span className={`font-bold ${c.stands ? "text-dye" : ""}`}>{c.part}</span>
              <span className="ml-2 text-small font-medium text-ink-2">
                {c.condemned ? "condemned" : c.stands ? "in the engine" : "beside it"}
              </span>
            </th>
          ))}
        </tr>
      </thead>
      {rows.map((row, r) => (
        <tbody key={row.row}>
          {row.journals.map((j, i) => (
            <tr
              key={`${j.place} ${j.track}`}
              className="h-[27px] border-b border-hair"
              data-journal={j.place}
            >
              <th scope="row" className="text-left font-semibold">
                {j.place}
                {j.track != null && <span className="font-normal text-ink-2">, {j.track}</span>}
              </th>
              {cranks.map((c) => (
                <td key={c.part} className="px-2 whitespace-nowrap">
                  <JournalText j={c.rows[r]?.journals[i]} unit={unit} />
                </td>
              ))}
            </tr>
          ))}
          <tr className="border-b-[1.5px] border-ink bg-steel-1" data-needs={row.row}>
            <th scope="row" className="py-1 text-left text-small font-bold">
              {row.row === "mains" ? "Mains" : "Pins"} need
            </th>
            {cranks.map((c) => (
              <td key={c.part} className="px-2 py-1 text-small font-semibold">
                <NeedText row={c.rows[r]} unit={unit} />
              </td>
            ))}
          </tr>
        </tbody>
      ))}
    </table>
  );
}

function JournalText({ j, unit }: { j: Journal | undefined; unit: Unit }) {
  if (j?.size == null) return <span className="text-ink-3">not measured</span>;
  const shape = Math.max(j.taper ?? 0, j.out_of_round ?? 0);
  return (
    <>
      <Figure nm={j.size} unit={unit} className="font-bold" />
      {j.expanded != null && (
        <span className="num ml-1.5 text-note text-ink-2">±{stepText(j.expanded, unit)}</span>
      )}
      <span className="ml-2 text-small text-ink-2">
        {j.undersize == null ? (
          <b className="text-ink">of no class</b>
        ) : j.undersize === 0 ? (
          "std"
        ) : (
          <>
            <Figure nm={j.undersize} unit={unit} as="clearance" short /> under
          </>
        )}
        {j.worn != null && j.worn > 0 && `, worn ${stepPhrase(j.worn, unit)}`}
        {shape > 0 && `, shape ${stepText(shape, unit)}`}
      </span>
    </>
  );
}

function NeedText({ row, unit }: { row: Schemas["CandidateRow"] | undefined; unit: Unit }) {
  if (!row) return null;
  const { needs, spread } = row;
  const within =
    spread == null ? null : (
      <span className="ml-2 font-normal text-ink-2">within {stepPhrase(spread, unit)} of each other</span>
    );
  switch (needs.kind) {
    case "measure":
      return needs.open === 1 ? "1 journal to measure" : `${needs.open} journals to measure`;
    case "shells":
      return (
        <>
          {needs.undersize === 0 ? (
            "standard shells"
          ) : (
            <>
              shells <Figure nm={needs.undersize} unit={unit} as="clearance" short /> under
            </>
          )}
          {within}
        </>
      );
    case "grind":
      return (
        <>
          ground to <Figure nm={needs.size} unit={unit} />, shells{" "}
          <Figure nm={needs.undersize} unit={unit} as="clearance" short /> under{within}
        </>
      );
    case "nothing_serves":
      return "no undersize cleans every journal";
  }
}
