import { Popover, PopoverButton, PopoverPanel } from "@headlessui/react";
import type { Reading, Unit } from "../api/client";
import { Figure } from "../shared/Figure";
import { momentText } from "../shared/words";

/** Readings that were struck at one place: they stay visible, crossed out, with the reason. */
export function StruckList({ readings, unit }: { readings: Reading[]; unit: Unit }) {
  return (
    <Popover className="inline-block pl-2">
      <PopoverButton
        tabIndex={-1}
        className="px-1 text-note whitespace-nowrap text-ink-2 underline underline-offset-2"
      >
        {readings.length} struck
      </PopoverButton>
      <PopoverPanel
        anchor="bottom end"
        className="z-30 w-[320px] border border-ink bg-paper p-3 text-left text-small"
      >
        <ul className="grid gap-2">
          {readings.map((r) => (
            <li key={r.id}>
              <s className="decoration-2">
                <Figure nm={r.size} unit={unit} className="font-bold" />
              </s>{" "}
              {r.struck && (
                <>
                  {r.struck.reason}
                  <span className="block text-note text-ink-2">
                    {r.struck.by.name}, {momentText(r.struck.at)}
                  </span>
                </>
              )}
            </li>
          ))}
        </ul>
      </PopoverPanel>
    </Popover>
  );
}
