import type { ReactNode } from "react";
import type { Build, FeatureAssessment, Schemas, StationAssessment, Unit } from "../api/client";
import { Digits, Figure } from "../shared/Figure";
import { stepPhrase, stepText, stepWord } from "../shared/figure";
import { METHOD_WORD, SOURCE_WORD } from "../shared/words";

type FactsProps = { build: Build; station: StationAssessment; unit: Unit; onTarget: () => void };

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <tr className="border-b border-hair last:border-0">
      <th
        scope="row"
        className="w-[84px] py-[3px] pr-2 text-left align-top text-small font-medium text-ink-2"
      >
        {name}
      </th>
      <td className="py-[3px] text-[14px] leading-snug">{children}</td>
    </tr>
  );
}

function Steps({ nm, unit }: { nm: number; unit: Unit }) {
  return (
    <span>
      <b className="num">
        <Digits text={stepText(nm, unit)} />
      </b>{" "}
      {stepWord(nm, unit)}
    </span>
  );
}

/** The smaller figures of a station, each once. */
export function Facts({ build, station, unit, onTarget }: FactsProps) {
  const { journal, judged, target, agreement, concession, methods } = station;
  const judgedBy = methods.find((m) => m.method === judged?.method) ?? methods[0];
  const bore: FeatureAssessment | undefined =
    judgedBy?.method === "subtract"
      ? station.bore_subtract
      : station.bore_direct.size
        ? station.bore_direct
        : station.bore_subtract;
  const size = (nm: number) => <Figure nm={nm} unit={unit} className="font-bold" />;
  return (
    <table className="flex-1 border-collapse self-start" aria-label={`Figures of ${station.station}`}>
      <tbody>
        {judgedBy && judgedBy.ends.length > 1 && (
          <Fact name="Clearance">
            {judgedBy.ends.map((e) => (
              <span key={e.axial} className="mr-3 whitespace-nowrap">
                {e.axial} <Figure nm={e.clearance} unit={unit} as="clearance" className="font-bold" />
              </span>
            ))}
          </Fact>
        )}
        {bore?.size && (
          <Fact name="Bore">
            {size(bore.size.effective)}, taper <Steps nm={bore.size.taper} unit={unit} />
            {bore.size.relief != null && (
              <>
                , relief <Steps nm={bore.size.relief} unit={unit} />
              </>
            )}
          </Fact>
        )}
        {journal.size && (
          <Fact name="Journal">
            {size(journal.size.effective)}, taper <Steps nm={journal.size.taper} unit={unit} />, out of round{" "}
            <Steps nm={journal.size.out_of_round} unit={unit} />
          </Fact>
        )}
        {judgedBy && (
          <Fact name="Proof">
            <b className="num">
              <Digits text={`±${stepText(judgedBy.budget.expanded, unit)}`} />
            </b>{" "}
            {stepWord(judgedBy.budget.expanded, unit)}, {METHOD_WORD[judgedBy.method]}; repeats within{" "}
            <Steps nm={Math.max(journal.size?.max_spread ?? 0, bore?.size?.max_spread ?? 0)} unit={unit} />
            {methods
              .filter((m) => m !== judgedBy)
              .map((m) => (
                <span key={m.method} className="block text-ink-2">
                  {METHOD_WORD[m.method]} <Figure nm={m.clearance} unit={unit} as="clearance" /> ±
                  {stepText(m.budget.expanded, unit)}
                  {m.complete && agreement && (agreement.agree ? ", they agree" : ", these disagree")}
                  {m.complete && agreement?.en != null && (
                    <>
                      {" "}
                      (En{" "}
                      <span className="num">
                        <Digits text={agreement.en.toFixed(1)} />
                      </span>
                      )
                    </>
                  )}
                </span>
              ))}
          </Fact>
        )}
        <Fact name="Target">
          {target ? (
            <>
              <Figure nm={target.window.low} unit={unit} as="clearance" className="font-bold" />–
              <Figure nm={target.window.high} unit={unit} as="clearance" className="font-bold" />, aim{" "}
              <Figure nm={target.window.aim} unit={unit} as="clearance" className="font-bold" />
              <span className="block text-note text-ink-2">
                {SOURCE_WORD[target.source]}, {target.by.name}: {target.reason}
                {target.own && ` (${station.station} only)`}
              </span>
            </>
          ) : (
            "none yet"
          )}{" "}
          <button
            type="button"
            onClick={onTarget}
            className="text-note font-semibold text-dye underline underline-offset-2"
          >
            Change target
          </button>
        </Fact>
        {concession && (
          <Fact name="Accepted">
            <span className="font-semibold text-brass-ink">
              {concession.by.name}: {concession.reason}
            </span>
          </Fact>
        )}
        {station.findings.map((f) => (
          <Fact key={JSON.stringify(f)} name="Look at">
            <b data-finding={f.kind}>{findingText(f, unit)}</b>
          </Fact>
        ))}
        <StruckFacts build={build} station={station.station} />
      </tbody>
    </table>
  );
}

function findingText(f: Schemas["Finding"], unit: Unit): string {
  switch (f.kind) {
    case "repeats_spread": {
      const where = `${f.feature === "main_journal" ? "Journal" : "Bore"}, ${f.position.axial} ${f.position.angle}\u00b0`;
      return `${where}: touches spread over ${stepPhrase(f.spread, unit)}. Same number three times running is the aim.`;
    }
    case "relief_not_positive":
      return "Not wider toward the parting line: wrong or mis-seated shell, or the cap is shifted.";
    case "methods_disagree":
      return `Direct and subtract differ by ${stepPhrase(f.difference, unit)}: zero the bore gauge again and look at both.`;
    case "undecidable":
      return "These gauges cannot decide this window: no value could be proven in.";
    case "concession_lapsed":
      return `The acceptance given before (${f.reason}) was for another figure.`;
  }
}

/** Reasons for which readings of this station were struck. */
function StruckFacts({ build, station }: { build: Build; station: string }) {
  const struck = build.readings.filter((r) => r.station === station && r.struck);
  const reasons = [...new Set(struck.map((r) => r.struck?.reason ?? ""))];
  return reasons.map((reason) => {
    const count = struck.filter((r) => r.struck?.reason === reason).length;
    return (
      <Fact key={reason} name="Struck">
        <span className="text-ink-2">
          {count === 1 ? "1 reading" : `${count} readings`}: {reason}
        </span>
      </Fact>
    );
  });
}
