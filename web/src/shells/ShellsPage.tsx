import { useEffect, useState } from "react";
import type { Build } from "../api/client";
import { BuildFrame, WithBuild } from "../page/BuildPage";
import { Choice } from "../shared/Choice";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { FitDialog } from "./FitDialog";
import { HotTable } from "./HotTable";
import { ListsDialog } from "./ListsDialog";
import { Reasons } from "./Reasons";
import { RowsOfPairs } from "./RowsOfPairs";
import { Shelf } from "./Shelf";
import { type Row, ShellsHead } from "./ShellsHead";
import { useFamilies } from "./useFamily";
import { askOf, type Best, NOTHING_ASKED, useProposal, type WhatIf } from "./useProposal";

const KEYS = [
  { press: ["\u2191", "\u2193"], does: "bearing" },
  { press: ["K"], does: "keep" },
  { press: ["O"], does: "objective" },
  { press: ["M"], does: "mix" },
  { press: ["P"], does: "buy" },
  { press: ["[", "]"], does: "move target" },
  { press: ["L"], does: "lists" },
  { press: ["F"], does: "fit" },
];

/** Which shells would bring the bearings nearest their targets. */
export function ShellsPage() {
  return <WithBuild>{(build) => <ShellsOf build={build} />}</WithBuild>;
}

function ShellsOf({ build }: { build: Build }) {
  const unit = useShownUnit(build.unit);
  const [row, setRow] = useState<Row>("mains");
  const [best, setBest] = useState<Best>("closest");
  const [ask, setAsk] = useState<WhatIf>(NOTHING_ASKED);
  const [at, setAt] = useState(0);
  const [hot, setHot] = useState(false);
  const [open, setOpen] = useState<"lists" | "fit">();
  const [familyId, setFamilyId] = useState("");
  const { known, ofRow, usual } = useFamilies(build, row);
  const here = ofRow.find((f) => f.family.id === familyId) ?? usual;
  const undersize = build.assessment.rows.find((r) => r.row === row)?.undersize ?? 0;
  const asked = (b: Best) => askOf(here?.family.id, undersize, b, ask);
  const closest = useProposal(build, asked("closest"));
  const thriftiest = useProposal(build, asked("thriftiest"));
  const shown = best === "closest" ? closest : thriftiest;
  const proposal = shown.data;
  const places = proposal?.places ?? [];
  const place = places[Math.min(at, places.length - 1)];
  const changes = places.some((p) => p.changes);
  const toggle = (list: "kept" | "without", name: string) =>
    setAsk((a) => ({
      ...a,
      [list]: a[list].includes(name) ? a[list].filter((n) => n !== name) : [...a[list], name],
    }));
  const move = (by: number) => setAsk((a) => ({ ...a, moved: Math.max(-60, Math.min(60, a.moved + by)) }));
  const start = (next: { row?: Row; family?: string }) => {
    setRow(next.row ?? row);
    setFamilyId(next.family ?? "");
    setAsk(NOTHING_ASKED);
    setAt(0);
  };

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement && event.target.type === "text";
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (document.querySelector("[role=dialog], [role=listbox]")) return;
      switch (event.key.toLowerCase()) {
        case "arrowdown":
          setAt((i) => Math.min(places.length - 1, i + 1));
          break;
        case "arrowup":
          setAt((i) => Math.max(0, i - 1));
          break;
        case "k":
          if (place) toggle("kept", place.station);
          break;
        case "o":
          setBest((b) => (b === "closest" ? "thriftiest" : "closest"));
          break;
        case "m":
          setAsk((a) => ({ ...a, mix: !a.mix }));
          break;
        case "p":
          setAsk((a) => ({ ...a, buy: !a.buy }));
          break;
        case "[":
          move(-1);
          break;
        case "]":
          move(1);
          break;
        case "l":
          if (changes) setOpen("lists");
          break;
        case "f":
          if (changes) setOpen("fit");
          break;
        default:
          return;
      }
      event.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  });

  return (
    <BuildFrame
      build={build}
      full
      keys={KEYS}
      row={row}
      actions={
        here &&
        changes && (
          <>
            <button type="button" className="btn" onClick={() => setOpen("lists")}>
              Pick and order
            </button>
            <button type="button" className="btn btn-main" onClick={() => setOpen("fit")}>
              Fit these
            </button>
          </>
        )
      }
    >
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,888fr)_minmax(0,392fr)] relative overflow-auto max-[1150px]:grid-cols-[minmax(0,1fr)_318px]">
        <section aria-label="Shells" className="min-w-0 px-6 pt-3 pb-3">
          <ShellsHead build={build} row={row} onRow={(r) => start({ row: r })} />
          {known && !here && (
            <p className="mt-3 max-w-[600px]">
              {build.layout.rollers
                ? "This engine runs on rollers: there are no shells to choose. How its crank runs stands on the bench."
                : `The shop keeps no shells for ${row} of this size. ${
                    build.layout.main_nominals
                      ? "Measure, and order by measurement."
                      : "Poured bearings are bored to fit: see Machining."
                  }`}
            </p>
          )}
          <ProblemNote problem={shown.error} />
          {here && !shown.error && places.length > 0 && (
            <RowsOfPairs
              places={places}
              open={proposal?.open ?? []}
              family={here.family}
              kept={ask.kept}
              chosen={place?.station}
              unit={unit}
              moved={ask.moved}
              onMove={move}
              onChoose={(station) => setAt(places.findIndex((p) => p.station === station))}
              onKeep={(station) => toggle("kept", station)}
            />
          )}
          {hot && proposal?.growth ? (
            <HotTable places={places} growth={proposal.growth} unit={unit} />
          ) : (
            here && <Shelf view={here} undersize={undersize} fetch={proposal?.fetch ?? []} />
          )}
        </section>
        <section
          aria-label="Choose by"
          className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
        >
          <div className="grad-down absolute inset-y-0 left-0" />
          <div className="mb-2 flex items-center gap-2">
            <h2 className="text-lead font-bold">Choose by</h2>
            <span className="flex-1" />
            {here && ofRow.length > 1 && (
              <Choice
                label="Family of shells"
                value={here.family.id}
                options={ofRow.map((f) => ({ value: f.family.id, text: f.family.name }))}
                onChange={(id) => start({ family: id })}
                className="h-8 w-[210px] max-[1150px]:w-[160px]"
              />
            )}
          </div>
          <Reasons
            closest={closest.data}
            thriftiest={thriftiest.data}
            best={best}
            ask={ask}
            family={here?.family}
            coating={here?.form.coating ?? ""}
            unit={unit}
            hot={proposal?.growth ? hot : undefined}
            onHot={setHot}
            onBest={setBest}
            onAsk={setAsk}
            onWithout={(name) => toggle("without", name)}
          />
        </section>
      </main>
      {open === "lists" && here && proposal && (
        <ListsDialog
          build={build}
          family={here.family}
          proposal={proposal}
          ask={asked(best)}
          onClose={() => setOpen(undefined)}
        />
      )}
      {open === "fit" && here && proposal && (
        <FitDialog build={build} proposal={proposal} ask={asked(best)} onClose={() => setOpen(undefined)} />
      )}
    </BuildFrame>
  );
}
