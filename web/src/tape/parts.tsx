import type { Unit } from "../api/client";
import { SvgDigits } from "../shared/Figure";
import { clearanceParts, plain } from "../shared/figure";
import type { Shown } from "../shared/words";
import type { Graduation } from "./scale";

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

type GraduationsProps = { graduations: Graduation[]; unit: Unit; y: number; up?: boolean };

/** The ticks and numbers of an axis that several tapes share, above or below its line. */
export function Graduations({ graduations, unit, y, up = false }: GraduationsProps) {
  const way = up ? -1 : 1;
  const numbered = graduations.filter((g) => g.rank !== "fine");
  // Where the numbers would run into each other, only the heavy ones are written.
  const apart = Math.abs((numbered[1]?.x ?? 100) - (numbered[0]?.x ?? 0));
  const written = apart < 42 && unit === "in" ? numbered.filter((g) => g.rank === "heavy") : numbered;
  return (
    <>
      {graduations.map((g) => (
        <path
          key={g.nm}
          d={`M${g.x} ${y}v${way * (g.rank === "fine" ? 6 : 11)}`}
          stroke="var(--color-ink-3)"
          strokeWidth={g.rank === "heavy" ? 1.8 : 1}
        />
      ))}
      {written.map((g) => (
        <text
          key={g.nm}
          x={g.x}
          y={y + (up ? -16 : 28)}
          textAnchor="middle"
          className={g.rank === "heavy" ? "t-num t-num-heavy" : "t-num"}
        >
          <SvgDigits text={plain(clearanceParts(g.nm, unit)).replace(/^0\./, ".")} />
        </text>
      ))}
    </>
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
      {[low - 6, high]
        .filter((stop) => stop > -10 && stop < width + 10)
        .map((stop) => (
          <path key={stop} d={`M${stop} ${top - 8}h6v${floor - top + 8}h-6z`} fill="var(--color-ink)" />
        ))}
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
