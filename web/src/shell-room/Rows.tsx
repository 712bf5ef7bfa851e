type RowsProps<T extends Record<string, string>> = {
  title: string;
  problem: string | undefined;
  rows: T[];
  /** What a new row holds. */
  fresh: T;
  columns: {
    key: keyof T & string;
    label: string;
    wide?: boolean;
    options?: { value: string; text: string }[];
  }[];
  onChange: (rows: T[]) => void;
};

/** A short list that is edited in place: one row a line, one more at the end on request. */
export function Rows<T extends Record<string, string>>(props: RowsProps<T>) {
  const { title, problem, rows, fresh, columns, onChange } = props;
  const change = (i: number, key: string, text: string) =>
    onChange(rows.map((row, at) => (at === i ? { ...row, [key]: text } : row)));
  return (
    <details className="border-t border-hair pt-1" open={rows.length < 6}>
      <summary className="cursor-pointer text-small font-bold">
        {title} <span className="font-normal text-ink-2">({rows.length})</span>
      </summary>
      {problem && <p className="text-note font-semibold text-tight">{problem}</p>}
      <table className="mt-1 w-full text-small">
        <caption className="sr-only">{title}</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            {columns.map((c) => (
              <th key={c.key} className={`font-medium ${c.wide ? "w-[34%]" : ""}`}>
                {c.label}
              </th>
            ))}
            <th>
              <span className="sr-only">Take away</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i}>
              {columns.map((c) => (
                <td key={c.key} className="pr-1 pb-1">
                  <Cell
                    label={`${c.label}, ${i + 1}`}
                    value={row[c.key] ?? ""}
                    options={c.options}
                    onChange={(text) => change(i, c.key, text)}
                  />
                </td>
              ))}
              <td className="w-8">
                <button
                  type="button"
                  aria-label={`Take row ${i + 1} away`}
                  className="h-8 w-8 text-ink-2"
                  onClick={() => onChange(rows.filter((_, at) => at !== i))}
                >
                  ×
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button type="button" className="order-act" onClick={() => onChange([...rows, fresh])}>
        One more
      </button>
    </details>
  );
}

type CellProps = {
  label: string;
  value: string;
  options: { value: string; text: string }[] | undefined;
  onChange: (text: string) => void;
};

function Cell({ label, value, options, onChange }: CellProps) {
  const look = "h-8 w-full border border-hair-strong bg-paper px-1.5";
  if (options) {
    return (
      <select aria-label={label} value={value} onChange={(e) => onChange(e.target.value)} className={look}>
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.text}
          </option>
        ))}
      </select>
    );
  }
  return (
    <input
      type="text"
      aria-label={label}
      value={value}
      autoComplete="off"
      onChange={(e) => onChange(e.target.value)}
      className={`num ${look}`}
    />
  );
}
