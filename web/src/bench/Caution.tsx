import { useState } from "react";
import { kindOf } from "../api/catalog";
import type { Group } from "../api/client";
import { CAUTION_WORD } from "../shared/words";

const READ = "jagged-pin.caution.";

function wasRead(about: string): boolean {
  try {
    return localStorage.getItem(READ + about) === "1";
  } catch {
    return false;
  }
}

/** What can go wrong at this step; gone once read. */
export function Caution({ group, place }: { group: Group; place: string }) {
  const caution = CAUTION_WORD[kindOf(place)];
  const about = caution?.what.toLowerCase() ?? "";
  const [read, setRead] = useState<string[]>([]);
  if (!caution || read.includes(about) || wasRead(about)) return null;
  const dismiss = () => {
    try {
      localStorage.setItem(READ + about, "1");
    } catch {
      // Without storage it comes back next time, which does no harm.
    }
    setRead([...read, about]);
  };
  return (
    <p role="note" className="mt-1 flex items-start gap-3 text-note leading-tight text-ink-2">
      <span>
        <b className="text-ink">{caution.what}</b> {caution.text}
        {group === "parts" && about === "caps" && " A strip: never turn the crank on it."}
      </span>
      <button
        type="button"
        onClick={dismiss}
        className="font-semibold whitespace-nowrap text-dye underline underline-offset-2"
      >
        Understood
      </button>
    </p>
  );
}
