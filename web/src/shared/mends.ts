import type { Schemas } from "../api/client";

type Mend = { tight: string; loose: string };

const either = (mend: string): Mend => ({ tight: mend, loose: mend });

/** What brings a figure back into its window, on either side of it, short of a concession. */
const MEND: Record<Schemas["Figure"], Mend> = {
  oil_clearance: either("other shells"),
  track_step: either("the pin ground"),
  upper_taper: either("another shell"),
  lower_taper: either("another shell"),
  end_play: { tight: "thinner washers", loose: "thicker washers" },
  rod_side: { tight: "the rod narrowed", loose: "another rod" },
  cam_clearance: { tight: "the cam polished within its limit, or another bush", loose: "another bush" },
  cam_end_play: either("another plate"),
  fillet_room: { tight: "the shells narrowed", loose: "other shells" },
  fillet_flat: either("the fillet ground anew"),
  rod_edge_room: { tight: "the rod's edge relieved", loose: "another rod" },
  crush: either("the housing resized, other shells"),
  main_runout: either("the crank straightened"),
  end_runout: either("the crank straightened"),
  pin_in_piston: { tight: "the piston honed", loose: "another pin" },
  pin_in_rod: { tight: "the bush honed", loose: "another bush" },
  pin_press: either("another pin"),
  lock_to_lock: either("other locks"),
  small_end_rock: either("another bearing or pin"),
  piston_to_wall: { tight: "the bore honed", loose: "a larger piston, the next oversize" },
  cylinder_round: either("the bore honed or bored"),
  cylinder_taper: either("the bore honed or bored"),
  top_ring_gap: { tight: "the gap filed", loose: "another ring" },
  second_ring_gap: { tight: "the gap filed", loose: "another ring" },
  top_ring_side: { tight: "the groove cut", loose: "another ring or piston" },
  piston_size: either("another piston"),
  face_flatness: either("the face cut"),
  face_span: either("the face cut"),
  deck_height: either("the deck cut"),
  deck_parallel: either("the deck cut"),
  deck_clearance: { tight: "another gasket or piston", loose: "the deck cut" },
  crown_height: either("another piston"),
  rod_centres: either("another rod"),
  stroke: either("the pin ground"),
  pin_height: either("the crank straightened"),
  tunnel_gap: either("the tunnel honed"),
};

/** What would mend a figure that is outside its window; nothing but parts and work where nobody says which figure it is. */
export function mendFor(figure: Schemas["Figure"] | undefined | null, side: keyof Mend): string {
  return figure ? MEND[figure][side] : "other parts or work";
}
