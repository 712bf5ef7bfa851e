import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { bearingsOf, rowOf } from "../api/catalog";
import { api, type Build, type Row, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { BuildPage } from "../page/BuildPage";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Hypotheses } from "./Hypotheses";
import { isStop, JOURNAL_SIGNS, Pictogram, SHELL_SIGNS, SIGN_WORD, THRUST_SIGNS } from "./pictograms";

type Sign = Schemas["Sign"];
type InspectedPart = Schemas["InspectedPart"];
type Place = { station: string; part: InspectedPart };

/** Eyes and fingernail: what shells and journals of the whole engine look like, on one screen. */
export function InspectionPage() {
  return (
    <BuildPage
      keys={[
        { press: ["\u2190", "\u2192", "\u2191", "\u2193"], does: "to another part" },
        { press: ["1", "\u2026", "="], does: "what is seen" },
      ]}
    >
      {(build) => <LookOf build={build} />}
    </BuildPage>
  );
}

/** Keys of the signs in their order. */
const SIGN_KEYS = "1234567890-=";

const PART_NAME: Record<InspectedPart, string> = {
  journal: "journal",
  upper: "upper shell",
  lower: "lower shell",
  thrust_front: "front thrust face",
  thrust_rear: "rear thrust face",
};

/** What stands under a part that its place alone does not name. */
const SHORT: Partial<Record<InspectedPart, string>> = { thrust_front: "front", thrust_rear: "rear" };

/** The signs that are looked for on a part. */
function signsOf(part: InspectedPart): Sign[] {
  if (part === "journal") return JOURNAL_SIGNS;
  return part === "upper" || part === "lower" ? SHELL_SIGNS : THRUST_SIGNS;
}

function placesOf(build: Build): Place[][] {
  const of = (name: Row) => bearingsOf(build, name);
  const mains = of("mains").map((s) => s.station);
  const rods = of("rods").map((s) => s.station);
  const pins = [...new Set(of("rods").map((s) => s.journal_at))];
  const row = (names: string[], part: InspectedPart) => names.map((station) => ({ station, part }));
  return [
    row(mains, "journal"),
    row(mains, "upper"),
    row(mains, "lower"),
    row(pins, "journal"),
    row(rods, "upper"),
    row(rods, "lower"),
    [
      { station: "E", part: "thrust_front" as const },
      { station: "E", part: "thrust_rear" as const },
    ],
  ].filter((r) => r.length > 0);
}

function rowName(first: Place | undefined): string {
  if (!first) return "";
  if (first.part === "thrust_front") return "Thrust faces";
  const whose = rowOf(first.station) === "mains" ? "Main" : "Rod";
  if (first.part === "journal") return whose === "Main" ? "Main journals" : "Pins";
  return `${whose} ${first.part}s`;
}

type PartButtonProps = {
  place: Place;
  seen: Sign[];
  on: boolean;
  onChoose: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
};

/** One part. One stop of the Tab key for all of them; the arrows move the choice, and the focus with it. */
function PartButton({ place, seen, on, onChoose, onKeyDown }: PartButtonProps) {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (on) button.current?.focus({ preventScroll: true });
  }, [on]);
  const words = seen.map((s) => SIGN_WORD[s]).join(", ") || "not looked at";
  return (
    <button
      ref={button}
      type="button"
      tabIndex={on ? 0 : -1}
      data-look={`${place.station} ${place.part}`}
      data-signs={seen.join(" ")}
      aria-current={on || undefined}
      aria-label={`${place.station} ${PART_NAME[place.part]}: ${words}`}
      onClick={onChoose}
      onKeyDown={onKeyDown}
      className={`flex h-[42px] w-[54px] flex-col items-center justify-center gap-0.5 ${
        on ? "bg-white outline-3 outline-dye" : ""
      }`}
    >
      <span className={seen.length === 0 ? "opacity-40" : ""}>
        <Pictogram kind={place.part === "journal" ? "journal" : "shell"} signs={seen} />
      </span>
      <span className="text-note leading-none">{SHORT[place.part] ?? place.station}</span>
    </button>
  );
}

function LookOf({ build }: { build: Build }) {
  const client = useQueryClient();
  const rows = placesOf(build);
  const [[r, c], setAt] = useState<[number, number]>([0, 0]);
  const place = rows[r]?.[c] ?? { station: "M1", part: "journal" as InspectedPart };
  const signsAt = (p: Place) =>
    build.inspections.find((l) => l.station === p.station && l.part === p.part)?.signs ?? [];
  const signs = signsAt(place);
  const offered = signsOf(place.part);
  const record = useMutation({
    mutationFn: (next: Sign[]) =>
      unwrap(
        api.POST("/api/v1/builds/{build}/inspections", {
          params: { path: { build: build.code } },
          body: { id: newId(), ...place, signs: next },
        }),
      ),
    onSuccess: (recorded) => showRecorded(client, recorded),
  });
  const toggle = (sign: Sign) => {
    const fine = sign === "uniform" || sign === "smooth";
    const rest = signs.filter((s) => s !== "uniform" && s !== "smooth" && s !== sign);
    record.mutate(signs.includes(sign) ? signs.filter((s) => s !== sign) : fine ? [sign] : [...rest, sign]);
  };
  const move = (dr: number, dc: number) => {
    const row = Math.min(rows.length - 1, Math.max(0, r + dr));
    const col = Math.min((rows[row]?.length ?? 1) - 1, Math.max(0, c + dc));
    setAt([row, col]);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = steps[event.key];
    const sign = offered[SIGN_KEYS.indexOf(event.key)];
    if (step) move(...step);
    else if (sign && event.key.length === 1) toggle(sign);
    else return;
    event.preventDefault();
  };
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,720fr)_minmax(0,560fr)] overflow-auto">
      <section aria-label="What is seen" className="px-6 pt-3 pb-3">
        <h2 className="text-lead font-bold">Eyes and fingernail</h2>
        <div className="grad mt-1" />
        <table className="mt-1" aria-label="Parts of the engine">
          <tbody>
            {rows.map((row, i) => (
              <tr key={`${row[0]?.station} ${row[0]?.part}`}>
                <th scope="row" className="w-[104px] text-left text-small font-semibold">
                  {rowName(row[0])}
                </th>
                {row.map((p, j) => (
                  <td key={`${p.station} ${p.part}`} className="px-0.5">
                    <PartButton
                      place={p}
                      seen={signsAt(p)}
                      on={i === r && j === c}
                      onChoose={() => setAt([i, j])}
                      onKeyDown={onKeyDown}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-2 flex items-baseline gap-3">
          <h3 className="font-bold">
            {place.station}, {PART_NAME[place.part]}
          </h3>
          <span className="text-small text-ink-2">
            {signs.map((s) => SIGN_WORD[s]).join(", ") || "not looked at"}
          </span>
          <Link
            className="ml-auto text-small font-semibold text-dye underline underline-offset-2"
            to={`/builds/${build.code}/bench/${place.station}`}
          >
            Measure {place.station}
          </Link>
        </div>
        <div className="mt-1 grid grid-cols-6 gap-1.5">
          {offered.map((sign, i) => {
            const on = signs.includes(sign);
            return (
              <button
                key={sign}
                type="button"
                aria-pressed={on}
                data-sign={sign}
                disabled={record.isPending}
                onClick={() => toggle(sign)}
                className={`flex min-h-[52px] flex-col items-center justify-center gap-1 border text-note font-semibold ${
                  on ? "border-dye bg-dye-wash" : "border-hair-strong bg-paper"
                }`}
              >
                <Pictogram kind={place.part === "journal" ? "journal" : "shell"} signs={[sign]} />
                <span className="flex items-center gap-1">
                  <kbd className="min-w-0 px-1">{SIGN_KEYS[i]}</kbd>
                  {SIGN_WORD[sign]}
                </span>
              </button>
            );
          })}
        </div>
        {place.part === "journal" && signs.some(isStop) && (
          <p role="note" className="mt-2 bg-ink px-3 py-1.5 text-small font-semibold text-white">
            Stop: this journal goes to the grinder, crack test first, by somebody qualified for it.
          </p>
        )}
        <ProblemNote problem={record.error} />
      </section>
      <section
        aria-label="What it suggests"
        className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-3 pl-7"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        <Hypotheses build={build} />
      </section>
    </main>
  );
}
