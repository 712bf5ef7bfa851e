import { useId } from "react";
import type { Schemas, Unit } from "../api/client";
import { SvgDigits } from "../shared/Figure";
import { lineText, plain, sizeParts } from "../shared/figure";

type FilletSectionProps = { plan: Schemas["FilletPlan"]; unit: Unit; width: number };

/** Pixels of the drawing, of the cheek at its left, and of the journal below. */
const HEIGHT = 268;
const CHEEK = 62;
const JOURNAL = 50;
/** The ring shows the place five times larger. */
const RING = { r: 78, times: 5 };

/** A section true to scale: crank, rod, shell, and a ring that magnifies where the shell comes nearest. */
export function FilletSection({ plan, unit, width }: FilletSectionProps) {
  const id = useId().replace(/:/g, "");
  const { radius, now, after, take, margin } = plan;
  const wall = plan.wall ?? radius * 0.7;
  const span = Math.max(radius * 3.1, after.flat * 2);
  const scale = (width - CHEEK) / span;
  const x = (nm: number) => CHEEK + nm * scale;
  const y = (nm: number) => HEIGHT - JOURNAL - nm * scale;
  const shell = (edge: typeof now) =>
    `M${x(edge.flat)} ${y(0)}H${width}V${y(wall)}H${x(edge.inset)}V${y(edge.corner)}Z`;
  const crank = `M0 0H${x(0)}V${y(radius)}A${radius * scale} ${radius * scale} 0 0 0 ${x(radius)} ${y(0)}H${width}V${HEIGHT}H0Z`;
  const up = plan.body ? plan.body.up : 0;
  const along = plan.body ? plan.body.along : 0;
  const rod = `M${x(0)} 0V${y(wall + up)}L${x(along)} ${y(wall)}H${width}V0Z`;
  // The point that rides, or comes nearest: where the flat begins, else the corner of the chamfer.
  const rides = now.room < 0;
  const near = rides ? { x: now.flat, y: 0 } : { x: now.inset, y: now.corner };
  const ring = { cx: width - RING.r - 6, cy: RING.r + 4 };
  const nearest = onArc(radius, { x: now.inset, y: now.corner });
  const from = { x: x(near.x), y: y(near.y) };
  const drawing = (
    <g id={`${id}s`}>
      <path d={rod} className="f-rod" fill={`url(#${id}h)`} />
      <path d={shell(now)} className="f-shell" />
      {take > 0 && (
        <path
          d={`M${x(now.flat)} ${y(0)}H${x(after.flat)}L${x(after.inset)} ${y(after.corner)}V${y(wall)}H${x(now.inset)}V${y(now.corner)}Z`}
          className="f-take"
          fill={`url(#${id}t)`}
        />
      )}
      <path d={crank} className="f-crank" />
      {rides && <path d={shell(now)} clipPath={`url(#${id}c)`} className="f-overlap" />}
      <path
        d={`M${x(margin)} ${y(radius)}A${(radius - margin) * scale} ${(radius - margin) * scale} 0 0 0 ${x(radius)} ${y(margin)}`}
        className="f-margin"
      />
      {nearest && (
        <path d={`M${x(now.inset)} ${y(now.corner)}L${x(nearest.x)} ${y(nearest.y)}`} className="f-room" />
      )}
      <circle cx={x(now.inset)} cy={y(now.corner)} r="2.6" className="f-dot" />
    </g>
  );
  const unitStep = unit === "in" ? 1_270_000 : 1_000_000;
  const marks = Array.from({ length: Math.floor(span / unitStep) + 1 }, (_, i) => i * unitStep);
  return (
    <svg
      width={width}
      height={HEIGHT}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      role="img"
      aria-label={`Section of the ${plan.end} fillet of ${plan.at}: radius, shell and rod to scale`}
      className="mt-1.5 block border border-ink"
    >
      <defs>
        <pattern
          id={`${id}h`}
          width="9"
          height="9"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="9" height="9" fill="var(--color-steel-1)" />
          <path d="M0 0v9" stroke="var(--color-hair-strong)" />
        </pattern>
        <pattern
          id={`${id}t`}
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(-45)"
        >
          <rect width="5" height="5" fill="var(--color-paper)" />
          <path d="M0 0v5" stroke="var(--color-dye)" strokeWidth="2" />
        </pattern>
        <clipPath id={`${id}c`}>
          <path d={crank} />
        </clipPath>
        <clipPath id={`${id}r`}>
          <circle cx={ring.cx} cy={ring.cy} r={RING.r} />
        </clipPath>
      </defs>
      <rect width={width} height={HEIGHT} fill="var(--color-paper)" />
      {drawing}
      {marks.map((nm) => (
        <g key={nm}>
          <path d={`M${x(nm)} ${HEIGHT}v-7`} stroke="#fff" />
          <text x={x(nm)} y={HEIGHT - 11} textAnchor="middle" className="f-scale">
            {nm === 0
              ? "0"
              : plain(sizeParts(nm, unit))
                  .replace(/^0/, "")
                  .replace(/0{1,2}$/, "")}
          </text>
        </g>
      ))}
      <text x={CHEEK - 8} y={y(radius * 0.72)} textAnchor="end" className="f-on-dye">
        cheek
      </text>
      <path
        d={`M${x(radius)} ${y(radius)}L${x(radius * 0.06)} ${y(radius * 0.658)}M${x(radius) - 5} ${y(radius)}h10m-5 -5v10`}
        className="f-dim"
      />
      <Letter at={[x(radius * 0.36), y(radius * 0.86)]} letter="R" nm={radius} unit={unit} />
      <path d={`M${x(radius * 0.1)} ${y(wall * 0.84)}H${x(now.inset)}`} className="f-dim" />
      <Letter at={[x(now.inset) - 68, y(wall * 0.84) - 5]} letter="i" nm={now.inset} unit={unit} />
      <text x={x(after.inset) + 26} y={y(wall * 0.5)} className="f-name">
        shell{plan.wall != null && ", wall "}
        {plan.wall != null && <Num text={plain(sizeParts(plan.wall, unit)).replace(/^0/, "")} />}
      </text>
      <text x={x(after.inset) + 26} y={y(wall) - 10} className="f-name">
        {plan.at.startsWith("FP") ? "rod" : "saddle"}
      </text>
      {take > 0 && (
        <text x={x(after.inset) + 8} y={y(wall) + 16} className="f-taken">
          take <Num text={plain(sizeParts(take, unit)).replace(/^0/, "")} />
        </text>
      )}
      <path
        d={`M${from.x} ${from.y}L${ring.cx - RING.r * 0.72} ${ring.cy + RING.r * 0.72}`}
        className="f-lead"
      />
      <circle cx={from.x} cy={from.y} r={RING.r / RING.times} className="f-lens" />
      <g clipPath={`url(#${id}r)`}>
        <rect
          x={ring.cx - RING.r}
          y={ring.cy - RING.r}
          width={2 * RING.r}
          height={2 * RING.r}
          fill="var(--color-paper)"
        />
        <use
          href={`#${id}s`}
          transform={`translate(${ring.cx - from.x * RING.times} ${ring.cy - from.y * RING.times}) scale(${RING.times})`}
        />
      </g>
      <circle cx={ring.cx} cy={ring.cy} r={RING.r} className="f-ring" />
      <text x={ring.cx} y={ring.cy + RING.r - 14} textAnchor="middle" className="f-room-text">
        <Num text={lineText(now.room, unit)} />
      </text>
    </svg>
  );
}

/** A figure in the drawing, in the letters of figures. */
function Num({ text }: { text: string }) {
  return (
    <tspan className="f-num">
      <SvgDigits text={text} />
    </tspan>
  );
}

type At = { x: number; y: number };

/** Where a line square to the arc meets it, from a point inside its corner. */
function onArc(radius: number, at: At): At | undefined {
  const away = { x: at.x - radius, y: at.y - radius };
  if (away.x >= 0 || away.y >= 0) return undefined;
  const far = Math.hypot(away.x, away.y);
  return { x: radius + (away.x * radius) / far, y: radius + (away.y * radius) / far };
}

function Letter({ at, letter, nm, unit }: { at: [number, number]; letter: string; nm: number; unit: Unit }) {
  return (
    <text x={at[0]} y={at[1]} className="f-name">
      <tspan className="f-letter">{letter}</tspan> <Num text={plain(sizeParts(nm, unit)).replace(/^0/, "")} />
    </text>
  );
}
