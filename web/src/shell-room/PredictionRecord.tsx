import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { api, type Schemas, type Unit, unwrap } from "../api/client";
import { stepPhrase, stepText } from "../shared/figure";
import { useWidth } from "../shared/useWidth";
import { dayText, minutesText } from "../shared/words";

type View = Schemas["PredictionsView"];
type Check = Schemas["PredictionCheck"];

/** How well the shop's predictions have held: measured less predicted, bearing by bearing, over builds. */
export function PredictionRecord() {
  const [ref, width] = useWidth(540);
  const record = useQuery({
    queryKey: ["predictions"],
    queryFn: () => unwrap(api.GET("/api/v1/predictions")),
  });
  const view = record.data;
  return (
    <section ref={ref} aria-label="Predictions" className="mt-5 border-t-[3px] border-ink pt-2">
      <h2 className="text-lead font-bold">What was promised, what was measured</h2>
      {view?.checked === 0 && (
        <p className="mt-1 text-small text-ink-2">
          Nothing to compare yet: fit shells from a proposal and measure over them.
        </p>
      )}
      {view && view.checked > 0 && <Record view={view} width={width} />}
    </section>
  );
}

function Record({ view, width }: { view: View; width: number }) {
  const checks = [...view.fittings]
    .reverse()
    .flatMap((f) => f.checks.map((check) => ({ check, build: f.build })));
  const timed = view.fittings.filter((f) => f.estimated != null && f.booked != null);
  return (
    <>
      <p className="text-small" data-checked={view.checked}>
        <b>
          {view.agreed} of {view.checked}
        </b>{" "}
        came out as promised
        {view.bias != null &&
          (view.bias === 0
            ? ", and they lean neither way."
            : `; on the average ${stepPhrase(view.bias, "in")} ${view.bias > 0 ? "more" : "less"} than promised.`)}
      </p>
      <ErrorPlot checks={checks} unit="in" width={width} />
      {timed.map((f) => (
        <p key={`${f.build} ${f.at}`} className="mt-1 text-note text-ink-2" data-booked={f.booked}>
          {f.build}, {dayText(f.at)}: estimated {minutesText(f.estimated ?? 0)}, took{" "}
          {minutesText(f.booked ?? 0)}.
        </p>
      ))}
    </>
  );
}

const HEIGHT = 154;
const MIDDLE = 74;
const LEFT = 34;

/** Differences about nought; the whisker is what both sides leave open together. */
function ErrorPlot({
  checks,
  unit,
  width,
}: {
  checks: { check: Check; build: string }[];
  unit: Unit;
  width: number;
}) {
  const id = useId();
  const step = unit === "in" ? 2_540 : 1_000;
  const most = Math.max(...checks.map(({ check }) => Math.abs(check.difference) + check.combined), 3 * step);
  const y = (nm: number) => MIDDLE - (nm / most) * (MIDDLE - 18);
  const gap = (width - LEFT - 10) / Math.max(checks.length, 8);
  const x = (i: number) => LEFT + gap * (i + 0.5);
  const builds = checks.map((c) => c.build);
  return (
    <svg
      role="img"
      aria-label={checks
        .map(
          ({ check, build }) =>
            `${build} ${check.pair.station} ${stepText(check.difference, unit)}${check.agrees ? "" : " missed"}`,
        )
        .join("; ")}
      width={width}
      height={HEIGHT}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="mt-1 block"
    >
      {[-2, -1, 0, 1, 2].map((n) => {
        const nm = (Math.round(most / step / 2.5) || 1) * n * step;
        return Math.abs(nm) > most ? null : (
          <g key={n}>
            <path
              d={`M${LEFT} ${y(nm)}H${width}`}
              stroke={n === 0 ? "var(--color-ink)" : "var(--color-hair)"}
            />
            <text x={LEFT - 6} y={y(nm) + 4} textAnchor="end" className="t-note" fill="var(--color-ink-2)">
              {stepText(nm, unit)}
            </text>
          </g>
        );
      })}
      <text x="0" y="10" className="t-note" fill="var(--color-ink-2)">
        tenths
      </text>
      {checks.map(({ check, build }, i) => (
        <g
          key={`${id}${build}${check.pair.station}${check.at}`}
          className={check.agrees ? "text-dye" : "text-tight"}
        >
          <path
            d={`M${x(i) - 4} ${y(check.combined)}h8M${x(i)} ${y(check.combined)}V${y(-check.combined)}M${x(i) - 4} ${y(-check.combined)}h8`}
            stroke="var(--color-ink-3)"
          />
          <path
            d={`M${x(i)} ${y(check.difference) - 6}l6 6l-6 6l-6 -6z`}
            fill={check.agrees ? "currentColor" : "var(--color-paper)"}
            stroke="currentColor"
            strokeWidth="1.6"
          />
          <text x={x(i)} y={HEIGHT - 18} textAnchor="middle" className="t-note" fill="var(--color-ink-2)">
            {check.pair.station}
          </text>
          {builds[i - 1] !== build && (
            <text x={x(i) - 8} y={HEIGHT - 3} className="t-note" fill="var(--color-ink)" fontWeight="700">
              {build}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}
