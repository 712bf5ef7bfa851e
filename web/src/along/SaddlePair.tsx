import type { Unit } from "../api/client";
import { lineText } from "../shared/figure";
import type { WasherChoice } from "./useWashers";

type SaddlePairProps = { now: WasherChoice; then: WasherChoice; unit: Unit; width: number };

const TALL = 40;
const MIDDLE = 268;
const HALF_SADDLE = 66;
const WASHER = 30;
const CHEEK = 62;
/** Pixels of the larger gap as it is. */
const GAP = 34;

/** Before and after on one centre line of the saddle: gaps and growth to one scale, the rest broken. */
export function SaddlePair({ now, then, unit, width }: SaddlePairProps) {
  const play = (c: WasherChoice) => (c.smallest + c.largest) / 2;
  const scale = GAP / Math.max(1, play(now) / 2);
  const rows = [
    { c: now, y: 4, label: "As it is" },
    { c: then, y: 60, label: `${then.front.name} front, ${then.rear.name} rear` },
  ];
  return (
    <svg
      role="img"
      aria-label={`Saddle before and after: gaps ${lineText(play(now) / 2, unit)} each, then ${lineText(play(then) / 2, unit)} each`}
      width={width}
      height="124"
      viewBox={`0 0 ${width} 124`}
      className="mt-3 block"
    >
      <defs>
        <pattern
          id="w-saddle"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--color-paper)" />
          <path d="M0 0v6" stroke="var(--color-hair-strong)" strokeWidth="1.4" />
        </pattern>
      </defs>
      {rows.map(({ c, y, label }) => (
        <Row key={label} c={c} y={y} label={label} scale={scale} unit={unit} />
      ))}
      <text x={width} y="20" textAnchor="end" className="s-note">
        Gaps and growth
      </text>
      <text x={width} y="36" textAnchor="end" className="s-note">
        to one scale.
      </text>
      <text x={width} y="84" textAnchor="end" className="t-word">
        Steel backs to
      </text>
      <text x={width} y="100" textAnchor="end" className="t-word">
        the housing.
      </text>
    </svg>
  );
}

type RowProps = { c: WasherChoice; y: number; label: string; scale: number; unit: Unit };

function Row({ c, y, label, scale, unit }: RowProps) {
  const gap = Math.max(0, ((c.smallest + c.largest) / 4) * scale);
  const side = (way: 1 | -1, growth: number) => {
    const inner = MIDDLE + way * HALF_SADDLE;
    const washer = inner + way * WASHER;
    const grown = washer + way * Math.max(0, growth * scale);
    return { inner, washer, grown, cheek: grown + way * gap };
  };
  const [front, rear] = [side(-1, c.front.growth), side(1, c.rear.growth)];
  const box = (a: number, b: number) => ({ x: Math.min(a, b), width: Math.abs(a - b), y, height: TALL });
  const text = lineText((c.smallest + c.largest) / 4, unit);
  return (
    <g>
      <text x="0" y={y + 25} className="w-label">
        {label}
      </text>
      <rect
        {...box(MIDDLE - HALF_SADDLE, MIDDLE + HALF_SADDLE)}
        fill="url(#w-saddle)"
        stroke="var(--color-ink-2)"
      />
      <path
        d={`M${MIDDLE - 6} ${y - 2}l7 12-7 10 7 12-5 12M${MIDDLE + 2} ${y - 2}l7 12-7 10 7 12-5 12`}
        fill="none"
        stroke="var(--color-ink-2)"
      />
      {[front, rear].map((s, i) => (
        <g key={i === 0 ? "front" : "rear"}>
          <rect {...box(s.inner, s.washer)} fill="var(--color-steel-2)" stroke="var(--color-ink-2)" />
          <rect {...box(s.washer, s.grown)} fill="var(--color-dye)" />
          <rect {...box(s.cheek, s.cheek + (i === 0 ? -CHEEK : CHEEK))} fill="var(--color-dye)" />
          <text
            x={s.cheek + (i === 0 ? -CHEEK / 2 : CHEEK / 2)}
            y={y + 25}
            textAnchor="middle"
            className="w-cheek"
          >
            cheek
          </text>
          <text x={(s.cheek + s.grown) / 2} y={y + TALL + 13} textAnchor="middle" className="w-gap">
            {text}
          </text>
        </g>
      ))}
    </g>
  );
}
