type SmallFieldProps = {
  label: string;
  name: string;
  value: string;
  /** What holds while it is empty. */
  usual: string;
  onChange: (text: string) => void;
  /** Whether the label stands over it. */
  above?: boolean;
};

/** A figure that a plan is asked with, small beside its result. */
export function SmallField({ label, name, value, usual, onChange, above = false }: SmallFieldProps) {
  const place = above ? "" : "flex items-center gap-1.5 whitespace-nowrap";
  return (
    <label className={`text-note text-ink-2 ${place}`}>
      {label}
      <input
        name={name}
        value={value}
        placeholder={usual}
        autoComplete="off"
        className={`num h-8 border border-hair-strong bg-paper px-2 text-small ${above ? "mt-0.5 block w-[104px]" : "w-[92px]"}`}
        onChange={(e) => onChange(e.target.value)}
      />
    </label>
  );
}
