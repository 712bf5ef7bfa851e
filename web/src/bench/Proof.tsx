import type { Build, FigureAssessment, Schemas, Unit } from "../api/client";
import { Digits, Figure } from "../shared/Figure";
import { fineText } from "../shared/figure";
import { METHOD_WORD, PART_WORD, ZERO_WORD } from "../shared/words";

type Contribution = Schemas["Contribution"];
type MethodResult = Schemas["MethodResult"];

const SOURCE: Record<Contribution["source"], string> = {
  resolution: "step of the gauge",
  repeat: "feel and repeat",
  zeroing: "zeroing",
  setting: "setting the mic",
  reference: "ring or mic it was zeroed in",
  check: "gauge check",
  walk: "gauge drift",
  person: "one hand from another",
  plate: "plate left off",
  seating: "dirt, a burr or a shell that is not home",
  calibration: "calibration",
  catalogue: "catalogue tolerance",
  printed_step: "half a printed step",
  temperature: "temperature",
  angle: "dial not quite straight",
};

/** Sources that belong to no part. */
const WITHOUT_PART: Contribution["source"][] = ["temperature", "setting", "reference"];

export function contributionText(c: Contribution): string {
  const of = c.source === "catalogue" ? "walls" : WITHOUT_PART.includes(c.source) ? "" : PART_WORD[c.of];
  return `${of} ${SOURCE[c.source]}`.trim();
}

/** A suspect by name: a gauge by its own, a part by its place. */
function suspectText({ contribution: c, everywhere }: Schemas["SuspectPart"]): string {
  const what =
    c.source === "seating"
      ? SOURCE.seating
      : c.source === "calibration" && c.gauge
        ? `scale of the ${c.gauge}`
        : contributionText(c);
  return everywhere ? `${what}, at every bearing` : what;
}

function betterText(better: Schemas["Improvement"]): string {
  switch (better.kind) {
    case "transfer_method":
      return "Set the bore gauge in the mic that was locked on the journal";
    case "three_touches":
      return "Touch every place three times";
    case "soak_or_note":
      return "Let parts and gauges soak, or note their temperatures";
    case "measure_walls":
      return `Measure the walls with the ${better.gauge}`;
    case "finer_gauge":
      return `Use the ${better.gauge}`;
  }
}

/** Steps of the axis in tenths of a thou or micrometres, the finest that leaves room for their figures. */
const AXIS_STEPS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];
const MOST_STEPS = 6;

/** What each source leaves open, as bars on one axis: the largest first, all of them together last. */
function BudgetBars({ m, unit }: { m: MethodResult; unit: Unit }) {
  const parts = [...m.budget.parts].sort((a, b) => b.share - a.share);
  const whole = Number(fineText(m.budget.expanded, unit));
  const step = AXIS_STEPS.find((s) => whole / s <= MOST_STEPS) ?? 100;
  const end = Math.max(step, Math.ceil(whole / step) * step);
  const along = (nm: number) => `${Number(fineText(nm * 100, unit)) / end}%`;
  const ticks = Array.from({ length: Math.round(end / step) + 1 }, (_, n) => n * step);
  const at = (n: number) => ({ left: `${(100 * n) / end}%` });
  return (
    <div className="mt-1 grid grid-cols-[minmax(0,190px)_minmax(0,1fr)_44px] gap-x-3 text-small">
      <div className="relative col-start-2 h-[26px] border-b border-ink" aria-hidden="true">
        {ticks.map((n) => (
          <span key={n} style={at(n)} className="absolute bottom-0 h-[7px] border-l border-ink">
            <span className="num absolute bottom-[7px] -translate-x-1/2 text-note text-ink-2">
              <Digits text={n.toFixed(step < 1 ? 1 : 0)} />
            </span>
          </span>
        ))}
      </div>
      <ul className="col-span-full grid grid-cols-subgrid">
        {parts.map((p) => (
          <li
            key={contributionText(p)}
            className="col-span-full grid grid-cols-subgrid items-center border-b border-hair leading-[21px]"
          >
            <span className="truncate" title={p.gauge ?? undefined}>
              {contributionText(p)}
            </span>
            <span className="block h-[11px] bg-dye" style={{ width: along(2 * p.standard) }} />
            <b className="num text-right">
              <Digits text={percent(p.share)} />
            </b>
          </li>
        ))}
        <li className="col-span-full grid grid-cols-subgrid items-center leading-[24px]">
          <b>all together</b>
          <span className="block h-[5px] bg-ink" style={{ width: along(m.budget.expanded) }} />
          <b className="num text-right">
            <Digits text={`\u00b1${fineText(m.budget.expanded, unit)}`} />
          </b>
        </li>
      </ul>
    </div>
  );
}

function percent(share: number): string {
  return `${Math.round(share * 100)} %`;
}

type ProofProps = { build: Build; station: FigureAssessment; unit: Unit };

/** What the figure rests on: every method side by side, each with its budget. */
export function Proof({ build, station, unit }: ProofProps) {
  const { methods, judged } = station;
  const { rules } = build.assessment;
  if (methods.length === 0) {
    return <p className="mt-4">Nothing is measured at {station.station} yet, so nothing is proven.</p>;
  }
  const judgedBy = methods.find((m) => m.method === judged?.method) ?? methods[0];
  return (
    <div data-view="proof" className="pb-4">
      <p className="mb-2 text-small leading-snug text-ink-2">
        {judged
          ? judged.because === "preferred"
            ? `Judged by ${METHOD_WORD[judged.method]}: this build's rules prefer it.`
            : `Judged by ${METHOD_WORD[judged.method]}: it proves most of what is complete; the rules prefer ${METHOD_WORD[rules.preferred ?? "direct"]}.`
          : "No method is complete yet."}{" "}
        {rules.effective === "worst" ? "The worst place counts" : "The mean of the places counts"};{" "}
        {rules.acceptance === "guarded" ? "limits are guarded by U." : "U is left out of the limits."}
      </p>
      {judged?.another && <AnotherTouch another={judged.another} unit={unit} />}
      <table className="w-full border-collapse text-[14px]">
        <caption className="sr-only">Methods at {station.station}</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">Method</th>
            <th className="font-medium">Clearance</th>
            <th className="font-medium">± U</th>
            <th className="font-medium">Against the judged one</th>
          </tr>
        </thead>
        <tbody>
          {methods.map((m) => (
            <MethodRow
              key={m.method}
              m={m}
              station={station}
              unit={unit}
              judged={m.method === judged?.method}
            />
          ))}
        </tbody>
      </table>
      {station.agreements
        .filter((a) => !a.agree)
        .map((a) => (
          <p key={a.with} className="mt-2 text-small leading-snug">
            <b>{METHOD_WORD[a.with]} disagrees.</b> Suspects, by how much of the row each explains:{" "}
            {a.suspects
              .slice(0, Math.max(3, a.suspects.findLastIndex((s) => s.tied) + 1))
              .map((s) => `${suspectText(s)} (${percent(s.contribution.share)})`)
              .join("; ")}
            .{" "}
            {a.suspects[0]?.tied
              ? "Gauges and zero look alike here: check the mic on its standard, and the bore gauge on a ring, before anything else."
              : "Nothing is averaged: measure the first of them again."}
          </p>
        ))}
      {judgedBy && <BudgetOf m={judgedBy} unit={unit} />}
    </div>
  );
}

function MethodRow({
  m,
  station,
  unit,
  judged,
}: {
  m: MethodResult;
  station: FigureAssessment;
  unit: Unit;
  judged: boolean;
}) {
  const agreement = station.agreements.find((a) => a.with === m.method);
  return (
    <tr
      data-method={m.method}
      className={`border-t border-hair ${judged ? "bg-dye-wash font-semibold" : ""}`}
    >
      <td className="py-1 pl-1 whitespace-nowrap">
        {METHOD_WORD[m.method]}
        {!m.complete && <span className="ml-1 font-normal text-ink-2">so far</span>}
      </td>
      <td className="py-1">
        <Figure nm={m.clearance} unit={unit} as="clearance" className="font-bold" />
        {m.low !== m.high && (
          <span className="ml-1.5 text-note font-normal text-ink-2">
            band <Figure nm={m.low} unit={unit} as="clearance" />–
            <Figure nm={m.high} unit={unit} as="clearance" />, walls by the catalogue
          </span>
        )}
      </td>
      <td className="num py-1 whitespace-nowrap">
        <Digits text={`±${fineText(m.budget.expanded, unit)}`} />
      </td>
      <td className="py-1 text-small">
        {judged && "judged"}
        {agreement && (
          <span data-agree={agreement.agree}>
            {agreement.agree ? "agree" : <b>these disagree</b>}
            {agreement.en != null && (
              <>
                , En{" "}
                <span className="num">
                  <Digits text={agreement.en.toFixed(1)} />
                </span>
              </>
            )}
          </span>
        )}
        {!judged && !agreement && (m.method === "strip" ? "a cross-check" : "")}
      </td>
    </tr>
  );
}

const ANOTHER_WORD: Record<Schemas["AnotherTouch"], string> = {
  may_decide: "Another touch at the places that decide may settle it",
  too_little: "Another touch tells too little: take a finer gauge, another method or another person",
  cannot_decide: "No number of touches settles it: what gauges and temperatures leave reaches past the limit",
};

/** What more touches would do for a figure on the edge. */
function AnotherTouch({ another, unit }: { another: Schemas["MoreTouches"]; unit: Unit }) {
  return (
    <p className="mb-3 text-[14px]" data-another={another.does}>
      <b>{ANOTHER_WORD[another.does]}.</b> One more at each leaves{" "}
      <span className="num">
        <Digits text={`±${fineText(another.once_more, unit)}`} />
      </span>
      , any number of them{" "}
      <span className="num">
        <Digits text={`±${fineText(another.endless, unit)}`} />
      </span>
      .
    </p>
  );
}

function BudgetOf({ m, unit }: { m: MethodResult; unit: Unit }) {
  return (
    <section aria-label={`Budget of ${METHOD_WORD[m.method]}`} className="mt-3" data-budget={m.method}>
      <h3 className="mb-1 text-small font-bold">
        Where ±
        <span className="num">
          <Digits text={fineText(m.budget.expanded, unit)} />
        </span>{" "}
        {unit === "mm" ? "\u00b5m" : "tenths"} comes from, {METHOD_WORD[m.method]}
      </h3>
      {m.zero && <p className="mb-1 text-small">Bore gauge zeroed in {ZERO_WORD[m.zero]}.</p>}
      {fineText(Math.abs(m.correction ?? 0), unit) !== "0.0" && m.correction != null && (
        <p className="mb-1 text-small">
          The worst of several places reads too far out:{" "}
          <span className="num">
            <Digits text={`${m.correction > 0 ? "+" : "−"}${fineText(Math.abs(m.correction), unit)}`} />
          </span>{" "}
          {unit === "mm" ? "\u00b5m" : "tenths"} are in the figure for it.
        </p>
      )}
      <BudgetBars m={m} unit={unit} />
      {m.advice.length > 0 && (
        <>
          <h3 className="mt-3 mb-0.5 text-small font-bold">What would shrink it most</h3>
          <ol className="text-small">
            {m.advice.slice(0, 3).map((a) => (
              <li key={betterText(a.better)} className="flex gap-2 border-t border-hair py-0.5">
                <span className="flex-1">{betterText(a.better)}</span>
                <span className="num">
                  <Digits text={`±${fineText(a.expanded, unit)}`} />
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}
