import type { Schemas } from "../api/client";
import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { minutesText } from "../shared/words";
import type { PlanProps } from "./GrindTable";

/** Grind until clean, and bore poured or one-off bearings to fit. */
export function BoreToFit({ m, unit, onOrder }: PlanProps) {
  const { bore } = m;
  if (!bore) return null;
  return (
    <div className="mt-4 flex items-start gap-4 border-t border-hair-strong pt-2" data-bore={bore.size}>
      <div className="flex-1 text-small leading-snug">
        <b className="text-body">Grind until clean, bore to fit</b>
        <br />
        {bore.decided_by} decides: it is clean at <Figure nm={bore.size} unit={unit} className="font-bold" />.
        Poured or one-off bearings then bored to{" "}
        {bore.bores[0] && <Figure nm={bore.bores[0].to} unit={unit} className="font-bold" />}, the journal as
        ground plus the aim. Measuring again {minutesText(bore.estimate.minutes)}.
      </div>
      {m.open.length === 0 && (
        <button
          type="button"
          className="h-8 border border-dye bg-paper px-2 text-small font-semibold whitespace-nowrap text-dye"
          onClick={() => onOrder({ kind: "bore_to_fit" })}
        >
          Write the order
        </button>
      )}
    </div>
  );
}

const ORDER_BUTTON =
  "h-8 border border-dye bg-paper px-2 text-small font-semibold whitespace-nowrap text-dye";

/** Journals to polish. */
export function Polishes({ m, unit, onOrder }: PlanProps) {
  if (m.polish.length === 0) return null;
  const possible = m.polish.filter((p) => p.possible).map((p) => p.station);
  return (
    <div className="mt-3 flex items-start gap-4 border-t border-hair-strong pt-2" data-to-size="polish">
      <div className="flex-1 text-small leading-snug">
        <b className="text-body">Polish to size</b>
        {m.polish.map((p) => (
          <div key={p.station} className={p.possible ? "" : "text-ink-2"}>
            <b>{p.station}</b> from <Figure nm={p.from} unit={unit} /> to{" "}
            <Figure nm={p.to} unit={unit} className="font-bold" />
            {p.possible
              ? `${p.passes != null ? `, ${p.passes} grits` : ""}${p.minutes > 0 ? `, about ${minutesText(p.minutes)} here` : ""}`
              : `, ${stepPhrase(p.to - p.from, unit)}: more than a polish takes off`}
          </div>
        ))}
        {m.polish.some((p) => p.possible) && (
          <p className="mt-1">
            {laddersText(m)}. Leave a grit once the lines of the one before are gone. Stop when the finish is
            reached, {stepPhrase(m.polish_limit, unit)} are off, the shape gets worse, or it takes half as
            long again as planned: then it goes to the grinder. Brush and flush every drilling, and measure{" "}
            {possible.join(", ")} again at every place.
          </p>
        )}
        <div className="text-note text-ink-2">
          {m.per_grit} minutes a grit and journal,{" "}
          {m.per_grit_booked ? "as the shop booked them" : "until the shop has booked three polishes"}.
        </div>
      </div>
      {possible.length > 0 && (
        <button
          type="button"
          className={ORDER_BUTTON}
          onClick={() => onOrder({ kind: "polish", stations: possible })}
        >
          Write the order
        </button>
      )}
    </div>
  );
}

/** The grits of each journal, those that go the same way together. */
function laddersText(m: Schemas["Machining"]): string {
  const possible = m.polish.filter((p) => p.possible);
  const ways = [...new Set(possible.map((p) => p.ladder.join(", ")))];
  return ways
    .map((way) => {
      const on = possible.filter((p) => p.ladder.join(", ") === way).map((p) => p.station);
      return `${on.join(", ")}: ${way}, then paste`;
    })
    .join("; ");
}

/** The set of housings to the maker's size: crush first, shells after. */
export function Resizes({ m, unit, onOrder }: PlanProps) {
  if (m.resize.length === 0) return null;
  return (
    <div className="mt-3 flex items-start gap-4 border-t border-hair-strong pt-2" data-to-size="resize">
      <div className="flex-1 text-small leading-snug">
        <b className="text-body">The set to the maker's housing</b>
        <span className="ml-2 text-ink-2">crush comes before clearance: choose shells after</span>
        {m.resize.map((r) => (
          <div key={r.station} data-resize={r.station}>
            <b>{r.station}</b> from <Figure nm={r.from} unit={unit} /> to{" "}
            <Figure nm={r.to} unit={unit} className="font-bold" />
            {r.beyond !== 0 && (
              <b>
                , {stepPhrase(r.beyond, unit)} {r.beyond < 0 ? "under" : "over"} its tolerance
              </b>
            )}
            {r.cut_cap && ", cap cut first"}
            {r.clearance != null && (
              <>
                , clearance <Figure nm={r.clearance} unit={unit} as="clearance" /> then
              </>
            )}
            {r.crush !== 0 && (
              <>
                , each half {r.crush > 0 ? "stands out" : "sinks in"} by{" "}
                <Figure nm={Math.abs(r.crush)} unit={unit} as="clearance" /> more
              </>
            )}
          </div>
        ))}
      </div>
      <button
        type="button"
        className={ORDER_BUTTON}
        onClick={() => onOrder({ kind: "resize", stations: m.resize.map((r) => r.station) })}
      >
        Write the order
      </button>
    </div>
  );
}
