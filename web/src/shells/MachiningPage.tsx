import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { bearingsOf, rowOf } from "../api/catalog";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { BuildFrame, WithBuild } from "../page/BuildPage";
import { clearanceParts, plain, stepPhrase } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { GrindTable, LeaveOut } from "./GrindTable";
import { GrindTape } from "./GrindTape";
import { OrderDialog } from "./OrderDialog";
import { Orders } from "./Orders";
import { BoreToFit, Polishes, Resizes } from "./OtherPlans";
import { type Row, ShellsHead } from "./ShellsHead";
import { useFamilies } from "./useFamily";

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
  const [choice, setChoice] = useState<Schemas["ChosenPlan"]>();
  const { known, usual: family } = useFamilies(build, row);
  const ask: Schemas["AskMachining"] = {
    row,
    family: family?.family.id ?? null,
    tolerance,
    runout,
    damage: Object.entries(damage)
      .filter(([station, depth]) => depth.trim() !== "" && rowOf(station) === row)
      .map(([station, depth]) => ({ station, depth })),
    without,
  };
  const plan = useQuery({
    queryKey: ["machining", build.code, build.assessment.seq, ask],
    queryFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/machining", { params: { path: { build: build.code } }, body: ask }),
      ),
    enabled: known && !build.layout.rollers,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const m = plan.isError ? undefined : plan.data;
  const grind =
    m?.grinds.find((g) => g.undersize === shown) ?? m?.grinds.find((g) => g.chosen) ?? m?.grinds[0];
  // From the build, not from the plan: the fields stay while what is typed in them cannot be read yet.
  const measured = bearingsOf(build, row).filter(
    (s) => s.measured.find((m) => m.place === s.journal_at)?.complete,
  );
  const journals = [...new Set(measured.map((s) => s.journal_at))];
  return (
    <BuildFrame build={build} row={row}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,840fr)_minmax(0,440fr)] relative overflow-auto">
        <section aria-label="Machining" className="min-w-0 px-6 pt-3 pb-4">
          <ShellsHead build={build} row={row} onRow={setRow} />
          {build.layout.rollers ? (
            <p className="mt-3 max-w-[600px]">
              This engine runs on rollers: nothing is ground or bored for shells. Its cylinders are bored and
              honed from their view on the bench, and what is ordered of them stands beside this.
            </p>
          ) : (
            <div className="mt-3 flex items-end gap-3">
              <Small
                label="Held to ±"
                name="tolerance"
                value={tolerance}
                hint={unit === "in" ? "0.0002" : "0.005"}
                onChange={setTolerance}
              />
              <Small
                label="Runout"
                name="runout"
                value={runout}
                hint={m?.bearings.some((b) => b.runout.by > 0) ? "as known" : "none"}
                onChange={setRunout}
              />
              <fieldset className="flex flex-wrap items-end gap-1.5">
                <legend className="sr-only">Depth of damage</legend>
                {journals.map((j, i) => (
                  <Small
                    key={j}
                    label={i === 0 ? `Damage at ${j}` : j}
                    name={`damage-${j}`}
                    value={damage[j] ?? ""}
                    hint={knownDepth(m, j, unit)}
                    narrow={i > 0}
                    onChange={(depth) => setDamage({ ...damage, [j]: depth })}
                  />
                ))}
              </fieldset>
            </div>
          )}
          <div className="mt-3">
            <ProblemNote problem={plan.error} />
          </div>
          {m && <AllowedFor m={m} unit={unit} />}
          {m && (
            <>
              {m.grinds.length > 0 && grind ? (
                <>
                  <GrindTable m={m} shown={grind} unit={unit} onShow={setShown} onOrder={setChoice} />
                  {m.grinds.every((g) => g.against === "one_size_does_not_serve") && (
                    <p className="mt-1.5 text-small leading-snug" data-no-grind="">
                      <b>No grind serves all.</b> The bearings differ by {stepPhrase(m.spread, unit)} among
                      themselves; the window, less the grinder's tolerance, leaves {stepPhrase(m.room, unit)}.
                      Shells by class even that out, a ground crank does not.
                    </p>
                  )}
                  <GrindTape m={m} grind={grind} unit={unit} />
                </>
              ) : (
                <p className="mt-3 max-w-[620px] text-small">
                  No bearing of this row is known over shells, so no undersize can be planned: measure a bore
                  or a housing, or bore the bearings to fit.
                </p>
              )}
              <LeaveOut m={m} without={without} onChange={setWithout} />
              {m.open.length > 0 && (
                <p className="mt-2 text-small font-semibold" data-open={m.open.length}>
                  {m.open.join(", ")} not measured: a crank is ground as a whole, so no grind is ordered
                  before.
                </p>
              )}
              <BoreToFit m={m} unit={unit} onOrder={setChoice} />
              <Resizes m={m} unit={unit} onOrder={setChoice} />
              <Polishes m={m} unit={unit} onOrder={setChoice} />
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

type Plans = Schemas["Machining"];

/** The depth that a plan takes where none is typed. */
function knownDepth(m: Plans | undefined, journal: string, unit: Unit): string {
  const by = m?.bearings.find((b) => b.journal_at === journal)?.damage.by ?? 0;
  return by > 0 ? plain(clearanceParts(by, unit)) : "deep";
}

const FROM: Partial<Record<Schemas["AllowedFrom"], string>> = {
  found: "as it was turned or seen",
  ordered: "as its open order allows",
};

/** What is taken off beside the shape of the journals though nobody typed it here. */
function AllowedFor({ m, unit }: { m: Plans; unit: Unit }) {
  const of = (b: Plans["bearings"][number]) =>
    [
      { what: "runout", ...b.runout },
      { what: "damage a side", ...b.damage },
    ].flatMap(({ what, by, from }) =>
      by > 0 && FROM[from] ? [`${b.journal_at} ${stepPhrase(by, unit)} of ${what}, ${FROM[from]}`] : [],
    );
  const said = [...new Set(m.bearings.flatMap(of))];
  if (said.length === 0) return null;
  return (
    <p className="mt-1 text-small leading-snug" data-allowed={said.length}>
      <b>Allowed for, unless something else is typed:</b> {said.join("; ")}.
    </p>
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
