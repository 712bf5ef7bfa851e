import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { bearingsOf } from "../api/catalog";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Segments } from "../shared/Choice";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { ImpactNote } from "./ImpactNote";

type Row = Schemas["BearingRow"];

type SetUpFormProps = { build: Build; row: Row; inForce: Schemas["SetUpView"] | undefined };

/** Rows of torque steps offered at once. */
const STEPS = 4;

/** The set-up of a row, recorded once and attached to whatever is measured over its caps. */
export function SetUpForm({ build, row, inForce }: SetUpFormProps) {
  const client = useQueryClient();
  const unit = useShownUnit(build.unit);
  const was = inForce?.set_up;
  const [id, setId] = useState(newId);
  const [fastener, setFastener] = useState(was?.fastener ?? "studs");
  const [fasteners, setFasteners] = useState(was?.fasteners ?? "");
  const [asFinished, setAsFinished] = useState(was?.as_finished ?? true);
  const [lubricant, setLubricant] = useState(was?.lubricant ?? "");
  const [steps, setSteps] = useState(() =>
    Array.from({ length: Math.max(STEPS, inForce?.steps.length ?? 0) }, (_, i) => inForce?.steps[i] ?? ""),
  );
  const [square, setSquare] = useState(was?.drawn_square ?? true);
  const [chamfer, setChamfer] = useState(was?.washers_chamfer_up ?? true);
  const [caps, setCaps] = useState(was?.caps ?? []);
  const [shells, setShells] = useState(was?.shells ?? []);
  const stations = bearingsOf(build, row).map((s) => s.station);
  const body: Schemas["NewSetUp"] = {
    id,
    version: inForce?.version ?? 0,
    row,
    fastener,
    fasteners,
    as_finished: asFinished,
    lubricant,
    steps,
    drawn_square: square,
    washers_chamfer_up: chamfer,
    caps,
    shells: shells.filter((s) => s.upper.trim() !== "" && s.lower.trim() !== ""),
    unit,
  };
  const params = { path: { build: build.code } };
  const changed = JSON.stringify({ ...body, id: "" });
  const [unchanged] = useState(changed);
  const dirty = changed !== unchanged;
  const impact = useQuery({
    queryKey: ["impact", build.code, build.assessment.seq, changed],
    queryFn: () => unwrap(api.POST("/api/v1/builds/{build}/set-ups/impact", { params, body })),
    enabled:
      dirty && fasteners.trim() !== "" && lubricant.trim() !== "" && steps.some((s) => s.trim() !== ""),
    retry: false,
  });
  const record = useMutation({
    mutationFn: () => unwrap(api.POST("/api/v1/builds/{build}/set-ups", { params, body })),
    onSuccess: (recorded) => {
      setId(newId());
      showRecorded(client, recorded);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    record.mutate();
  };
  const tick = (text: string, value: boolean, set: (v: boolean) => void) => (
    <label className="flex min-h-8 items-center gap-2 text-small leading-tight">
      <input
        type="checkbox"
        className="size-5 flex-none accent-dye"
        checked={value}
        onChange={(e) => set(e.target.checked)}
      />
      {text}
    </label>
  );
  const setCap = (station: string, to: { cap: number; forward: boolean }) => {
    const own = to.cap === Number(station.slice(1)) && to.forward;
    setCaps((all) => [...all.filter((c) => c.station !== station), ...(own ? [] : [{ station, ...to }])]);
  };
  const setShell = (station: string, half: "upper" | "lower", text: string) =>
    setShells((all) => {
      const known = all.find((s) => s.station === station) ?? { station, upper: "", lower: "" };
      return [...all.filter((s) => s.station !== station), { ...known, [half]: text }];
    });
  return (
    <form onSubmit={submit} className="grid gap-2.5 pt-1">
      <div className="sticky top-0 z-10 flex min-h-10 items-center gap-3 bg-steel-1">
        <div className="flex-1">
          {dirty ? (
            <ImpactNote impact={impact.data} problem={null} />
          ) : (
            <p className="text-note leading-snug text-ink-2">
              <b className="text-ink">Torque:</b> inner before outer, then side bolts. Follow the fastener
              maker's procedure and use one-time bolts once.
            </p>
          )}
        </div>
        <button type="submit" className="btn btn-main min-h-9" disabled={record.isPending || !dirty}>
          {inForce ? "Record the change" : "Record the set-up"}
        </button>
      </div>
      <ProblemNote problem={record.error} />
      <div className="grid grid-cols-[auto_1fr_1fr] items-end gap-4">
        <div>
          <span className="mb-1 block text-small text-ink-2">Held by</span>
          <Segments
            label="Held by"
            value={fastener}
            onChange={setFastener}
            options={[
              { value: "studs", text: "Studs" },
              { value: "bolts", text: "Bolts" },
            ]}
          />
        </div>
        <Field
          label="Which set"
          name="fasteners"
          value={fasteners}
          problem={record.error}
          autoComplete="off"
          onChange={(e) => setFasteners(e.target.value)}
        />
        <Field
          label="Lubricant on thread and under head"
          name="lubricant"
          value={lubricant}
          problem={record.error}
          autoComplete="off"
          onChange={(e) => setLubricant(e.target.value)}
        />
      </div>
      <div className="grid grid-cols-4 gap-3">
        {steps.map((step, i) => (
          <Field
            key={i}
            label={`Step ${i + 1}`}
            name="steps"
            value={step}
            problem={i === 0 ? (record.error ?? impact.error) : null}
            autoComplete="off"
            placeholder={["25 lb-ft", "50 lb-ft", "60 deg", "0.0060 stretch"][i % 4]}
            onChange={(e) => setSteps((all) => all.map((s, j) => (j === i ? e.target.value : s)))}
          />
        ))}
      </div>
      <div className="grid grid-cols-3 gap-x-4">
        {tick("The set used when the bores were finished", asFinished, setAsFinished)}
        {tick("Caps drawn down square by hand", square, setSquare)}
        {tick("Washers chamfer toward the head", chamfer, setChamfer)}
      </div>
      <table className="w-full text-small">
        <caption className="sr-only">Caps and shells</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">Station</th>
            <th className="font-medium">Cap number</th>
            <th className="font-medium">Its mark faces</th>
            <th className="font-medium">Upper shell</th>
            <th className="font-medium">Lower shell</th>
          </tr>
        </thead>
        <tbody>
          {stations.map((station) => {
            const seat = caps.find((c) => c.station === station) ?? {
              cap: Number(station.slice(1)),
              forward: true,
            };
            const shell = shells.find((s) => s.station === station);
            const assessed = bearingsOf(build).find((s) => s.station === station);
            const fitted = assessed?.predicted?.pair ?? assessed?.prediction?.pair;
            const text = (half: "upper" | "lower") => (
              <input
                aria-label={`${half} shell of ${station}`}
                value={shell?.[half] ?? ""}
                placeholder={fitted ? `${fitted[half]}, fitted` : "not named"}
                className="h-7 w-full border border-hair-strong bg-paper px-1.5"
                onChange={(e) => setShell(station, half, e.target.value)}
              />
            );
            return (
              <tr key={station} className="h-8">
                <th scope="row" className="text-left font-semibold">
                  {station}
                </th>
                <td>
                  <input
                    aria-label={`Number on the cap of ${station}`}
                    value={seat.cap}
                    inputMode="numeric"
                    className="num h-7 w-12 border border-hair-strong bg-paper px-1.5"
                    onChange={(e) => setCap(station, { ...seat, cap: Number(e.target.value.slice(-2)) || 0 })}
                  />
                </td>
                <td>
                  <button
                    type="button"
                    data-cap={station}
                    className={`h-7 border px-2 font-semibold ${seat.forward ? "border-hair-strong bg-paper" : "border-ink bg-ink text-white"}`}
                    onClick={() => setCap(station, { ...seat, forward: !seat.forward })}
                  >
                    {seat.forward ? "front" : "rear"}
                  </button>
                </td>
                <td className="pr-2">{text("upper")}</td>
                <td>{text("lower")}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </form>
  );
}
