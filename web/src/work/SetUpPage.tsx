import { type CSSProperties, useState } from "react";
import { bearingsOf } from "../api/catalog";
import type { Build, Schemas } from "../api/client";
import { useLine } from "../line/useLine";
import { BuildFrame, WithBuild } from "../page/BuildPage";
import { Choice, Segments } from "../shared/Choice";
import { Field } from "../shared/Field";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { CapColumns, type Column } from "./CapColumns";
import { FastenerGroups, KINDS, LUBRICATED, WASHERS } from "./FastenerGroups";
import { ImpactNote } from "./ImpactNote";
import { NutOrder } from "./NutOrder";
import { PlanForm } from "./PlanForm";
import { RulesForm } from "./RulesForm";
import { TargetRows } from "./TargetRows";
import { TorqueScale, torqueUnit } from "./TorqueScale";
import { useSetUp } from "./useSetUp";
import { WorkLog } from "./WorkLog";

type Row = Schemas["BearingRow"];

/** Widest column of a bearing, and the space between two. */
const COLUMN = 88;
const APART = 8;
/** Least room for the scale of torque. */
const LEAST = 480;

/** What the caps are torqued with, what was done to the parts, and by which rules the build is judged. */
export function SetUpPage() {
  return <WithBuild>{(build) => <SetUpOf build={build} />}</WithBuild>;
}

function SetUpOf({ build }: { build: Build }) {
  const [row, setRow] = useState<Row>("mains");
  const inForce = build.set_ups.find((s) => s.set_up.row === row);
  const key = `${row} ${inForce?.version ?? 0}`;
  return <SetUpOfRow key={key} build={build} row={row} onRow={setRow} inForce={inForce} />;
}

/** Where each bearing of the row stands: under its journal, and side by side where rods share a pin. */
function columnsOf(line: ReturnType<typeof useLine>, row: Row): Column[] {
  if (row === "mains") {
    return line.mains.map((s, i) => ({
      station: s.station,
      x: line.left + (line.shape.mains[i]?.centre ?? 0),
    }));
  }
  const shared = line.pins.some((p) => p.rods.length > 1);
  return line.pins.flatMap((pin, p) =>
    pin.rods.map((s, i) => ({
      station: s.station,
      x:
        line.left +
        (shared ? ((p * pin.rods.length + i + 0.5) * line.shape.width) / line.rods.length : pin.centre),
    })),
  );
}

type SetUpOfRowProps = {
  build: Build;
  row: Row;
  onRow: (row: Row) => void;
  inForce: Schemas["SetUpView"] | undefined;
};

function SetUpOfRow({ build, row, onRow, inForce }: SetUpOfRowProps) {
  const unit = useShownUnit(build.unit);
  const line = useLine(build, undefined, "crank");
  const state = useSetUp(build, row, inForce);
  const [targeting, setTargeting] = useState(false);
  const { written, set, dirty, complete, impact, record } = state;
  const columns = columnsOf(line, row);
  const gap = Math.min(...columns.slice(1).map((c, i) => c.x - (columns[i]?.x ?? 0)), COLUMN + APART);
  const steps = impact.data?.steps ?? inForce?.set_up.steps ?? [];
  const other = bearingsOf(build, row).flatMap(({ station }) =>
    (["upper", "lower"] as const).filter((half) => state.differs(station, half)),
  ).length;
  const order =
    row === "mains"
      ? build.tightening.flatMap((station) => columns.filter((c) => c.station === station))
      : columns;
  const from = (columns[0]?.x ?? line.left) - COLUMN / 2;
  const across = Math.max(LEAST, (columns.at(-1)?.x ?? 0) + COLUMN / 2 - from);
  const stepProblem = fieldProblem(record.error ?? impact.error, "steps");
  const tick = (text: string, value: boolean, to: (v: boolean) => void) => (
    <label className="flex min-h-8 items-center gap-2 text-small leading-tight">
      <input
        type="checkbox"
        className="size-5 flex-none accent-dye"
        checked={value}
        onChange={(e) => to(e.target.checked)}
      />
      {text}
    </label>
  );
  return (
    <BuildFrame
      build={build}
      keys={[
        { press: ["Tab"], does: "next part" },
        { press: ["Enter"], does: "record" },
      ]}
      actions={
        <>
          {other > 0 && (
            <b className="text-small">
              {other} {other === 1 ? "shell differs" : "shells differ"} from what is recorded
            </b>
          )}
          <button type="button" className="btn" onClick={() => setTargeting(true)}>
            Targets
          </button>
          {!dirty && <span className="text-small text-ink-2">nothing is changed yet</span>}
          {dirty && !complete && (
            <span className="text-small text-ink-2">a set, its lubricant and a step are missing</span>
          )}
          <button
            type="submit"
            form="set-up"
            className="btn btn-main"
            disabled={record.isPending || !dirty || !complete}
          >
            {inForce ? "Record the change" : "Record the set-up"}
          </button>
        </>
      }
    >
      {targeting && <TargetRows build={build} onClose={() => setTargeting(false)} />}
      <main
        ref={line.ref}
        className="grid min-h-0 flex-1"
        style={{ gridTemplateColumns: `minmax(0, 1fr) ${line.side - 40}px` }}
      >
        <div className="relative min-h-0 overflow-x-hidden overflow-y-auto">
          <form
            id="set-up"
            aria-label="Set-up"
            className="relative pt-3 pb-4"
            style={{ "--side": `${line.side}px` } as CSSProperties}
            onSubmit={(event) => {
              event.preventDefault();
              record.mutate();
            }}
          >
            <div className="absolute left-6 z-10 grid gap-2.5" style={{ width: line.side - 44 }}>
              <div className="grad" />
              <div className="flex flex-wrap items-center justify-between gap-2">
                <h2 className="text-lead font-bold">Set-up</h2>
                {build.layout.rods && (
                  <Segments
                    label="Row"
                    value={row}
                    onChange={onRow}
                    options={[
                      { value: "mains", text: "Mains" },
                      { value: "rods", text: "Rods" },
                    ]}
                  />
                )}
              </div>
              <div className="flex items-center justify-between gap-2">
                <span className="text-small text-ink-2">Held by</span>
                <Segments
                  label="Held by"
                  value={written.fastener}
                  onChange={(fastener) => set({ fastener })}
                  options={KINDS}
                />
              </div>
              <Field
                label="Which set"
                name="fasteners"
                value={written.fasteners}
                problem={record.error}
                autoComplete="off"
                onChange={(e) => set({ fasteners: e.target.value })}
              />
              <Field
                label="On thread and turning face"
                name="lubricant"
                value={written.lubricant}
                problem={record.error}
                autoComplete="off"
                onChange={(e) => set({ lubricant: e.target.value })}
              />
            </div>
            <CapColumns build={build} state={state} columns={columns} width={gap - APART} />
            <div className="relative mt-3">
              <span className="lane-label">
                right nut
                <b className="block text-ink">order, from below</b>
                left nut
              </span>
              <NutOrder order={order} together={row === "mains"} width={from + across} />
            </div>
            <div className="relative mt-3" style={{ paddingLeft: from }}>
              <b className="lane-label text-ink">torque, {torqueUnit(steps) || "lb-ft"}</b>
              <div
                className="grid grid-cols-4 border border-b-0 border-hair-strong"
                style={{ width: across }}
              >
                {written.steps.map((step, i) => (
                  <label
                    key={i}
                    className="flex h-9 items-center border-l border-hair bg-paper first:border-l-0 focus-within:bg-white focus-within:outline-2 focus-within:-outline-offset-2 focus-within:outline-dye"
                  >
                    <span className="num pl-2.5 text-note text-ink-2">{i + 1}</span>
                    <input
                      type="text"
                      name="steps"
                      aria-label={`Step ${i + 1}`}
                      value={step}
                      autoComplete="off"
                      placeholder={["25 lb-ft", "50 lb-ft", "60 deg", "0.0060 stretch"][i % 4]}
                      onChange={(e) =>
                        set({ steps: written.steps.map((s, j) => (j === i ? e.target.value : s)) })
                      }
                      className="h-full w-full bg-transparent px-2 font-semibold focus:outline-none"
                    />
                  </label>
                ))}
              </div>
              {stepProblem && <p className="py-1 text-small font-semibold text-ink">{stepProblem}</p>}
              <TorqueScale steps={steps} width={across} unit={unit} />
            </div>
            <div className="relative mt-2" style={{ paddingLeft: from, width: from + across }}>
              <span className="lane-label">
                Inner before outer, then the side. Follow the fastener maker's procedure; use one-time bolts
                once.
              </span>
              <div className="mt-2 grid grid-cols-3 gap-x-4">
                {tick("The set used when the bores were finished", written.as_finished, (v) =>
                  set({ as_finished: v }),
                )}
                {tick("Caps drawn down square by hand", written.drawn_square, (v) =>
                  set({ drawn_square: v }),
                )}
                {(written.washers ?? "chamfered") === "chamfered" &&
                  tick("Washers chamfer toward the head", written.washers_chamfer_up, (v) =>
                    set({ washers_chamfer_up: v }),
                  )}
              </div>
              <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
                <Choice
                  label="Washers"
                  value={written.washers ?? "unsaid"}
                  options={[{ value: "unsaid" as const, text: "washers not said" }, ...WASHERS]}
                  onChange={(washers) => set({ washers: washers === "unsaid" ? null : washers })}
                />
                <Choice
                  label="Lubricant goes on"
                  value={written.lubricated ?? "unsaid"}
                  options={[{ value: "unsaid" as const, text: "where it goes not said" }, ...LUBRICATED]}
                  onChange={(lubricated) => set({ lubricated: lubricated === "unsaid" ? null : lubricated })}
                />
              </div>
              <div className="mt-3">
                <FastenerGroups
                  groups={written.groups ?? []}
                  problem={record.error}
                  onChange={(groups) => set({ groups })}
                />
              </div>
            </div>
          </form>
          <section aria-label="Rules and places" className="grid gap-4 px-6 pb-5">
            <div className="min-w-0">
              <div className="grad" />
              <h2 className="mt-2 mb-1 text-lead font-bold">Places to touch</h2>
              <PlanForm build={build} />
            </div>
            <div className="min-w-0">
              <div className="grad" />
              <h2 className="mt-2 text-lead font-bold">Rules of this build</h2>
              <RulesForm key={JSON.stringify(build.assessment.rules)} build={build} />
            </div>
          </section>
        </div>
        <aside className="relative overflow-y-auto border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7">
          <div className="grad-down absolute inset-y-0 left-0" />
          {(dirty || record.error) && (
            <section aria-label="If this is recorded" className="mb-4">
              <h2 className="mb-1.5 text-lead font-bold">If this is recorded</h2>
              <ProblemNote problem={record.error} />
              {complete ? (
                <ImpactNote impact={impact.data?.impact} problem={impact.error} />
              ) : (
                <p className="text-small text-ink-2">
                  Of every group of fasteners, name the set, the lubricant and at least one step.
                </p>
              )}
            </section>
          )}
          <h2 className="text-lead font-bold">What was done</h2>
          <WorkLog build={build} />
        </aside>
      </main>
    </BuildFrame>
  );
}
