import { kindOf, roleOf } from "../api/catalog";
import type { Role, Schemas, Unit } from "../api/client";
import { unusableSentence } from "../inspection/words";
import { roughText, stepPhrase } from "../shared/figure";
import { capital, METHOD_WORD, PART_WORD, positionPhrase } from "../shared/words";

type Finding = Schemas["Finding"];

const SUSPECT: Record<Schemas["Suspect"], string> = {
  dirt: "dirt behind the shell",
  burr: "a burr on cap or shell",
  mis_seated_shell: "a mis-seated shell",
  housing_unknown: "the housing, which is not measured",
  shell: "then the parts",
};

/** Shells that were measured along their length say what they taper themselves. */
function suspectText(
  suspect: Schemas["Suspect"],
  shells: number | null | undefined,
  step: (nm: number) => string,
) {
  if (suspect !== "shell" || shells == null) return SUSPECT[suspect];
  return shells === 0
    ? "not the shells, which do not taper"
    : `last the shells, which taper ${step(shells)} themselves`;
}

/** What a remark on a figure at that place says to whoever stands at the bench. */
export function findingText(f: Finding, unit: Unit, at: string): string {
  const step = (nm: number) => stepPhrase(nm, unit);
  switch (f.kind) {
    case "repeats_spread": {
      const role = roleOf(f.characteristic);
      const where = [PART_WORD[role], positionPhrase(role, kindOf(at), f.position)]
        .filter(Boolean)
        .join(", ");
      return `${capital(where)}: touches spread over ${step(f.spread)}. Same number three times running is the aim.`;
    }
    case "relief_not_positive":
      return "Not wider toward the parting line: wrong or mis-seated shell, or the cap is shifted.";
    case "methods_disagree":
      return `${capital(METHOD_WORD[f.of])} and ${METHOD_WORD[f.with]} differ by ${step(f.difference)}: these disagree.`;
    case "swapped":
      return `${capital(PART_WORD[f.part])}: this and ${f.with} look written down at each other's bearings: exchanged, both would fit. Measure both again.`;
    case "undecidable":
      return "These gauges cannot decide this window: no value could be proven in.";
    case "concession_lapsed":
      return `The acceptance given before (${f.reason}) was for another figure.`;
    case "taper_over_bearing":
      return `Tapers ${step(f.taper)}, housing and journal only ${step(f.explained)}. Look for ${f.suspects.map((s) => suspectText(s, f.shells, step)).join(", ")}; in that order, before anyone buys parts.`;
    case "blades_contradict":
      return `${capital(PART_WORD[f.part])}: a blade went, and one no thicker did not. Strike the wrong one.`;
    case "beyond_on_grid":
      return `The grid shows the face ${step(f.zone)} out of flat, limit ${step(f.limit)}, whatever the blades say.`;
    case "below_floor":
      return `Less than ${step(f.floor)} anywhere burns the thrust faces, whatever the window allows.`;
    case "not_seated":
      return `The first push was ${step(f.gain)} smaller than those after it: the washers were not home. It does not count.`;
    case "push_void":
      return f.count === 1
        ? "1 push did not come back to where it began: it counts for nothing. Base moved, oil squeezed, something in the way?"
        : `${f.count} pushes did not come back to where they began: they count for nothing.`;
    case "places_differ":
      return `${capital(PART_WORD[f.part])} differs by ${step(f.difference)} between places, more than ${step(f.limit)}: a face out of square, halves out of plane, dirt, or a bad push.`;
    case "shape":
      return `${capital(PART_WORD[f.part])} ${f.taper ? "tapers" : "is out of round by"} ${step(f.value)}, limit ${step(f.limit)}${f.likely ? "; within what the gauges leave open" : ""}.`;
    case "housing_off":
      return f.by < 0
        ? `Housing is small by ${step(f.by)} beyond its tolerance: too much crush. Resize it.`
        : `Housing is large by ${step(f.by)} beyond its tolerance: too little crush.`;
    case "not_of_family":
      return "The journal belongs to no undersize of this family: stop before shells are ordered.";
    case "unproven":
      return `${capital(PART_WORD[f.part])}: the gauge was not checked in, so its readings are unproven.`;
    case "past_due":
      return `${capital(PART_WORD[f.part])}: ${f.gauge} was past due when it was used.`;
    case "too_coarse":
      return `${capital(PART_WORD[f.part])}: ${f.gauge} is too coarse for this window, ${(f.ratio_tenths / 10).toFixed(1)} to 1.`;
    case "let_it_soak":
      return `${capital(PART_WORD[f.part])}: let it soak, it is not at 20 \u00b0C and only one temperature was noted.`;
    case "room_unknown":
      return `${capital(PART_WORD[f.part])}: this metal grows otherwise than the crank, and nobody noted how warm it was.`;
    case "no_set_up":
      return "No set-up is recorded: what was the cap torqued with?";
    case "other_fasteners":
      return "Other fasteners than when the bores were finished: the bore may not be the same.";
    case "blind_disagrees":
      return `A blind second touch of the ${PART_WORD[f.part]} differs by ${step(f.difference)}: these disagree.`;
    case "prediction_missed":
      return `Measured ${step(f.difference)} ${f.difference > 0 ? "more" : "less"} than the shells promised, beyond the ${step(f.combined)} both leave open: look at class, seat and gauge.`;
    case "read_off_the_box":
      return `${f.count} read one and the same printed figure at every touch: measured, or read off the box?`;
    case "directions_exchanged":
      return `Wider by ${step(f.by)} the other way than the rest: were across and along exchanged?`;
    case "plate_forgotten":
      return `Out of round by ${step(f.top)} at the top only, where the others are round: was the plate on?`;
    case "piston_apart":
      return `${capital(step(f.by))} smaller than the rest of its set: touched across the pin, near the crown, or from another edge? If not, the skirt collapsed.`;
    case "touched_in_the_ridge":
      return `The top is narrower than all below it, by ${step(f.by)}: touched in the ridge over the rings' travel? Go lower.`;
    case "gap_follows_taper":
      return `This bore tapers: between its widest and its narrowest depth a gap differs by ${step(f.by)}. Square the ring in the smallest part of its travel.`;
    case "plate_pulls":
      return f.by > 0
        ? `The plate pulls this bore in by ${step(f.by)}.`
        : `The plate opens this bore by ${step(-f.by)}.`;
    case "gap_in_new_bore":
      return `The bore is ${step(Math.abs(f.by))} ${f.by > 0 ? "larger" : "smaller"} than when this gap was measured: by arithmetic it is ${step(f.gap)} now. Measure it with blades.`;
    case "gap_ends_apart":
      return `Two touches of this gap lie ${step(f.by)} apart, more than one gap explains: are its ends parallel, and did the ring lie square? Gauge it inside and outside; file until both agree.`;
    case "rough":
      return `${f.at} is rougher than it may be: Ra ${roughText(f.roughness, unit)}, at most ${roughText(f.limit, unit)}.`;
    case "within_wear":
      return "Outside this build's window, inside the factory's wear range: a used part may run on if the lead says so. It is never an aim.";
    case "beyond_wear":
      return `Beyond the factory's wear range by ${step(f.by)}: reworked or replaced.`;
    case "unusable":
      return unusableSentence(f);
    case "stop_journal":
      return "Stop: a nail catches, a crack or a heat mark. To the grinder, crack test first, by somebody qualified for it.";
  }
}

/** The part a remark sends one to, if one. */
export function findingPart(f: Finding): Role | undefined {
  return "part" in f ? f.part : f.kind === "housing_off" ? "housing" : undefined;
}

/** Remarks that stand for the build as a whole and would only repeat themselves at every bearing. */
const QUIET = new Set<Finding["kind"]>(["unproven", "no_set_up"]);

export function isQuiet(f: Finding): boolean {
  return QUIET.has(f.kind);
}
