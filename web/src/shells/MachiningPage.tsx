import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { shellsQuery } from "../api/queries";
import { BuildFrame, WithBuild } from "../shared/BuildPage";
import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { minutesText } from "../shared/words";
import { GrindTape } from "./GrindTape";
import { OrderDialog } from "./OrderDialog";
import { Orders } from "./Orders";
import { type Row, ShellsHead } from "./ShellsHead";

type Machining = Schemas["Machining"];

/** What machining would do beside other shells, and the orders that come of it. */
export function MachiningPage() {
  return <WithBuild>{(build) => <MachiningOf key={build.code} build={build} />}</WithBuild>;
}

function MachiningOf({ build }: { build: Build }) {
  const unit = useShownUnit(build.unit);
  const [row, setRow] = useState<Row>("mains");
  const [tolerance, setTolerance] = useState("");
  const [runout, setRunout] = useState("");
  const [damage, setDamage] = useState<Record<string, string>>({});
  const [without, setWithout] = useState<string[]>([]);
  const [shown, setShown] = useState<number>();
  const [choice, setChoice] = useState<Schemas["Chosen"]>();
  const shells = useQuery(shellsQuery);
  const nominal = row === "mains" ? build.layout.main_journal : build.layout.rods?.pin;
  const family = shells.data?.find((f) => f.family.row === row && f.family.journal === nominal);
  const ask: Schemas["AskMachining"] = {
    row,
    family: family?.family.id ?? null,
    tolerance,
    runout,
    damage: Object.entries(damage)
      .filter(([station, depth]) => depth.trim() !== "" && station[0] === (row === "mains" ? "M" : "P"))
      .map(([station, depth]) => ({ station, depth })),
    without,
  };
  const plan = useQuery({
    queryKey: ["machining", build.code, build.assessment.seq, ask],
    queryFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/machining", { params: { path: { build: build.code } }, body: ask }),
      ),
    enabled: shells.data !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const m = plan.isError ? undefined : plan.data;
  const grind =
    m?.grinds.find((g) => g.undersize === shown) ?? m?.grinds.find((g) => g.chosen) ?? m?.grinds[0];
  const journals = m ? [...new Set(m.bearings.map((b) => b.journal_at))] : [];
  return (
    <BuildFrame build={build} row={row === "rods" ? "R" : "M"}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,840fr)_minmax(0,440fr)] overflow-auto">
        <section aria-label="Machining" className="min-w-0 px-6 pt-3 pb-4">
          <ShellsHead build={build} row={row} onRow={setRow} />
          <div className="mt-3 flex items-end gap-3">
            <Small
              label="Held to ±"
              name="tolerance"
              value={tolerance}
              hint={unit === "in" ? "0.0002" : "0.005"}
              onChange={setTolerance}
            />
            <Small label="Runout" name="runout" value={runout} hint="none" onChange={setRunout} />
            <fieldset className="flex flex-wrap items-end gap-1.5">
              <legend className="sr-only">Depth of damage</legend>
              {journals.map((j, i) => (
                <Small
                  key={j}
                  label={i === 0 ? `Damage at ${j}` : j}
                  name={`damage-${j}`}
                  value={damage[j] ?? ""}
                  hint="deep"
                  narrow={i > 0}
                  onChange={(depth) => setDamage({ ...damage, [j]: depth })}
                />
              ))}
            </fieldset>
          </div>
          <div className="mt-3">
            <ProblemNote problem={plan.error} />
          </div>
          {m && (
            <>
              {m.grinds.length > 0 && grind ? (
                <>
                  <GrindTable m={m} shown={grind} unit={unit} onShow={setShown} onOrder={setChoice} />
                  {m.grinds.every((g) => g.against) && (
                    <p className="mt-1.5 text-small leading-snug" data-no-grind="">
                      <b>No grind serves all.</b> The bearings differ by {stepPhrase(m.spread, unit)} among
                      themselves; the window, less the grinder's tolerance, leaves {stepPhrase(m.room, unit)}.
                      Shells by class even that out, a ground crank does not.
                    </p>
                  )}
                  <GrindTape m={m} grind={grind} unit={unit} />
                  <LeaveOut m={m} without={without} onChange={setWithout} />
                </>
              ) : (
                <p className="mt-3 max-w-[620px] text-small">
                  No bearing of this row is known over shells, so no undersize can be planned: measure a bore
                  or a housing, or bore the bearings to fit.
                </p>
              )}
              {m.open.length > 0 && (
                <p className="mt-2 text-small font-semibold" data-open={m.open.length}>
                  {m.open.join(", ")} not measured: a crank is ground as a whole, so no grind is ordered
                  before.
                </p>
              )}
              <BoreToFit m={m} unit={unit} onOrder={setChoice} />
              <ToSizes m={m} unit={unit} onOrder={setChoice} />
            </>
          )}
        </section>
        <section
          aria-label="Work orders"
          className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
        >
          <div className="grad-down absolute inset-y-0 left-0" />
          <Orders build={build} unit={unit} />
        </section>
      </main>
      {choice && <OrderDialog build={build} ask={ask} choice={choice} onClose={() => setChoice(undefined)} />}
    </BuildFrame>
  );
}

function Small(props: {
  label: string;
  name: string;
  value: string;
  hint: string;
  narrow?: boolean;
  onChange: (text: string) => void;
}) {
  return (
    <label className="text-note text-ink-2">
      <span className="block">{props.label}</span>
      <input
        type="text"
        name={props.name}
        value={props.value}
        placeholder={props.hint}
        autoComplete="off"
        onChange={(e) => props.onChange(e.target.value)}
        className={`num h-8 border border-hair-strong bg-paper px-1.5 text-[14px] text-ink ${props.narrow ? "w-[68px]" : "w-[86px]"}`}
      />
    </label>
  );
}

/** Bearings that are put right another way: their journals are ground with the rest. */
function LeaveOut({
  m,
  without,
  onChange,
}: {
  m: Machining;
  without: string[];
  onChange: (without: string[]) => void;
}) {
  const toggle = (s: string) =>
    onChange(without.includes(s) ? without.filter((w) => w !== s) : [...without, s]);
  return (
    <div className="mt-2 flex flex-wrap items-center gap-1.5 text-small text-ink-2">
      Put right another way
      {m.bearings.map((b) => (
        <button
          key={b.station}
          type="button"
          aria-pressed={without.includes(b.station)}
          data-without={b.station}
          onClick={() => toggle(b.station)}
          className={`h-7 border px-2 font-semibold ${without.includes(b.station) ? "border-ink bg-ink text-white" : "border-hair-strong bg-paper text-ink-2"}`}
        >
          {b.station}
        </button>
      ))}
    </div>
  );
}

const AGAINST: Record<Schemas["GrindAgainst"], string> = {
  does_not_clean_up: "does not clean up",
  one_size_does_not_serve: "one size does not serve all",
};

type PlanProps = { m: Machining; unit: Schemas["Unit"]; onOrder: (choice: Schemas["Chosen"]) => void };

function GrindTable({
  m,
  shown,
  unit,
  onShow,
  onOrder,
}: PlanProps & { shown: Schemas["GrindPlan"]; onShow: (undersize: number) => void }) {
  return (
    <table className="mt-3 w-full text-[15px]" data-grinds={m.grinds.length}>
      <caption className="pb-1 text-left text-small font-bold">Grind all to one size</caption>
      <thead>
        <tr className="text-left text-note text-ink-2">
          <th className="font-medium">Shells</th>
          <th className="font-medium">Every journal to</th>
          <th className="font-medium">Inside at both ends</th>
          <th className="font-medium">So</th>
          <th className="font-medium">
            <span className="sr-only">Order</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {m.grinds.map((g) => (
          <tr
            key={g.undersize}
            data-grind={g.undersize}
            data-chosen={g.chosen || undefined}
            className={`h-9 border-t border-hair ${g === shown ? "bg-dye-wash" : ""}`}
          >
            <th scope="row" className="text-left">
              <button
                type="button"
                onClick={() => onShow(g.undersize)}
                className="text-dye underline underline-offset-2"
              >
                {g.undersize === 0 ? "standard" : <Figure nm={g.undersize} unit={unit} />}
                {g.undersize !== 0 && " under"}
              </button>
            </th>
            <td>
              <Figure nm={g.size} unit={unit} className="font-bold" />{" "}
              <span className="text-note text-ink-2">± {stepPhrase(m.tolerance, unit)}</span>
            </td>
            <td className="num">
              {g.bearings.filter((b) => b.inside).length} of {g.bearings.length}
            </td>
            <td className={g.chosen ? "font-bold" : "text-small text-ink-2"}>
              {g.against ? AGAINST[g.against] : g.chosen ? "the smallest that does" : "does, takes more off"}
            </td>
            <td className="text-right">
              {!g.against && m.open.length === 0 && (
                <button
                  type="button"
                  className="h-7 border border-dye bg-paper px-2 text-small font-semibold whitespace-nowrap text-dye"
                  onClick={() => onOrder({ kind: "grind", undersize: g.undersize })}
                >
                  Write the order
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function BoreToFit({ m, unit, onOrder }: PlanProps) {
  return (
    <div className="mt-4 flex items-start gap-4 border-t border-hair-strong pt-2" data-bore={m.bore.size}>
      <div className="flex-1 text-small leading-snug">
        <b className="text-body">Grind until clean, bore to fit</b>
        <br />
        {m.bore.decided_by} decides: it is clean at{" "}
        <Figure nm={m.bore.size} unit={unit} className="font-bold" />. Poured or one-off bearings then bored
        to {m.bore.bores[0] && <Figure nm={m.bore.bores[0].to} unit={unit} className="font-bold" />}, the
        journal as ground plus the aim. Measuring again {minutesText(m.bore.estimate.minutes)}.
      </div>
      {m.open.length === 0 && (
        <button
          type="button"
          className="h-8 border border-dye bg-paper px-2 text-small font-semibold whitespace-nowrap text-dye"
          onClick={() => onOrder({ kind: "bore_to_fit" })}
        >
          Write the order
        </button>
      )}
    </div>
  );
}

function ToSizes({ m, unit, onOrder }: PlanProps) {
  const lists = [
    { title: "Polish to size", list: m.polish, kind: "polish", cannot: "more than a polish takes off" },
    {
      title: "Resize the housing",
      list: m.resize,
      kind: "resize",
      cannot: "outside the catalogue's tolerance",
    },
  ] as const;
  return lists
    .filter(({ list }) => list.length > 0)
    .map(({ title, list, kind, cannot }) => {
      const possible = list.filter((p) => p.possible).map((p) => p.station);
      return (
        <div
          key={kind}
          className="mt-3 flex items-start gap-4 border-t border-hair-strong pt-2"
          data-to-size={kind}
        >
          <div className="flex-1 text-small leading-snug">
            <b className="text-body">{title}</b>
            {list.map((p) => (
              <div key={p.station} className={p.possible ? "" : "text-ink-2"}>
                <b>{p.station}</b> from <Figure nm={p.from} unit={unit} /> to{" "}
                <Figure nm={p.to} unit={unit} className="font-bold" />
                {p.possible
                  ? p.minutes > 0 && `, about ${minutesText(p.minutes)} here`
                  : `, ${stepPhrase(p.to - p.from, unit)}: ${cannot}`}
              </div>
            ))}
          </div>
          {possible.length > 0 && (
            <button
              type="button"
              className="h-8 border border-dye bg-paper px-2 text-small font-semibold whitespace-nowrap text-dye"
              onClick={() => onOrder({ kind, stations: possible })}
            >
              Write the order
            </button>
          )}
        </div>
      );
    });
}
