import { isBearing } from "../api/catalog";
import type { Build, FigureAssessment, Schemas, Session, Unit } from "../api/client";
import { PARTS_LOOKED_AT } from "../inspection/parts";
import { CHECK_WORD, unusableSentence } from "../inspection/words";
import { Mark } from "../marks/Mark";
import { mendFor } from "../shared/mends";
import {
  capital,
  FIGURE_WORD,
  marked,
  PART_KIND_WORD,
  shownState,
  staleText,
  verdictSentence,
  WORK_WORD,
} from "../shared/words";
import { gateText } from "./gates";

type BlocksProps = {
  build: Build;
  unit: Unit;
  session: Session;
  onMeasure: (station: string) => void;
  onAccept: (block: Schemas["Block"]) => void;
  onParts: () => void;
  onLook: () => void;
};

/** What still blocks the signatures, and the way to lift each block. */
export function Blocks({ build, unit, session, onMeasure, onAccept, onParts, onLook }: BlocksProps) {
  const { blocks, status, broken } = build.assessment.sign_off;
  return (
    <div className="min-h-0 flex-1 relative overflow-auto">
      <h2 className="text-lead font-bold">
        {status === "does_not_match"
          ? "Nobody can sign this"
          : status === "sealed"
            ? "Nothing blocks"
            : blocks.length === 0
              ? "Ready to sign"
              : "Still blocks sign-off"}
      </h2>
      {broken && (
        <p data-broken="" className="mt-1 border-l-4 border-ink bg-steel-2 px-3 py-1.5 text-small">
          The seal of revision {broken.signatures[0]?.revision} was broken:{" "}
          {CHANGE[broken.change] ?? "something was recorded"} by <b>{broken.by.name}</b>. Both sign revision{" "}
          {build.assessment.sign_off.revision} anew.
        </p>
      )}
      {status === "does_not_match" && (
        <p className="mt-1 text-small text-ink-2">
          What stands here is not what was signed. The faults are named at the head of the sheet.
        </p>
      )}
      {blocks.length === 0 && status === "ready" && (
        <p className="mt-1 text-small text-ink-2">
          Every bearing is proven in, or was accepted by name. Two different people sign.
        </p>
      )}
      <ol className="mt-2">
        {blocks.map((block, i) => {
          const station = build.assessment.figures.find(
            (s) => s.station === block.station && s.figure === block.figure,
          );
          return (
            station && (
              <li
                key={`${block.station} ${block.figure} ${block.needs} ${block.check ?? block.look ?? block.gate ?? block.wash ?? ""}`}
                data-block={block.station}
                data-needs={block.needs}
                className="flex items-center gap-3 border-b border-hair-strong py-1.5"
              >
                <span className="num flex size-5 flex-none items-center justify-center border border-ink text-note font-bold">
                  {i + 1}
                </span>
                <div className="flex-1 text-small leading-snug">
                  <b className="mr-2">{block.station}</b>
                  {!isBearing(station) && <span className="mr-2">{FIGURE_WORD[block.figure]}</span>}
                  <Mark
                    state={marked(station, shownState(station))}
                    nearest={station.judged?.nearest ?? station.stale?.was.nearest}
                    was={station.stale?.was.state}
                    size={13}
                  />
                  <br />
                  {blockText(block, station, unit)}
                </div>
                <BlockButton
                  block={block}
                  session={session}
                  onMeasure={onMeasure}
                  onAccept={onAccept}
                  onParts={onParts}
                  onLook={onLook}
                />
              </li>
            )
          );
        })}
      </ol>
    </div>
  );
}

const CHANGE: Record<string, string> = {
  target: "a target was changed",
  reading: "a reading was taken",
  strike: "a reading was struck",
  concession: "something was accepted",
  work: "work on a part was recorded",
  set_up: "the set-up was changed",
  rules: "the rules were changed",
  plan: "the places to be touched were changed",
  look: "a part was looked at",
  blind: "a blind second touch was asked for",
  fitting: "other shells were fitted",
  stamps: "stamps of old shells were read",
  tray: "a tray of shells was measured",
  order: "a work order was written",
  order_moved: "a work order was moved on",
  session_opened: "a gauge was checked in",
  session_closed: "a gauge was checked out",
  part: "a part was entered",
  assigned: "parts were put elsewhere",
  condemned: "a part was condemned or taken up again",
  imported: "it was read from a file",
  washers: "other thrust washers were fitted",
  picture: "a picture was taken",
  trial: "the cam was turned",
  strokes: "strokes were made under a hone or a file",
  checked: "a check was recorded",
  mishap: "something happened to the engine",
  grid: "a bridge was read on a face",
};

function missingPart(station: FigureAssessment): string {
  const parts = station.moot ?? [];
  const stopped = station.findings.find((f) => f.kind === "unusable");
  if (stopped && parts.length === 0) {
    return unusableSentence(stopped);
  }
  const said = parts.map((m) =>
    m.part ? `${m.part} is condemned` : `no ${PART_KIND_WORD[m.kind]} stands here`,
  );
  return `${said.join(", ")}: put another one in. What it would still have to prove is moot.`;
}

function blockText(block: Schemas["Block"], station: FigureAssessment, unit: Unit): string {
  if (block.needs === "part") return missingPart(station);
  if (block.needs === "grinder") return "The journal goes to the grinder, crack test first.";
  if (block.needs === "picture")
    return "Washers and rings the wrong way round show in no figure: a picture of how they were fitted, under Pictures.";
  if (block.needs === "clean")
    return `Grit is left of what was done there: it ruins what was measured. To be done and recorded with W at the bench: ${(block.wash ? WORK_WORD[block.wash] : "washed or flushed").toLowerCase()}.`;
  if (block.needs === "hot_room") {
    return "What is left of it when the engine is hot is under the floor: nobody signs that. File the gap, or hone.";
  }
  if (block.needs === "check") {
    if (block.check)
      return `${capital(CHECK_WORD[block.check])}: what happened to the engine forces it. Page Look.`;
    return `${block.look ? PARTS_LOOKED_AT[block.look] : "Parts"} to be looked at since then. Page Look.`;
  }
  if (block.needs === "remedy" && block.gate) return gateText(station, block.gate, unit);
  if (block.needs === "settle") {
    const blades = station.findings.some((f) => f.kind === "blades_contradict");
    return blades
      ? "Blades contradict each other: strike the wrong reading."
      : "A blind second touch found another size: strike the wrong one.";
  }
  if (block.needs === "measure_again") {
    return station.stale?.because.map((b) => staleText(b, unit)).join("; ") ?? "Measure it again.";
  }
  if (!station.judged) return "Not measured yet.";
  const sentence = verdictSentence(station.judged, unit);
  if (block.needs === "lead_concession") {
    return `${sentence} ${capital(mendFor(block.figure, "tight"))}, or the lead's concession.`;
  }
  return sentence;
}

const BUTTON: Partial<Record<Schemas["Needs"], string>> = { grinder: "Look", part: "Parts", check: "Look" };

/** What a signed word lifts; everything else needs a gauge. */
const ACCEPTED = new Set<Schemas["Needs"]>(["acknowledgement", "concession", "lead_concession", "remedy"]);

function BlockButton({
  block,
  session,
  onMeasure,
  onAccept,
  onParts,
  onLook,
}: { block: Schemas["Block"] } & Pick<
  BlocksProps,
  "session" | "onMeasure" | "onAccept" | "onParts" | "onLook"
>) {
  const small = "btn min-h-10 px-3 text-small";
  if (!ACCEPTED.has(block.needs)) {
    return (
      <button
        type="button"
        className={small}
        onClick={() => {
          if (block.needs === "part") onParts();
          else if (block.needs === "check") onLook();
          else onMeasure(block.station);
        }}
      >
        {BUTTON[block.needs] ?? "Measure"}
      </button>
    );
  }
  const { concede, concede_tight } = session.capabilities;
  const may = block.needs === "lead_concession" || block.needs === "remedy" ? concede_tight : concede;
  const text = block.needs === "acknowledgement" ? "Acknowledge" : "Concede";
  return (
    <button
      type="button"
      className={small}
      disabled={!may}
      title={may ? undefined : "The lead decides this"}
      onClick={() => onAccept(block)}
    >
      {text}
    </button>
  );
}
