import type { Judged, Method, Schemas, State, Unit } from "../api/client";
import { stepPhrase } from "./figure";

/** A state as the marks need it: `open` where nothing is judged yet. */
export type Shown = State | "open";

export const STATE_WORD: Record<Shown, string> = {
  in: "IN",
  edge: "EDGE",
  tight: "TIGHT",
  loose: "LOOSE",
  open: "OPEN",
};

export const METHOD_WORD: Record<Method, string> = { direct: "direct", subtract: "subtract" };

export const ROLE_WORD: Record<Schemas["SignerRole"], string> = {
  assembler: "Assembler",
  checker: "Checker",
};

export const SOURCE_WORD: Record<Schemas["TargetSource"], string> = {
  makers_sheet: "Maker's sheet",
  builders_rule: "Builder's rule",
  rule_book: "Customer's rule book",
};

/** Which way a judged figure is off, by how much, and what the gauges prove. */
export function verdictSentence(judged: Judged, unit: Unit): string {
  const off = stepPhrase(judged.margin, unit);
  // Figure and step stay on one line.
  const proof = `\u00b1${stepPhrase(judged.expanded, unit).replace("half a tenth", "0.5 tenth").replace(" ", "\u00a0")}`;
  const limit = judged.nearest === "low" ? "lower" : "upper";
  const beyond = judged.nearest === "low" ? "under" : "over";
  const Off = off.charAt(0).toUpperCase() + off.slice(1);
  switch (judged.state) {
    case "in":
      return `${Off} inside the ${limit} limit, proven to ${proof}.`;
    case "tight":
      return `${Off} under the window, proven to ${proof}.`;
    case "loose":
      return `${Off} over the window, proven to ${proof}.`;
    case "edge":
      if (judged.margin === 0) return `On the ${limit} limit; the gauges prove to ${proof}.`;
      return judged.inside
        ? `${Off} inside the ${limit} limit, but the gauges only prove to ${proof}.`
        : `${Off} ${beyond} the window, but the gauges only prove to ${proof}.`;
  }
}

export function nextPhrase(next: Schemas["Next"]): string {
  switch (next.kind) {
    case "measure":
      return next.open === 1
        ? `Measure ${next.station}`
        : `Measure ${next.station}, then ${next.open - 1} more`;
    case "decide":
      return next.needs === "acknowledgement"
        ? `${next.station} is on the edge: acknowledge it, or measure again`
        : next.needs === "lead_concession"
          ? `${next.station} is tight: other shells, or the lead's concession`
          : `${next.station} is loose: other shells, or a concession`;
    case "sign":
      return next.role === "assembler" ? "Assembler signs" : "Checker signs";
    case "nothing":
      return "Sealed";
  }
}

const TIME = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });

export function timeText(at: number): string {
  return TIME.format(at);
}

export function dayText(at: number): string {
  return DAY.format(at);
}

export function momentText(at: number): string {
  return `${DAY.format(at)} ${TIME.format(at)}`;
}

/** First letters of a name, for narrow columns. */
export function initials(name: string): string {
  return name
    .split(/[\s.]+/)
    .filter(Boolean)
    .map((part) => part.charAt(0))
    .join("");
}
