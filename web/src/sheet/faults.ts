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
    case "signature_gone":
      return `Fact ${fault.seq}: the ledger of seals has a signature here that is gone`;
    case "not_in_ledger":
      return `Fact ${fault.seq}: the ledger of seals does not have the signature of ${fault.by.name}`;
    case "renamed":
      return `Fact ${fault.seq}: ${fault.by.name} was renamed ${fault.now} behind the product`;
    case "put_away":
      return fault.away ? "It was put away behind the product" : "It was taken out again behind the product";
    case "picture_gone":
      return `Fact ${fault.seq}: the picture "${fault.note}" is gone`;
    case "picture_changed":
      return `Fact ${fault.seq}: the picture "${fault.note}" is not the one that was kept`;
    case "counted_short":
      return `The build was said to end before fact ${fault.seq}`;
  }
}

/** What does not hold about the ledger of seals, in words. */
export function ledgerText(fault: Schemas["LedgerFault"]): string {
  switch (fault.flaw) {
    case "missing":
      return `Line ${fault.number} is missing`;
    case "changed":
      return `Line ${fault.number} is not as it was written`;
    case "unreadable":
      return "A line cannot be read";
    case "build_gone":
      return `A build that was signed is gone: ${fault.build}`;
  }
}
