import type { Schemas } from "../api/client";
import { GATE_WORD } from "../shared/gates";
import { ROW_WORD } from "../shared/words";

/** What the rules of a build ask less of than before, as a sentence. */
export function loosenedText(l: Schemas["LoosenedBy"]): string {
  switch (l.kind) {
    case "gate":
      return `May be signed past: ${GATE_WORD[l.gate]}.`;
    case "cleaning":
      return "Nothing is washed before it signs.";
    case "checks":
      return "Mishaps and cracks force no checks.";
    case "pictures":
      return "Washers and rings need no picture.";
    case "fillets":
      return "A ground journal asks for no fillets.";
    case "guard":
      return "The uncertainty does not guard the limits.";
    case "hot":
      return "Less is asked of what is left when it is hot.";
    case "shape":
      return "Taper and out of round may be more.";
    case "finish":
      return "Surfaces may be rougher.";
    case "temperature":
      return "Temperature leaves less open.";
    case "plate":
      return "A plate left off leaves less open.";
    case "reckoning":
      return "Figures are worked out by an earlier rule.";
    case "strip":
      return "A crushed strip may decide.";
    case "sampled":
      return `The ${ROW_WORD[l.row]} are sampled: front and rear only.`;
  }
}
