import type { Schemas } from "../api/client";

/** What does not hold about a record, in words. */
export function faultText(fault: Schemas["SealFault"]): string {
  switch (fault.flaw) {
    case "missing":
      return `Fact ${fault.seq} is missing`;
    case "twice":
      return `Fact ${fault.seq} is there twice`;
    case "changed":
      return `Fact ${fault.seq}: what ${fault.by.name} signed is not what stands here`;
    case "not_ours":
      return `Fact ${fault.seq}: the signature of ${fault.by.name} does not carry this shop's mark`;
    case "same_person":
      return `Fact ${fault.seq}: ${fault.by.name} signed as both`;
  }
}
