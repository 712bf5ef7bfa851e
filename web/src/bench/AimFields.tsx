import type { Schemas } from "../api/client";
import { Field } from "../shared/Field";
import { SmallField } from "../shared/SmallField";
import { ADDER_WORD } from "../shared/words";

type Adder = Schemas["Adder"];

/** What an aim is made of, as it is typed. */
export type TypedAim = {
  sheet: string;
  factor: string;
  covers: Adder[];
  adders: Partial<Record<Adder, string>>;
};

export const NO_SUM: TypedAim = { sheet: "", factor: "", covers: [], adders: {} };

const ADDERS = Object.keys(ADDER_WORD) as Adder[];

/** As the server wants it; nothing where neither a sheet nor a factor is typed. */
export function aimSent(typed: TypedAim): Schemas["TypedAim"] | null {
  if (typed.sheet.trim() === "" && typed.factor.trim() === "") return null;
  const adders = ADDERS.flatMap((why) => {
    const by = typed.adders[why]?.trim() ?? "";
    return by === "" ? [] : [{ why, by }];
  });
  return { sheet: typed.sheet, factor: typed.factor, covers: typed.covers, adders };
}

type AimFieldsProps = {
  typed: TypedAim;
  unit: string;
  problem: unknown;
  onChange: (typed: TypedAim) => void;
};

/** The aim as the sum of named terms; the server adds it up. */
export function AimFields({ typed, unit, problem, onChange }: AimFieldsProps) {
  const toggle = (why: Adder, covered: boolean) =>
    onChange({
      ...typed,
      covers: covered ? [...typed.covers, why] : typed.covers.filter((other) => other !== why),
    });
  return (
    <fieldset className="col-span-6 grid grid-cols-6 gap-x-4 gap-y-2 border-t border-hair pt-2">
      <legend className="text-small text-ink-2">
        The aim as a sum: the larger of sheet and factor, and what is added. Both empty: the aim as typed
        above.
      </legend>
      <div className="col-span-3">
        <Field
          label={`Smallest of the piston's sheet (${unit})`}
          name="sheet"
          value={typed.sheet}
          figure
          problem={problem}
          autoComplete="off"
          onChange={(e) => onChange({ ...typed, sheet: e.target.value })}
        />
      </div>
      <div className="col-span-3">
        <Field
          label={`Or per ${unit} of bore`}
          name="factor"
          value={typed.factor}
          figure
          placeholder="0.0009"
          problem={problem}
          autoComplete="off"
          onChange={(e) => onChange({ ...typed, factor: e.target.value })}
        />
      </div>
      {ADDERS.map((why) => (
        <div key={why}>
          <SmallField
            label={ADDER_WORD[why]}
            name={`adder-${why}`}
            value={typed.adders[why] ?? ""}
            usual="none"
            onChange={(by) => onChange({ ...typed, adders: { ...typed.adders, [why]: by } })}
            above
          />
          <label className="mt-0.5 flex items-center gap-1 text-note whitespace-nowrap text-ink-2">
            <input
              type="checkbox"
              className="size-4"
              aria-label={`The sheet is for ${ADDER_WORD[why]} already`}
              checked={typed.covers.includes(why)}
              onChange={(e) => toggle(why, e.target.checked)}
            />
            in the sheet
          </label>
        </div>
      ))}
    </fieldset>
  );
}
