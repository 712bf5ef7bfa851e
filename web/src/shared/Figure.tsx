import { Fragment } from "react";
import type { Unit } from "../api/client";
import { clearanceParts, type FigureParts, plain, sizeParts } from "./figure";

type FigureProps = {
  nm: number;
  unit: Unit;
  /** A clearance is shown in micrometres in metric; a size never is. */
  as?: "size" | "clearance";
  /** Leading characters that are set lighter, such as the 2.62 of 2.6238. */
  light?: number;
  /** Drops the nought before the point. */
  short?: boolean;
  /** Keeps room for a half step where columns must line up. */
  keepHalf?: boolean;
  className?: string;
};

const NARROW: Record<string, string> = { ".": "pt", ":": "pt", ",": "pt", "-": "hy" };

/** Text of a figure with its point, colon or hyphen pulled in. */
export function Digits({ text }: { text: string }) {
  return [...text].map((c, i) =>
    NARROW[c] ? (
      <span key={i} className={i === 0 ? `${NARROW[c]} pt-first` : NARROW[c]}>
        {c}
      </span>
    ) : (
      c
    ),
  );
}

/** The same inside a drawing. */
export function SvgDigits({ text }: { text: string }) {
  const [first, ...rest] = text.split(".");
  return (
    <>
      {first}
      {rest.map((after, i) => (
        <Fragment key={i}>
          .<tspan dx="-3.9">{after.slice(0, 1)}</tspan>
          {after.slice(1)}
        </Fragment>
      ))}
    </>
  );
}

function shorten(parts: FigureParts, short: boolean): string {
  return parts.sign + (short ? parts.text.replace(/^0(?=\.)/, "") : parts.text);
}

/** A measured figure: monospaced, half steps small, leading digits light on request. */
export function Figure({
  nm,
  unit,
  as = "size",
  light = 0,
  short = false,
  keepHalf,
  className,
}: FigureProps) {
  const parts = as === "clearance" ? clearanceParts(nm, unit) : sizeParts(nm, unit);
  const text = shorten(parts, short);
  const half = parts.text.includes(".") ? "5" : ".5";
  return (
    <span className={`num ${className ?? ""}`} data-figure={plain(parts)}>
      {light > 0 && (
        <span className="lead">
          <Digits text={text.slice(0, light)} />
        </span>
      )}
      <Digits text={text.slice(light)} />
      {parts.half && (
        <span className="half">
          <Digits text={half} />
        </span>
      )}
      {!parts.half && keepHalf && <span className="half invisible">{half}</span>}
    </span>
  );
}
