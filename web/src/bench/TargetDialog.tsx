import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { hasMaximumOnly, hasMinimumOnly, isBearing, isUnnumbered, kindOf, pluralOf } from "../api/catalog";
import {
  api,
  type Build,
  type FigureAssessment,
  Problem,
  type Schemas,
  type Unit,
  unwrap,
} from "../api/client";
import { buildQuery, presetsQuery, showRecorded } from "../api/queries";
import { Choice, Segments } from "../shared/Choice";
import { Field } from "../shared/Field";
import { Figure } from "../shared/Figure";
import { plain, sizeParts } from "../shared/figure";
import { newId } from "../shared/id";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { FIGURE_WORD, momentText, SOURCE_WORD } from "../shared/words";
import { AimFields, aimSent, NO_SUM, type TypedAim } from "./AimFields";

type Scope = "build" | "station";
type Kind = "range" | "per_diameter" | "hot";
/** What a target is for: a figure of a place, whether it is asked for yet or not. */
export type TargetOf = Pick<FigureAssessment, "figure" | "station" | "row" | "target">;
type TargetDialogProps = { build: Build; station: TargetOf; unit: Unit; onClose: () => void };

const FIELDS = [
  "low",
  "aim",
  "high",
  "growth",
  "per_diameter",
  "adder",
  "below",
  "above",
  "reason",
  "wear.low",
  "wear.high",
  "sheet",
  "factor",
];

/** Changes the target of the build or of one main, with a reason; everything is judged anew. */
export function TargetDialog({ build, station, unit, onClose }: TargetDialogProps) {
  const client = useQueryClient();
  const [scope, setScope] = useState<Scope>(station.target?.own ? "station" : "build");
  const { row } = station;
  const ofRow = isBearing(station)
    ? build.assessment.rows.find((r) => r.row === row)?.target
    : build.assessment.figures.find(
        (f) =>
          f.figure === station.figure &&
          kindOf(f.station) === kindOf(station.station) &&
          f.target &&
          !f.target.own,
      )?.target;
  const maximum = hasMaximumOnly(station);
  const minimum = hasMinimumOnly(station);
  // An engine has one of it: there is no row to choose.
  const single = isUnnumbered(station.station);
  const inForce = scope === "build" ? ofRow : station.target;
  const hot = inForce?.rule.kind === "hot" ? inForce.rule : undefined;
  const typed = (nm: number | undefined) => (nm === undefined ? "" : plain(sizeParts(nm, unit)));
  const [kind, setKind] = useState<Kind>(inForce?.rule.kind ?? "range");
  const [form, setForm] = useState({
    low: typed(hot?.low ?? inForce?.window.low),
    aim: typed(hot?.aim ?? inForce?.window.aim),
    high: typed(hot?.high ?? inForce?.window.high),
    growth: hot ? typed(hot.growth) : unit === "in" ? "0.0005" : "0.013",
    per_diameter: "0.00100",
    adder: "0",
    below: unit === "in" ? "0.0003" : "0.008",
    above: unit === "in" ? "0.0005" : "0.012",
    reason: "",
  });
  const [wear, setWear] = useState({
    low: typed(inForce?.wear?.low),
    high: typed(inForce?.wear?.high),
  });
  // A piston's aim can be given as the sum of what it is for.
  const summed = station.figure === "piston_to_wall" && kind === "range";
  const made = inForce?.made_of;
  const [sum, setSum] = useState<TypedAim>({
    ...NO_SUM,
    sheet: typed(made?.sheet ?? undefined),
    factor: made?.per_million == null ? "" : String(made.per_million / 1e6),
    covers: made?.covers ?? [],
    adders: Object.fromEntries((made?.adders ?? []).map((a) => [a.why, plain(sizeParts(a.by, unit))])),
  });
  const shaft = (nm: number | undefined) => (nm === undefined ? "" : plain(sizeParts(nm, unit)));
  const presets = useQuery(
    presetsQuery({
      unit,
      main_journal: shaft(build.layout.main_journal),
      pin: shaft(build.layout.rods?.pin),
      bore: shaft(build.layout.cylinders?.bore),
    }),
  );
  const starts = (presets.data?.presets ?? []).filter(
    (p) => p.figure === station.figure && p.at === kindOf(station.station) && p.window,
  );
  const [source, setSource] = useState<Schemas["TargetSource"]>(inForce?.source ?? "builders_rule");
  const [id, setId] = useState(newId);
  // What this dialog was opened over: a later change by somebody else is not silently replaced.
  const [version, setVersion] = useState({
    build: ofRow?.version ?? 0,
    station: station.target?.version ?? 0,
  });

  const change = useMutation({
    mutationFn: (withdraw: boolean) => {
      const { reason, low, aim, high, growth, per_diameter, adder, below, above } = form;
      // Less is always better where there is only a maximum, more where there is only a minimum.
      const limits = maximum
        ? { low: "0", aim: "0", high }
        : minimum
          ? { low, aim: "", high: "" }
          : { low, aim, high };
      const rule =
        kind === "range"
          ? { kind, ...limits }
          : kind === "hot"
            ? { kind, ...limits, growth }
            : { kind, per_diameter, adder, below, above };
      return unwrap(
        api.POST("/api/v1/builds/{build}/targets", {
          params: { path: { build: build.code } },
          body: {
            id,
            figure: station.figure,
            station: scope === "station" ? station.station : null,
            row,
            kind: scope === "station" || isBearing(station) ? null : kindOf(station.station),
            rule: withdraw ? null : rule,
            source,
            made_of: withdraw || !summed ? null : aimSent(sum),
            wear: withdraw || (wear.low === "" && wear.high === "") ? null : wear,
            reason,
            unit,
            version: version[scope],
          },
        }),
      );
    },
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
    onError: (error) => {
      if (error instanceof Problem && error.code === "changed_meanwhile") {
        void client.invalidateQueries({ queryKey: buildQuery(build.code).queryKey });
      }
    },
  });
  const conflict = change.error instanceof Problem && change.error.code === "changed_meanwhile";
  const mergeOver = () => {
    setVersion({ build: ofRow?.version ?? 0, station: station.target?.version ?? 0 });
    setId(newId());
    change.reset();
  };
  const field = (name: keyof typeof form, label: string, hint?: string) => (
    <Field
      label={label}
      name={name}
      value={form[name]}
      figure={name !== "reason"}
      hint={hint}
      problem={change.error}
      autoComplete="off"
      onChange={(e) => setForm((f) => ({ ...f, [name]: e.target.value }))}
    />
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate(false);
  };
  return (
    <Sheetlet
      open
      title={`${FIGURE_WORD[station.figure]} target${single ? "" : `, ${pluralOf(station.station)}`}`}
      onClose={onClose}
      width={summed ? 860 : 600}
    >
      <form onSubmit={submit} className="mt-4 grid grid-cols-6 gap-4">
        <div className="col-span-6 flex justify-between">
          {!single && (
            <Segments
              label="For"
              value={scope}
              onChange={setScope}
              options={[
                { value: "build", text: `All ${pluralOf(station.station)}` },
                { value: "station", text: `${station.station} only` },
              ]}
            />
          )}
          {isBearing(station) && (
            <Segments
              label="Stated as"
              value={kind}
              onChange={setKind}
              options={[
                { value: "range", text: "Range" },
                { value: "per_diameter", text: "Per diameter" },
                { value: "hot", text: "Hot" },
              ]}
            />
          )}
        </div>
        {starts.length > 0 && kind !== "hot" && (
          <fieldset className="col-span-6 flex flex-wrap items-center gap-1.5">
            <legend className="mb-1 text-small text-ink-2">As the shop starts, by use</legend>
            {starts.map(({ name, window }) => (
              <button
                key={name}
                type="button"
                data-preset={name}
                className="h-8 border border-dye bg-paper px-2 text-small font-semibold text-dye"
                onClick={() => {
                  const [low = "", aim = "", high = ""] = window ?? [];
                  setKind("range");
                  setForm((f) => ({ ...f, low, aim, high }));
                }}
              >
                {name}
              </button>
            ))}
          </fieldset>
        )}
        {maximum ? (
          <div className="col-span-3">{field("high", `At most (${unit})`)}</div>
        ) : minimum ? (
          <div className="col-span-3">{field("low", `At least (${unit})`)}</div>
        ) : kind !== "per_diameter" ? (
          <>
            <div className="col-span-2">{field("low", `Low (${unit})`)}</div>
            <div className="col-span-2">{field("aim", "Aim", "the middle if left empty")}</div>
            <div className="col-span-2">{field("high", "High")}</div>
            {summed && <AimFields typed={sum} unit={unit} problem={change.error} onChange={setSum} />}
            {kind === "hot" && (
              <div className="col-span-6">
                {field(
                  "growth",
                  `The housing opens by (${unit})`,
                  "your own allowance judges; arithmetic is shown beside it",
                )}
              </div>
            )}
          </>
        ) : (
          <>
            <div className="col-span-3">
              {field("per_diameter", `Clearance per ${unit} of journal`, "0.00100 is a thou per inch")}
            </div>
            <div className="col-span-3">
              {field("adder", `Added (${unit})`, "high output: half a thou more")}
            </div>
            <div className="col-span-3">{field("below", `Window below the aim (${unit})`)}</div>
            <div className="col-span-3">{field("above", `Window above the aim (${unit})`)}</div>
          </>
        )}
        {!maximum && !minimum && (
          <fieldset className="col-span-6 grid grid-cols-6 items-end gap-4 border-t border-hair pt-2">
            <legend className="sr-only">Factory wear range</legend>
            <p className="col-span-2 pb-2 text-small text-ink-2">
              Factory wear range, where it is published: never an aim.
            </p>
            {(["low", "high"] as const).map((name) => (
              <div key={name} className="col-span-2">
                <Field
                  label={name === "low" ? "Wear from" : "to"}
                  name={`wear.${name}`}
                  value={wear[name]}
                  figure
                  problem={change.error}
                  autoComplete="off"
                  onChange={(e) => setWear((w) => ({ ...w, [name]: e.target.value }))}
                />
              </div>
            ))}
          </fieldset>
        )}
        <div className="col-span-2">
          <Choice
            label="Whose figure"
            showLabel
            className="h-10 w-full"
            value={source}
            onChange={setSource}
            options={(Object.keys(SOURCE_WORD) as Schemas["TargetSource"][]).map((value) => ({
              value,
              text: SOURCE_WORD[value],
            }))}
          />
        </div>
        <div className="col-span-4">{field("reason", "Why")}</div>
        <p className="col-span-6 text-note text-ink-2">
          Your maker's sheet wins over any rule of thumb. A factory wear range says whether a used part may
          run on; nobody builds to it.
        </p>
        {conflict && inForce && (
          <div
            role="alert"
            data-problem="changed_meanwhile"
            className="col-span-6 border-l-4 border-ink bg-steel-2 p-3 text-small"
          >
            <b>{inForce.by.name}</b> set it to <Figure nm={inForce.window.low} unit={unit} />–
            <Figure nm={inForce.window.high} unit={unit} />, aim{" "}
            <Figure nm={inForce.window.aim} unit={unit} />, at {momentText(inForce.at)}: {inForce.reason}.
            Yours is above.
            <div className="mt-2 flex gap-3">
              <button type="button" className="btn" onClick={onClose}>
                Keep theirs
              </button>
              <button type="button" className="btn" onClick={mergeOver}>
                Put mine over it
              </button>
            </div>
          </div>
        )}
        {!conflict && !FIELDS.some((name) => fieldProblem(change.error, name)) && (
          <div className="col-span-6 empty:hidden">
            <ProblemNote problem={change.error} />
          </div>
        )}
        <div className="col-span-6 flex justify-end gap-3">
          {scope === "station" && station.target?.own && (
            <button type="button" className="btn mr-auto" onClick={() => change.mutate(true)}>
              Follow the build again
            </button>
          )}
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="btn btn-main" disabled={change.isPending || conflict}>
            Set the target
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}
