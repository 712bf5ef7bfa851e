import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { washersQuery } from "../along/useWashers";
import { api, type Schemas, unwrap } from "../api/client";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Rows } from "./Rows";

type Form = Schemas["WasherForm"];

const EMPTY: Form = {
  version: 0,
  id: "",
  name: "",
  unit: "in",
  layout: "saddle",
  loaded: "rear",
  standard: "0.0900",
  grading: "0.00025",
  halves: 2,
  lap_front: "0",
  lap_rear: "0",
  lap_step: "0.0005",
  classes: [{ id: "+5", thickness: "0.0950", side: null, part_number: "", price: "" }],
};

const SIDES = [
  { value: "either", text: "both" },
  { value: "front", text: "front" },
  { value: "rear", text: "rear" },
];

const LENGTHS: { key: "standard" | "grading" | "lap_step" | "lap_front" | "lap_rear"; label: string }[] = [
  { key: "standard", label: "Standard thickness" },
  { key: "grading", label: "Washers lie within \u00b1" },
  { key: "lap_step", label: "One step of lapping" },
  { key: "lap_front", label: "Lapped off the front, at most" },
  { key: "lap_rear", label: "Lapped off the rear, at most" },
];

type WasherEditorProps = { view: Schemas["WasherBoxView"] | undefined; onDone: (id: string) => void };

/** A box of thrust washers as the shop knows it: thicknesses, prices, and what they stand between. */
export function WasherEditor({ view, onDone }: WasherEditorProps) {
  const client = useQueryClient();
  const [form, setForm] = useState<Form>(view?.form ?? EMPTY);
  const set = (part: Partial<Form>) => setForm((f) => ({ ...f, ...part }));
  const put = useMutation({
    mutationFn: () =>
      unwrap(api.PUT("/api/v1/washers/{box}", { params: { path: { box: form.id } }, body: form })),
    onSuccess: async (kept) => {
      await client.invalidateQueries(washersQuery);
      onDone(kept.washers.id);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    put.mutate();
  };
  const choice = <T extends string>(
    label: string,
    value: T,
    options: { value: T; text: string }[],
    to: (v: T) => void,
  ) => (
    <div>
      <span className="mb-1 block text-small text-ink-2">{label}</span>
      <Choice label={label} value={value} options={options} onChange={to} className="h-10 w-full" />
    </div>
  );
  return (
    <form onSubmit={submit} className="grid gap-3">
      <div className="grid grid-cols-[90px_1fr_96px] gap-3">
        <Field
          label="Short name"
          name="id"
          value={form.id}
          problem={put.error}
          readOnly={view !== undefined}
          onChange={(e) => set({ id: e.target.value })}
        />
        <Field
          label="Name"
          name="name"
          value={form.name}
          problem={put.error}
          onChange={(e) => set({ name: e.target.value })}
        />
        {choice(
          "Unit",
          form.unit,
          [
            { value: "in", text: "inch" },
            { value: "mm", text: "mm" },
          ],
          (unit) => set({ unit }),
        )}
      </div>
      <div className="grid grid-cols-3 gap-3">
        {choice(
          "They stand",
          form.layout,
          [
            { value: "saddle", text: "on a saddle of the block" },
            { value: "collar", text: "around a collar of the crank" },
            { value: "flanged", text: "as flanges of a bearing's shells" },
          ],
          (layout) => set({ layout }),
        )}
        {choice(
          "The clutch loads the",
          form.loaded,
          [
            { value: "rear", text: "rear" },
            { value: "front", text: "front" },
          ],
          (loaded) => set({ loaded }),
        )}
        <Field
          label="Halves a side"
          name="halves"
          value={String(form.halves)}
          problem={put.error}
          inputMode="numeric"
          onChange={(e) => set({ halves: Number(e.target.value.slice(-1)) || 0 })}
        />
        {LENGTHS.map(({ key, label }) => (
          <Field
            key={key}
            label={label}
            name={key}
            value={form[key]}
            problem={put.error}
            figure
            autoComplete="off"
            onChange={(e) => set({ [key]: e.target.value })}
          />
        ))}
      </div>
      <Rows
        title="Thicknesses"
        problem={fieldProblem(put.error, "classes")}
        rows={form.classes.map((c) => ({ ...c, side: c.side ?? "either" }))}
        fresh={{ id: "", thickness: "", side: "either", part_number: "", price: "" }}
        columns={[
          { key: "id", label: "Name" },
          { key: "thickness", label: "Thickness" },
          { key: "side", label: "Fits", options: SIDES },
          { key: "part_number", label: "Part number" },
          { key: "price", label: "A half costs" },
        ]}
        onChange={(rows) =>
          set({
            classes: rows.map((c) => ({
              ...c,
              side: c.side === "front" || c.side === "rear" ? c.side : null,
            })),
          })
        }
      />
      <ProblemNote problem={put.error} />
      <div className="flex justify-end">
        <button type="submit" className="btn btn-main" disabled={put.isPending}>
          Keep it
        </button>
      </div>
    </form>
  );
}
