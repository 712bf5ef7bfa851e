import type { Schemas, Unit } from "../api/client";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";

/** What is typed and chosen of the cylinders; nothing chosen is left to the engine it is like. */
export type CylinderForm = {
  bore: string;
  present_oversize: string;
  bank_angle: string;
  banks: "" | "1" | "2";
  wall: "" | Schemas["Wall"];
  alloy: "" | Schemas["Alloy"];
};
export const NO_CYLINDERS: CylinderForm = {
  bore: "",
  present_oversize: "",
  bank_angle: "",
  banks: "",
  wall: "",
  alloy: "",
};

const WALLS: { value: CylinderForm["wall"]; text: string }[] = [
  { value: "", text: "not said: iron" },
  { value: "iron", text: "iron, or iron liners" },
  { value: "bare", text: "bare light metal" },
  { value: "coated", text: "sprayed or plated" },
];
const ALLOYS: { value: CylinderForm["alloy"]; text: string }[] = [
  { value: "", text: "not known" },
  { value: "hypereutectic", text: "cast, hypereutectic" },
  { value: "forged_eutectic", text: "forged, eutectic" },
  { value: "forged_low_silicon", text: "forged, low silicon" },
];

/** What an engine says of its cylinders, as the form shows it. */
export function cylindersOf(pattern: Schemas["PatternView"]): CylinderForm {
  const of = pattern.layout.cylinders;
  return {
    ...NO_CYLINDERS,
    bore: pattern.bore_text ?? "",
    bank_angle: String(of?.bank_angle ?? ""),
    banks: of?.banks === 1 ? "1" : of?.banks === 2 ? "2" : "",
    wall: of?.wall ?? "",
    alloy: of?.alloy ?? "",
  };
}

/** The same, as the server takes it. */
export function cylindersToSend({ banks, wall, alloy, ...typed }: CylinderForm) {
  return { ...typed, banks: banks === "" ? null : Number(banks), wall: wall || null, alloy: alloy || null };
}

type CylinderFieldsProps = {
  unit: Unit;
  rodsPerPin: number;
  value: CylinderForm;
  problem: unknown;
  onChange: (value: CylinderForm) => void;
};

/** The bore of a new build, and what is asked of its cylinders once there is one. */
export function CylinderFields({ unit, rodsPerPin, value, problem, onChange }: CylinderFieldsProps) {
  const set = (part: Partial<CylinderForm>) => onChange({ ...value, ...part });
  const field = (name: "bore" | "present_oversize" | "bank_angle", label: string, usual?: string) => (
    <Field
      label={label}
      name={name}
      value={value[name]}
      figure
      placeholder={usual}
      problem={problem}
      autoComplete="off"
      onChange={(e) => set({ [name]: e.target.value })}
    />
  );
  const banks = value.banks === "" ? (rodsPerPin === 2 ? 2 : 1) : Number(value.banks);
  return (
    <>
      <div className="col-span-3 col-start-1">
        {field("bore", `Bore, where cylinders are built here (${unit})`)}
      </div>
      {value.bore.trim() !== "" && (
        <fieldset className="col-span-6 grid grid-cols-10 gap-x-4 border-t border-hair pt-2">
          <legend className="sr-only">Cylinders and pistons</legend>
          <div className="col-span-2">{field("present_oversize", "Oversize in it", "standard")}</div>
          <div className="col-span-2">
            <Choice
              label="Pistons run on"
              showLabel
              className="h-10 w-full"
              value={value.wall}
              onChange={(wall) => set({ wall })}
              options={WALLS}
            />
          </div>
          <div className="col-span-2">
            <Choice
              label="Pistons are"
              showLabel
              className="h-10 w-full"
              value={value.alloy}
              onChange={(alloy) => set({ alloy })}
              options={ALLOYS}
            />
          </div>
          <div className="col-span-2">
            <Choice
              label="Banks"
              showLabel
              className="h-10 w-full"
              value={value.banks}
              onChange={(chosen) => set({ banks: chosen })}
              options={[
                { value: "", text: "by the rods" },
                { value: "1", text: "one" },
                { value: "2", text: "two" },
              ]}
            />
          </div>
          {banks === 2 && <div className="col-span-2">{field("bank_angle", "Degrees between", "90")}</div>}
        </fieldset>
      )}
    </>
  );
}
