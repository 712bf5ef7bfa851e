import type { FigureAssessment, Schemas, Unit } from "../api/client";
import { findingText } from "../bench/findings";
import { PART_WORD } from "../shared/words";

type Gate = Schemas["Gate"];

/** What lifts it, beside the lead's concession. */
const WAY_OUT: Record<Gate, string> = {
  shape: "Grind, hone or resize it.",
  housing: "Resize the housing.",
  surface: "Polish or machine it, and read it again.",
  methods: "Measure again by both, on one standard.",
  family: "Measure the journal again, or have it ground to an undersize.",
  set_up: "Record how the caps were torqued, on the page Set-up.",
  gauge: "Check one in with G at the bench, and measure with it.",
  end_play: "Thinner washers, or metal off their backs.",
  grid: "Machine the face.",
};

/** The findings that shut a gate. */
const SHUT_BY: Record<Gate, readonly Schemas["Finding"]["kind"][]> = {
  shape: ["shape"],
  housing: ["housing_off"],
  surface: ["rough"],
  methods: ["methods_disagree"],
  family: ["not_of_family"],
  set_up: ["no_set_up"],
  gauge: ["unproven", "past_due"],
  end_play: ["below_floor"],
  grid: ["beyond_on_grid"],
};

/** What a remark that blocks says, and what lifts it. */
export function gateText(figure: FigureAssessment, gate: Gate, unit: Unit): string {
  const shutting = figure.findings.filter((f) => SHUT_BY[gate].includes(f.kind));
  const said = shutting.filter((f) => f.kind !== "unproven").map((f) => findingText(f, unit, figure.station));
  // A gauge that nobody checked is said once of all that it measured.
  const parts = new Set(shutting.flatMap((f) => (f.kind === "unproven" ? [PART_WORD[f.part]] : [])));
  const unproven = parts.size > 0 ? [`No gauge was checked in for: ${[...parts].join(", ")}.`] : [];
  return [...new Set(said), ...unproven, WAY_OUT[gate]].join(" ");
}
