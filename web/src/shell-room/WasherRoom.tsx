import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { washersQuery } from "../along/useWashers";
import { Segments } from "../shared/Choice";
import { Figure } from "../shared/Figure";
import { ProblemNote } from "../shared/ProblemNote";
import { WasherEditor } from "./WasherEditor";
import { WasherStock } from "./WasherStock";

type WasherBoxesProps = {
  mayChange: boolean;
  chosen: string | undefined;
  onChoose: (id: string) => void;
};

/** Boxes of thrust washers, under the families of shells. */
export function WasherBoxes({ mayChange, chosen, onChoose }: WasherBoxesProps) {
  const boxes = useQuery(washersQuery);
  return (
    <section aria-label="Thrust washers" className="mt-5 border-t-[3px] border-ink pt-2">
      <div className="flex items-center gap-4">
        <h2 className="text-lead font-bold">Thrust washers</h2>
        {mayChange && (
          <button type="button" className="btn ml-auto" onClick={() => onChoose("")}>
            Add a box
          </button>
        )}
      </div>
      <ProblemNote problem={boxes.error} />
      {boxes.data?.length === 0 && (
        <p className="mt-1 text-small text-ink-2">
          No box yet: with one, end play that is out gets its washers, proven best.
        </p>
      )}
      <ul>
        {boxes.data?.map((b) => {
          const halves = b.shelf.reduce((sum, s) => sum + s.count, 0);
          return (
            <li
              key={b.washers.id}
              data-box={b.washers.id}
              className={`flex h-10 items-center gap-4 border-b border-hair text-[14px] ${b.washers.id === chosen ? "bg-dye-wash" : ""}`}
            >
              <button
                type="button"
                className="flex-1 text-left font-semibold underline-offset-4 hover:underline"
                onClick={() => onChoose(b.washers.id)}
              >
                {b.washers.name}
              </button>
              <span className="text-ink-2">
                standard <Figure nm={b.washers.standard} unit={b.washers.unit} />
              </span>
              <span className={halves === 0 ? "text-ink-2" : ""}>
                {halves === 0 ? "nothing" : `${halves} halves`}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

type WasherRoomProps = { id: string; mayChange: boolean; onDone: (id: string) => void };

/** One box: its shelf, and the box itself; a new one where nothing is named. */
export function WasherRoom({ id, mayChange, onDone }: WasherRoomProps) {
  const boxes = useQuery(washersQuery);
  const [part, setPart] = useState<"stock" | "box">(id === "" ? "box" : "stock");
  const view = boxes.data?.find((b) => b.washers.id === id);
  return (
    <>
      <div className="mb-3 flex items-center gap-4">
        <h2 className="text-lead font-bold">{view?.washers.name ?? "A new box of washers"}</h2>
        <span className="flex-1" />
        {view && (
          <Segments
            label="Show"
            value={part}
            onChange={setPart}
            options={[
              { value: "stock", text: "Shelf" },
              { value: "box", text: "Box" },
            ]}
          />
        )}
      </div>
      {view && part === "stock" && <WasherStock view={view} />}
      {part === "box" &&
        (mayChange ? (
          <WasherEditor key={view?.form.version ?? 0} view={view} onDone={onDone} />
        ) : (
          <p className="text-ink-2">An assembler or the lead changes boxes.</p>
        ))}
    </>
  );
}
