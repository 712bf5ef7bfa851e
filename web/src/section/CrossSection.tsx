import { useId } from "react";
import type { State } from "../api/client";
import { stateHue } from "../marks/Mark";

type CrossSectionProps = {
  /** What the cap is bolted to. */
  around: "block" | "rod";
  /** What is being touched, and at what angle from vertical. */
  measuring: { what: "journal" | "bore"; angle: number } | undefined;
  /** State of the clearance, for the gap's hue. */
  state: State | undefined;
  /** Drawn gap in pixels on each side. */
  gap: number;
  /** How many times too large the gap is drawn. */
  factor: number | undefined;
};

const CX = 150;
const CY = 98;
const SHAFT = 50;
const WALL = 12;

/** A point at an angle from vertical, clockwise. */
function at(radius: number, angle: number): [number, number] {
  const a = (angle * Math.PI) / 180;
  return [CX + radius * Math.sin(a), CY - radius * Math.cos(a)];
}

/** The bearing cut across: block or rod above, cap below, shells between, the journal in the middle. */
export function CrossSection({ around, measuring, state, gap, factor }: CrossSectionProps) {
  const id = useId();
  const bore = SHAFT + gap;
  const housing = bore + WALL;
  const half = (r: number, sweep: 0 | 1) => `M${CX - r} ${CY}A${r} ${r} 0 0 ${sweep} ${CX + r} ${CY}`;
  const shell = (sweep: 0 | 1) =>
    `${half(housing, sweep)}H${CX + bore}A${bore} ${bore} 0 0 ${sweep === 1 ? 0 : 1} ${CX - bore} ${CY}z`;
  return (
    <figure className="m-0 w-[256px]">
      <svg
        role="img"
        aria-label="Cross-section of the bearing"
        width="256"
        height="164"
        viewBox="0 0 300 192"
        className="block"
      >
        <defs>
          {[45, -45].map((turn) => (
            <pattern
              key={turn}
              id={`${id}${turn}`}
              width="7"
              height="7"
              patternUnits="userSpaceOnUse"
              patternTransform={`rotate(${turn})`}
            >
              <rect width="7" height="7" fill="var(--color-steel-1)" />
              <rect width="1" height="7" fill="var(--color-steel-4)" />
            </pattern>
          ))}
        </defs>
        <path d={`M62 1h176V${CY}H62z`} fill={`url(#${id}45)`} stroke="var(--color-ink-3)" />
        <path
          d={`M62 ${CY}h176v64l-18 28h-140l-18 -28z`}
          fill={`url(#${id}-45)`}
          stroke="var(--color-ink-3)"
        />
        <circle cx={CX} cy={CY} r={housing} fill="var(--color-paper)" />
        <path d={shell(1)} fill="var(--color-steel-3)" stroke="var(--color-ink)" strokeWidth="1.3" />
        <path d={shell(0)} fill="var(--color-steel-3)" stroke="var(--color-ink)" strokeWidth="1.3" />
        <path
          d={`M50 ${CY}H${CX - bore}M${CX + bore} ${CY}H250`}
          stroke="var(--color-ink)"
          strokeWidth="1.8"
        />
        <rect
          x={CX - 3.5}
          y="1"
          width="7"
          height={CY - bore - 1}
          fill="var(--color-paper)"
          stroke="var(--color-ink-3)"
        />
        <circle cx={CX} cy={CY} r={SHAFT} fill="var(--color-dye)" />
        {state && (
          <path
            d={`M${CX} ${CY - bore}V${CY - SHAFT}M${CX} ${CY + SHAFT}V${CY + bore}`}
            className={stateHue(state)}
            stroke="currentColor"
            strokeWidth="3.5"
          />
        )}
        <Advisory radius={bore} active={measuring?.what === "bore" ? measuring.angle : undefined} />
        <JournalAngles active={measuring?.what === "journal" ? measuring.angle : undefined} />
        {measuring?.what === "bore" && <BoreGauge angle={measuring.angle} radius={bore} />}
        <text x="58" y="88" textAnchor="end" className="s-note">
          {around}
        </text>
        <text x="58" y="116" textAnchor="end" className="s-note">
          cap
        </text>
      </svg>
      <figcaption className="text-center text-note text-ink-2">
        {factor ? `Gap drawn \u00d7${factor}. ` : ""}
        {measuring ? "White: the reading you are taking." : ""}
      </figcaption>
    </figure>
  );
}

/** The two directions a journal is touched in; the one being taken is white, with anvils. */
function JournalAngles({ active }: { active: number | undefined }) {
  return [0, 90].map((angle) => {
    const on = active === angle;
    const [x1, y1] = at(SHAFT - (on ? 1 : 4), angle);
    const [x2, y2] = at(SHAFT - (on ? 1 : 4), angle + 180);
    const [tx, ty] = angle === 0 ? [CX + 7, CY - 26] : [CX - 40, CY - 7];
    return (
      <g key={angle}>
        <path d={`M${x1} ${y1}L${x2} ${y2}`} stroke={on ? "#fff" : "#b4bbea"} strokeWidth={on ? 2.8 : 1.1} />
        {on && <Anvils angle={angle} radius={SHAFT + 5} />}
        <text x={tx} y={ty} className="s-on-dye" fontWeight={on ? 700 : 400}>
          {angle}°
        </text>
      </g>
    );
  });
}

function Anvils({ angle, radius }: { angle: number; radius: number }) {
  return [angle, angle + 180].map((a) => {
    const [x, y] = at(radius, a);
    return (
      <rect
        key={a}
        x={x - 7}
        y={y - 4.5}
        width="14"
        height="9"
        fill="var(--color-paper)"
        stroke="var(--color-dye)"
        strokeWidth="2"
        transform={`rotate(${a} ${x} ${y})`}
      />
    );
  });
}

/** Radius at which a direction at 45 degrees leaves the drawn block. */
const BEYOND_BLOCK = 128;

/** Directions of the bore that only inform, dashed. */
function Advisory({ radius, active }: { radius: number; active: number | undefined }) {
  return [45, -45].map((angle) => {
    const [x1, y1] = at(radius - 7, angle);
    const [x2, y2] = at(BEYOND_BLOCK, angle);
    const on = active === angle;
    return (
      <g key={angle}>
        <path
          d={`M${x1} ${y1}L${x2} ${y2}`}
          stroke="var(--color-ink)"
          strokeWidth={on ? 2 : 1}
          strokeDasharray="4 3"
        />
        <text
          x={x2 + (angle > 0 ? 4 : -4)}
          y={y2 + 6}
          textAnchor={angle > 0 ? "start" : "end"}
          className="s-note"
        >
          {Math.abs(angle)}°
        </text>
      </g>
    );
  });
}

/** The bore gauge across the bore. */
function BoreGauge({ angle, radius }: { angle: number; radius: number }) {
  const [x1, y1] = at(radius, angle);
  const [x2, y2] = at(radius, angle + 180);
  return (
    <g>
      <path d={`M${x1} ${y1}L${x2} ${y2}`} stroke="#fff" strokeWidth="3" />
      {[angle, angle + 180].map((a) => {
        const [x, y] = at(radius - 3, a);
        return (
          <circle
            key={a}
            cx={x}
            cy={y}
            r="4.5"
            fill="var(--color-paper)"
            stroke="var(--color-dye)"
            strokeWidth="2"
          />
        );
      })}
    </g>
  );
}
