import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Digits } from "../shared/Figure";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { FIGURE_WORD } from "../shared/words";

type PresetView = Schemas["PresetView"];
type Column = "name" | "low" | "aim" | "high";

const AT_WORD: Partial<Record<Schemas["PlaceKind"], string>> = { main: "mains", rod: "rods" };
const COLUMNS: [Column, string, string][] = [
  ["name", "Use", ""],
  ["low", "Low", "w-[92px]"],
  ["aim", "Aim", "w-[84px]"],
  ["high", "High", "w-[92px]"],
];

const groupOf = (p: PresetView) => `${FIGURE_WORD[p.figure]}${AT_WORD[p.at] ? `, ${AT_WORD[p.at]}` : ""}`;

type PresetTableProps = { kept: Schemas["PresetsView"]; mayChange: boolean };

/** The windows the shop starts from: lengths, or parts of the shaft. */
export function PresetTable({ kept, mayChange }: PresetTableProps) {
  const client = useQueryClient();
  const [rows, setRows] = useState(kept.presets);
  const put = useMutation({
    mutationFn: () =>
      unwrap(
        api.PUT("/api/v1/presets", {
          body: {
            unit: "in",
            version: kept.version,
            presets: rows.map(({ figure, at, name, per_shaft, low, aim, high }) => ({
              figure,
              at,
              name,
              per_shaft,
              low,
              aim,
              high,
            })),
          },
        }),
      ),
    onSuccess: () => void client.invalidateQueries({ queryKey: ["presets"] }),
  });
  const dirty = JSON.stringify(rows) !== JSON.stringify(kept.presets);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    put.mutate();
  };
  const change = (i: number, part: Partial<PresetView>) =>
    setRows((all) => all.map((row, j) => (j === i ? { ...row, ...part } : row)));
  const wrong = rows.flatMap((_, i) =>
    COLUMNS.map(([name]) => fieldProblem(put.error, `presets.${i}.${name}`)),
  );
  return (
    <form onSubmit={submit}>
      <table className="w-full border-collapse text-[14px]">
        <caption className="sr-only">Windows that targets start from</caption>
        <thead>
          <tr className="border-b border-ink text-left text-note text-ink-2">
            {COLUMNS.map(([name, text]) => (
              <th key={name} scope="col" className="pb-0.5 font-medium">
                {text}
              </th>
            ))}
            <td className="w-[74px]" />
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <PresetRows
              key={i}
              row={row}
              line={i}
              heads={i === 0 || groupOf(row) !== groupOf(rows[i - 1] ?? row)}
              mayChange={mayChange}
              problem={put.error}
              onChange={(part) => change(i, part)}
              onMore={() =>
                setRows((all) => [...all.slice(0, i + 1), { ...row, name: "" }, ...all.slice(i + 1)])
              }
              onLess={() => setRows((all) => all.filter((_, j) => j !== i))}
            />
          ))}
        </tbody>
      </table>
      {mayChange && dirty && (
        <div className="mt-3 grid gap-2">
          <ProblemNote problem={wrong.some(Boolean) ? undefined : put.error} />
          <div className="flex justify-end gap-3">
            <button type="button" className="btn" onClick={() => setRows(kept.presets)}>
              Leave it
            </button>
            <button type="submit" className="btn btn-main" disabled={put.isPending}>
              Keep the windows
            </button>
          </div>
        </div>
      )}
    </form>
  );
}

/** A cell that cannot be changed. */
function Shown({ name, text }: { name: Column; text: string }) {
  if (name === "name") return text;
  if (text === "") return name === "aim" ? <span className="text-ink-2">middle</span> : null;
  return (
    <span className="num">
      <Digits text={text} />
    </span>
  );
}

type RowProps = {
  row: PresetView;
  line: number;
  heads: boolean;
  mayChange: boolean;
  problem: unknown;
  onChange: (part: Partial<PresetView>) => void;
  onMore: () => void;
  onLess: () => void;
};

function PresetRows({ row, line, heads, mayChange, problem, onChange, onMore, onLess }: RowProps) {
  const group = groupOf(row);
  return (
    <>
      {heads && (
        <tr>
          <th colSpan={5} scope="colgroup" className="pt-2 text-left font-semibold">
            {group}
            <span className="ml-2 text-note font-normal text-ink-2">
              {row.per_shaft ? "part of the shaft: 0.00100 is a thou per inch" : "inches"}
            </span>
          </th>
        </tr>
      )}
      <tr className="border-b border-hair" data-preset-row={`${group} ${row.name}`}>
        {COLUMNS.map(([name, text, width]) => (
          <td key={name} className={`py-0.5 pr-2 ${width}`}>
            {mayChange ? (
              <input
                aria-label={`${group}, ${row.name || "new"}: ${text}`}
                aria-invalid={fieldProblem(problem, `presets.${line}.${name}`) !== undefined || undefined}
                title={fieldProblem(problem, `presets.${line}.${name}`)}
                name={`presets.${line}.${name}`}
                value={row[name]}
                autoComplete="off"
                onChange={(e) => onChange({ [name]: e.target.value })}
                className={`h-8 w-full border border-hair-strong bg-paper px-1.5 aria-invalid:border-ink aria-invalid:border-2 ${name === "name" ? "" : "num"}`}
              />
            ) : (
              <Shown name={name} text={row[name]} />
            )}
          </td>
        ))}
        <td className="text-right whitespace-nowrap">
          {mayChange && (
            <>
              <button
                type="button"
                aria-label={`Another window after ${group}, ${row.name}`}
                className="h-8 w-8 border border-hair-strong font-bold text-dye"
                onClick={onMore}
              >
                +
              </button>
              <button
                type="button"
                aria-label={`Take ${group}, ${row.name} out`}
                className="ml-1 h-8 w-8 border border-hair-strong font-bold"
                onClick={onLess}
              >
                −
              </button>
            </>
          )}
        </td>
      </tr>
      {COLUMNS.map(([name]) => fieldProblem(problem, `presets.${line}.${name}`))
        .filter(Boolean)
        .map((text) => (
          <tr key={text}>
            <td colSpan={5} className="text-note font-semibold" role="alert">
              {text}
            </td>
          </tr>
        ))}
    </>
  );
}
