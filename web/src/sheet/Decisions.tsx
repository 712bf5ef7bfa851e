import type { Build, Schemas } from "../api/client";
import { Digits } from "../shared/Figure";
import { momentText } from "../shared/words";

type Decision = Schemas["DecisionView"];

/** What sort of decision it was; looks have a page of their own. */
const WORD: Record<string, string> = {
  target: "Target set",
  strike: "Struck",
  concession: "Accepted",
  signature: "Signed",
  session_opened: "Gauge in",
  session_closed: "Gauge out",
  work: "Work",
  set_up: "Set-up",
  blind: "Blind",
  rules: "Rules",
  plan: "Plan",
  fitting: "Fitted",
  stamps: "Stamps",
  tray: "Tray",
  order: "Order",
  order_moved: "Order",
  part: "Part",
  assigned: "Put in",
  condemned: "Condemned",
  imported: "Imported",
  washers: "Washers",
  picture: "Picture",
  trial: "Cam turned",
  strokes: "Strokes",
  checked: "Checked",
  mishap: "Mishap",
  grid: "Grid",
  noted: "Noted",
  gauge_point: "Gauge point",
};

/** Decisions of one kind, by one person, for one reason, one after the other: told once. */
type Group = { first: Decision; count: number; about: string[] };

function together(decisions: Decision[]): Group[] {
  const groups: Group[] = [];
  for (const d of decisions) {
    const last = groups.at(-1);
    const same =
      last &&
      last.first.kind === d.kind &&
      last.first.by.id === d.by.id &&
      last.first.station === d.station &&
      last.first.text === d.text;
    const about = d.about ? [d.about] : [];
    if (same) {
      last.count += 1;
      last.about.push(...about);
    } else groups.push({ first: d, count: 1, about });
  }
  return groups.reverse();
}

/** What people decided about this build, the latest first. Nothing in it can be changed. */
export function Decisions({ build }: { build: Build }) {
  return (
    <section aria-label="Decisions" className="mt-5">
      <h2 className="border-b border-ink pb-0.5 font-bold">Decisions</h2>
      <ol>
        {together(build.decisions.filter((d) => d.kind !== "look")).map(({ first, count, about }) => (
          <li
            key={first.seq}
            data-decision={first.kind}
            className="grid grid-cols-[110px_92px_92px_44px_1fr] items-baseline gap-2 border-b border-hair py-[3px] text-small"
          >
            <span className="num text-note text-ink-2">
              <Digits text={momentText(first.at)} />
            </span>
            <span className="truncate">{first.by.name}</span>
            <b>
              {count > 1 ? `${WORD[first.kind] ?? first.kind} ${count}` : (WORD[first.kind] ?? first.kind)}
            </b>
            <span>{first.station}</span>
            <span className="text-ink-2">
              {about.length > 0 && <span className="text-ink">{about.join("; ")}: </span>}
              {first.text}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
