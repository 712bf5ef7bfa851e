import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { useNotes } from "./useNotes";

type Note = Schemas["Note"];
type NotedViewProps = { build: Build; chosen: string };

const HEAD: Record<Note, string> = {
  piston_weight: "Piston, g",
  rod_weight: "Rod, g",
  crown_volume: "Crown, cc",
  pocket_depth: "Pocket, deep",
  pocket_radius: "Pocket, radius",
  pin_offset: "Pin, off centre",
};

/** What pistons and rods weigh, and what is poured and read off them, a line for each cylinder. */
export function NotedView({ build, chosen }: NotedViewProps) {
  const client = useQueryClient();
  const params = { path: { build: build.code } };
  const notes = useNotes(build);
  const note = useMutation({
    mutationFn: (body: Schemas["NewNoted"]) =>
      unwrap(api.POST("/api/v1/builds/{build}/noted", { params, body })),
    onSuccess: (recorded) => showRecorded(client, recorded),
  });
  const columns = notes.data?.columns ?? [];
  const cylinders = build.assessment.figures.filter((f) => f.figure === "piston_to_wall");
  return (
    <section className="mt-4" aria-label="Weighed and poured">
      <h3 className="border-b border-ink pb-0.5 font-bold">Weighed and poured</h3>
      <ProblemNote problem={notes.error ?? note.error} />
      <table className="mt-1 w-full table-fixed text-small">
        <thead className="text-left text-note text-ink-2">
          <tr>
            <th className="w-10 font-normal">Bore</th>
            {columns.map((c) => (
              <th key={c.note} className="font-normal">
                {HEAD[c.note]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cylinders.map(({ station }) => (
            <tr
              key={station}
              className={`border-t border-hair ${station === chosen ? "bg-dye-wash" : ""}`}
              data-noted={station}
            >
              <th scope="row" className="py-1 text-left font-bold">
                {station}
              </th>
              {columns.map((c) => {
                const at = `${c.at === "rod" ? "R" : "W"}${station.slice(1)}`;
                const known = notes.data?.noted.find((n) => n.note === c.note && n.at === at);
                return (
                  <td key={c.note}>
                    <NoteCell
                      label={`${HEAD[c.note]}, ${at}`}
                      known={known?.typed ?? ""}
                      onNote={(text) => note.mutate({ id: newId(), note: c.note, at, text })}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-note text-ink-2">
        Enter keeps a figure. Piston with pin and locks, rod with its bolts; a dish counts plus, a dome minus.
        Among orders that fit equally well, the heavier piston goes to the lighter rod.
      </p>
    </section>
  );
}

type NoteCellProps = { label: string; known: string; onNote: (text: string) => void };

/** What is known, typed over by what is found. */
function NoteCell({ label, known, onNote }: NoteCellProps) {
  const [text, setText] = useState(known);
  useEffect(() => setText(known), [known]);
  const changed = text.trim() !== "" && text !== known;
  return (
    <input
      aria-label={label}
      value={text}
      placeholder={"\u2013"}
      autoComplete="off"
      data-kept={changed ? "no" : "yes"}
      className={`num h-7 w-full min-w-0 border bg-paper px-1.5 max-[1150px]:px-0.5 max-[1150px]:text-note ${changed ? "border-dye" : "border-hair-strong"}`}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === "Escape") setText(known);
        if (e.key === "Enter" && changed) onNote(text.trim());
      }}
    />
  );
}
