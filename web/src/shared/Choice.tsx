import { Listbox, ListboxButton, ListboxOption, ListboxOptions, Radio, RadioGroup } from "@headlessui/react";

type ChoiceProps<T extends string> = {
  /** Read out, and shown in front when asked. */
  label: string;
  value: T;
  options: { value: T; text: string }[];
  onChange: (value: T) => void;
  showLabel?: boolean;
  className?: string;
};

/** One of a few, in a list that opens. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  showLabel,
  className,
}: ChoiceProps<T>) {
  const chosen = options.find((o) => o.value === value);
  return (
    <Listbox value={value} onChange={onChange}>
      {showLabel && <span className="mb-1 block text-small text-ink-2">{label}</span>}
      <ListboxButton
        aria-label={`${label}: ${chosen?.text ?? ""}`}
        className={`inline-flex items-center gap-2 border border-hair-strong bg-paper px-2 text-left font-semibold ${
          className ?? "h-7 text-small"
        }`}
      >
        <span className="flex-1 truncate">{chosen?.text}</span>
        <svg width="9" height="6" viewBox="0 0 9 6" aria-hidden="true" className="flex-none">
          <path d="M0 0h9L4.5 6z" fill="var(--color-ink-2)" />
        </svg>
      </ListboxButton>
      <ListboxOptions
        anchor="bottom start"
        className="z-30 border border-ink bg-paper text-small [--anchor-gap:2px] focus:outline-none"
      >
        {options.map((o) => (
          <ListboxOption
            key={o.value}
            value={o.value}
            className="flex h-10 cursor-pointer items-center px-3 data-focus:bg-dye data-focus:text-white data-selected:font-bold"
          >
            {o.text}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}

type SegmentsProps<T extends string> = {
  label: string;
  value: T;
  options: { value: T; text: string }[];
  onChange: (value: T) => void;
};

/** One of two or three, side by side. */
export function Segments<T extends string>({ label, value, options, onChange }: SegmentsProps<T>) {
  return (
    <RadioGroup
      aria-label={label}
      value={value}
      onChange={onChange}
      className="inline-flex max-w-full flex-wrap border border-dye"
    >
      {options.map((o) => (
        <Radio
          key={o.value}
          as="button"
          type="button"
          value={o.value}
          className="h-7 bg-paper px-2.5 max-[1150px]:px-1.5 text-small font-semibold whitespace-nowrap text-dye data-checked:bg-dye data-checked:text-white"
        >
          {o.text}
        </Radio>
      ))}
    </RadioGroup>
  );
}
