import type { Schemas } from "../api/client";

/** Size of the drawing of one bearing taken apart. */
export const CAP = { width: 86, height: 236 };

/** Middle of the journal, and of the number on the cap. */
const JOURNAL = 97;
const NUMBER = 196;

type CapDrawingProps = {
  station: string;
  /** Whether the journal is measured. */
  measured: boolean;
  fastener: Schemas["FastenerKind"];
  washers: Schemas["Washers"] | null | undefined;
  outer: boolean;
  side: boolean;
  /** The halves that are other than recorded. */
  changed: { upper: boolean; lower: boolean };
};

/** Block, shells, journal and cap of one bearing in the order in which they come together, as seen from the front. */
export function CapDrawing({ station, measured, fastener, washers, outer, side, changed }: CapDrawingProps) {
  const shell = (is: boolean) => (is ? "var(--color-dye)" : "var(--color-steel-3)");
  const line = { stroke: "var(--color-ink)", strokeWidth: 1.25 };
  return (
    <svg
      width={CAP.width}
      height={CAP.height}
      viewBox={`0 0 ${CAP.width} ${CAP.height}`}
      aria-hidden="true"
      className="block"
    >
      <defs>
        <pattern id={`cut-${station}`} width="6" height="6" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="var(--color-steel-2)" />
          <path d="M-1 7L7 -1M-1 1L1 -1M5 7L7 5" stroke="var(--color-steel-4)" strokeWidth="0.8" />
        </pattern>
      </defs>
      <path d="M1 1H85V36H71A28 28 0 0 0 15 36H1Z" fill={`url(#cut-${station})`} {...line} />
      <path
        d="M19 64A24 24 0 0 1 67 64H61.5A18.500 18.500 0 0 0 24.500 64Z"
        fill={shell(changed.upper)}
        {...line}
      />
      <circle
        cx="43"
        cy={JOURNAL}
        r="23.500"
        fill={measured ? "var(--color-dye)" : "var(--color-paper)"}
        stroke="var(--color-dye)"
        strokeWidth="1.5"
        strokeDasharray={measured ? undefined : "4 3"}
      />
      <text
        x="43"
        y={JOURNAL + 5.5}
        textAnchor="middle"
        className="num text-[15px] font-bold"
        fill={measured ? "var(--color-white)" : "var(--color-dye)"}
      >
        {station}
      </text>
      <path
        d="M19 130A24 24 0 0 0 67 130H61.5A18.500 18.500 0 0 1 24.500 130Z"
        fill={shell(changed.lower)}
        {...line}
      />
      <path d="M1 156H15A28 28 0 0 0 71 156H85V202L77 214H9L1 202Z" fill={`url(#cut-${station})`} {...line} />
      {side &&
        [0, 80].map((x) => <rect key={x} x={x} y={176} width="6" height="11" fill="var(--color-ink)" />)}
      {(outer ? [7, 22, 64, 79] : [11, 75]).map((x) => (
        <Fastener key={x} x={x} kind={fastener} washers={washers} />
      ))}
      <rect x="30" y={NUMBER - 11} width="26" height="22" fill="var(--color-paper)" {...line} />
    </svg>
  );
}

/** A nut under its stud, which shows beyond it, or the head of a bolt, each with what lies between it and the cap. */
function Fastener({
  x,
  kind,
  washers,
}: {
  x: number;
  kind: Schemas["FastenerKind"];
  washers: Schemas["Washers"] | null | undefined;
}) {
  const washer = washers !== "none";
  const top = washer ? 221 : 216;
  return (
    <g stroke="var(--color-ink)">
      <path d={`M${x} 36V156`} strokeDasharray="7 3 2 3" />
      {washer &&
        (washers === "chamfered" ? (
          <path d={`M${x - 7} 216H${x + 7}L${x + 5} 220H${x - 5}Z`} fill="var(--color-paper)" />
        ) : (
          <rect x={x - 7} y="216" width="14" height="4" fill="var(--color-paper)" />
        ))}
      <rect
        x={x - 5.5}
        y={top}
        width="11"
        height="9"
        fill={kind === "bolts" ? "var(--color-ink)" : "var(--color-steel-4)"}
      />
      {kind === "studs" && <path d={`M${x} ${top + 9}V${top + 14}`} strokeWidth="4" />}
    </g>
  );
}
