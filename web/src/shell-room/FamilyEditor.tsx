import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { shellsQuery } from "../api/queries";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Rows } from "./Rows";

type Form = Schemas["FamilyForm"];
type Trait = Schemas["ShellTrait"];
/** What a box holds: whole pairs, or one side alone. */
const SIDES = [
  { value: "pairs", text: "pairs" },
  { value: "upper", text: "uppers" },
  { value: "lower", text: "lowers" },
];
const EITHER = [
  { value: "pairs", text: "pairs" },
  { value: "either", text: "halves" },
];
const halfOf = (text: string): Schemas["Half"] | null =>
  text === "upper" || text === "lower" || text === "either" ? text : null;

type Means = Schemas["MeansKind"];

const EMPTY: Form = {
  version: 0,
  id: "",
  name: "",
  unit: "in",
  row: "mains",
  journal: "",
  housing: "",
  wall: "",
  wall_tolerance: "0.0003",
  grading: "0.00005",
  coating: "",
  alike: false,
  needs: [],
  base: "",
  undersizes: ["0"],
  classes: [
    { id: "-1", shift: "-0.0010" },
    { id: "std", shift: "0" },
    { id: "+1", shift: "0.0010" },
  ],
  offers: [],
  suffixes: [],
};

const TRAITS: { value: Trait; text: string }[] = [
  { value: "narrowed", text: "narrowed" },
  { value: "dowel", text: "a dowel hole" },
  { value: "grooved", text: "a grooved upper" },
  { value: "coated", text: "a coating" },
];

const MEANS: { value: Means; text: string }[] = [
  { value: "material", text: "material" },
  { value: "class", text: "size class" },
  { value: "undersize", text: "undersize" },
  { value: "coated", text: "coated" },
  { value: "narrowed", text: "narrowed" },
  { value: "dowel", text: "dowel hole" },
  { value: "grooved", text: "grooved upper" },
];

const PLAIN: {
  key: "journal" | "housing" | "wall" | "wall_tolerance" | "grading" | "coating";
  label: string;
}[] = [
  { key: "journal", label: "Nominal journal" },
  { key: "housing", label: "Nominal housing" },
  { key: "wall", label: "Standard wall, at most" },
  { key: "wall_tolerance", label: "and as much less" },
  { key: "grading", label: "Halves lie within ±" },
  { key: "coating", label: "A coating changes by" },
];

type FamilyEditorProps = { view: Schemas["FamilyView"] | undefined; onDone: (id: string) => void };

/** A family as the shop knows it: sizes, classes, sets and the letters of its numbers. */
export function FamilyEditor({ view, onDone }: FamilyEditorProps) {
  const client = useQueryClient();
  const [form, setForm] = useState<Form>(view?.form ?? EMPTY);
  const set = (part: Partial<Form>) => setForm((f) => ({ ...f, ...part }));
  const put = useMutation({
    mutationFn: () =>
      unwrap(api.PUT("/api/v1/shells/{family}", { params: { path: { family: form.id } }, body: form })),
    onSuccess: async (kept) => {
      await client.invalidateQueries(shellsQuery);
      onDone(kept.family.id);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    put.mutate();
  };
  const wrong = (name: string) => fieldProblem(put.error, name);
  return (
    <form onSubmit={submit} className="grid gap-3">
      <div className="grid grid-cols-[90px_1fr_96px_96px] gap-3">
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
        <div>
          <span className="mb-1 block text-small text-ink-2">For</span>
          <Choice
            label="For"
            value={form.row}
            options={[
              { value: "mains", text: "mains" },
              { value: "rods", text: "rods" },
            ]}
            onChange={(row) => set({ row })}
            className="h-10 w-full"
          />
        </div>
        <div>
          <span className="mb-1 block text-small text-ink-2">Unit</span>
          <Choice
            label="Unit"
            value={form.unit}
            options={[
              { value: "in", text: "inch" },
              { value: "mm", text: "mm" },
            ]}
            onChange={(unit) => set({ unit })}
            className="h-10 w-full"
          />
        </div>
      </div>
      <div className="grid grid-cols-3 gap-3">
        {PLAIN.map(({ key, label }) => (
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
      <div className="grid grid-cols-[1fr_120px] gap-3">
        <Field
          label="Undersizes, standard (0) first"
          name="undersizes"
          value={form.undersizes.join("  ")}
          problem={put.error}
          figure
          autoComplete="off"
          onChange={(e) => set({ undersizes: e.target.value.split(/\s+/) })}
        />
        <Field
          label="Numbers begin"
          name="base"
          value={form.base}
          problem={put.error}
          onChange={(e) => set({ base: e.target.value })}
        />
      </div>
      <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1 text-small">
        <legend className="mb-1 text-small text-ink-2">Every half must have</legend>
        {TRAITS.map((t) => (
          <label key={t.value} className="flex h-7 items-center gap-1.5">
            <input
              type="checkbox"
              className="size-4"
              checked={form.needs.includes(t.value)}
              onChange={(e) =>
                set({
                  needs: e.target.checked
                    ? [...form.needs, t.value]
                    : form.needs.filter((n) => n !== t.value),
                })
              }
            />
            {t.text}
          </label>
        ))}
        <label className="flex h-7 items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4"
            checked={form.alike}
            onChange={(e) => set({ alike: e.target.checked })}
          />
          upper and lower are one part
        </label>
      </fieldset>
      <Rows
        title="Size classes"
        problem={wrong("classes")}
        rows={form.classes}
        fresh={{ id: "", shift: "" }}
        columns={[
          { key: "id", label: "Class" },
          { key: "shift", label: "A pair adds" },
        ]}
        onChange={(classes) => set({ classes })}
      />
      <Rows
        title="Sets to buy"
        problem={wrong("offers")}
        rows={form.offers.map((o) => ({ ...o, pairs: String(o.pairs), only: o.only ?? "pairs" }))}
        fresh={{ part_number: "", class: "std", undersize: "0", pairs: "7", only: "pairs", price: "" }}
        columns={[
          { key: "part_number", label: "Part number", wide: true },
          { key: "class", label: "Class" },
          { key: "undersize", label: "Under" },
          { key: "pairs", label: "Holds" },
          { key: "only", label: "Of", options: form.alike ? EITHER : SIDES },
          { key: "price", label: "Price" },
        ]}
        onChange={(rows) =>
          set({ offers: rows.map((o) => ({ ...o, pairs: Number(o.pairs) || 0, only: halfOf(o.only) })) })
        }
      />
      <Rows
        title="What the letters of its numbers mean"
        problem={wrong("suffixes")}
        rows={form.suffixes}
        fresh={{ letters: "", means: "material", text: "" }}
        columns={[
          { key: "letters", label: "Letters" },
          { key: "means", label: "Mean", options: MEANS },
          { key: "text", label: "Which", wide: true },
        ]}
        onChange={(rows) => set({ suffixes: rows.map((s) => ({ ...s, means: s.means as Means })) })}
      />
      {wrong("family") && <p className="text-small font-semibold text-tight">{wrong("family")}</p>}
      <ProblemNote problem={put.error} />
      <div className="flex justify-end">
        <button type="submit" className="btn btn-main" disabled={put.isPending}>
          Keep it
        </button>
      </div>
    </form>
  );
}
