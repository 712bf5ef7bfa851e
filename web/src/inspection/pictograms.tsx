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
  pits: "Pits",
  lining_lifted: "Lining lifted",
  back_fretted: "Back fretted",
  coating_gone: "Coating gone",
  scored_one_side: "Scored, one side",
  scored_around: "Scored around",
  ring_ridge: "Ring ridge",
  glazed: "Glazed",
  glazed_one_side: "Glazed, one side",
  four_corners: "Four corners",
  rust_line: "Rust line",
  scuffed_thrust: "Scuffed, thrust",
  scuffed_both: "Scuffed, both",
  crown_dents: "Crown dented",
  ring_stuck: "Ring stuck",
  pin_boss_worn: "Pin bore worn",
  edge_melted: "Edge melted",
  edge_worn: "Edge worn",
  ends_butted: "Ends bright",
  flutter: "Flutter",
  bolt_stretched: "Bolt stretched",
  seat_fretted: "Seat fretted",
  bent_marks: "Bent marks",
  blued: "Blued",
  leak_track: "Leak track",
  fretted: "Fretted",
  eroded: "Eroded",
  spalled: "Spalled",
  concave: "Hollow",
  scuffed: "Scuffed",
  burnt: "Burnt",
  guide_worn: "Guide worn",
  ring_slipped: "Ring slipped",
  galled: "Galled",
};

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
    case "pits":
      return (
        <g fill={WEAR}>
          {PITS.map(([x, y, r]) => (
            <circle key={`${x} ${y}`} cx={x} cy={y} r={r} />
          ))}
        </g>
      );
    case "lining_lifted":
      return <path d="M4 15c4-9 9-9 13-3s9 4 14-4M4 18h28" stroke={WEAR} strokeWidth="1.800" fill="none" />;
    case "back_fretted":
      return <path d="M4 20h3v2H4zM10 20h3v2h-3zM17 20h3v2h-3zM24 20h3v2h-3zM30 20h3v2h-3z" fill={WEAR} />;
    case "coating_gone":
      return <path d="M5 5h26v14H5z" fill="none" stroke={WEAR} strokeDasharray="3 2" strokeWidth="1.600" />;
    case "scored_one_side":
      return <path d="M5 3v18M8 3v18M11 3v18" stroke={WEAR} strokeWidth="1.500" />;
    case "scored_around":
      return <path d="M5 3v18M11 3v18M18 3v18M25 3v18M31 3v18" stroke={WEAR} strokeWidth="1.500" />;
    case "ring_ridge":
      return <path d="M3 5h30M3 7.500h30" stroke={WEAR} strokeWidth="2" />;
    case "glazed":
      return <path d="M5 19L19 5M12 19L26 5M19 19L31 7" stroke={WEAR} strokeWidth="1" opacity="0.600" />;
    case "glazed_one_side":
      return <path d="M4 19L12 5M8 19l8-14M12 19l6-11" stroke={WEAR} strokeWidth="1" opacity="0.700" />;
    case "four_corners":
      return <path d="M2 2h6v6H2zM28 2h6v6h-6zM2 16h6v6H2zM28 16h6v6h-6z" fill={WEAR} />;
    case "rust_line":
      return <path d="M3 14c4-2 7 2 11 0s7 2 11 0 5 1 8 0" stroke={WEAR} strokeWidth="2.200" fill="none" />;
    case "scuffed_thrust":
      return <path d="M3 8h9v13H3zM5 8v13M8 8v13" fill={WEAR} opacity="0.700" />;
    case "scuffed_both":
      return <path d="M3 8h8v13H3zM25 8h8v13h-8z" fill={WEAR} opacity="0.700" />;
    case "crown_dents":
      return (
        <path d="M6 2l3 4 3-4M16 2l3 4 3-4M25 2l3 4 3-4" stroke={WEAR} strokeWidth="1.600" fill="none" />
      );
    case "ring_stuck":
      return <path d="M3 8h30v3H3zM14 6l8 7M22 6l-8 7" stroke={WEAR} strokeWidth="1.500" fill="none" />;
    case "pin_boss_worn":
      return <ellipse cx="18" cy="13" rx="7" ry="5" fill="none" stroke={WEAR} strokeWidth="2.600" />;
    case "edge_melted":
      return <path d="M26 1h9v9c-2 4-5-1-6 3s-3-3-3-6z" fill={WEAR} />;
    case "edge_worn":
      return <path d="M3 3h30L29 7H3z" fill={WEAR} />;
    case "ends_butted":
      return <path d="M12 6h5v12h-5zM19 6h5v12h-5z" fill={WEAR} />;
    case "flutter":
      return (
        <path
          d="M3 8l4 3 4-3 4 3 4-3 4 3 4-3 4 3M3 15l4 3 4-3 4 3 4-3 4 3 4-3 4 3"
          stroke={WEAR}
          strokeWidth="1.400"
          fill="none"
        />
      );
    case "bolt_stretched":
      return (
        <path
          d="M14 3h8M18 3v18M14 21h8M15 9h6M16 12h4M15 15h6"
          stroke={WEAR}
          strokeWidth="1.700"
          fill="none"
        />
      );
    case "seat_fretted":
      return <path d="M3 12h30M6 9v6M12 9v6M18 9v6M24 9v6M30 9v6" stroke={WEAR} strokeWidth="1.500" />;
    case "bent_marks":
      return <path d="M8 3c0 7 4 9 9 9s10 3 10 9" stroke={WEAR} strokeWidth="2" fill="none" />;
    case "blued":
      return (
        <path
          d="M3 3l30 18M3 10l19 11M14 3l19 11"
          stroke={WEAR}
          strokeWidth="1.400"
          strokeDasharray="2.500 1.500"
        />
      );
    case "leak_track":
      return <path d="M3 12h8c3 0 3-6 7-6s3 10 7 10 3-4 8-4" stroke={WEAR} strokeWidth="2.200" fill="none" />;
    case "fretted":
      return (
        <path d="M6 5h4v4H6zM16 5h4v4h-4zM26 5h4v4h-4zM6 15h4v4H6zM16 15h4v4h-4zM26 15h4v4h-4z" fill={WEAR} />
      );
    case "eroded":
      return <path d="M9 7c6-5 17-3 18 3s-7 11-14 8-9-8-4-11z" fill="none" stroke={WEAR} strokeWidth="2" />;
    case "spalled":
      return <path d="M8 6l8-2 4 5-5 6-7-3zM22 12l7-2 2 6-6 3z" fill={WEAR} />;
    case "concave":
      return <path d="M3 7c8 9 22 9 30 0" stroke={WEAR} strokeWidth="2" fill="none" />;
    case "burnt":
      return <path d="M21 23l3-5 2 2 2-5 3 2 1 6z" fill={WEAR} />;
    case "guide_worn":
      return <path d="M12 2v9M24 2v9M14 4h8M14 8h8" stroke={WEAR} strokeWidth="1.700" />;
    case "ring_slipped":
      return <path d="M15 1v6l6 2v6l-6 2v6" stroke={WEAR} strokeWidth="2" fill="none" />;
    case "galled":
      return (
        <path d="M14 7l4 10M19 7l4 10M24 7l4 10M18 7l-2 10M27 7l-2 10" stroke={WEAR} strokeWidth="1.600" />
      );
    case "scuffed":
      return <path d="M6 18L14 5M12 18l8-13M18 18l8-13M24 18l7-11" stroke={WEAR} strokeWidth="1.700" />;
  }
}

const PITS = [
  [8, 7, 1.2],
  [13, 15, 1.6],
  [19, 6, 1],
  [24, 13, 1.4],
  [28, 18, 1],
  [16, 19, 1.1],
  [29, 6, 1.3],
] as const;

/** What a part is drawn as: the flat of a shell or face, a journal from the side, a wall, a piston, a ring and so on. */
export type Drawn = "shell" | "journal" | "wall" | "piston" | "ring" | "valve" | "hub" | "gears" | "bolt";

function Outline({ kind }: { kind: Drawn }) {
  const line = { fill: "var(--color-paper)", stroke: "var(--color-hair-strong)" };
  switch (kind) {
    case "shell":
      return (
        <>
          <path d="M.5.5h35v23H.5z" {...line} />
          <path d="M18 1v3M18 20v3" stroke="var(--color-hair-strong)" />
        </>
      );
    case "journal":
      return (
        <path
          d="M.5 1.500h2v1h31v-1h2v21h-2v-1h-31v1h-2z"
          fill="var(--color-steel-2)"
          stroke="var(--color-hair-strong)"
        />
      );
    case "wall":
      return <path d="M.5.5h3v23h-3zM32.500.5h3v23h-3zM3.500.5h29v23h-29z" {...line} />;
    case "piston":
      return (
        <path d="M3.500 1.500h29v20c-4-1-7-3-9-5h-11c-2 2-5 4-9 5zM3.500 5.500h29M3.500 8.500h29" {...line} />
      );
    case "ring":
      return <path d="M1.500 5.500h14v13h-14zM20.500 5.500h14v13h-14z" {...line} />;
    case "valve":
      return <path d="M16.500.5h3v12c0 6 7 6 13 9v2h-29v-2c6-3 13-3 13-9z" {...line} />;
    case "hub":
      return (
        <path
          d="M9.500.5h17v23h-17zM9.500 6.500h17M9.500 17.500h17M4.500 9.500h5v5h-5zM26.500 9.500h5v5h-5z"
          {...line}
        />
      );
    case "gears":
      return (
        <>
          <path d="M1.500.5h33v23h-33z" {...line} />
          <circle cx="12" cy="12" r="7.500" {...line} />
          <circle cx="25" cy="12" r="5.500" {...line} />
        </>
      );
    case "bolt":
      return (
        <path
          d="M2.500 3.500h6v17h-6zM8.500 7.500h25v9h-25zM18.500 7.500v9M23.500 7.500v9M28.500 7.500v9"
          {...line}
        />
      );
  }
}

type PictogramProps = {
  kind: Drawn;
  signs: Sign[];
  /** Framed where one of its signs stops the part, which the server says. */
  stop?: boolean;
};

/** A part with what was seen on it. */
export function Pictogram({ kind, signs, stop = false }: PictogramProps) {
  return (
    <svg width="36" height="24" viewBox="0 0 36 24" aria-hidden="true" className="block">
      <Outline kind={kind} />
      {signs.map((s) => (
        <Wear key={s} sign={s} />
      ))}
      {stop && <path d="M1 1h34v22H1z" fill="none" stroke="var(--color-ink)" strokeWidth="2.500" />}
    </svg>
  );
}
