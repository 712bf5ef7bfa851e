import type { Schemas } from "../api/client";
import { Digits } from "../shared/Figure";
import { nmPer } from "../shared/figure";

type ShopGauge = Schemas["ShopGaugeView"];

const DAY = 86_400_000;
/** Days that the rule of calibrations spans: a year and a month, so that one that was just made still shows where it ends. */
const SPAN = 396;

/** Inches that the rule of a room reaches, from nothing: as far as its longest gauge, and no farther than a foot. */
export function reachOf(gauges: ShopGauge[]): number {
  const longest = Math.max(...gauges.map((g) => (g.gauge.range?.to ?? 0) / nmPer("in")), 1);
  return Math.min(12, Math.ceil(longest));
}

/** The rule over the reaches: an inch a step. */
export function ReachHead({ inches }: { inches: number }) {
  return (
    <span className="relative block h-4" aria-hidden="true">
      {Array.from({ length: inches + 1 }, (_, n) => (
        <span
          key={n}
          className="absolute bottom-0 h-1.5 border-l border-ink-3"
          style={{ left: `${(100 * n) / inches}%` }}
        />
      ))}
    </span>
  );
}

/** What a gauge reaches, drawn on the rule of its room. */
export function Reach({ g, inches }: { g: ShopGauge; inches: number }) {
  const range = g.gauge.range;
  if (!range) return null;
  const at = (nm: number) => Math.min(100, (100 * nm) / nmPer("in") / inches);
  const [from, to] = [at(range.from), at(range.to)];
  return (
    <span className="block">
      <span className="num text-small">
        <Digits text={`${g.texts.from}\u2013${g.texts.to}`} />
      </span>
      <span className="relative mt-0.5 block h-2 border-b border-hair-strong" aria-hidden="true">
        <span
          className="absolute bottom-0 h-1.5 bg-dye"
          style={{ left: `${from}%`, width: `max(3px, ${to - from}%)` }}
        />
      </span>
    </span>
  );
}

/** How long a calibration holds, drawn from today on. */
export function Holds({ g, now = Date.now() }: { g: ShopGauge; now?: number }) {
  if (g.past_due) {
    return <span className="bg-ink px-2 font-bold whitespace-nowrap text-white">Past due {g.texts.due}</span>;
  }
  if (!g.texts.due) return <span className="text-ink-2">none needed</span>;
  const days = (Date.parse(g.texts.due) - now) / DAY;
  return (
    <span className="block">
      <span className="text-small text-ink-2">until {g.texts.due}</span>
      <span className="month-rule relative mt-0.5 block h-2 border-b border-hair-strong" aria-hidden="true">
        <span
          className="absolute bottom-0 left-0 h-1.5 bg-dye"
          style={{ width: `${Math.max(1, Math.min(100, (100 * days) / SPAN))}%` }}
        />
      </span>
    </span>
  );
}
