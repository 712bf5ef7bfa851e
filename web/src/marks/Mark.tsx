import type { Side, State } from "../api/client";
import { type Marked, STATE_WORD } from "../shared/words";

const HUE: Record<Marked, string> = {
  in: "text-in",
  edge: "text-edge",
  tight: "text-tight",
  loose: "text-loose",
  over: "text-ink",
  open: "text-open",
  stale: "text-open",
  predicted: "text-dye",
};

export function stateHue(state: Marked): string {
  return HUE[state];
}

type GlyphProps = {
  state: Marked;
  nearest?: Side | null | undefined;
  /** For a stale one: what it was before. */
  was?: State | undefined;
};

/** The shape of a state in a 20-unit box; an edge sits on the bar of the limit it is near. */
export function GlyphShape({ state, nearest, was }: GlyphProps) {
  switch (state) {
    case "stale":
      return (
        <>
          <g opacity="0.55">{was && <GlyphShape state={was} nearest={nearest} />}</g>
          <path
            d="M-1 6.500 6.500-1M-1 13.500 13.500-1M-1 20.500 20.500-1M6.500 21 21 6.500M13.500 21 21 13.500"
            stroke="currentColor"
            strokeWidth="1.5"
          />
        </>
      );
    case "in":
      return (
        <>
          <path d="M1 2.5h2.6v15H1zM16.4 2.5H19v15h-2.6z" fill="currentColor" />
          <circle cx="10" cy="10" r="4.7" fill="currentColor" />
        </>
      );
    case "edge": {
      const mirrored = nearest === "high" ? "matrix(-1 0 0 1 20 0)" : undefined;
      return (
        <g transform={mirrored}>
          <path d="M17 2.5h2v15h-2z" fill="currentColor" />
          <path d="M6.1 .5h2.6v19H6.1z" fill="currentColor" />
          <circle
            cx="7.4"
            cy="10"
            r="5.4"
            fill="var(--color-paper)"
            stroke="currentColor"
            strokeWidth="1.8"
          />
          <path d="M7.4 4.6a5.4 5.4 0 0 1 0 10.8z" fill="currentColor" />
        </g>
      );
    }
    case "tight":
      return <path d="M.6 2.6 9.5 10 .6 17.4zM19.4 2.6 10.5 10l8.9 7.4z" fill="currentColor" />;
    case "loose":
      return <path d="M7.4 2.6.4 10l7 7.4zM12.6 2.6l7 7.4-7 7.4z" fill="currentColor" />;
    case "over":
      return (
        <>
          <path d="M.5 2.5h2.600v15H.5zM7.500 2.500h2.600v15H7.500z" fill="currentColor" />
          <circle cx="15.600" cy="10" r="4" fill="currentColor" />
        </>
      );
    case "predicted":
      return (
        <>
          <path
            d="M10 .8 19.2 10 10 19.2.8 10z"
            fill="var(--color-paper)"
            stroke="currentColor"
            strokeWidth="1.8"
            strokeDasharray="4.2 2.2"
          />
          <path d="M10 6.4 13.600 10 10 13.600 6.400 10z" fill="currentColor" />
        </>
      );
    case "open":
      return <rect x="3" y="3" width="14" height="14" fill="none" stroke="currentColor" strokeWidth="1.7" />;
  }
}

export function Glyph({ state, nearest, was, size = 17 }: GlyphProps & { size?: number }) {
  return (
    <svg
      className={`block flex-none ${HUE[state]}`}
      width={size}
      height={size}
      viewBox="0 0 20 20"
      aria-hidden="true"
    >
      <GlyphShape state={state} nearest={nearest} was={was} />
    </svg>
  );
}

/** Glyph, word and hue together. */
export function Mark({
  state,
  nearest,
  was,
  size = 17,
  word = "text-small",
}: GlyphProps & {
  size?: number;
  /** Size class of the word. */
  word?: string;
}) {
  return (
    <span className={`inline-flex items-center gap-1.5 align-middle ${HUE[state]}`}>
      <Glyph state={state} nearest={nearest} was={was} size={size} />
      <b className={`${word} tracking-[0.04em] [font-stretch:88%]`}>{STATE_WORD[state]}</b>
    </span>
  );
}
