import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, type Unit, unwrap } from "../api/client";
import { presetsQuery, shopQuery } from "../api/queries";
import { useSettled } from "../bench/useEcho";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { CylinderFields, cylindersOf, cylindersToSend, NO_CYLINDERS } from "./CylinderFields";

const EMPTY = {
  code: "",
  engine: "",
  unit: "in" as Unit,
  mains: "5",
  thrust: "M3",
  main_journal: "",
  pins_per_bay: "1",
  throws: "",
  stroke: "",
  low: "",
  aim: "",
  high: "",
};
const NO_RODS = { per_pin: "0", pin: "", low: "", aim: "", high: "" };
const OWN = "own";
/** How long a shaft is not typed on before windows for it are asked for, in milliseconds. */
const SETTLES = 200;

type Shells = Schemas["NewNominals"];
type Material = Schemas["Material"];
const NO_SHELLS: Shells = { housing: "", housing_tolerance: "", wall: "", wall_tolerance: "" };
const SHELL_FIELDS: [keyof Shells, string][] = [
  ["housing", "Housing"],
  ["housing_tolerance", "\u00b1"],
  ["wall", "Wall, largest"],
  ["wall_tolerance", "less by at most"],
];
const ROD_FIELDS = Object.keys(NO_RODS).map((name) => `rods.${name}`);
const shellFields = (before: string) => SHELL_FIELDS.map(([name]) => `${before}shells.${name}`);
const FIELDS = [
  ...Object.keys(EMPTY),
  ...Object.keys(NO_CYLINDERS),
  ...ROD_FIELDS,
  ...shellFields(""),
  ...shellFields("rods."),
  "pattern",
];

const BLOCKS: { value: Material; text: string }[] = [
  { value: "iron", text: "iron" },
  { value: "aluminium", text: "aluminium" },
  { value: "magnesium", text: "magnesium" },
  { value: "steel", text: "steel" },
];
const RODS = BLOCKS.filter((m) => m.value === "steel" || m.value === "aluminium");

type NewBuildProps = {
  /** Whether whoever asks runs the shop, and may keep an engine for it. */
  runsShop: boolean;
  onClose: () => void;
  onOpened: (code: string) => void;
};

/** Opens a build from an engine the shop knows, or from a layout of its own. */
export function NewBuild({ runsShop, onClose, onOpened }: NewBuildProps) {
  const client = useQueryClient();
  const shop = useQuery(shopQuery);
  const [pattern, setPattern] = useState(OWN);
  const [form, setForm] = useState(EMPTY);
  const [rods, setRods] = useState(NO_RODS);
  const [block, setBlock] = useState<Material>("iron");
  const [material, setMaterial] = useState<Material>("steel");
  const [shells, setShells] = useState(NO_SHELLS);
  const [rodShells, setRodShells] = useState(NO_SHELLS);
  const [cylinders, setCylinders] = useState(NO_CYLINDERS);
  const [keepEngine, setKeepEngine] = useState(false);
  // Made once: sending the form twice opens one build.
  const [ids] = useState(() => ({ id: newId(), target_id: newId() }));
  const [rodTarget] = useState(newId);
  const main_journal = useSettled(form.main_journal, SETTLES);
  const pin = useSettled(rods.pin, SETTLES);
  const presets = useQuery({
    ...presetsQuery({ unit: form.unit, main_journal, pin }),
    placeholderData: keepPreviousData,
  });
  const windowOf = (name: string, at: Schemas["PlaceKind"]) =>
    presets.data?.presets.find((p) => isClearance(p) && p.name === name && p.at === at)?.window ?? [];
  const patterns = shop.data?.patterns ?? [];
  const set = (part: Partial<typeof EMPTY>) => setForm((f) => ({ ...f, ...part }));
  const choosePattern = (id: string) => {
    setPattern(id);
    const p = patterns.find((known) => known.id === id);
    if (!p) return;
    const [low, aim, high] = p.target_texts;
    set({
      engine: p.engine,
      unit: p.unit,
      mains: String(p.layout.mains),
      thrust: p.layout.thrust,
      main_journal: p.main_journal_text,
      pins_per_bay: String(p.layout.crank.bays[0]?.length ?? 1),
      // What is known of the engine holds while nothing is typed over it.
      throws: "",
      stroke: "",
      low: low ?? "",
      aim: aim ?? "",
      high: high ?? "",
    });
    setBlock(p.layout.block ?? "iron");
    setCylinders(cylindersOf(p));
    setMaterial(p.layout.rods?.material ?? "steel");
    setShells(p.shells ?? NO_SHELLS);
    setRodShells(p.rod_shells ?? NO_SHELLS);
    const [rodLow, rodAim, rodHigh] = p.rod_target_texts ?? [];
    setRods(
      p.pin_text
        ? {
            per_pin: String(p.layout.rods?.per_pin ?? 1),
            pin: p.pin_text,
            low: rodLow ?? "",
            aim: rodAim ?? "",
            high: rodHigh ?? "",
          }
        : NO_RODS,
    );
  };
  const open = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds", {
          body: {
            ...ids,
            ...form,
            mains: Number(form.mains),
            pins_per_bay: Number(form.pins_per_bay),
            pattern: pattern === OWN ? null : pattern,
            keep_engine: keepEngine && pattern === OWN,
            block,
            ...cylindersToSend(cylinders),
            shells,
            rods:
              rods.per_pin === "0"
                ? null
                : {
                    ...rods,
                    per_pin: Number(rods.per_pin),
                    target_id: rodTarget,
                    material,
                    shells: rodShells,
                  },
          },
        }),
      ),
    onSuccess: (build) => {
      void client.invalidateQueries({ queryKey: ["floor"] });
      if (keepEngine) void client.invalidateQueries(shopQuery);
      onOpened(build.code);
    },
  });
  const text = (
    name: keyof typeof EMPTY,
    label: string,
    { usual, ...more }: { figure?: boolean; hint?: string; usual?: string } = {},
  ) => (
    <Field
      label={label}
      name={name}
      value={form[name]}
      placeholder={usual}
      problem={open.error}
      autoComplete="off"
      onChange={(e) => set({ [name]: e.target.value })}
      {...more}
    />
  );
  const rod = (name: keyof typeof NO_RODS, label: string, className: string) => (
    <Field
      label={label}
      name={`rods.${name}`}
      value={rods[name]}
      figure
      problem={open.error}
      autoComplete="off"
      className={className}
      onChange={(e) => setRods((r) => ({ ...r, [name]: e.target.value }))}
    />
  );
  const nominals = (before: "" | "rods.", of: Shells, change: (of: Shells) => void) => (
    <div className="col-span-6 grid grid-cols-[1fr_70px_1fr_100px] gap-3">
      {SHELL_FIELDS.map(([name, label]) => (
        <Field
          key={name}
          label={label}
          name={`${before}shells.${name}`}
          value={of[name]}
          figure
          problem={open.error}
          autoComplete="off"
          onChange={(e) => change({ ...of, [name]: e.target.value })}
        />
      ))}
    </div>
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    open.mutate();
  };
  const shownAtField = FIELDS.some((name) => fieldProblem(open.error, name));
  const stations = Array.from({ length: Number(form.mains) || 0 }, (_, i) => `M${i + 1}`);
  return (
    <Sheetlet open title="New build" onClose={onClose} width={760}>
      <form onSubmit={submit} className="mt-3 grid grid-cols-6 gap-x-4 gap-y-3">
        <div className="col-span-6">
          <Choice
            label="Engine layout"
            showLabel
            className="h-10 w-full"
            value={pattern}
            onChange={choosePattern}
            options={[
              { value: OWN, text: "A layout of its own" },
              ...patterns.map((p) => ({ value: p.id, text: p.engine })),
            ]}
          />
        </div>
        <div className="col-span-2">{text("code", "Name on the floor", { hint: "such as SL-047" })}</div>
        <div className="col-span-3">{text("engine", "Engine")}</div>
        <div>
          <Choice
            label="Unit"
            showLabel
            className="h-10 w-full"
            value={form.unit}
            onChange={(unit) => set({ unit })}
            options={[
              { value: "in", text: "inch" },
              { value: "mm", text: "mm" },
            ]}
          />
        </div>
        <div className="col-span-2">
          <Choice
            label="Mains"
            showLabel
            className="h-10 w-full"
            value={form.mains}
            onChange={(mains) =>
              set({ mains, thrust: Number(form.thrust.slice(1)) > Number(mains) ? "M1" : form.thrust })
            }
            options={Array.from({ length: 15 }, (_, i) => ({ value: String(i + 2), text: String(i + 2) }))}
          />
        </div>
        <div className="col-span-2">
          <Choice
            label="Carries thrust"
            showLabel
            className="h-10 w-full"
            value={form.thrust}
            onChange={(thrust) => set({ thrust })}
            options={stations.map((s) => ({ value: s, text: s }))}
          />
        </div>
        <div className="col-span-2">
          <Choice
            label="Pins between mains"
            showLabel
            className="h-10 w-full"
            value={form.pins_per_bay}
            onChange={(pins_per_bay) => set({ pins_per_bay })}
            options={["1", "2", "3"].map((n) => ({ value: n, text: n }))}
          />
        </div>
        <div className="col-span-2">
          {text("main_journal", `Main journal, nominal (${form.unit})`, { figure: true })}
        </div>
        <div className="col-span-2">
          {text("throws", "Pins stand at, from the front", { figure: true, usual: "0 90 270 180" })}
        </div>
        <div className="col-span-2">{text("stroke", `Stroke (${form.unit})`, { figure: true })}</div>
        <CylinderFields
          unit={form.unit}
          rodsPerPin={Number(rods.per_pin)}
          value={cylinders}
          problem={open.error}
          onChange={setCylinders}
        />
        <div className="col-span-6 self-end pb-1 text-note text-ink-2">
          <UseButtons
            presets={presets.data?.presets ?? []}
            onUse={(name) => {
              const [low = "", aim = "", high = ""] = windowOf(name, "main");
              if (low) set({ low, aim, high });
              const [rodLow = "", rodAim = "", rodHigh = ""] = windowOf(name, "rod");
              if (rodLow) setRods((r) => ({ ...r, low: rodLow, aim: rodAim, high: rodHigh }));
            }}
          />
          Main oil clearance, cold. Your maker's sheet wins.
        </div>
        <div className="col-span-2">{text("low", "Low", { figure: true })}</div>
        <div className="col-span-2">
          {text("aim", "Aim", { figure: true, hint: "the middle if left empty" })}
        </div>
        <div className="col-span-2">{text("high", "High", { figure: true })}</div>
        <fieldset className="col-span-6 grid grid-cols-6 gap-x-4 gap-y-2 border-t border-hair pt-2">
          <legend className="sr-only">Housings and shells of the mains</legend>
          <p className="col-span-4 self-center text-small text-ink-2">
            Housings and standard shells of the mains. Leave them empty where nobody knows: the first one is
            then typed whole.
          </p>
          <div className="col-span-2">
            <Choice
              label="Block"
              showLabel
              className="h-9 w-full"
              value={block}
              onChange={setBlock}
              options={BLOCKS}
            />
          </div>
          {nominals("", shells, setShells)}
        </fieldset>
        <div className="col-span-2">
          <Choice
            label="Rods"
            showLabel
            className="h-10 w-full"
            value={rods.per_pin}
            onChange={(per_pin) => setRods((r) => ({ ...r, per_pin }))}
            options={[
              { value: "0", text: "mains only" },
              { value: "1", text: "one to a pin" },
              { value: "2", text: "two to a pin" },
              { value: "3", text: "three to a pin" },
            ]}
          />
        </div>
        {rods.per_pin !== "0" && (
          <>
            {rod("pin", `Pin, nominal (${form.unit})`, "col-span-4")}
            {rod("low", "Rod low", "col-span-2")}
            {rod("aim", "Rod aim", "col-span-2")}
            {rod("high", "Rod high", "col-span-2")}
            <div className="col-span-6 grid grid-cols-[1fr_160px] items-end gap-3">
              {nominals("rods.", rodShells, setRodShells)}
              <Choice
                label="Rods of"
                showLabel
                className="h-10 w-full"
                value={material}
                onChange={setMaterial}
                options={RODS}
              />
            </div>
          </>
        )}
        <div className="col-span-6 grid gap-3">
          {!shownAtField && <ProblemNote problem={open.error} />}
          <div className="flex items-center justify-end gap-3">
            {runsShop && pattern === OWN && (
              <label className="mr-auto flex min-h-10 items-center gap-3">
                <input
                  type="checkbox"
                  name="keep_engine"
                  checked={keepEngine}
                  onChange={(e) => setKeepEngine(e.target.checked)}
                  className="size-5 accent-dye"
                />
                <span className="text-small">The shop knows this engine from now on</span>
              </label>
            )}
            <button type="button" className="btn" onClick={onClose}>
              Cancel
            </button>
            <button type="submit" className="btn btn-main" disabled={open.isPending}>
              Open the build
            </button>
          </div>
        </div>
      </form>
    </Sheetlet>
  );
}

type PresetView = Schemas["PresetView"];

const isClearance = (p: PresetView) => p.figure === "oil_clearance";

/** The windows the shop starts from, by the use of the engine: for mains and rods at once. */
function UseButtons({ presets, onUse }: { presets: PresetView[]; onUse: (name: string) => void }) {
  const uses = [...new Set(presets.filter((p) => isClearance(p) && p.window).map((p) => p.name))];
  if (uses.length === 0) return null;
  return (
    <div className="mb-1 flex flex-wrap gap-1.5">
      {uses.map((name) => (
        <button
          key={name}
          type="button"
          data-preset={name}
          className="h-7 border border-dye bg-paper px-2 text-small font-semibold text-dye"
          onClick={() => onUse(name)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
