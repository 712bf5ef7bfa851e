import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { minutesText } from "../shared/words";
import type { PlanProps } from "./GrindTable";

/** Grind until clean, and bore poured or one-off bearings to fit. */
export function BoreToFit({ m, unit, onOrder }: PlanProps) {
  return (
    <div className="mt-4 flex items-start gap-4 border-t border-hair-strong pt-2" data-bore={m.bore.size}>
      <div className="flex-1 text-small leading-snug">
        <b className="text-body">Grind until clean, bore to fit</b>
        <br />
        {m.bore.decided_by} decides: it is clean at{" "}
        <Figure nm={m.bore.size} unit={unit} className="font-bold" />. Poured or one-off bearings then bored
        to {m.bore.bores[0] && <Figure nm={m.bore.bores[0].to} unit={unit} className="font-bold" />}, the
        journal as ground plus the aim. Measuring again {minutesText(m.bore.estimate.minutes)}.
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

/** Journals to polish and housings to bring to size. */
export function ToSizes({ m, unit, onOrder }: PlanProps) {
  const lists = [
    { title: "Polish to size", list: m.polish, kind: "polish", cannot: "more than a polish takes off" },
    {
      title: "Resize the housing",
      list: m.resize,
      kind: "resize",
      cannot: "outside the catalogue's tolerance",
    },
  ] as const;
  return lists
    .filter(({ list }) => list.length > 0)
    .map(({ title, list, kind, cannot }) => {
      const possible = list.filter((p) => p.possible).map((p) => p.station);
      return (
        <div
          key={kind}
          className="mt-3 flex items-start gap-4 border-t border-hair-strong pt-2"
          data-to-size={kind}
        >
          <div className="flex-1 text-small leading-snug">
            <b className="text-body">{title}</b>
            {list.map((p) => (
              <div key={p.station} className={p.possible ? "" : "text-ink-2"}>
                <b>{p.station}</b> from <Figure nm={p.from} unit={unit} /> to{" "}
                <Figure nm={p.to} unit={unit} className="font-bold" />
                {p.possible
                  ? p.minutes > 0 && `, about ${minutesText(p.minutes)} here`
                  : `, ${stepPhrase(p.to - p.from, unit)}: ${cannot}`}
              </div>
            ))}
          </div>
          {possible.length > 0 && (
            <button
              type="button"
              className="h-8 border border-dye bg-paper px-2 text-small font-semibold whitespace-nowrap text-dye"
              onClick={() => onOrder({ kind, stations: possible })}
            >
              Write the order
            </button>
          )}
        </div>
      );
    });
}
