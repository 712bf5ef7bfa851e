import type { Schemas } from "../api/client";
import { Choice, Segments } from "../shared/Choice";
import { Field } from "../shared/Field";
import type { Group } from "./useSetUp";

export const KINDS: { value: Schemas["FastenerKind"]; text: string }[] = [
  { value: "studs", text: "Studs" },
  { value: "bolts", text: "Bolts" },
];

export const WASHERS: { value: Schemas["Washers"]; text: string }[] = [
  { value: "ground", text: "ground washers" },
  { value: "chamfered", text: "chamfered washers" },
  { value: "none", text: "no washers" },
];

export const LUBRICATED: { value: Schemas["Lubricated"]; text: string }[] = [
  { value: "thread_and_face", text: "thread and turning face" },
  { value: "thread", text: "thread only" },
  { value: "face", text: "turning face only" },
  { value: "nowhere", text: "nowhere, dry" },
];

const GROUPS: { value: Group["group"]; text: string }[] = [
  { value: "outer", text: "Outer" },
  { value: "side", text: "Side" },
];

function begun(group: Group["group"]): Group {
  return {
    group,
    fastener: "bolts",
    fasteners: "",
    washers: "chamfered",
    lubricant: "",
    lubricated: "thread_and_face",
    steps: [""],
  };
}

type GroupsProps = { groups: Group[]; problem: unknown; onChange: (groups: Group[]) => void };

/** The further fasteners of each cap: outer ones, and those through the side of the case. */
export function FastenerGroups({ groups, problem, onChange }: GroupsProps) {
  const put = (group: Group) => onChange(groups.map((g) => (g.group === group.group ? group : g)));
  return (
    <>
      {GROUPS.map(({ value, text }) => {
        const group = groups.find((g) => g.group === value);
        if (!group) {
          return (
            <button
              key={value}
              type="button"
              data-add-group={value}
              className="btn mr-3 min-h-8 text-small"
              onClick={() => onChange([...groups, begun(value)])}
            >
              {text} fasteners
            </button>
          );
        }
        return (
          <fieldset key={value} data-group={value} className="mb-3 border-t border-hair-strong pt-2">
            <legend className="float-left mr-3 font-semibold">{text}</legend>
            <div className="flex flex-wrap items-center gap-3">
              <Segments
                label={`${text} held by`}
                value={group.fastener}
                onChange={(fastener) => put({ ...group, fastener })}
                options={KINDS}
              />
              <Choice
                label={`${text} washers`}
                value={group.washers}
                onChange={(washers) => put({ ...group, washers })}
                options={WASHERS}
              />
              <Choice
                label={`${text} lubricant goes on`}
                value={group.lubricated}
                onChange={(lubricated) => put({ ...group, lubricated })}
                options={LUBRICATED}
              />
              <button
                type="button"
                className="ml-auto text-small font-semibold text-dye underline underline-offset-2"
                onClick={() => onChange(groups.filter((g) => g.group !== value))}
              >
                There are none
              </button>
            </div>
            <div className="mt-2 grid grid-cols-[1fr_1fr_2fr] gap-3">
              <Field
                label="Which set"
                name={`${value}-set`}
                value={group.fasteners}
                problem={problem}
                autoComplete="off"
                onChange={(e) => put({ ...group, fasteners: e.target.value })}
              />
              <Field
                label="Lubricant"
                name={`${value}-lubricant`}
                value={group.lubricant}
                problem={problem}
                autoComplete="off"
                onChange={(e) => put({ ...group, lubricant: e.target.value })}
              />
              <Field
                label="Steps, a comma between them"
                name={`${value}-steps`}
                value={group.steps.join(", ")}
                problem={problem}
                autoComplete="off"
                placeholder="15 lb-ft, 25 lb-ft"
                onChange={(e) => put({ ...group, steps: e.target.value.split(/, ?/) })}
              />
            </div>
          </fieldset>
        );
      })}
    </>
  );
}
