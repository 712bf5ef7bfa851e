import type { Schemas, Unit } from "../api/client";
import { clearanceParts, plain } from "../shared/figure";

type RodsToPinsProps = { rods: Schemas["AssignedRod"][]; unit: Unit };

const ROW = 44;
const TOP = 18;
const LEFT = 42;
const RIGHT = 238;

/** Lines from rods to the pins they would run on: straight where a rod stays. */
export function RodsToPins({ rods, unit }: RodsToPinsProps) {
  const height = TOP + rods.length * ROW;
  const y = (i: number) => TOP + i * ROW + ROW / 2;
  return (
    <svg
      role="img"
      aria-label={rods
        .map((r) => `${r.rod} on ${r.pin}, ${plain(clearanceParts(r.clearance, unit))}`)
        .join("; ")}
      width="280"
      height={height}
      viewBox={`0 0 280 ${height}`}
      className="block"
    >
      {rods.map((r, i) => {
        const to = rods.findIndex((o, k) => o.now === r.pin && taken(rods, i, k));
        const target = to < 0 ? i : to;
        const moves = r.pin !== r.now;
        return (
          <g key={r.rod} className={moves ? "text-dye" : "text-ink-3"}>
            <path
              d={`M${LEFT + 14} ${y(i)}C${LEFT + 90} ${y(i)} ${RIGHT - 90} ${y(target)} ${RIGHT - 14} ${y(target)}`}
              fill="none"
              stroke="currentColor"
              strokeWidth={moves ? 2.4 : 1.4}
              strokeDasharray={r.fixed ? "2 3" : undefined}
            />
            <circle cx={LEFT} cy={y(i)} r="12" fill="none" stroke="currentColor" strokeWidth="3" />
            <text x={LEFT - 18} y={y(i) + 4} textAnchor="end" className="t-note" fill="var(--color-ink)">
              {r.rod}
            </text>
          </g>
        );
      })}
      {rods.map((r, i) => (
        <g key={`${r.now} ${r.rod}`}>
          <circle cx={RIGHT} cy={y(i)} r="10" fill="var(--color-steel-3)" stroke="var(--color-ink-3)" />
          <text x={RIGHT + 16} y={y(i) + 4} className="t-note" fill="var(--color-ink)">
            {r.now}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** Rods side by side on one pin take its places in their order. */
function taken(rods: Schemas["AssignedRod"][], rod: number, place: number): boolean {
  const pin = rods[rod]?.pin;
  const before = rods.slice(0, rod).filter((r) => r.pin === pin).length;
  const slot = rods.slice(0, place).filter((r) => r.now === pin).length;
  return before === slot;
}
