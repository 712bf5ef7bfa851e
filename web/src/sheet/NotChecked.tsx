import type { Build, Schemas } from "../api/client";
import { PARTS_LOOKED_AT } from "../inspection/parts";
import { capital, FIGURE_WORD, PARTS_WORD, ROW_WORD, TABLE_WORD } from "../shared/words";

type Unchecked = Schemas["NotChecked"];

/** Places of one kind that follow each other are told as from one to the other. */
export function ranges(places: string[]): string {
  const parts: string[] = [];
  let first = "";
  let last = "";
  const close = () => {
    if (first !== "") parts.push(first === last ? first : `${first}\u2013${last}`);
  };
  for (const place of places) {
    const [, letters = "", number = ""] = /^(\D+)(\d*)$/.exec(place) ?? [];
    const follows = number !== "" && last === `${letters}${Number(number) - 1}`;
    if (!follows) {
      close();
      first = place;
    }
    last = place;
  }
  close();
  return parts.join(", ");
}

function whatText(n: Unchecked): string {
  switch (n.kind) {
    case "figure":
      return FIGURE_WORD[n.figure];
    case "part":
      return n.role.endsWith("wall") ? capital(TABLE_WORD[n.role]) : PARTS_WORD[n.role];
    case "relief":
      return "Wider toward the parting line";
    case "unproven":
      return "Gauges checked on a standard";
    case "look":
      return `${PARTS_LOOKED_AT[n.part]} looked at`;
    case "sampled":
      return "Left out on purpose, a sample was measured";
    case "set_up":
      return `Set-up of the ${ROW_WORD[n.row]} written down`;
  }
}

/** What the sheet says nothing about, as loudly as what it says. */
export function NotChecked({ build }: { build: Build }) {
  const all = build.assessment.not_checked;
  return (
    <section
      id="not-checked"
      aria-label="Not checked"
      className="mt-3 border-2 border-ink"
      data-not-checked={all.length}
    >
      <h2 className="flex items-baseline bg-ink px-3 py-1 font-bold text-white">
        Not checked
        <span className="ml-3 text-small font-medium">this sheet says nothing about it</span>
      </h2>
      <ul className="grid grid-cols-2 gap-x-6 px-3 py-1.5 text-small max-[1150px]:grid-cols-1">
        {all.map((n) => (
          <li
            key={JSON.stringify(n)}
            className="flex gap-2 border-b border-hair py-0.5"
            data-unchecked={n.kind}
          >
            <b className="flex-1">{whatText(n)}</b>
            <span className="text-ink-2">{"places" in n ? ranges(n.places) : ""}</span>
          </li>
        ))}
        <li className="col-span-full pt-1 text-ink-2">
          Nor is any word here about balance, chamber volumes, valve springs, valve timing or gears.
        </li>
      </ul>
    </section>
  );
}
