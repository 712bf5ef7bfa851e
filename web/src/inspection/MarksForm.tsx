import { useState } from "react";
import type { Build, Schemas } from "../api/client";
import { Choice } from "../shared/Choice";
import { Figure } from "../shared/Figure";
import { SmallField } from "../shared/SmallField";
import { useShownUnit } from "../shared/units";
import { GOOD } from "./parts";
import { SIGN_WORD } from "./pictograms";

type Sign = Schemas["Sign"];
type Seen = Schemas["InspectionView"];
type Along = Schemas["Axial"] | "";

/** Of what stands up a part has a top; what lies has a front. */
function along(part: Seen["part"]): { value: Along; text: string }[] {
  const stands = part === "bore" || part === "piston";
  return [
    { value: "", text: "anywhere" },
    { value: "front", text: stands ? "top" : "front" },
    { value: "middle", text: "middle" },
    { value: "rear", text: stands ? "bottom" : "rear" },
  ];
}

/** A mark as it goes back to the server: its depth as a text that is read without loss. */
export function again(mark: Schemas["Mark"]): Schemas["NewMark"] {
  return { ...mark, depth: mark.depth == null ? "" : `${mark.depth / 1_000}um` };
}

type MarksFormProps = { build: Build; seen: Seen; onRecord: (marks: Schemas["NewMark"][]) => void };

/** Where on a part each sign is, and how deep it goes. */
export function MarksForm({ build, seen, onRecord }: MarksFormProps) {
  const unit = useShownUnit(build.unit);
  const signs = seen.signs.filter((s) => !GOOD.has(s));
  const [sign, setSign] = useState<Sign>(signs[0] ?? "pits");
  const [where, setWhere] = useState<Along>("");
  const [clock, setClock] = useState("");
  const [depth, setDepth] = useState("");
  const places = along(seen.part);
  const record = () => {
    const mark: Schemas["NewMark"] = {
      sign,
      along: where === "" ? null : where,
      clock: /^\d+$/.test(clock.trim()) ? Number(clock) : null,
      depth,
    };
    onRecord([...seen.marks.map(again), mark]);
  };
  return (
    <section aria-label="Where it is" className="mt-2 border-t border-hair pt-2">
      {seen.marks.length > 0 && (
        <ul className="mb-1.5 text-small" aria-label="Marks">
          {seen.marks.map((m, i) => (
            <li key={`${m.sign} ${m.along} ${m.clock} ${m.depth}`} data-mark={m.sign} className="flex gap-3">
              <b>{SIGN_WORD[m.sign]}</b>
              <span>
                {m.along && places.find((p) => p.value === m.along)?.text}
                {m.clock != null && <span className="num"> {m.clock}°</span>}
              </span>
              {m.depth != null && (
                <span>
                  <Figure nm={m.depth} unit={unit} /> deep
                </span>
              )}
              <button
                type="button"
                className="ml-auto font-semibold text-dye underline underline-offset-2"
                aria-label={`Remove mark ${i + 1}`}
                onClick={() => onRecord(seen.marks.filter((other) => other !== m).map(again))}
              >
                Remove
              </button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          record();
        }}
      >
        <div>
          <Choice
            label="Where is"
            showLabel
            value={sign}
            options={signs.map((s) => ({ value: s, text: SIGN_WORD[s] }))}
            onChange={setSign}
            className="h-8 min-w-36 text-small"
          />
        </div>
        <div>
          <Choice
            label="Along it"
            showLabel
            value={where}
            options={places}
            onChange={setWhere}
            className="h-8 min-w-24 text-small"
          />
        </div>
        <SmallField label="Clock, degrees" name="clock" value={clock} usual="any" onChange={setClock} above />
        <SmallField label="How deep" name="depth" value={depth} usual="unknown" onChange={setDepth} above />
        <button type="submit" className="btn">
          Mark it
        </button>
      </form>
    </section>
  );
}
