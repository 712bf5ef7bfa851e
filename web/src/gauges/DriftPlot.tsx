import type { Schemas, Unit } from "../api/client";
import { SvgDigits } from "../shared/Figure";
import { stepText } from "../shared/figure";

type DriftPlotProps = {
  session: Pick<Schemas["Session"], "opened_at" | "closed_at" | "drift" | "gauge">;
  /** Times of the readings. */
  readings: number[];
  unit: Unit;
};

const WIDTH = 250;
const HEIGHT = 54;
const MIDDLE = 26;

/** How a gauge walked over its session: the band of one step, the line to the close check, a tick a reading. */
export function DriftPlot({ session, readings, unit }: DriftPlotProps) {
  const { drift, opened_at: from } = session;
  const to = session.closed_at ?? Math.max(from + 1, ...readings);
  const step = session.gauge.resolution;
  const scale = 14 / Math.max(step, Math.abs(drift ?? 0) / 1.5);
  const x = (at: number) => 4 + ((at - from) / Math.max(1, to - from)) * (WIDTH - 46);
  const end = drift == null ? undefined : MIDDLE - drift * scale;
  const band = step * scale;
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true">
      <rect x="4" y={MIDDLE - band} width={WIDTH - 46} height={2 * band} fill="var(--color-steel-2)" />
      <path d={`M4 ${MIDDLE}H${WIDTH - 42}`} stroke="var(--color-hair-strong)" strokeDasharray="3 3" />
      <path d={`M4 ${MIDDLE - 12}v24`} stroke="var(--color-ink)" strokeWidth="2" />
      {readings.map((at, i) => (
        <path key={`${at}-${i}`} d={`M${x(at)} ${HEIGHT - 7}v5`} stroke="var(--color-ink-3)" />
      ))}
      {end !== undefined && (
        <>
          <path
            d={`M4 ${MIDDLE}L${WIDTH - 42} ${end}`}
            stroke="var(--color-dye)"
            strokeWidth="2"
            fill="none"
          />
          <path d={`M${WIDTH - 42} ${MIDDLE - 12}v24`} stroke="var(--color-ink)" strokeWidth="2" />
          <text x={WIDTH - 36} y={Math.min(HEIGHT - 14, Math.max(10, end + 4))} className="t-num">
            <SvgDigits text={drift === 0 ? "0" : stepText(drift ?? 0, unit)} />
          </text>
          <text x={WIDTH - 36} y={Math.min(HEIGHT - 2, Math.max(22, end + 16))} className="t-note">
            {unit === "in" ? "tenths" : "µm"}
          </text>
        </>
      )}
    </svg>
  );
}
