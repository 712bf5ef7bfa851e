import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { kindOf } from "../api/catalog";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { BuildPage } from "../page/BuildPage";
import { Segments } from "../shared/Choice";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { ForcedChecks } from "./Forced";
import { Hypotheses } from "./Hypotheses";
import { again, MarksForm } from "./MarksForm";
import { DRAWN, GOOD, type InspectedPart, PART_NAME, PARTS_LOOKED_AT, TRAYS, type TrayName } from "./parts";
import { Pictogram, SIGN_WORD } from "./pictograms";

type Sign = Schemas["Sign"];
type Look = Schemas["LookView"];
type Seen = Schemas["InspectionView"];
type Place = { station: string; look: Look };
type Rows = { name: string; places: Place[] }[];

/** Eyes and fingernail: what every part of the engine looks like. */
export function InspectionPage() {
  return (
    <BuildPage
      keys={[
        { press: ["\u2190", "\u2192", "\u2191", "\u2193"], does: "to another part" },
        { press: ["1", "\u2026", "'"], does: "what is seen" },
      ]}
    >
      {(build) => <LookOf build={build} />}
    </BuildPage>
  );
}

/** Keys of the signs in their order. */
const SIGN_KEYS = "1234567890-=[];'";

const WHOSE: Partial<Record<Schemas["PlaceKind"], string>> = {
  main: "Main",
  pin: "Pin",
  rod: "Rod",
  deck: "Deck",
  head: "Head",
};

/** Places of one kind that carry the part, as one row; both thrust faces share theirs. */
function rowsOf(looks: Look[], tray: TrayName): Rows {
  const parts: readonly InspectedPart[] = TRAYS.find((t) => t.value === tray)?.parts ?? [];
  const rows: Rows = [];
  for (const look of looks.filter((l) => parts.includes(l.part))) {
    for (const station of look.places) {
      const plural = PARTS_LOOKED_AT[look.part].toLowerCase();
      const shared = ["journal", "upper", "lower", "face", "fasteners"].includes(look.part);
      const thrust = look.part === "thrust_front" || look.part === "thrust_rear";
      const name = thrust
        ? "Thrust faces"
        : shared
          ? `${WHOSE[kindOf(station)] ?? ""} ${plural}`
          : PARTS_LOOKED_AT[look.part];
      const row = rows.find((r) => r.name === name);
      if (row) row.places.push({ station, look });
      else rows.push({ name, places: [{ station, look }] });
    }
  }
  return rows;
}

/** What stands under a part that its place alone does not name. */
const SHORT: Partial<Record<InspectedPart, string>> = { thrust_front: "front", thrust_rear: "rear" };

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
  const { part } = place.look;
  useEffect(() => {
    if (on) button.current?.focus({ preventScroll: true });
  }, [on]);
  const words = seen.map((s) => SIGN_WORD[s]).join(", ") || "not looked at";
  return (
    <button
      ref={button}
      type="button"
      tabIndex={on ? 0 : -1}
      data-look={`${place.station} ${part}`}
      data-signs={seen.join(" ")}
      aria-current={on || undefined}
      aria-label={`${place.station} ${PART_NAME[part]}: ${words}`}
      onClick={onChoose}
      onKeyDown={onKeyDown}
      className={`flex h-[42px] w-[54px] flex-col items-center justify-center gap-0.5 ${
        on ? "bg-white outline-3 outline-dye" : ""
      }`}
    >
      <span className={seen.length === 0 ? "opacity-40" : ""}>
        <Pictogram kind={DRAWN[part]} signs={seen} stop={seen.some((s) => place.look.stops.includes(s))} />
      </span>
      <span className="text-note leading-none">{SHORT[part] ?? place.station}</span>
    </button>
  );
}

/** The signs after one more was pressed: what is good takes the others away, and they it. */
function pressed(signs: Sign[], sign: Sign): Sign[] {
  if (signs.includes(sign)) return signs.filter((s) => s !== sign);
  return GOOD.has(sign) ? [sign] : [...signs.filter((s) => !GOOD.has(s)), sign];
}

/** What was seen of a part, and the recording of what is seen now. */
function useLook(build: Build, place: Place) {
  const client = useQueryClient();
  const seen: Seen | undefined = build.inspections.find(
    (l) => l.station === place.station && l.part === place.look.part,
  );
  const signs = seen?.signs ?? [];
  const record = useMutation({
    mutationFn: (next: { signs: Sign[]; marks: Schemas["NewMark"][] }) =>
      unwrap(
        api.POST("/api/v1/builds/{build}/inspections", {
          params: { path: { build: build.code } },
          body: { id: newId(), station: place.station, part: place.look.part, ...next },
        }),
      ),
    onSuccess: (recorded) => showRecorded(client, recorded),
  });
  const toggle = (sign: Sign) => {
    const next = pressed(signs, sign);
    // What is still seen keeps where it was seen.
    const marks = (seen?.marks ?? []).filter((m) => next.includes(m.sign));
    record.mutate({ signs: next, marks: marks.map(again) });
  };
  return { seen, signs, record, toggle };
}

function LookOf({ build }: { build: Build }) {
  const [tray, setTray] = useState<TrayName>("bottom");
  const trays = TRAYS.filter((t) => rowsOf(build.looks, t.value).length > 0);
  const rows = rowsOf(build.looks, tray);
  const [[r, c], setAt] = useState<[number, number]>([0, 0]);
  const chosen = rows[r]?.places[c] ?? rows[0]?.places[0];
  const move = (dr: number, dc: number) => {
    const row = Math.min(rows.length - 1, Math.max(0, r + dr));
    const col = Math.min((rows[row]?.places.length ?? 1) - 1, Math.max(0, c + dc));
    setAt([row, col]);
  };
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,720fr)_minmax(0,560fr)] relative overflow-auto">
      <section aria-label="What is seen" className="px-6 pt-3 pb-3">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h2 className="flex-1 whitespace-nowrap text-lead font-bold">Eyes and fingernail</h2>
          <Segments
            label="What lies on the bench"
            value={tray}
            options={trays.map(({ value, text }) => ({ value, text }))}
            onChange={(next) => {
              setTray(next);
              setAt([0, 0]);
            }}
          />
        </div>
        <div className="grad mt-1" />
        {chosen && (
          <Tray build={build} rows={rows} at={[r, c]} chosen={chosen} onChoose={setAt} onMove={move} />
        )}
      </section>
      <section
        aria-label="What it suggests"
        className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-3 pl-7"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        <ForcedChecks build={build} />
        <Hypotheses build={build} />
      </section>
    </main>
  );
}

type TrayProps = {
  build: Build;
  rows: Rows;
  at: [number, number];
  chosen: Place;
  onChoose: (at: [number, number]) => void;
  onMove: (dr: number, dc: number) => void;
};

const STEPS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** The parts that lie on the bench, and the signs of the one in hand. */
function Tray({ build, rows, at: [r, c], chosen, onChoose, onMove }: TrayProps) {
  const { seen, signs, record, toggle } = useLook(build, chosen);
  const { look, station } = chosen;
  const signsAt = (p: Place) =>
    build.inspections.find((l) => l.station === p.station && l.part === p.look.part)?.signs ?? [];
  const onKeyDown = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    const sign = event.key.length === 1 ? look.signs[SIGN_KEYS.indexOf(event.key)] : undefined;
    if (step) onMove(...step);
    else if (sign) toggle(sign);
    else return;
    event.preventDefault();
  };
  const stopped = signs.some((s) => look.stops.includes(s));
  return (
    <>
      <table className="mt-1" aria-label="Parts of the engine">
        <tbody>
          {rows.map((row, i) => (
            <tr key={row.name}>
              <th scope="row" className="w-[112px] text-left text-small leading-tight font-semibold">
                {row.name}
              </th>
              {row.places.map((p, j) => (
                <td key={`${p.station} ${p.look.part}`} className="px-0.5">
                  <PartButton
                    place={p}
                    seen={signsAt(p)}
                    on={i === r && j === c}
                    onChoose={() => onChoose([i, j])}
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
          {station}, {PART_NAME[look.part]}
        </h3>
        <span className="text-small text-ink-2">
          {signs.map((s) => SIGN_WORD[s]).join(", ") || "not looked at"}
        </span>
        <Link
          className="ml-auto text-small font-semibold text-dye underline underline-offset-2"
          to={`/builds/${build.code}/bench/${station}`}
        >
          Measure {station}
        </Link>
      </div>
      <div className="mt-1 grid grid-cols-6 gap-1.5">
        {look.signs.map((sign, i) => (
          <button
            key={sign}
            type="button"
            aria-pressed={signs.includes(sign)}
            data-sign={sign}
            disabled={record.isPending}
            onClick={() => toggle(sign)}
            className={`flex min-h-[52px] flex-col items-center justify-center gap-1 border text-note font-semibold ${
              signs.includes(sign) ? "border-dye bg-dye-wash" : "border-hair-strong bg-paper"
            }`}
          >
            <Pictogram kind={DRAWN[look.part]} signs={[sign]} stop={look.stops.includes(sign)} />
            <span className="flex items-center gap-1">
              <kbd className="min-w-0 px-1">{SIGN_KEYS[i]}</kbd>
              {SIGN_WORD[sign]}
            </span>
          </button>
        ))}
      </div>
      {stopped && (
        <p role="note" className="mt-2 bg-ink px-3 py-1.5 text-small font-semibold text-white">
          {look.part === "journal"
            ? "Stop: this journal goes to the grinder, crack test first, by somebody qualified for it."
            : "Stop: it is not used as it is. Condemn it, or have it tested by somebody qualified for it."}
        </p>
      )}
      <ProblemNote problem={record.error} />
      {seen && signs.some((s) => !GOOD.has(s)) && (
        <MarksForm
          key={`${station} ${look.part} ${seen.at}`}
          build={build}
          seen={seen}
          onRecord={(marks) => record.mutate({ signs, marks })}
        />
      )}
    </>
  );
}
