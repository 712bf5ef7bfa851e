import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { shellsQuery } from "../api/queries";
import { BuildPage } from "../shared/BuildPage";
import { Segments } from "../shared/Choice";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { Reasons } from "./Reasons";
import { RowsOfPairs } from "./RowsOfPairs";
import { Shelf } from "./Shelf";

type Row = Schemas["BearingRow"];
export type Best = Schemas["Best"];

/** What is asked of the shells, besides which is best. */
export type WhatIf = { mix: boolean; buy: boolean; kept: string[]; without: string[]; coating: string };

const NOTHING_ASKED: WhatIf = { mix: true, buy: true, kept: [], without: [], coating: "" };

const KEYS = [
  { press: ["\u2191", "\u2193"], does: "bearing" },
  { press: ["K"], does: "keep its pair" },
  { press: ["O"], does: "objective" },
  { press: ["M"], does: "mix halves" },
  { press: ["P"], does: "buy sets" },
];

/** Which shells would bring the bearings nearest their targets. */
export function ShellsPage() {
  return <BuildPage keys={KEYS}>{(build) => <ShellsOf build={build} />}</BuildPage>;
}

function useProposal(build: Build, family: string | undefined, undersize: number, best: Best, ask: WhatIf) {
  const body = { family: family ?? "", undersize, best, ...ask };
  return useQuery({
    queryKey: ["shells", build.code, build.assessment.seq, body],
    queryFn: () =>
      unwrap(api.POST("/api/v1/builds/{build}/shells", { params: { path: { build: build.code } }, body })),
    enabled: family !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });
}

function ShellsOf({ build }: { build: Build }) {
  const unit = useShownUnit(build.unit);
  const [row, setRow] = useState<Row>("mains");
  const [best, setBest] = useState<Best>("closest");
  const [ask, setAsk] = useState<WhatIf>(NOTHING_ASKED);
  const [at, setAt] = useState(0);
  const shells = useQuery(shellsQuery);
  const journal = row === "mains" ? build.layout.main_journal : build.layout.rods?.pin;
  const here = shells.data?.find((f) => f.family.row === row && f.family.journal === journal);
  const undersize = build.assessment[row].undersize ?? 0;
  const closest = useProposal(build, here?.family.id, undersize, "closest", ask);
  const thriftiest = useProposal(build, here?.family.id, undersize, "thriftiest", ask);
  const shown = best === "closest" ? closest : thriftiest;
  const places = shown.data?.places ?? [];
  const place = places[Math.min(at, places.length - 1)];
  const toggle = (list: "kept" | "without", name: string) =>
    setAsk((a) => ({
      ...a,
      [list]: a[list].includes(name) ? a[list].filter((n) => n !== name) : [...a[list], name],
    }));

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
        default:
          return;
      }
      event.preventDefault();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  });

  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,888fr)_minmax(0,392fr)] overflow-auto">
      <section aria-label="Shells" className="min-w-0 px-6 pt-3 pb-3">
        <div className="flex items-center gap-4">
          <h2 className="text-lead font-bold">Shells</h2>
          {build.layout.rods && (
            <Segments
              label="Row"
              value={row}
              onChange={(r) => {
                setRow(r);
                setAsk(NOTHING_ASKED);
                setAt(0);
              }}
              options={[
                { value: "mains", text: "Mains" },
                { value: "rods", text: "Rods" },
              ]}
            />
          )}
          <span className="ml-auto text-small text-ink-2">{here?.family.name}</span>
        </div>
        {shells.data && !here && (
          <p className="mt-3">
            The shop keeps no shells for {row === "mains" ? "mains" : "rods"} of this size: measure, and order
            by measurement.
          </p>
        )}
        <ProblemNote problem={shown.error} />
        {here && !shown.error && places.length > 0 && (
          <RowsOfPairs
            places={places}
            open={shown.data?.open ?? []}
            family={here.family}
            kept={ask.kept}
            chosen={place?.station}
            unit={unit}
            onChoose={(station) => setAt(places.findIndex((p) => p.station === station))}
            onKeep={(station) => toggle("kept", station)}
          />
        )}
        {here && <Shelf view={here} undersize={undersize} fetch={shown.data?.fetch ?? []} />}
      </section>
      <section
        aria-label="Choose by"
        className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        <Reasons
          closest={closest.data}
          thriftiest={thriftiest.data}
          best={best}
          ask={ask}
          family={here?.family}
          unit={unit}
          onBest={setBest}
          onAsk={setAsk}
          onWithout={(name) => toggle("without", name)}
        />
      </section>
    </main>
  );
}
