import { hasMaximumOnly, kindOf } from "../api/catalog";
import type {
  FigureAssessment,
  Judged,
  Method,
  Read,
  Role,
  Schemas,
  Stale,
  State,
  Unit,
} from "../api/client";
import { plain, sizeParts, stepPhrase, stepText } from "./figure";
import { mendFor } from "./mends";
import { ROLES, type RoleWords } from "./roles";

/**
 * A state as the marks need it: `open` where nothing is judged yet, `stale` where it no longer counts, `predicted`
 * where other shells were fitted and nothing is measured over them yet.
 */
export type Shown = State | "open" | "stale" | "predicted";

/** The state a bearing shows. */
export function shownState(s: Pick<FigureAssessment, "judged" | "stale" | "predicted">): Shown {
  return s.judged?.state ?? (s.predicted ? "predicted" : s.stale ? "stale" : "open");
}

/** The figure a bearing shows: judged, else predicted, else what it was. */
export function shownFigure(s: Pick<FigureAssessment, "judged" | "stale" | "predicted">) {
  if (s.judged) return { clearance: s.judged.worst, nearest: s.judged.nearest };
  if (s.predicted) return { clearance: s.predicted.pair.clearance, nearest: s.predicted.nearest };
  return s.stale?.was;
}

/** What the mark of a figure says: what has no gap is over its limit, and not loose. */
export type Marked = Shown | "over";

export function marked(f: Pick<FigureAssessment, "figure">, state: Shown): Marked {
  return state === "loose" && hasMaximumOnly(f) ? "over" : state;
}

export const STATE_WORD: Record<Marked, string> = {
  in: "IN",
  edge: "EDGE",
  tight: "TIGHT",
  over: "OVER",
  loose: "LOOSE",
  open: "OPEN",
  stale: "STALE",
  predicted: "PREDICTED",
};

export const METHOD_WORD: Record<Method, string> = {
  direct: "direct",
  subtract: "subtract",
  components: "components",
  strip: "crushed strip",
  tracks: "track by track",
  along: "along the shell",
  pushed: "pushed",
  blades: "blades",
  thicknesses: "thicknesses",
  flanged: "flanged shells",
  widths: "widths",
  bore_less_journal: "bore less journal",
  as_pushed: "as the crank is pushed",
  hard_over: "hard over",
  rod_body: "edge of the rod",
  proud_height: "proud height",
  turned: "turned",
  bore_less_pin: "bore less pin",
  pin_less_eye: "pin less eye",
  between_locks: "between the locks",
  plate_on: "plate on",
  plate_off: "plate off",
  both_sides: "both sides of the pin",
  corners: "corners",
  level: "held level",
  measured: "measured",
  top_less_bottom: "top less bottom",
  sheet: "against its sheet",
};

/** One thing that is said of everything measured. */
function column<K extends keyof RoleWords>(what: K): Record<Role, RoleWords[K]> {
  const of = Object.entries(ROLES).map(([role, words]) => [role, words[what]]);
  return Object.fromEntries(of) as Record<Role, RoleWords[K]>;
}

export const PART_WORD = column("word");
/** Where one touches it. */
export const PART_PLACE = column("where");
/** What stands over it on the bench, with others of its kind. */
export const PARTS_WORD = column("heading");
/** What stands over a table of touches in this engine, and what the table is called. */
export function tableWords(
  role: Role,
  { rollers }: { rollers?: boolean },
): { heading: string; table: string } {
  const words = ROLES[role];
  return (rollers && words.onRollers) || words;
}

/** What the gauge for it is called there. */
export const GAUGE_FOR = column("gauge");
/** What is typed on the bench to go to a part. */
export const PART_KEY: Record<string, Role> = {
  j: "journal",
  b: "bore",
  h: "housing",
  s: "upper_wall",
};

export const CHARACTERISTIC_WORD: Record<Schemas["Characteristic"], string> = {
  main_journal: "main journal",
  pin_journal: "pin",
  main_housing: "main housing",
  rod_housing: "rod housing",
  main_bearing: "main bearing bore",
  rod_bearing: "rod bearing bore",
  upper_wall: "upper shell wall",
  lower_wall: "lower shell wall",
  strip: "crushed strip",
  thrust_first_look: "end play at a first look",
  thrust_travel: "end play, pushed",
  thrust_gap: "end play by blades",
  thrust_space: "space between the thrust cheeks",
  thrust_saddle: "thrust saddle or collar",
  thrust_flanges: "width over thrust flanges",
  washer_front: "front thrust washer",
  washer_rear: "rear thrust washer",
  rod_side_gap: "rod side by blades",
  pin_width: "width of the pin",
  rod_width: "width of the big end",
  cam_journal: "cam journal",
  cam_bearing: "cam bearing, fitted",
  cam_turn: "runout of the cam",
  fillet_radius: "fillet radius",
  shell_inset: "shell edge behind the face",
  edge_along: "shell's edge chamfer, along",
  edge_up: "shell's edge chamfer, up",
  saddle_gap: "cheek to saddle, crank hard over",
  body_along: "rod's edge chamfer, along",
  body_up: "rod's edge chamfer, up",
  nip: "nip of a half",
  main_turn: "runout of a main",
  end_turn: "runout of nose or flange",
  cam_travel: "end play of the cam, pushed",
  cam_gap: "end play of the cam by blades",
  wrist_pin: "wrist pin",
  pin_boss: "boss of the piston",
  rod_eye: "small end of the rod",
  wrist_pin_length: "length of the wrist pin",
  lock_distance: "distance between the locks",
  small_end_rock: "rock of the small end",
  cylinder: "cylinder, plate on",
  cylinder_bare: "cylinder, plate off",
  piston: "piston at its gauge point",
  top_ring_gap: "gap of the top ring",
  second_ring_gap: "gap of the second ring",
  top_ring_side: "top ring in its groove",
  face_gap: "gap under the straight edge",
  face_span_gap: "gap under a short edge",
  deck_corner: "height of the deck",
  below_deck: "piston below the deck",
  compression_height: "compression height",
  rod_length: "length of the rod",
  pin_top: "height of the pin at its top",
  pin_bottom: "height of the pin at its bottom",
  pin_level: "height of the pin held level",
  tunnel_gap: "gap under the edge in the tunnel",
};

export const FIGURE_WORD: Record<Schemas["Figure"], string> = {
  oil_clearance: "Oil clearance",
  track_step: "Step between tracks",
  upper_taper: "Taper of the upper shell",
  lower_taper: "Taper of the lower shell",
  end_play: "End play",
  rod_side: "Rod side clearance",
  cam_clearance: "Cam clearance",
  cam_end_play: "End play of the cam",
  fillet_room: "Shell to fillet",
  fillet_flat: "Flat beyond the fillet",
  rod_edge_room: "Rod's edge to fillet",
  crush: "Crush, each half",
  main_runout: "Runout",
  end_runout: "Runout of an end",
  pin_in_piston: "Pin in the piston",
  pin_in_rod: "Pin in the rod",
  pin_press: "Press of the pin",
  lock_to_lock: "Pin between its locks",
  small_end_rock: "Rock of the small end",
  piston_to_wall: "Piston to wall",
  cylinder_round: "Out of round",
  cylinder_taper: "Taper of the bore",
  top_ring_gap: "Top ring gap",
  second_ring_gap: "Second ring gap",
  top_ring_side: "Top ring in its groove",
  piston_size: "Piston against its sheet",
  face_flatness: "Flatness",
  face_span: "Flatness over a span",
  deck_height: "Deck height",
  deck_parallel: "Deck, end to end",
  deck_clearance: "Piston below the deck",
  crown_height: "Compression height",
  rod_centres: "Rod length",
  stroke: "Stroke",
  pin_height: "Pin held level",
  tunnel_gap: "Under the edge in the tunnel",
};

/** What a part is called. */
export const PART_KIND_WORD: Record<Schemas["PartKind"], string> = {
  crank: "crank",
  block: "block",
  rod: "rod",
  shells: "shells",
  cam: "cam",
  piston: "piston",
};

/** What the table of its touches is called. */
export const TABLE_WORD = column("table");
/** What a place is called along the axis of a part, at a kind of place of the engine. */
export const AXIAL_WORD = column("axial");
/** What a place is called around it. */
export const ANGLE_WORD = column("angle");
/** What a difference between places around is called, where it is not the shape of something round. */
export const AROUND_WORD = column("around");
/** What can go wrong where something is measured, by the kind of place. */
export const CAUTION_WORD: Record<string, { what: string; text: string }> = {
  main: { what: "Caps", text: "are numbered and directional: draw each down square, never with the bolts." },
  rod: { what: "Caps", text: "are numbered and directional: draw each down square, never with the bolts." },
  thrust: {
    what: "Fingers",
    text: "out from between cheek and block; the crank is heavy. Never a hammer of steel on nose or flange. Steel backs of the washers to the housing.",
  },
  side: {
    what: "Fingers",
    text: "out from between rod and cheek while the crank is turned. Rods torqued: a cap that is free stands proud and reads wide.",
  },
  cam: {
    what: "Oil holes",
    text: "in line with their drillings, seen with a rod or a light: covered, every size is perfect and the engine is lost. Edges of the cam cut.",
  },
  cam_thrust: { what: "Fingers", text: "out from behind the gear while the cam is pushed. Cam edges cut." },
  main_fillet: {
    what: "Fingers",
    text: "out from between cheek and saddle; the crank is heavy and edges of shells cut. A shell on the radius is metal in the oil.",
  },
  pin_fillet: {
    what: "Lathe",
    text: "fixture and cap screws swing: turn it by hand once round before the first cut. No gloves, no loose cuffs; broken edges only.",
  },
  wrist_pin: {
    what: "Eyes",
    text: "pin locks fly: glasses on, a hand over the bore. A pressed pin is warmed by the book, never driven.",
  },
  cylinder: {
    what: "Rings and hones",
    text: "ring ends cut; a hone that is pulled out turning breaks. Swarf is washed out, not blown into a face.",
  },
  deck: {
    what: "Clean metal",
    text: "scraper and chemistry, no abrasive pads: they round edges and leave grit. Heads and blocks are heavy.",
  },
  head: {
    what: "Clean metal",
    text: "scraper and chemistry, no abrasive pads on aluminium. A straight edge on a burr lies.",
  },
};

/** What is measured together, at a kind of place. */
export const GROUP_WORD: Record<string, Record<Schemas["Group"], string>> = {
  main: { running: "Journal, bore", parts: "Housing, shells", beside: "Runout, line" },
  rod: { running: "Journal, bore", parts: "Housing, shells", beside: "Nip, heights" },
  thrust: { running: "Pushed, blades", parts: "First look, thicknesses", beside: "Beside" },
  side: { running: "Blades", parts: "Widths", beside: "Beside" },
  cam: { running: "Journal, bearing", parts: "Runout", beside: "Beside" },
  cam_thrust: { running: "Pushed, blades", parts: "Parts", beside: "Beside" },
  main_fillet: { running: "Radius, edge", parts: "As pushed", beside: "Beside" },
  pin_fillet: { running: "Radius, edge", parts: "Rod's edge", beside: "Beside" },
  wrist_pin: { running: "Pin, bores", parts: "Between locks", beside: "Rock, height" },
  cylinder: { running: "Bore, piston", parts: "Plate off", beside: "Rings, deck" },
  deck: { running: "Straight edge", parts: "Heights", beside: "Beside" },
  head: { running: "Straight edge", parts: "Heights", beside: "Beside" },
};

/** What a gauge is put on. */
export const GAUGE_USE_WORD: Record<Schemas["GaugeUse"], string> = {
  outside: "shafts",
  inside: "holes",
  wall: "walls",
  gap: "strips",
  travel: "travels",
  blades: "gaps",
  radius: "radii",
  depth: "depths, edges",
  height: "heights, centres",
};

/** How what is read that way is typed, in the unit that is shown. */
export const TYPE_WORD: Record<Read, Record<Unit, string>> = {
  size: {
    in: "Type the last digits, the whole figure, or a figure with its unit.",
    mm: "Type the last digits, the whole figure, or a figure with its unit.",
  },
  dial: {
    in: "Type the dial: 21 is 2.1 thou over the zero, -3 is under it.",
    mm: "Type the dial: 21 is 21 \u00b5m over the zero, -3 is under it.",
  },
  travel: {
    in: "Push forward, back, forward again: type the three figures of the dial, such as 0 110 0.",
    mm: "Push forward, back, forward again: type the three figures of the dial in \u00b5m, such as 0 180 0.",
  },
  turn: {
    in: "Type what the indicator shows in tenths, -3 where it shows less than at the start.",
    mm: "Type what the indicator shows in \u00b5m, -3 where it shows less than at the start.",
  },
  blades: {
    in: "Type the largest blade that passes and the smallest that does not, as they are stamped: 10 11 or .010 .011.",
    mm: "Type the largest blade that passes and the smallest that does not, in \u00b5m, such as 150 200, or .15 .20.",
  },
};

/** The printed width of a strip is typed as it is printed. */
export const STRIP_TYPE_WORD: Record<Unit, string> = {
  in: "Type the printed width that fits: .0025, or 2.5 thou.",
  mm: "Type the printed width that fits: .051, or 51um.",
};

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Where on a part at that kind of place something is touched, such as "front of groove, vertical"; nothing where it is touched at
 * one place only. */
export function positionPhrase(
  role: Role,
  kind: Schemas["PlaceKind"],
  position: Schemas["Position"],
): string {
  if (ROLES[role].single) return "";
  const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);
  const along = lower(AXIAL_WORD[role](position.axial, kind)).replace(/^(upper|lower), /, "");
  return [along, ANGLE_WORD[role](position.angle)].filter((text) => text !== "").join(", ");
}

/** A place that is touched, such as "M4 bore, front of groove, vertical, touch 2". */
export function placePhrase(role: Role, place: string, position: Schemas["Position"], touch: number): string {
  const track = position.track == null ? "" : `, track ${position.track}`;
  const what = `${place} ${TABLE_WORD[role].split(",")[0]}${track}`;
  return [what, positionPhrase(role, kindOf(place), position), `touch ${touch}`].filter(Boolean).join(", ");
}

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
      if (Number(stepText(judged.margin, unit)) === 0)
        return `On the ${limit} limit; the gauges prove to ${proof}.`;
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
    case "await":
      return `Wait for the other shop: ${next.station} is measured when its part is back`;
    case "decide":
      return decidePhrase(next);
    case "sign":
      return next.role === "assembler" ? "Assembler signs" : "Checker signs";
    case "clear_up":
      return "Clear up what was changed behind the seal";
    case "nothing":
      return "Sealed";
  }
}

function decidePhrase({ station, needs, figure }: Extract<Schemas["Next"], { kind: "decide" }>): string {
  switch (needs) {
    case "acknowledgement":
      return `${station} is on the edge: acknowledge it, or measure again`;
    case "lead_concession":
      return `${station} is tight: ${mendFor(figure, "tight")}, or the lead's concession`;
    case "remedy":
      return `${station} has a remark that nobody signs past: the sheet says which, and the way out`;
    case "settle":
      return `${station} was measured differently a second time: strike the wrong one`;
    case "grinder":
      return `${station}'s journal goes to the grinder, crack test first`;
    case "picture":
      return `A picture of ${station}: which way it was fitted`;
    case "clean":
      return `${station} has grit left of what was done there: wash or flush it`;
    case "hot_room":
      return `${station} leaves too little when hot: file the gap, or more room`;
    case "check":
      return `A check that is forced at ${station}: page Look`;
    case "part":
      return `Another part for ${station}: the one there is condemned or out`;
    case "measure":
    case "measure_again":
      return `Measure ${station}`;
    case "concession":
      return `${station} is ${figure && hasMaximumOnly({ figure }) ? "over" : "loose"}: ${mendFor(figure, "loose")}, or a concession`;
  }
}

export const WORK_WORD: Record<Schemas["Work"], string> = {
  journal_polished: "Journal polished",
  journal_ground: "Journal ground",
  journal_welded: "Journal welded up",
  crank_straightened: "Crank straightened",
  cap_deburred: "Cap deburred",
  cap_replaced: "Cap replaced",
  cap_turned: "Cap fitted the other way",
  tunnel_honed: "Tunnel honed or bored",
  rod_resized: "Rod resized",
  shells_fitted: "Other shells fitted",
  shells_coated: "Shells coated",
  shells_narrowed: "Shells narrowed",
  thrust_seated: "Thrust seated",
  washers_fitted: "Other thrust washers fitted",
  rod_narrowed: "Rod narrowed",
  bush_fitted: "Cam bush fitted",
  cam_plate_fitted: "Plate, shim or button of the cam fitted",
  cylinder_bored: "Cylinder bored",
  cylinder_honed: "Cylinder honed",
  piston_machined: "Piston coated or machined",
  small_end_honed: "Small end honed or bushed",
  rings_filed: "Rings filed or changed",
  cylinder_washed: "Cylinder washed",
  crank_flushed: "Crank brushed and flushed",
  rings_fitted: "Rings fitted for good",
  face_machined: "Face machined",
  block_flushed: "Block brushed and flushed",
  rod_washed: "Rod washed",
  head_washed: "Head washed",
  blasted: "Blasted, or dressed with an abrasive disc",
};

/** What shows in no figure: somebody looks and ticks it. */
export const TICK_WORD: Record<Schemas["Tick"], string> = {
  oil_holes_open: "The oil hole of the bush lies over its drilling and is open",
  scrubbed: "Hot water, detergent and a stiff brush, until nothing comes off",
  white_cloth: "A white cloth with light oil comes out white",
  oiled: "Dried, and oiled at once",
  drillings_brushed: "Every plug out, every drilling brushed and flushed",
  plugs_back: "Every plug back in, sealed and secured",
  marks_up: "Each ring in its own cylinder's groove, marks up",
  gaps_apart: "Gaps stand apart, none over the thrust side or the pin",
  expander_butts: "The expander's ends butt and do not lap, rails staggered",
};

const SCOPE_WORD: Record<string, string> = {
  mains: "all mains",
  pins: "all pins",
  rods: "all rods",
  crank: "the whole crank",
  cylinders: "all cylinders",
  block: "the whole block",
};

export function scopeWord(scope: string): string {
  return SCOPE_WORD[scope] ?? scope;
}

function changeWord(change: Schemas["SetUpChange"]): string {
  switch (change.kind) {
    case "fasteners":
      return "other fasteners";
    case "lubricant":
      return "another lubricant";
    case "torque":
      return "other torque steps";
    case "seating":
      return "caps drawn down another way, or other washers";
    case "group":
      return change.group === "outer" ? "other outer fasteners" : "other fasteners through the side";
    case "cap":
      return `another cap on ${change.station}, or the other way round`;
    case "shells":
      return `other shells in ${change.station}`;
  }
}

/** Which part was put where. */
export function movesText(moves: Schemas["PartMove"][]): string {
  return moves.map((m) => (m.place ? `${m.part} put at ${m.place}` : `${m.part} put in`)).join(", ");
}

/** The edge that a gauge point is reckoned from. */
export const EDGE_WORD: Record<Schemas["GaugeEdge"], string> = {
  skirt_bottom: "up from the skirt's bottom",
  oil_groove: "down from the oil groove",
  crown: "down from the crown",
  pin_axis: "down from the pin's axis",
};

/** What a coating is to the size of a piston. */
export const COATING_WORD: Record<Schemas["Coating"], string> = {
  none: "no coating",
  over: "over the coating",
  under: "to the metal under the coating",
};

/** What ended the evidence, in words. */
export function staleText(stale: Stale, unit: Unit): string {
  const { cause } = stale;
  switch (cause.kind) {
    case "work":
      return `${WORK_WORD[cause.event.work]}, ${scopeWord(cause.event.on)}: ${cause.event.note}`;
    case "set_up":
      return `Set-up of the ${cause.row} changed: ${cause.changes.map(changeWord).join(", ")}`;
    case "fitting":
      return `Other shells fitted in ${cause.fitting.pairs.map((p) => p.station).join(", ")}: ${cause.fitting.note}`;
    case "washers":
      return `Washers ${cause.washers.promise.upper} front, ${cause.washers.promise.lower} rear fitted: ${cause.washers.note}`;
    case "assigned":
      return `${movesText(cause.assignment.moves)}: ${cause.assignment.reason}`;
    case "returned":
      return `Back from ${cause.order.shop}, order ${cause.order.number}`;
    case "gauge_point":
      return `Pistons are measured elsewhere now: ${plain(sizeParts(cause.point.height, unit))} ${EDGE_WORD[cause.point.from]}, ${COATING_WORD[cause.point.coating]}`;
    case "mishap":
      return `Something happened to it: ${cause.mishap.note}`;
    case "session":
      return `${cause.gauge} had walked ${stepPhrase(cause.drift, unit)} at its close check`;
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

export const JOB_WORD: Record<Schemas["Job"], string> = {
  grind: "grind",
  polish: "polish to size",
  resize_housing: "bring the housing to size",
  bore_bearing: "bore the bearing to fit",
  bore_cylinder: "bore and hone to size",
  hone_cylinder: "hone to size",
};

export const ROW_WORD: Record<Schemas["BearingRow"], string> = { mains: "mains", rods: "rods" };

/** Minutes as people quote them. */
export function minutesText(minutes: number): string {
  const hours = Math.floor(minutes / 60);
  const rest = minutes % 60;
  if (hours === 0) return `${rest} min`;
  return rest === 0 ? `${hours} h` : `${hours} h ${rest} min`;
}

/** What a bore gauge may be zeroed in, what carries most across first. */
export const ZERO_SOURCES: Schemas["ZeroSource"][] = ["locked", "same_mic", "ring", "other_mic"];

/** What a bore gauge was zeroed in, in a narrow column. */
export const ZERO_SHORT: Record<Schemas["ZeroSource"], string> = {
  locked: "locked mic",
  same_mic: "mic's scale",
  ring: "ring, block",
  other_mic: "another mic",
};

export const ZERO_WORD: Record<Schemas["ZeroSource"], string> = {
  locked: "the mic locked on this journal",
  same_mic: "the same mic, by its scale",
  ring: "a ring or a block",
  other_mic: "another mic",
};

/** What each leaves open. */
export const ZERO_MEANS: Record<Schemas["ZeroSource"], string> = {
  locked: "the size is carried across: proves most",
  same_mic: "its scale is read twice",
  ring: "both calibrations count",
  other_mic: "both mics count: proves least",
};

export const ADDER_WORD: Record<Schemas["Adder"], string> = {
  boost: "boost",
  nitrous: "nitrous",
  long_full_load: "long full load",
  coating: "coating",
  sleeve: "sleeve material",
  cold_noise: "quiet when cold",
};

/** What is noted of a part, as a head of its column. */
export const NOTE_WORD: Record<Schemas["Note"], string> = {
  piston_weight: "Piston",
  rod_weight: "Rod",
  crown_volume: "Crown",
  pocket_depth: "Pocket, deep",
  pocket_radius: "Pocket, radius",
  pin_offset: "Pin, off centre",
  roughness: "Ra",
  hardness: "Hardness",
};
