import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas, Session } from "../api/client";
import { shellsQuery } from "../api/queries";
import { Segments } from "../shared/Choice";
import { Figure } from "../shared/Figure";
import { ROW_WORD } from "../shared/words";
import { FamilyEditor } from "./FamilyEditor";
import { Moves } from "./Moves";
import { PredictionRecord } from "./PredictionRecord";
import { Stock } from "./Stock";
import { WasherBoxes, WasherRoom } from "./WasherRoom";

type View = Schemas["FamilyView"];
type Part = "stock" | "family" | "moves";

/** The shell room: families, what lies on the shelf, and how well predictions have held. */
export function ShellRoom({ session }: { session: Session }) {
  const shells = useQuery(shellsQuery);
  const [chosen, setChosen] = useState<string>();
  const [part, setPart] = useState<Part>("stock");
  // A box of washers that is chosen takes the place of the family.
  const [box, setBox] = useState<string>();
  const all = shells.data ?? [];
  const current = chosen ?? all[0]?.family.id;
  const shown = all.find((f) => f.family.id === current);
  const mayChange = session.capabilities.set_targets;
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,600fr)_minmax(0,680fr)] relative overflow-auto">
      <section aria-label="All families" className="px-6 pt-3 pb-4">
        <div className="flex h-12 items-center gap-4">
          <h1 className="text-title font-bold">Shell room</h1>
          {mayChange && (
            <button
              type="button"
              className="btn ml-auto"
              onClick={() => {
                setBox(undefined);
                setChosen("");
                setPart("family");
              }}
            >
              Add a family
            </button>
          )}
        </div>
        <div className="grad" />
        <table className="w-full border-collapse text-[14px]">
          <caption className="sr-only">Families of shells</caption>
          <thead>
            <tr className="text-left text-note text-ink-2">
              <th className="py-1 font-medium">Family</th>
              <th className="font-medium">For</th>
              <th className="font-medium">Journal</th>
              <th className="font-medium">On the shelf</th>
            </tr>
          </thead>
          <tbody>
            {all.map((f) => (
              <FamilyLine
                key={f.family.id}
                view={f}
                on={box === undefined && f.family.id === current}
                onChoose={() => {
                  setBox(undefined);
                  setChosen(f.family.id);
                }}
              />
            ))}
          </tbody>
        </table>
        {shells.data?.length === 0 && (
          <p className="mt-3 text-small text-ink-2">
            No family yet: add one, and the best shells can be chosen.
          </p>
        )}
        <WasherBoxes mayChange={mayChange} chosen={box} onChoose={setBox} />
        <PredictionRecord />
      </section>
      <section
        aria-label="One family"
        className="relative border-l-[1.5px] border-ink bg-paper pt-4 pr-6 pb-4 pl-7"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        {box !== undefined && <WasherRoom key={box} id={box} mayChange={mayChange} onDone={setBox} />}
        {shown && box === undefined && (
          <div className="mb-3 flex items-center gap-4">
            <h2 className="text-lead font-bold">{shown.family.name}</h2>
            <span className="flex-1" />
            <Segments
              label="Show"
              value={part}
              onChange={setPart}
              options={[
                { value: "stock", text: "Shelf" },
                { value: "family", text: "Family" },
                { value: "moves", text: "History" },
              ]}
            />
          </div>
        )}
        {box === undefined && shown && part === "stock" && <Stock key={shown.family.id} view={shown} />}
        {box === undefined && shown && part === "moves" && <Moves family={shown.family} />}
        {box === undefined &&
          (part === "family" || current === "") &&
          (mayChange ? (
            <FamilyEditor key={`${current} ${shown?.version ?? 0}`} view={shown} onDone={setChosen} />
          ) : (
            <p className="text-ink-2">An assembler or the lead changes families.</p>
          ))}
      </section>
    </main>
  );
}

function FamilyLine({ view, on, onChoose }: { view: View; on: boolean; onChoose: () => void }) {
  const { family, shelf } = view;
  const halves = shelf.reduce((sum, s) => sum + s.count, 0);
  return (
    <tr className={`h-10 border-b border-hair ${on ? "bg-dye-wash" : ""}`} data-family={family.id}>
      <th scope="row" className="text-left font-semibold">
        <button type="button" className="text-left underline-offset-4 hover:underline" onClick={onChoose}>
          {family.name}
        </button>
      </th>
      <td className="text-ink-2">{ROW_WORD[family.row]}</td>
      <td>
        <Figure nm={family.journal} unit={family.unit} />
      </td>
      <td className={halves === 0 ? "text-ink-2" : ""}>{halves === 0 ? "nothing" : `${halves} halves`}</td>
    </tr>
  );
}
