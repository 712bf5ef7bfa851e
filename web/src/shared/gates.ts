import type { Schemas } from "../api/client";

/** What a remark that blocks is about. */
export const GATE_WORD: Record<Schemas["Gate"], string> = {
  shape: "its shape",
  housing: "the size of its housing",
  surface: "its surface",
  methods: "methods that disagree",
  family: "a journal of no undersize",
  set_up: "no set-up",
  gauge: "a gauge that was not checked",
  end_play: "too little end play",
  grid: "the face by its grid",
};
