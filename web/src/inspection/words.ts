import type { Schemas } from "../api/client";
import { PART_NAME } from "./parts";
import { SIGN_WORD } from "./pictograms";

export const CHECK_WORD: Record<Schemas["Check"], string> = {
  crack_test: "crack test, by somebody qualified",
  journal_size: "journal size",
  housing_size: "housing size",
  bearing_taper: "bore, front against rear",
  fillet_clearance: "fillet clearance; narrowed shells",
  rod_alignment: "rod alignment",
  runout: "runout",
  straight_edge: "straight edge in the tunnel",
  shell_stamp: "stamp on the old shells",
  end_play: "end play",
  release_load: "release load",
  oil_path: "cleaning, oil path, the pump",
  dowels: "dowels",
  wall_taper: "wall along the shell",
  finest_polish: "the finest grit, and look again",
  groove_depth: "depth of the groove; a sleeve",
  fasteners: "fasteners: stretch, threads",
  damage_depth: "depth of the damage",
  cylinder_size: "cylinder size and shape",
  piston_to_wall: "piston to wall",
  piston_size: "piston size, beside the worn patch too",
  ring_gap: "ring gaps",
  ring_side: "rings in their grooves",
  pin_clearance: "wrist pin in boss and bush",
  face_flatness: "flatness of the face",
  crown_height: "crown heights: a bent rod is short",
  plug_reading: "plugs, mixture, timing",
  lobe_lift: "lift of the lobes",
  ring_tension: "tension of the rings",
  valve_train: "valves, seats, guides, springs",
  pressure_test: "pressure test, by somebody qualified",
  roughness: "roughness, by gauge or comparator",
};

export const CAUSE_WORD: Record<Schemas["Cause"], string> = {
  bent_crank: "bent crank",
  crooked_tunnel: "tunnel out of line",
  shifted_cap: "shifted cap",
  wrong_size: "wrong size",
  too_tight: "too tight",
  thin_oil: "thin oil",
  dirt: "dirt",
  starved: "too little oil",
  shell: "the shell itself",
  housing: "its housing",
  little_crush: "too little crush",
  lugging: "lugging",
  detonated: "detonation",
  constant_load: "a load that never lets go",
  end_play: "end play",
  rod_bent: "bent rod",
  fillet: "the fillet",
  fasteners: "fasteners",
  ground_step: "the grinder's step",
  one_tight: "one of them tight or dirty",
  stood: "it stood: water, acid",
  worn: "worn, no more",
  ran_hot: "ran too hot",
  small_gap: "too small a gap",
  groove: "its groove",
  not_flat: "not flat",
  metal: "cracked metal",
  other: "something else",
};

export const BEFELL_WORD: Record<Schemas["Befell"], string> = {
  hydrolock: "A cylinder filled (hydraulic lock)",
  starved: "Ran without enough oil",
  overheated: "Overheated",
  over_revved: "Over-revved",
  debris: "Something hard went through it",
  water: "Water stood in it",
};

/** What was seen that stops a part, and where it is when that is not where it is said. */
export function unusableSentence(seen: Extract<Schemas["Finding"], { kind: "unusable" }>): string {
  const part = PART_NAME[seen.seen_on];
  const where = seen.at ? `${seen.at} ${part}` : part.charAt(0).toUpperCase() + part.slice(1);
  return `${where}, ${SIGN_WORD[seen.sign].toLowerCase()}: not used as it is.`;
}
