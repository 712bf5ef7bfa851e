import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useRef, useState } from "react";
import { methodsOf, usualRules } from "../api/catalog";
import { api, type Build, type Method, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { roughText, stepPhrase } from "../shared/figure";
import { GATE_WORD } from "../shared/gates";
import { newId } from "../shared/id";
import { METHOD_WORD, ROW_WORD } from "../shared/words";
import { ChangeWhy } from "./ChangeWhy";

type Rules = Schemas["Rules"];
type Times = Schemas["Times"];

const POLISH: Record<Unit, number[]> = {
  in: [2_540, 5_080, 7_620, 10_160, 12_700],
  mm: [2_000, 5_000, 8_000, 10_000, 13_000],
};
const CAM_POLISH: Record<Unit, number[]> = {
  in: [7_620, 12_700, 25_400, 50_800],
  mm: [8_000, 13_000, 25_000, 50_000],
};
/** What a plate may pull a bore by; nothing where cylinders are never pulled. */
const PULLS: Record<Unit, number[]> = {
  in: [0, 5_080, 12_700, 25_400],
  mm: [0, 5_000, 13_000, 25_000],
};
const STEPS: Record<Unit, number[]> = { in: [0, 12_700, 25_400, 50_800], mm: [0, 12_000, 25_000, 50_000] };

/** Lengths to choose from, with the one in force among them. */
function lengths(all: number[], inForce: number, unit: Unit) {
  const known = [...new Set([...all, inForce])].sort((a, b) => a - b);
  return known.map((nm) => ({ value: String(nm), text: nm === 0 ? "nothing" : stepPhrase(nm, unit) }));
}

const TEMPERATURES = [
  { key: "bore_c", text: "wall \u00b0C" },
  { key: "ring_c", text: "ring \u00b0C" },
  { key: "skirt_c", text: "skirt \u00b0C" },
] as const;

/** What a piston closes by; nothing where nobody has said. */
const CLOSES: Record<Unit, number[]> = {
  in: [0, 25_400, 38_100, 50_800, 63_500, 76_200, 101_600],
  mm: [0, 20_000, 30_000, 40_000, 50_000, 70_000, 100_000],
};
const FLOORS: Record<Unit, number[]> = {
  in: [50_800, 76_200, 101_600, 152_400],
  mm: [50_000, 80_000, 100_000, 150_000],
};

const FINISHES = [
  { key: "journal", text: "journals" },
  { key: "face", text: "faces" },
] as const;
type Finish = (typeof FINISHES)[number]["key"];

/** Nanometres: four to sixteen millionths of an inch, a tenth to two fifths of a micrometre; faces from thin metal gaskets up. */
const ROUGH: Record<Unit, Record<Finish, number[]>> = {
  in: { journal: [102, 152, 203, 254, 406], face: [508, 762, 1_270, 1_524, 2_540] },
  mm: { journal: [100, 150, 200, 250, 400], face: [500, 800, 1_200, 1_500, 2_500] },
};

/** Roughnesses to choose from, with the one in force among them. */
function rough(of: Finish, inForce: number, unit: Unit) {
  const known = [...new Set([...ROUGH[unit][of], inForce])].sort((a, b) => a - b);
  return known.map((nm) => ({ value: String(nm), text: roughText(nm, unit) }));
}

const RECKONS: Record<Schemas["Reckoning"], string> = {
  first: "every dial counts as carried across; a hand as declared",
  second: "what the gauge was zeroed in, how the hand repeats, the worst place corrected",
  third: "both ends of a bearing, bends and not travel, single limits by U alone, blades by what they prove",
};

/** Taper and roundness that shapes may have, in nanometres. */
const SHAPES: Record<Unit, number[]> = {
  in: [2_540, 5_080, 7_620, 10_160, 12_700, 25_400],
  mm: [2_000, 3_000, 5_000, 8_000, 10_000, 20_000],
};
const SHAPE_LIMITS = [
  { key: "journal_taper", text: "journal taper" },
  { key: "journal_round", text: "journal round" },
  { key: "housing_round", text: "housing round" },
  { key: "housing_taper", text: "housing taper" },
] as const;

const TIMES: { key: keyof Times; text: string }[] = [
  { key: "swap", text: "a swap" },
  { key: "reading_set", text: "a feature" },
  { key: "polish_step", text: "a grit" },
];

/** Methods that a build may prefer; a strip decides where its own rule lets it. */
const WHY: Partial<Record<Method, string>> = {
  direct: "the mic only carries the size across, so its own error cancels",
  subtract: "the calibration of both gauges counts",
  components: "housing less walls less journal; walls by the catalogue leave a band",
};

/** By which rules the build is judged, with what each means; changed with a reason, and recorded. */
export function RulesForm({ build }: { build: Build }) {
  const client = useQueryClient();
  const seen = build.assessment.rules;
  const usual = usualRules();
  // What was said last: a figure that is emptied to be typed anew takes nothing else with it.
  const hot = useRef(seen.hot ?? usual.hot);
  const heat = (change: Partial<Schemas["HotRunning"]>, said = true) => {
    if (said) hot.current = { ...hot.current, ...change };
    set({ hot: said ? hot.current : null });
  };
  const [id] = useState(newId);
  const [rules, setRules] = useState<Rules>(seen);
  const [reason, setReason] = useState("");
  const set = (change: Partial<Rules>) => setRules((r) => ({ ...r, ...change }));
  const dirty = JSON.stringify(rules) !== JSON.stringify(seen);
  const record = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/rules", {
          params: { path: { build: build.code } },
          body: { id, seen, rules, reason },
        }),
      ),
    onSuccess: (recorded) => showRecorded(client, recorded),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    record.mutate();
  };
  const methods = methodsOf("oil_clearance")
    .filter((m) => WHY[m] !== undefined)
    .map((m) => ({
      value: m as Method,
      text: METHOD_WORD[m],
    }));
  const row = (name: string, choice: ReactNode, means: string) => (
    <tr className="border-b border-hair">
      <th scope="row" className="w-[172px] py-0.5 pr-3 text-left text-small font-medium text-ink-2">
        {name}
      </th>
      <td className="w-[320px] py-0.5 pr-3">{choice}</td>
      <td className="py-0.5 text-note leading-snug text-ink-2">{means}</td>
    </tr>
  );
  /** A length that the rules hold something to, with how its row is called, its choice, and what it means. */
  const most = (
    key: "polish_limit" | "cam_polish_limit" | "plate_pull",
    all: Record<Unit, number[]>,
    [name, label, means]: [string, string, string],
  ) => {
    const inForce = rules[key] ?? usual[key];
    return row(
      name,
      <Choice
        label={label}
        value={String(inForce)}
        options={lengths(all[build.unit], inForce, build.unit)}
        onChange={(nm) => set({ [key]: Number(nm) })}
      />,
      means,
    );
  };
  return (
    <form onSubmit={submit}>
      <table className="w-full">
        <caption className="sr-only">Rules of this build</caption>
        <tbody>
          {row(
            "Preferred method",
            <Choice
              label="Preferred method"
              value={rules.preferred ?? "direct"}
              options={methods}
              onChange={(preferred) => set({ preferred })}
            />,
            WHY[rules.preferred ?? "direct"] ?? "",
          )}
          {row(
            "Which size counts",
            <Choice
              label="Which size counts"
              value={rules.effective}
              options={[
                { value: "worst", text: "worst place" },
                { value: "mean", text: "mean of places" },
              ]}
              onChange={(effective) => set({ effective })}
            />,
            rules.effective === "worst" ? "the least clearance that exists" : "the average of the places",
          )}
          {row(
            "Limits",
            <Choice
              label="Limits"
              value={rules.acceptance}
              options={[
                { value: "guarded", text: "guarded" },
                { value: "simple", text: "simple" },
              ]}
              onChange={(acceptance) => set({ acceptance })}
            />,
            rules.acceptance === "guarded" ? "in only when U cannot carry it out" : "U is left out",
          )}
          {row(
            "Uncertainty",
            <Choice
              label="Uncertainty"
              value={rules.reckoning ?? "first"}
              options={[
                { value: "first", text: "as before" },
                { value: "second", text: "by zero, hand and place" },
                { value: "third", text: "both ends, shapes without noise" },
              ]}
              onChange={(reckoning) => set({ reckoning })}
            />,
            RECKONS[rules.reckoning ?? "first"],
          )}
          {row(
            "Touches a place",
            <Choice
              label="Touches a place"
              value={String(rules.touches)}
              options={["1", "2", "3"].map((n) => ({ value: n, text: n }))}
              onChange={(n) => set({ touches: Number(n) })}
            />,
            "and a third where two differ by more than a step",
          )}
          {row(
            "Repeats",
            <Choice
              label="Repeats"
              value={rules.rounds ? "rounds" : "at_once"}
              options={[
                { value: "at_once", text: "at once" },
                { value: "rounds", text: "in rounds" },
              ]}
              onChange={(v) => set({ rounds: v === "rounds" })}
            />,
            "in rounds: one touch at each place, repeats on the way back at three of a row, more only where one may decide",
          )}
          {row(
            "Crushed strip",
            <Choice
              label="Crushed strip"
              value={rules.strip_judges ? "judges" : "checks"}
              options={[
                { value: "checks", text: "cross-check" },
                { value: "judges", text: "may judge" },
              ]}
              onChange={(v) => set({ strip_judges: v === "judges" })}
            />,
            "only within its colour's range, vertical, crank not turned",
          )}
          {row(
            "After a regrind",
            <Choice
              label="After a regrind"
              value={rules.regrind_gate ? "all" : "none"}
              options={[
                { value: "all", text: "measure every fillet" },
                { value: "none", text: "ask for none" },
              ]}
              onChange={(v) => set({ regrind_gate: v === "all" })}
            />,
            "a wheel leaves its own radius wherever it goes",
          )}
          {row(
            "Washers that were fitted",
            <Choice
              label="Washers that were fitted"
              value={rules.orientation_pictures ? "picture" : "tick"}
              options={[
                { value: "picture", text: "tick and picture" },
                { value: "tick", text: "tick only" },
              ]}
              onChange={(v) => set({ orientation_pictures: v === "picture" })}
            />,
            "which way they face shows in no figure; rings likewise",
          )}
          {row(
            "After stone or wheel",
            <Choice
              label="After stone or wheel"
              value={rules.cleaning_gate ? "wash" : "none"}
              options={[
                { value: "wash", text: "wash before it signs" },
                { value: "none", text: "ask for nothing" },
              ]}
              onChange={(v) => set({ cleaning_gate: v === "wash" })}
            />,
            "grit ruins what was measured",
          )}
          {row(
            "After a mishap or a crack",
            <Choice
              label="After a mishap or a crack"
              value={rules.check_gate ? "force" : "none"}
              options={[
                { value: "force", text: "force its checks" },
                { value: "none", text: "ask for nothing" },
              ]}
              onChange={(v) => set({ check_gate: v === "force" })}
            />,
            "a crank that was straightened or welded is crack-tested too",
          )}
          {row(
            "When it is hot",
            <span className="flex items-end gap-2">
              {TEMPERATURES.map(({ key, text }) => (
                <label key={key} className="text-note text-ink-2">
                  <span className="block">{text}</span>
                  <input
                    type="text"
                    inputMode="numeric"
                    name={`hot-${key}`}
                    value={rules.hot ? String(rules.hot[key]) : ""}
                    placeholder="no"
                    onChange={(e) => {
                      const degrees = Number(e.target.value) || 0;
                      heat({ [key]: degrees }, degrees > 0);
                    }}
                    className="num h-8 w-[58px] border border-hair-strong bg-paper px-1.5 text-[14px] text-ink"
                  />
                </label>
              ))}
              {rules.hot && (
                <Choice
                  label="Left of a ring's gap"
                  value={String(rules.hot.ring_floor)}
                  options={lengths(FLOORS[build.unit], rules.hot.ring_floor, build.unit)}
                  onChange={(nm) => heat({ ring_floor: Number(nm) })}
                />
              )}
            </span>,
            "what has to be left of a ring's gap then, or the work stops",
          )}
          {row(
            "A piston closes by",
            <Choice
              label="A piston closes by"
              value={String(rules.hot?.piston_closes ?? 0)}
              options={lengths(CLOSES[build.unit], rules.hot?.piston_closes ?? 0, build.unit).map((o) =>
                o.value === "0" ? { ...o, text: "not said" } : o,
              )}
              onChange={(nm) => heat({ piston_closes: Number(nm) === 0 ? null : Number(nm) })}
            />,
            "by your own figure: arithmetic alone is an estimate, skirts flex",
          )}
          {most("polish_limit", POLISH, [
            "Polished off at most",
            "Polished off at most",
            "on the diameter; what wants more goes to the grinder",
          ])}
          {most("cam_polish_limit", CAM_POLISH, [
            "Off a cam journal",
            "Polished off a cam journal at most",
            "at most, and never more than half of its hard skin",
          ])}
          {most("plate_pull", PULLS, [
            "A torque plate pulls",
            "A torque plate pulls a bore by",
            "left open where a bore was measured without it, until it was measured both ways",
          ])}
          {row(
            "As rough as",
            <span className="flex gap-2">
              {FINISHES.map(({ key, text }) => (
                <span key={key}>
                  <span className="block text-note text-ink-2">{text}</span>
                  <Choice
                    label={`${text}, Ra at most`}
                    value={String((rules.finish ?? usual.finish)[key])}
                    options={rough(key, (rules.finish ?? usual.finish)[key], build.unit)}
                    onChange={(nm) =>
                      set({ finish: { ...(rules.finish ?? usual.finish), [key]: Number(nm) } })
                    }
                  />
                </span>
              ))}
            </span>,
            "Ra at most; what is rougher is named at its figure",
          )}
          {rules.shape &&
            row(
              "As true as",
              <span className="flex flex-wrap gap-x-2 gap-y-1">
                {SHAPE_LIMITS.map(({ key, text }) => {
                  const shape = rules.shape;
                  if (!shape) return null;
                  const limit = shape[key] ?? shape.housing_round;
                  return (
                    <span key={key}>
                      <span className="block text-note text-ink-2">{text}</span>
                      <Choice
                        label={`${text}, at most`}
                        value={String(limit)}
                        options={lengths(SHAPES[build.unit], limit, build.unit)}
                        onChange={(nm) => set({ shape: { ...shape, [key]: Number(nm) } })}
                      />
                    </span>
                  );
                })}
              </span>,
              "taper and out-of-round at most; what is proven beyond is named, and blocks where it is ticked below",
            )}
          {row(
            "Bearings to measure",
            <span className="flex gap-2">
              {(["mains", "rods"] as const).map((of) => (
                <Choice
                  key={of}
                  label={`${ROW_WORD[of]} to measure`}
                  value={rules.sampled?.includes(of) ? "ends" : "all"}
                  options={[
                    { value: "all", text: `all ${ROW_WORD[of]}` },
                    { value: "ends", text: `front and rear ${ROW_WORD[of]} only` },
                  ]}
                  onChange={(which) => {
                    const others = (rules.sampled ?? []).filter((r) => r !== of);
                    set({ sampled: which === "ends" ? [...others, of] : others });
                  }}
                />
              ))}
            </span>,
            "of a sample, nothing is claimed of those between, nor of how the row leans; the sheet says so",
          )}
          {row(
            "Nobody signs past",
            <span className="grid grid-cols-2 gap-x-3">
              {(Object.keys(GATE_WORD) as Schemas["Gate"][]).map((gate) => (
                <label key={gate} className="flex items-center gap-1.5 text-small">
                  <input
                    type="checkbox"
                    name={`gate-${gate}`}
                    checked={rules.gates?.includes(gate) ?? false}
                    onChange={(e) => {
                      const others = (rules.gates ?? []).filter((g) => g !== gate);
                      set({ gates: e.target.checked ? [...others, gate] : others });
                    }}
                  />
                  {GATE_WORD[gate]}
                </label>
              ))}
            </span>,
            "without the lead's concession of it; what is not ticked is only said",
          )}
          {row(
            "A pair's classes differ by",
            <span className="flex gap-2">
              <Choice
                label="A pair's classes differ by"
                value={String(rules.max_step ?? usual.max_step)}
                options={lengths(STEPS[build.unit], rules.max_step ?? usual.max_step, build.unit)}
                onChange={(nm) => set({ max_step: Number(nm) })}
              />
              <Choice
                label="The odd half"
                value={rules.odd_half ?? "either"}
                options={[
                  { value: "either", text: "odd half anywhere" },
                  { value: "upper", text: "odd half above" },
                  { value: "lower", text: "odd half in the cap" },
                ]}
                onChange={(half) => set({ odd_half: half === "either" ? null : half })}
              />
            </span>,
            "at most; the ledge at the split is half of it, inside the relief",
          )}
          {row(
            "Minutes for",
            <span className="flex gap-2">
              {TIMES.map(({ key, text }) => (
                <label key={key} className="text-note text-ink-2">
                  <span className="block">{text}</span>
                  <input
                    type="text"
                    inputMode="numeric"
                    name={`times-${key}`}
                    value={String((rules.times ?? usual.times)[key] || "")}
                    onChange={(e) =>
                      set({
                        times: { ...(rules.times ?? usual.times), [key]: Number(e.target.value) || 0 },
                      })
                    }
                    className="num h-8 w-[58px] border border-hair-strong bg-paper px-1.5 text-[14px] text-ink"
                  />
                </label>
              ))}
            </span>,
            "plans are estimated with these; what was booked is held against it",
          )}
        </tbody>
      </table>
      {dirty && (
        <ChangeWhy
          name="reason"
          reason={reason}
          problem={record.error}
          busy={record.isPending}
          action="Change the rules"
          onReason={setReason}
          onLeave={() => {
            hot.current = seen.hot ?? usual.hot;
            setRules(seen);
          }}
        />
      )}
    </form>
  );
}
