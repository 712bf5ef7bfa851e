import { useState } from "react";
import type { Group } from "../api/client";

const READ = "jagged-pin.caution.caps";

function wasRead(): boolean {
  try {
    return localStorage.getItem(READ) === "1";
  } catch {
    return false;
  }
}

/** What can go wrong at this step; gone once read. */
export function Caution({ group }: { group: Group }) {
  const [read, setRead] = useState(wasRead);
  if (read) return null;
  const dismiss = () => {
    try {
      localStorage.setItem(READ, "1");
    } catch {
      // Without storage it comes back next time, which does no harm.
    }
    setRead(true);
  };
  return (
    <p role="note" className="mt-1 flex items-start gap-3 text-note leading-tight text-ink-2">
      <span>
        <b className="text-ink">Caps</b> are numbered and directional: draw each down square, never with the
        bolts.
        {group === "parts" && " A strip: never turn the crank on it."}
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
