import type { ReactNode } from "react";
import {
  figuresBeside,
  hasMaximumOnly,
  hasMinimumOnly,
  isBearing,
  madeOf,
  readBy,
  roleOf,
  sizesInUse,
} from "../api/catalog";
import type { Build, FigureAssessment, Measured, Role, Schemas, Unit } from "../api/client";
import { Mark } from "../marks/Mark";
import { Digits, Figure } from "../shared/Figure";
import { stepParts, stepPhrase, stepText } from "../shared/figure";
import { LimitsText } from "../shared/Limits";
import { ROLES } from "../shared/roles";
import {
  AROUND_WORD,
  capital,
  FIGURE_WORD,
  METHOD_WORD,
  marked,
  momentText,
  PART_KIND_WORD,
  PART_WORD,
  SOURCE_WORD,
  shownState,
  staleText,
} from "../shared/words";
import { AimSum } from "./AimSum";
import { findingText, isQuiet } from "./findings";
import type { TargetOf } from "./TargetDialog";

/** Corrections below a fifth of a tenth, or half a micrometre, show nowhere. */
const JUST_SHOWN = 635;

type FactsProps = {
  build: Build;
  station: FigureAssessment;
  unit: Unit;
  onTarget: (of: TargetOf) => void;
  onProof: () => void;
  onBlind: () => void;
  onPart: (station: string, part: Role) => void;
};

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

/** A difference in steps; from ten tenths on in thou, as it is spoken. */
function Steps({ nm, unit, before = "" }: { nm: number; unit: Unit; before?: string }) {
  const { text, word } = stepParts(nm, unit);
  return (
    <span>
      <b className="num">
        <Digits text={`${before}${text}`} />
      </b>{" "}
      {word}
    </span>
  );
}

/** The smaller figures of a station, each once. */
export function Facts(props: FactsProps) {
  const { build, station, unit, onTarget } = props;
  const { judged, target, concession, methods } = station;
  const oneSided = hasMaximumOnly(station) || hasMinimumOnly(station);
  const judgedBy = methods.find((m) => m.method === judged?.method) ?? methods[0];
  const sizes = sizesInUse(station).filter((m) => shapeOf(m).length > 0);
  const isUsed = (m: Measured) => judgedBy && readBy(station.figure, judgedBy.method, m.role) !== undefined;
  const spread = Math.max(0, ...sizes.filter(isUsed).map((m) => m.size?.max_spread ?? 0));
  // Three methods that agree are named once; the proof has their figures.
  const many = station.agreements.filter((a) => a.agree).length > 1;
  return (
    <table className="min-w-0 flex-1 border-collapse self-start" aria-label={`Figures of ${station.station}`}>
      <tbody>
        {judgedBy && judgedBy.ends.length > 1 && (
          <Fact name={isBearing(station) ? "Clearance" : "Ends"}>
            <span className="flex flex-wrap gap-x-3">
              {judgedBy.ends.map((e) => (
                <span key={e.axial} className="whitespace-nowrap">
                  {e.axial} <Figure nm={e.clearance} unit={unit} as="clearance" className="font-bold" />
                  {e.widest != null && (
                    <>
                      –<Figure nm={e.widest} unit={unit} as="clearance" className="font-bold" />
                    </>
                  )}
                </span>
              ))}
              {judgedBy.correction != null && Math.abs(judgedBy.correction) >= JUST_SHOWN && (
                <span className="text-small text-ink-2">
                  read {stepPhrase(judgedBy.correction, unit)}{" "}
                  {judgedBy.correction > 0 ? "tighter" : "looser"}: the worst of several places reads too far
                  out
                </span>
              )}
            </span>
          </Fact>
        )}
        <PartFacts station={station} />
        {station.stale && <StaleFact {...props} stale={station.stale} />}
        {station.prediction && <PredictionFact check={station.prediction} unit={unit} />}
        {sizes.map((m) => (
          <SizeFact key={m.characteristic} m={m} station={station} unit={unit} />
        ))}
        {judgedBy && (
          <Fact name="Proof">
            <button type="button" onClick={props.onProof} className="text-dye underline underline-offset-2">
              <Steps nm={judgedBy.budget.expanded} unit={unit} before="±" />, {METHOD_WORD[judgedBy.method]}
            </button>
            ; repeats within <Steps nm={spread} unit={unit} />
            {many && (
              <span className="block text-small text-ink-2">
                {station.agreements
                  .filter((a) => a.agree)
                  .map((a) => METHOD_WORD[a.with])
                  .join(", ")}
                : they agree
              </span>
            )}
            {methods
              .filter((m) => m !== judgedBy && !(many && agrees(station, m.method)))
              .map((m) => {
                const agreement = station.agreements.find((a) => a.with === m.method);
                return (
                  <span key={m.method} className="block text-small text-ink-2">
                    {METHOD_WORD[m.method]} <Figure nm={m.clearance} unit={unit} as="clearance" /> ±
                    {stepText(m.budget.expanded, unit)}
                    {agreement && (agreement.agree ? ", they agree" : ", these disagree")}
                    {agreement?.en != null && (
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
                );
              })}
          </Fact>
        )}
        <Fact name="Target">
          {target ? (
            <>
              <LimitsText f={station} unit={unit} strong />
              {!oneSided && (
                <>
                  , aim <Figure nm={target.window.aim} unit={unit} as="clearance" className="font-bold" />
                </>
              )}
              <span className="block text-note text-ink-2">
                {SOURCE_WORD[target.source]}, {target.by.name}: {target.reason}
                {target.own && ` (${station.station} only)`}
                {target.made_of && (
                  <span className="block">
                    <AimSum made={target.made_of} aim={target.window.aim} unit={unit} />
                  </span>
                )}
                {target.wear && (
                  <span className="block" data-wear="">
                    Factory wear range <Figure nm={target.wear.low} unit={unit} as="clearance" />–
                    <Figure nm={target.wear.high} unit={unit} as="clearance" />: no aim
                  </span>
                )}
                {target.rule.kind === "hot" && (
                  <span className="block">
                    Hot <Figure nm={target.rule.low} unit={unit} as="clearance" />–
                    <Figure nm={target.rule.high} unit={unit} as="clearance" />, less{" "}
                    <Figure nm={target.rule.growth} unit={unit} as="clearance" /> the builder allows for
                    growth
                    {target.expansion && (
                      <>
                        ; arithmetic estimates{" "}
                        <Figure nm={target.expansion.growth} unit={unit} as="clearance" /> (
                        {target.expansion.assumptions.block_share} % {target.expansion.assumptions.block},
                        housing {target.expansion.assumptions.housing_c} °C, journal{" "}
                        {target.expansion.assumptions.journal_c} °C)
                      </>
                    )}
                  </span>
                )}
              </span>
            </>
          ) : (
            "none yet"
          )}{" "}
          <button
            type="button"
            onClick={() => onTarget(station)}
            className="text-note font-semibold text-dye underline underline-offset-2"
          >
            Change target
          </button>
          <button
            type="button"
            onClick={props.onBlind}
            className="ml-3 text-note font-semibold text-dye underline underline-offset-2"
          >
            Ask for a blind touch
          </button>
        </Fact>
        {(station.hot ?? []).map((hot) => (
          <Fact key={hot.by} name="Hot">
            <span data-hot={hot.stops ? "stops" : hot.estimate ? "estimate" : "holds"}>
              {hot.left < 0 && hot.estimate ? (
                <>No room by arithmetic</>
              ) : (
                <>
                  <Figure nm={hot.left} unit={unit} as="clearance" className="font-bold" /> left of it
                </>
              )}
              , closing by <Figure nm={hot.closes} unit={unit} as="clearance" />
              {hot.stops && (
                <b className="block bg-ink px-1.5 text-white">Stop: less than the floor is left</b>
              )}
              <span className="block text-note text-ink-2">
                {hot.by === "allowance"
                  ? "the builder's allowance"
                  : hot.estimate
                    ? `by expansion: an estimate that stops nothing, for skirts flex${
                        station.hot?.some((other) => other.by === "allowance")
                          ? ""
                          : ". Say in the rules what a piston closes by in your engines"
                      }`
                    : "by expansion"}
                {hot.floor > 0 && (
                  <>
                    ; <Figure nm={hot.floor} unit={unit} as="clearance" /> have to be left
                  </>
                )}
              </span>
            </span>
          </Fact>
        ))}
        {concession && (
          <Fact name="Accepted">
            <span className="font-semibold text-brass-ink">
              {concession.by.name}: {concession.reason}
            </span>
          </Fact>
        )}
        {oncePerText(station.findings, unit, station.station).map((f) => (
          <Fact key={JSON.stringify(f)} name={isQuiet(f) ? "Note" : "Look at"}>
            <span data-finding={f.kind} className={isQuiet(f) ? "text-small text-ink-2" : "font-bold"}>
              {findingText(f, unit, station.station)}
            </span>
          </Fact>
        ))}
        {station.blades && <BladeFact advice={station.blades} unit={unit} />}
        <BesideFacts {...props} />
        <BlindFacts {...props} />
        <StruckFacts build={build} station={station.station} />
      </tbody>
    </table>
  );
}

/** Which parts stand there, where they are not the first ones, and which may not stay. */
function PartFacts({ station }: { station: FigureAssessment }) {
  const moot = station.moot ?? [];
  return (
    <>
      {(station.parts ?? []).map((p) => (
        <Fact key={`${p.kind} ${p.place}`} name={capital(PART_KIND_WORD[p.kind])}>
          <b data-part={p.part}>{p.part ?? "none"}</b>
          {p.place && ` stands at ${p.place}`}
        </Fact>
      ))}
      {moot.map((p) => (
        <Fact key={`${p.kind} ${p.place} moot`} name="Moot">
          <b data-moot={p.part}>
            {p.part ? `${p.part} is condemned` : `no ${PART_KIND_WORD[p.kind]} stands here`}
          </b>
          : nothing more has to be proven of it; another one is wanted
        </Fact>
      ))}
    </>
  );
}

/** Two rods on one pin are remarked on once. */
function oncePerText(findings: FigureAssessment["findings"], unit: Unit, at: string) {
  const texts = findings.map((f) => findingText(f, unit, at));
  return findings.filter((_, i) => texts.indexOf(texts[i] ?? "") === i);
}

/** What its places can tell of its shape: along it, around it, toward the parting line. */
function shapeOf(m: Measured): { name: string; nm: number }[] {
  // A shape is told by what was touched, not by what is planned.
  const counted = m.positions.filter((p) => !p.advisory && p.value != null).map((p) => p.position);
  const along = new Set(counted.map((p) => p.axial)).size > 1;
  const around = new Set(counted.map((p) => p.angle)).size > 1;
  if (!m.size || ROLES[m.role].edge) return [];
  return [
    ...(along ? [{ name: "taper", nm: m.size.taper }] : []),
    ...(around ? [{ name: AROUND_WORD[m.role] ?? "out of round", nm: m.size.out_of_round }] : []),
    ...(m.size.relief != null ? [{ name: "relief", nm: m.size.relief }] : []),
  ];
}

/** The size of one part, and its shape. */
function SizeFact({ m, station, unit }: { m: Measured; station: FigureAssessment; unit: Unit }) {
  const word = PART_WORD[m.role];
  const pin = m.track == null ? `Pin ${m.place}` : `${m.place}, track ${m.track}`;
  const elsewhere = m.role === "journal" ? pin : `${capital(word)} ${m.place}`;
  const name = m.place === station.station ? capital(word) : elsewhere;
  return (
    <Fact name={name}>
      {m.size && m.read !== "turn" && <SizeText size={m.size} unit={unit} />}
      {station.class && m.place === station.journal_at && roleOf(m.characteristic) === "journal" && (
        <ClassText c={station.class} unit={unit} />
      )}
      {shapeOf(m).map((s) => (
        <span key={s.name}>
          {m.read !== "turn" && ", "}
          {s.name} <Steps nm={s.nm} unit={unit} />
        </span>
      ))}
    </Fact>
  );
}

/** A size; what lies between two blades has none, but two ends. */
function SizeText({ size, unit }: { size: Schemas["Size"]; unit: Unit }) {
  if (!size.between) return <Figure nm={size.effective} unit={unit} className="font-bold" />;
  const { smallest, largest } = size.between;
  return (
    <span data-between>
      <Figure nm={smallest[0] ?? size.smallest} unit={unit} className="font-bold" /> to{" "}
      <Figure nm={largest[1] ?? size.largest} unit={unit} className="font-bold" />
    </span>
  );
}

function agrees(station: FigureAssessment, method: Schemas["Method"]): boolean {
  return station.agreements.some((a) => a.with === method && a.agree);
}

/** Which undersize a journal belongs to. */
function ClassText({ c, unit }: { c: Schemas["JournalClass"]; unit: Unit }) {
  if (c.undersize == null || c.worn == null) return <b className="ml-1.5">belongs to no undersize</b>;
  return (
    <span className="ml-1.5 text-ink-2" data-class={c.undersize}>
      {c.undersize === 0 ? "std" : <Figure nm={c.undersize} unit={unit} as="clearance" short />}
      {c.undersize === 0 ? "" : " under"}, {c.worn < 0 ? "over" : "worn"}{" "}
      <Steps nm={Math.abs(c.worn)} unit={unit} />
    </span>
  );
}

/** What the shells that were fitted had promised, beside what was measured. */
function PredictionFact({ check, unit }: { check: Schemas["PredictionCheck"]; unit: Unit }) {
  return (
    <Fact name="Predicted">
      <span data-prediction={check.agrees ? "agrees" : "missed"}>
        <Figure nm={check.pair.clearance} unit={unit} as="clearance" className="font-bold" /> of{" "}
        {check.pair.upper} over {check.pair.lower}: measured{" "}
        <Steps nm={Math.abs(check.difference)} unit={unit} /> {check.difference < 0 ? "less" : "more"},{" "}
        {check.agrees ? "as promised within" : "beyond the"} <Steps nm={check.combined} unit={unit} />
      </span>
    </Fact>
  );
}

/** What was judged before something was done, and the way to fresh evidence. */
function StaleFact({ stale, unit, onPart }: FactsProps & { stale: Schemas["StaleJudged"] }) {
  return (
    <Fact name="Stale">
      {stale.because.map((b) => (
        <span key={b.seq} className="block" data-because={b.cause.kind}>
          {staleText(b, unit)}
          <span className="ml-1 text-note text-ink-2">
            {b.by.name}, {momentText(b.at)}
          </span>
        </span>
      ))}
      {stale.again.map((a) => (
        <button
          key={a.part}
          type="button"
          data-again={a.part}
          onClick={() => onPart(a.station, a.part)}
          className="mt-1 mr-2 border border-dye bg-paper px-2 py-0.5 text-small font-semibold whitespace-nowrap text-dye"
        >
          Measure {a.station}'s {PART_WORD[a.part]} again: {a.touches} touches
        </button>
      ))}
    </Fact>
  );
}

/** What else is judged where this bearing is: the step between the tracks of its pin, the taper of its shells. */
function BesideFacts(props: FactsProps) {
  const { station } = props;
  const onTrack = station.measured.some((m) => m.place === station.journal_at && m.track != null);
  const walls = station.measured.filter(
    (m) => m.taken > 0 && m.positions.filter((p) => !p.advisory).length > 1,
  );
  const roles = walls.map((m) => m.role);
  const shown = (figure: Schemas["Figure"]) =>
    figure !== station.figure &&
    (props.build.assessment.figures.some(
      (f) => f.figure === figure && f.station === station.station && f.asked,
    ) ||
      madeOf(figure).some((role) => roles.includes(role)));
  return (
    <>
      {onTrack &&
        figuresBeside(station.journal_at).map((figure) => (
          <Beside
            key={figure}
            {...props}
            figure={figure}
            place={station.journal_at}
            name={`Pin ${station.journal_at}`}
          />
        ))}
      {figuresBeside(station.station)
        .filter(shown)
        .map((figure) => (
          <Beside
            key={figure}
            {...props}
            figure={figure}
            place={station.station}
            name={isBearing(station) ? "Shells" : "Beside"}
          />
        ))}
    </>
  );
}

type BesideProps = FactsProps & { figure: Schemas["Figure"]; place: string; name: string };

/** One such figure, and the way to a maximum for it. */
function Beside({ build, station, unit, onTarget, figure, place, name }: BesideProps) {
  const found = build.assessment.figures.find((f) => f.figure === figure && f.station === place);
  const of: TargetOf = found ?? { figure, station: place, row: station.row, target: null };
  const shown = found?.judged ?? found?.stale?.was;
  // What is only noted stands with the figure of the station; what has to be looked at is said where it shows.
  const own = station.findings.map((f) => findingText(f, unit, place));
  const remarks = oncePerText(found?.findings ?? [], unit, place).filter(
    (f) => !isQuiet(f) && !own.includes(findingText(f, unit, place)),
  );
  return (
    <Fact name={found?.target || found?.begun ? FIGURE_WORD[figure] : name}>
      <span data-beside={figure} data-state={found ? shownState(found) : "none"}>
        {!(found?.target || found?.begun) && `${FIGURE_WORD[figure]} `}
        {shown && <Figure nm={shown.clearance} unit={unit} as="clearance" className="font-bold" />}{" "}
        {found && <Mark state={marked(found, shownState(found))} nearest={found.judged?.nearest} size={14} />}
        {found?.target && (
          <span className="ml-1 text-ink-2">
            <LimitsText f={found} unit={unit} />
          </span>
        )}{" "}
        <button
          type="button"
          onClick={() => onTarget(of)}
          className="text-note font-semibold text-dye underline underline-offset-2"
        >
          {found?.target ? "Change" : hasMaximumOnly({ figure }) ? "Set a maximum" : "Set a target"}
        </button>
      </span>
      {remarks.map((f) => (
        <span key={JSON.stringify(f)} data-finding={f.kind} className="mt-0.5 block text-small font-semibold">
          {findingText(f, unit, place)}
        </span>
      ))}
    </Fact>
  );
}

/** What blades still tell, and what this set never does. */
function BladeFact({ advice, unit }: { advice: Schemas["BladeAdvice"]; unit: Unit }) {
  return (
    <Fact name="Blades">
      {advice.next != null ? (
        <span data-next-blade={advice.next}>
          try <Figure nm={advice.next} unit={unit} as="clearance" className="font-bold" /> next
        </span>
      ) : (
        <span className="text-ink-2">nothing left to try with this set</span>
      )}
      {advice.never.map(([from = 0, to = 0]) => (
        <span key={from} className="block text-small text-ink-2">
          never told in from out: <Figure nm={from} unit={unit} as="clearance" />–
          <Figure nm={to} unit={unit} as="clearance" />
        </span>
      ))}
    </Fact>
  );
}

/** Blind second touches of this bearing and what came of them. */
function BlindFacts({ build, station, unit }: FactsProps) {
  const here = build.assessment.blind.filter(
    (b) => b.station === station.station || b.station === station.journal_at,
  );
  return here.map((b) => (
    <Fact key={b.id} name="Blind">
      <span data-blind={b.done ? (b.comparison?.agree ? "agrees" : "disagrees") : "asked"}>
        {b.whom.name}, {PART_WORD[roleOf(b.characteristic)]}:{" "}
        {!b.done
          ? "asked, not yet measured"
          : b.second != null && (
              <>
                <Figure nm={b.second} unit={unit} className="font-bold" />
                {b.comparison &&
                  (b.comparison.agree ? (
                    ", they agree"
                  ) : (
                    <b>, these disagree by {stepPhrase(b.comparison.difference, unit)}</b>
                  ))}
                {b.comparison?.en != null && ` (En ${b.comparison.en.toFixed(1)})`}
              </>
            )}
      </span>
    </Fact>
  ));
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
