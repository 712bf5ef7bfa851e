import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { pluralOfKind } from "../api/catalog";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";
import { Digits } from "../shared/Figure";
import { newId } from "../shared/id";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { capital, FIGURE_WORD } from "../shared/words";

type TargetRow = Schemas["TargetRowView"];
type Limit = "low" | "aim" | "high";
type Typed = Record<Limit, string>;

/** Uses that windows are named after; each fills every row that has one of its name. */
const USES = ["street", "circuit", "race", "endurance", "drag", "boost"];

const LIMITS: Limit[] = ["low", "aim", "high"];
/** What is asked where only more, or only less, is wrong. */
const ASKED: Record<Schemas["Limits"], Limit[]> = { both: LIMITS, maximum: ["high"], minimum: ["low"] };

const keyOf = (row: TargetRow) => `${row.figure} ${row.at}`;

const typedOf = ([low = "", aim = "", high = ""]: string[]): Typed => ({ low, aim, high });

/** Words that the windows of at least two rows are named after. */
function usesOf(rows: TargetRow[]): string[] {
  const named = (use: string) => rows.filter((r) => r.choices.some((c) => isFor(c.name, use)));
  return USES.filter((use) => named(use).length > 1);
}

function isFor(name: string, use: string): boolean {
  return name.split(/[^a-z]+/i).includes(use);
}

/** Targets of whole rows, as many as are wanted at once, from the windows the shop starts with or as they are typed. */
export function TargetRows({ build, onClose }: { build: Build; onClose: () => void }) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [typed, setTyped] = useState<Record<string, Typed>>({});
  const [reason, setReason] = useState("");
  const params = { path: { build: build.code } };
  const rows = useQuery({
    queryKey: ["target-rows", build.code, build.assessment.seq],
    queryFn: () => unwrap(api.GET("/api/v1/builds/{build}/target-rows", { params })),
  });
  const all = rows.data ?? [];
  const changed = all.filter((row) =>
    Object.values(typed[keyOf(row)] ?? {}).some((text) => text.trim() !== ""),
  );
  const set = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/target-rows", {
          params,
          body: {
            id,
            source: "builders_rule",
            reason,
            rows: changed.map((row) => ({
              figure: row.figure,
              at: row.at,
              version: row.version,
              ...(typed[keyOf(row)] ?? typedOf([])),
            })),
          },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const put = (row: TargetRow, to: Typed) => setTyped((t) => ({ ...t, [keyOf(row)]: to }));
  const fill = (use: string) =>
    setTyped((t) => {
      const found = all.flatMap((row) => {
        const choice = row.choices.find((c) => isFor(c.name, use));
        return choice ? [[keyOf(row), typedOf(choice.window)] as const] : [];
      });
      return { ...t, ...Object.fromEntries(found) };
    });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    set.mutate();
  };
  const unit = build.unit;
  return (
    <Sheetlet open title="Targets of every row" onClose={onClose} width={900}>
      <form onSubmit={submit} className="mt-3 grid gap-3">
        <div className="flex flex-wrap items-center gap-2">
          <span className="text-small text-ink-2">Fill in for</span>
          {usesOf(all).map((use) => (
            <button
              key={use}
              type="button"
              className="h-8 border border-dye bg-paper px-2.5 text-small font-semibold text-dye"
              onClick={() => fill(use)}
            >
              {use}
            </button>
          ))}
          <span className="ml-auto text-note text-ink-2">Rows that stay empty stay as they are.</span>
        </div>
        <div className="max-h-[46vh] relative overflow-auto border-y border-ink">
          <table className="w-full border-collapse text-small">
            <caption className="sr-only">Targets by row, in {unit}</caption>
            <thead className="sticky top-0 z-10 bg-paper">
              <tr className="text-left text-note text-ink-2">
                <th className="py-1 font-medium">Figure</th>
                <th className="font-medium">Now</th>
                <th className="font-medium">As the shop starts</th>
                {LIMITS.map((limit) => (
                  <th key={limit} className="pl-1 font-medium">
                    {capital(limit)} ({unit})
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {all.map((row) => (
                <RowFields
                  key={keyOf(row)}
                  row={row}
                  typed={typed[keyOf(row)] ?? typedOf([])}
                  line={changed.indexOf(row)}
                  problem={set.error}
                  onChange={(to) => put(row, to)}
                />
              ))}
            </tbody>
          </table>
        </div>
        <ProblemNote problem={rows.error} />
        <Field
          label="Why"
          name="reason"
          value={reason}
          problem={set.error}
          autoComplete="off"
          onChange={(e) => setReason(e.target.value)}
        />
        <p className="text-note text-ink-2">
          Your maker's sheet wins over any rule of thumb. Targets of single places keep their own.
        </p>
        {!fieldProblem(set.error, "reason") && <ProblemNote problem={set.error} />}
        <div className="flex justify-end gap-3">
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="btn btn-main" disabled={set.isPending || changed.length === 0}>
            {changed.length === 0
              ? "Set targets"
              : `Set ${changed.length} ${changed.length === 1 ? "target" : "targets"}`}
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}

type RowFieldsProps = {
  row: TargetRow;
  typed: Typed;
  /** Its place among the rows that are sent; below zero where it is not. */
  line: number;
  problem: Error | null;
  onChange: (to: Typed) => void;
};

function RowFields({ row, typed, line, problem, onChange }: RowFieldsProps) {
  const name = `${FIGURE_WORD[row.figure]}, ${pluralOfKind(row.at)}`;
  const asked = ASKED[row.limits];
  const [low, aim, high] = row.window ?? [];
  const now = {
    both: `${low}\u2013${high}, aim ${aim}`,
    maximum: `at most ${high}`,
    minimum: `at least ${low}`,
  };
  const chosen = row.choices.find((c) => LIMITS.every((limit, i) => c.window[i] === typed[limit]));
  return (
    <tr className="border-b border-hair" data-target-row={keyOf(row)} data-set={line >= 0}>
      <th scope="row" className="py-1 pr-2 text-left font-semibold">
        {name}
      </th>
      <td className="num pr-3 text-note text-ink-2">
        <Digits text={row.window ? now[row.limits] : "none"} />
      </td>
      <td className="pr-2">
        {row.choices.length > 0 && (
          <Choice
            label={`Window for ${name}`}
            value={chosen?.name ?? ""}
            options={[
              { value: "", text: "choose" },
              ...row.choices.map((c) => ({ value: c.name, text: c.name })),
            ]}
            onChange={(to) => onChange(typedOf(row.choices.find((c) => c.name === to)?.window ?? []))}
            className="h-8 w-[196px] text-small"
          />
        )}
      </td>
      {LIMITS.map((limit) => {
        const wrong = line >= 0 ? fieldProblem(problem, `rows.${line}.${limit}`) : undefined;
        return (
          <td key={limit} className="pl-1">
            {asked.includes(limit) && (
              <input
                aria-label={`${name}: ${limit}`}
                aria-invalid={wrong !== undefined}
                title={wrong}
                value={typed[limit]}
                autoComplete="off"
                className={`num h-8 w-[84px] border bg-paper px-1.5 ${wrong ? "border-2 border-ink" : "border-hair-strong"}`}
                onChange={(e) => onChange({ ...typed, [limit]: e.target.value })}
              />
            )}
          </td>
        );
      })}
    </tr>
  );
}
