import type { Build, Schemas } from "./client";

type Changes = Schemas["ChangesView"];

/** `all` with what is new put in the place of what is the same, else at the end. */
function replaced<T>(all: T[], news: T[] | null | undefined, same: (a: T, b: T) => boolean): T[] {
  if (!news || news.length === 0) return all;
  const kept = all.map((one) => news.find((n) => same(n, one)) ?? one);
  return [...kept, ...news.filter((n) => !all.some((one) => same(n, one)))];
}

/** What is there, without what is absent: an absent part is as it was. */
function present<T extends object>(part: T): { [K in keyof T]?: NonNullable<T[K]> } {
  const there = Object.entries(part).filter(([, value]) => value != null);
  return Object.fromEntries(there) as { [K in keyof T]?: NonNullable<T[K]> };
}

/** Whether changes can be worked into what is shown: nothing may be missing between them. */
export function follows(shown: Build, changes: Changes): boolean {
  return changes.whole != null || shown.assessment.seq === changes.since;
}

/** A build with changes worked into it. */
export function merged(shown: Build, changes: Changes): Build {
  if (changes.whole) return changes.whole;
  const { figures, ...assessed } = changes.assessment;
  const { gauges, plans, set_ups, inspections, mishaps, parts, asked } = changes;
  return {
    ...shown,
    ...present({ gauges, plans, set_ups, inspections, mishaps, parts, asked }),
    readings: replaced(shown.readings, changes.readings, (a, b) => a.id === b.id),
    decisions: [...shown.decisions, ...(changes.decisions ?? [])],
    assessment: {
      ...shown.assessment,
      ...present(assessed),
      figures: replaced(
        shown.assessment.figures,
        figures,
        (a, b) => a.station === b.station && a.figure === b.figure,
      ),
      seq: changes.seq,
    },
  };
}
