type BoxProps = { on: boolean; className?: string };

/** The box beside a word that says whether something is so: filled or empty, whatever its hue. */
export function Box({ on, className = "size-3.5" }: BoxProps) {
  return (
    <span
      aria-hidden="true"
      className={`inline-block flex-none border ${on ? "border-dye bg-dye shadow-[inset_0_0_0_2px_white]" : "border-ink-3 bg-paper"} ${className}`}
    />
  );
}
