import type { Shown } from "../shared/words";

/** Hatchings of a tape. The id keeps several tapes on one page apart. */
export function Patterns({ id }: { id: string }) {
  return (
    <defs>
      <pattern
        id={`${id}steel`}
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="6" height="6" fill="var(--color-steel-2)" />
        <rect width="1" height="6" fill="var(--color-steel-4)" />
      </pattern>
      <pattern
        id={`${id}edge`}
        width="4"
        height="4"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="4" height="4" fill="var(--color-paper)" />
        <rect width="1.9" height="4" fill="#c39a2b" />
      </pattern>
    </defs>
  );
}

type ChannelProps = { id: string; low: number; high: number; width: number; top: number; floor: number };

/** An open channel of paper between two stops, in section-lined steel. */
export function Channel({ id, low, high, width, top, floor }: ChannelProps) {
  return (
    <>
      <rect x="0" y={top} width={Math.max(0, low)} height={floor - top} fill={`url(#${id}steel)`} />
      <rect
        x={high}
        y={top}
        width={Math.max(0, width - high)}
        height={floor - top}
        fill={`url(#${id}steel)`}
      />
      <rect x={low} y={top} width={Math.max(0, high - low)} height={floor - top} fill="var(--color-paper)" />
      <path
        d={`M${low - 6} ${top - 8}h6v${floor - top + 8}h-6zM${high} ${top - 8}h6v${floor - top + 8}h-6z`}
        fill="var(--color-ink)"
      />
    </>
  );
}

type WhiskerProps = { id: string; from: number; to: number; y: number; state: Shown; half?: number };

/** Uncertainty as a bar with end caps, hatched where it spans a limit. */
export function Whisker({ id, from, to, y, state, half = 7 }: WhiskerProps) {
  const fill = state === "edge" ? `url(#${id}edge)` : "var(--color-paper)";
  return (
    <>
      <rect
        x={from}
        y={y - half}
        width={Math.max(1, to - from)}
        height={2 * half}
        fill={fill}
        stroke="currentColor"
        strokeWidth="1.4"
      />
      <path
        d={`M${from} ${y - half - 4}v${2 * half + 8}M${to} ${y - half - 4}v${2 * half + 8}`}
        stroke="currentColor"
        strokeWidth="2.2"
      />
    </>
  );
}
