import type { FigureAssessment, Schemas, Unit } from "../api/client";
import { findingText } from "../bench/findings";

type Gate = Schemas["Gate"];

/** What lifts it, beside the lead's concession. */
const WAY_OUT: Record<Gate, string> = {
  shape: "Grind, hone or resize it.",
  housing: "Resize the housing.",
  surface: "Polish or machine it, and read it again.",
  methods: "Measure again by both, on one standard.",
  family: "Measure the journal again, or have it ground to an undersize.",
  set_up: "Record how the caps were torqued, on the page Set-up.",
  gauge: "Measure with a gauge that was checked in and is not past due: G at the bench.",
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
  const said = figure.findings
    .filter((f) => SHUT_BY[gate].includes(f.kind))
    .map((f) => findingText(f, unit, figure.station));
  return [...new Set(said), WAY_OUT[gate]].join(" ");
}
