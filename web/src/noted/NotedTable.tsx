import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useEffect, useId, useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { NOTE_WORD } from "../shared/words";
import { useNotes } from "./useNotes";

type Note = Schemas["Note"];
type NotedTableProps = {
  build: Build;
  title: string;
  /** What its lines are called. */
  of: string;
  stations: string[];
  notes: Note[];
  chosen?: string;
  children?: ReactNode;
};

/** What is noted of parts beside the gauges, a line for each place: typed into its cell, kept by Enter. */
export function NotedTable({ build, title, of, stations, notes, chosen, children }: NotedTableProps) {
  const client = useQueryClient();
  const params = { path: { build: build.code } };
  const known = useNotes(build);
  const note = useMutation({
    mutationFn: (body: Schemas["NewNoted"]) =>
      unwrap(api.POST("/api/v1/builds/{build}/noted", { params, body })),
    onSuccess: (recorded) => showRecorded(client, recorded),
  });
  const wanted = (known.data?.columns ?? []).filter((c) => notes.includes(c.note));
  const columns = wanted.filter((c) => c.places.some((p) => stations.includes(p.station)));
  return (
    <section className="mt-4" aria-label={title}>
      <h3 className="border-b border-ink pb-0.5 font-bold">{title}</h3>
      <ProblemNote problem={known.error ?? note.error} />
      {columns.length > 0 && (
        <table className="mt-1 w-full table-fixed text-small">
          <thead className="text-left text-note text-ink-2">
            <tr>
              <th className="w-[60px] font-normal max-[1150px]:w-[38px]">{of}</th>
              {columns.map((c) => (
                // A weight has the most digits.
                <th
                  key={c.note}
                  className={`font-normal ${c.quantity === "weight" && columns.length > 4 ? "max-[1150px]:w-[62px]" : ""}`}
                >
                  {columnText(c)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {stations.map((station) => (
              <tr
                key={station}
                className={`border-t border-hair ${station === chosen ? "bg-dye-wash" : ""}`}
                data-noted={station}
              >
                <th scope="row" className="py-1 text-left align-middle font-bold">
                  {station}
                </th>
                {columns.map((c) => {
                  const at = c.places.find((p) => p.station === station)?.at;
                  const found = known.data?.noted.find((n) => n.note === c.note && n.at === at);
                  return (
                    <td key={c.note}>
                      {at && (
                        <NoteCell
                          label={`${columnText(c)}, ${at}`}
                          known={found?.typed ?? ""}
                          beyond={found?.beyond ? (found.limit ?? undefined) : undefined}
                          onNote={(text) => note.mutate({ id: newId(), note: c.note, at, text })}
                        />
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {children && <p className="mt-1 text-note text-ink-2">Enter keeps a figure. {children}</p>}
    </section>
  );
}

/** What a note is called, with what it is typed in. */
export function columnText(c: Schemas["NoteColumn"]): string {
  return c.unit ? `${NOTE_WORD[c.note]}, ${c.unit}` : NOTE_WORD[c.note];
}

type NoteCellProps = {
  label: string;
  known: string;
  /** What it may be, where it is more. */
  beyond?: string | undefined;
  onNote: (text: string) => void;
};

/** What is known, typed over by what is found. */
function NoteCell({ label, known, beyond, onNote }: NoteCellProps) {
  const [text, setText] = useState(known);
  useEffect(() => setText(known), [known]);
  const changed = text.trim() !== "" && text !== known;
  const limit = useId();
  return (
    <span className="flex max-w-[190px] items-center gap-2">
      <input
        aria-label={label}
        aria-describedby={beyond ? limit : undefined}
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
      {beyond && (
        <b id={limit} className="shrink-0 pr-2 whitespace-nowrap" data-beyond="">
          over {beyond}
        </b>
      )}
    </span>
  );
}
