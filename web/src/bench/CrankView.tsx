import { bearingsOf, rowOf } from "../api/catalog";
import type { Build, Schemas, Unit } from "../api/client";
import { stepPhrase } from "../shared/figure";
import { ROW_WORD } from "../shared/words";
import { StackedTapes } from "../tape/StackedTapes";

type CrankViewProps = { build: Build; chosen: string; unit: Unit; width: number };

/** Room for the stack of tapes at the smallest window. */
const STACK = 270;

/** A row of bearings together: stacked tapes, spread and trend. */
export function CrankView({ build, chosen, unit, width }: CrankViewProps) {
  const name = rowOf(chosen);
  const row = build.assessment.rows.find((r) => r.row === name);
  const stations = bearingsOf(build, name);
  if (!name || !row) return null;
  const word = ROW_WORD[name];
  const { target } = row;
  if (!target) return <p>No target has been set for the {word} of this build.</p>;
  const trend = row.trend?.stations.map((station, i) => ({
    station,
    clearance: row.trend?.fit.line[i] ?? 0,
  }));
  return (
    <div data-view="crank">
      <StackedTapes
        stations={stations}
        target={target.window}
        trend={trend ?? []}
        chosen={chosen}
        unit={unit}
        width={width}
        rowHeight={Math.min(44, Math.max(16, STACK / stations.length))}
      />
      <dl className="mt-2 grid grid-cols-[84px_1fr] gap-y-1 text-[14px]">
        <dt className="text-small text-ink-2">Spread</dt>
        <dd>
          {row.spread == null
            ? `needs two judged ${word}`
            : `${stepPhrase(row.spread, unit)} over ${row.measured} ${word}`}
        </dd>
        <dt className="text-small text-ink-2">Trend</dt>
        <dd>{row.trend ? trendText(row.trend, unit) : `needs three judged ${word}`}</dd>
        {row.mixed_undersizes && (
          <>
            <dt className="text-small text-ink-2">Undersize</dt>
            <dd>
              <b>Journals of different undersizes</b>, or of none of this family: normally all are one. Stop
              before shells are ordered.
            </dd>
          </>
        )}
        {row.trend?.odd && (
          <>
            <dt className="text-small text-ink-2">Odd one</dt>
            <dd>
              <b>{row.trend.odd}</b> stands apart from the line of the others: look at its cap, its shells and
              its journal.
            </dd>
          </>
        )}
      </dl>
    </div>
  );
}

function trendText(trend: Schemas["RowTrend"], unit: Unit): string {
  const way = trend.fit.rise >= 0 ? "wider" : "tighter";
  const size = `${stepPhrase(trend.fit.rise, unit)} ${way} from front to rear`;
  return trend.leans
    ? `${size}: look at the tunnel and at the crank's straightness.`
    : `${size}, no more than the scatter explains.`;
}
