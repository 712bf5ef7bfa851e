import { scaleLinear } from "d3-scale";
import type { Schemas, Unit } from "../api/client";
import { clearanceParts, plain } from "../shared/figure";

type Step = Schemas["TorqueStep"];
type Torque = Extract<Step, { kind: "torque" }>;

const TOP = 6;
const BAR = 24;
const HEIGHT = 56;
/** What a step by angle or by stretch takes of the scale: it has no torque to stand at. */
const BEYOND = 104;
/** Newton metres in a pound foot, to draw both on one scale. */
const NEWTONS: Record<Torque["unit"], number> = { newton_metre: 1, pound_foot: 1.3558 };
const UNIT_WORD: Record<Torque["unit"], string> = { newton_metre: "Nm", pound_foot: "lb-ft" };

const isTorque = (step: Step): step is Torque => step.kind === "torque";

function beyondText(step: Exclude<Step, Torque>, unit: Unit): string {
  return step.kind === "angle"
    ? `then ${step.degrees}\u00b0`
    : `to ${plain(clearanceParts(step.stretch, unit))} stretch`;
}

/** The unit the scale is drawn in: that of the first torque. */
export function torqueUnit(steps: Step[]): string {
  const first = steps.find(isTorque);
  return first ? UNIT_WORD[first.unit] : "";
}

/** The steps of tightening along one scale of torque; what goes beyond a torque is hatched at its end. */
export function TorqueScale({ steps, width, unit }: { steps: Step[]; width: number; unit: Unit }) {
  const torques = steps.filter(isTorque);
  const beyond = steps.filter((s): s is Exclude<Step, Torque> => !isTorque(s));
  const first = torques[0];
  if (!first) return <p className="py-2 text-small text-ink-2">No step names a torque.</p>;
  const at = (t: Torque) => ((t.tenths / 10) * NEWTONS[t.unit]) / NEWTONS[first.unit];
  const values = torques.map(at);
  const room = width - beyond.length * BEYOND - 14;
  const scale = scaleLinear()
    .domain([0, Math.max(...values) * (beyond.length > 0 ? 1 : 1.2)])
    .range([0, room]);
  const end = scale(Math.max(...values));
  const edges = [0, ...values.map(scale)];
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label={`${steps.length} steps of torque`}
      className="block"
    >
      <rect x="0" y={TOP} width={end} height={BAR} className="fill-paper" />
      {scale.ticks(Math.max(4, Math.round(room / 16))).map((tick) => (
        <path key={tick} d={`M${scale(tick)} ${TOP + BAR}v5`} className="stroke-hair-strong" />
      ))}
      {scale.ticks(8).map((tick) => (
        <g key={tick}>
          <path d={`M${scale(tick)} ${TOP + BAR}v9`} className="stroke-ink-2" />
          {edges.slice(1).every((e) => Math.abs(e - scale(tick)) > 26) && (
            <text
              x={scale(tick)}
              y={HEIGHT - 6}
              textAnchor={tick === 0 ? "start" : "middle"}
              className="num fill-ink-2 text-[13px]"
            >
              {tick}
            </text>
          )}
        </g>
      ))}
      <path d={`M0 ${TOP + BAR}H${width - 1}`} className="stroke-ink" strokeWidth="1.25" />
      {torques.map((t, i) => {
        const [from, to] = [edges[i] ?? 0, edges[i + 1] ?? 0];
        return (
          <g key={i}>
            <path d={`M${to} ${TOP - 6}V${TOP + BAR}`} className="stroke-ink" strokeWidth="4" />
            {Math.abs(to - from) > 24 && (
              <text
                x={(from + to) / 2}
                y={TOP + 17}
                textAnchor="middle"
                className="num fill-ink-2 text-[13px]"
              >
                {i + 1}
              </text>
            )}
            <text x={to} y={HEIGHT - 6} textAnchor="middle" className="num fill-ink text-[13px] font-bold">
              {t.tenths / 10}
            </text>
          </g>
        );
      })}
      {beyond.map((step, i) => (
        <g key={i} transform={`translate(${end + 2 + i * BEYOND} ${TOP})`}>
          <rect width={BEYOND - 4} height={BAR} className="fill-dye-wash stroke-dye" strokeDasharray="4 3" />
          <text
            x={(BEYOND - 4) / 2}
            y="19"
            textAnchor="middle"
            className="fill-dye text-[13px] font-semibold"
          >
            {beyondText(step, unit)}
          </text>
        </g>
      ))}
    </svg>
  );
}
