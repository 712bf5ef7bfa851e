import type { Schemas } from "../api/client";

type Sign = Schemas["Sign"];

export const SIGN_WORD: Record<Sign, string> = {
  uniform: "Even",
  edge_front: "Front edge",
  edge_rear: "Rear edge",
  both_edges: "Both edges",
  one_side: "One side",
  centre: "Centre",
  band: "Band",
  spots: "Spots, grit",
  wiped: "Wiped",
  underlayer: "Underlayer",
  seam: "Seam",
  heat_discoloured: "Heat",
  smooth: "Smooth",
  felt: "Felt, no catch",
  catches_nail: "Catches nail",
  groove: "Groove",
  ridge: "Ridge",
  chatter: "Chatter",
  heat_mark: "Heat mark",
  oil_stain: "Oil stain",
  seal_groove: "Seal groove",
  crack: "Crack",
  polished: "Bright",
  scored: "Scored",
};

export const SHELL_SIGNS: Sign[] = [
  "uniform",
  "edge_front",
  "edge_rear",
  "both_edges",
  "one_side",
  "centre",
  "band",
  "spots",
  "wiped",
  "underlayer",
  "seam",
  "heat_discoloured",
];

export const JOURNAL_SIGNS: Sign[] = [
  "smooth",
  "felt",
  "catches_nail",
  "groove",
  "ridge",
  "chatter",
  "heat_mark",
  "oil_stain",
  "seal_groove",
  "crack",
];

export const THRUST_SIGNS: Sign[] = ["smooth", "polished", "scored", "wiped", "heat_discoloured"];

/** Signs that stop the work. */
const STOP = new Set<Sign>(["catches_nail", "crack", "heat_mark"]);

export function isStop(sign: Sign): boolean {
  return STOP.has(sign);
}

const WEAR = "var(--color-ink)";

/** What a sign draws on a shell rolled flat (36 x 24) or a journal from the side. Front is left. */
function Wear({ sign }: { sign: Sign }) {
  switch (sign) {
    case "uniform":
      return <path d="M3.500 3.500h29v17h-29z" fill={WEAR} opacity="0.160" />;
    case "smooth":
      return <path d="M8 6h20M8 18h20" stroke={WEAR} strokeWidth="1" opacity="0.500" />;
    case "edge_front":
      return <path d="M1 1h5v22H1z" fill={WEAR} />;
    case "edge_rear":
      return <path d="M30 1h5v22h-5z" fill={WEAR} />;
    case "both_edges":
      return <path d="M1 1h5v22H1zM30 1h5v22h-5z" fill={WEAR} />;
    case "one_side":
      return <path d="M1 1h34v7H1z" fill={WEAR} />;
    case "centre":
      return <ellipse cx="18" cy="12" rx="9" ry="6" fill={WEAR} />;
    case "band":
      return <path d="M14 1h8v22h-8z" fill={WEAR} />;
    case "spots":
      return (
        <g fill={WEAR}>
          {[
            [8, 6],
            [14, 16],
            [20, 8],
            [27, 14],
            [29, 5],
            [9, 18],
            [22, 19],
          ].map(([x, y]) => (
            <circle key={`${x} ${y}`} cx={x} cy={y} r="1.7" />
          ))}
        </g>
      );
    case "wiped":
      return (
        <path
          d="M6 5c6 3 8-2 13 1s7 0 11 1M5 12c7 3 9-3 14 0s7 1 12 0M6 19c6 2 9-2 13 0s7 0 11-1"
          stroke={WEAR}
          strokeWidth="2"
          fill="none"
        />
      );
    case "underlayer":
      return <path d="M4 3h28v18H4zM8 7v10h20V7z" fill={WEAR} fillRule="evenodd" />;
    case "seam":
      return <path d="M1 1h34v3H1zM1 20h34v3H1z" fill={WEAR} />;
    case "heat_discoloured":
    case "heat_mark":
      return (
        <path
          d="M7 3l4 18M13 3l4 18M19 3l4 18M25 3l4 18"
          stroke={WEAR}
          strokeWidth="1.600"
          strokeDasharray="2 1.500"
        />
      );
    case "felt":
      return <path d="M18 4v16" stroke={WEAR} strokeWidth="1" />;
    case "catches_nail":
      return (
        <path d="M17 3v18M20 3v18M27 2l-6 8M27 2v5M27 2h-5" stroke={WEAR} strokeWidth="1.700" fill="none" />
      );
    case "groove":
      return <path d="M11 3h4v18h-4zM21 3h2v18h-2z" fill={WEAR} />;
    case "ridge":
      return <path d="M3 3h12v18H3zM21 3h12v18H21z" fill={WEAR} opacity="0.45" />;
    case "chatter":
      return <path d="M5 6h26M5 9h26M5 12h26M5 15h26M5 18h26" stroke={WEAR} strokeWidth="1.200" />;
    case "oil_stain":
      return <path d="M13 7c5-4 13 0 11 5s-6 7-10 5-5-8-1-10z" fill={WEAR} opacity="0.500" />;
    case "seal_groove":
      return <path d="M28 3h3v18h-3z" fill={WEAR} />;
    case "polished":
      return <path d="M4 4h28v16H4zM9 8v8h18V8z" fill={WEAR} fillRule="evenodd" opacity="0.350" />;
    case "scored":
      return <path d="M4 6h28M4 10h28M4 14h28M4 18h28" stroke={WEAR} strokeWidth="1.600" />;
    case "crack":
      return <path d="M10 3l5 5-2 4 6 3-1 6M15 8l5 1" stroke={WEAR} strokeWidth="1.800" fill="none" />;
  }
}

/** A shell rolled flat, or a journal from the side, with what was seen on it. */
export function Pictogram({ kind, signs }: { kind: "shell" | "journal"; signs: Sign[] }) {
  const stop = signs.some(isStop);
  return (
    <svg width="36" height="24" viewBox="0 0 36 24" aria-hidden="true" className="block">
      {kind === "shell" ? (
        <>
          <path d="M.5.5h35v23H.5z" fill="var(--color-paper)" stroke="var(--color-hair-strong)" />
          <path d="M18 1v3M18 20v3" stroke="var(--color-hair-strong)" />
        </>
      ) : (
        <path
          d="M.5 1.500h2v1h31v-1h2v21h-2v-1h-31v1h-2z"
          fill="var(--color-steel-2)"
          stroke="var(--color-hair-strong)"
        />
      )}
      {signs.map((s) => (
        <Wear key={s} sign={s} />
      ))}
      {stop && <path d="M1 1h34v22H1z" fill="none" stroke="var(--color-ink)" strokeWidth="2.500" />}
    </svg>
  );
}
