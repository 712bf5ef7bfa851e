import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { shellsQuery } from "../api/queries";
import { Choice } from "../shared/Choice";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { Sheetlet } from "../shared/Sheetlet";

type View = Schemas["FamilyView"];
type Half = Schemas["Half"];
type Kind = Schemas["MoveKind"];

type ShelfProps = { view: View; undersize: number; fetch: Schemas["ToFetch"][] };

export const HALF: Record<Half, string> = { upper: "upper", lower: "lower", either: "half" };
export const HALVES: Record<Half, string> = { upper: "uppers", lower: "lowers", either: "halves" };

/** What the fitting needs of each class, and what lies on the shelf. */
export function Shelf({ view, undersize, fetch }: ShelfProps) {
  const [changing, setChanging] = useState<{ half: Half; class: string }>();
  const { family, shelf } = view;
  const halves: Half[] = family.alike ? ["either"] : ["upper", "lower"];
  const needs = (half: Half, id: string) => fetch.find((f) => f.half === half && f.class === id)?.count ?? 0;
  return (
    <>
      <table className="mt-3 w-full text-small">
        <caption className="sr-only">Shelf of {family.name}</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">Class</th>
            {halves.map((h) => (
              <th key={h} className="font-medium">
                {HALVES[h]}: to fetch, on the shelf
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {family.classes.map((c) => (
            <tr key={c.id} className="border-t border-hair">
              <th scope="row" className="num py-1 text-left font-bold">
                {c.id}
              </th>
              {halves.map((h) => {
                const on = shelf.find((s) => s.half === h && s.class === c.id && s.undersize === undersize);
                const count = needs(h, c.id);
                return (
                  <td key={h} data-shelf={`${h} ${c.id}`}>
                    <b className={`num inline-block w-6 ${count > 0 ? "text-dye" : "text-ink-3"}`}>{count}</b>
                    <button
                      type="button"
                      onClick={() => setChanging({ half: h, class: c.id })}
                      className="text-dye underline underline-offset-2"
                    >
                      <b className="num">{on?.count ?? 0}</b>
                      {on?.place ? ` at ${on.place}` : " there"}
                      <span className="sr-only">
                        , change {c.id} {HALVES[h]}
                      </span>
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {changing && (
        <MoveDialog
          family={family}
          undersize={undersize}
          half={changing.half}
          of={changing.class}
          onClose={() => setChanging(undefined)}
        />
      )}
    </>
  );
}

type MoveDialogProps = {
  family: Schemas["ShellFamily"];
  undersize: number;
  half: Half;
  of: string;
  onClose: () => void;
};

export const KIND: Record<Kind, string> = {
  received: "Received",
  picked: "Picked",
  returned: "Came out of an engine",
  corrected: "Counted anew",
};

export function MoveDialog({ family, undersize, half, of, onClose }: MoveDialogProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [kind, setKind] = useState<Kind>("received");
  const [count, setCount] = useState("");
  const [reason, setReason] = useState("");
  const move = useMutation({
    mutationFn: () => {
      const number = Number(count);
      const by = kind === "picked" ? -Math.abs(number) : number;
      return unwrap(
        api.POST("/api/v1/shells/{family}/moves", {
          params: { path: { family: family.id } },
          body: { id, half, class: of, undersize, kind, by: Number.isInteger(by) ? by : 0, reason },
        }),
      );
    },
    onSuccess: async () => {
      await client.invalidateQueries(shellsQuery);
      await client.invalidateQueries({ queryKey: ["shells"] });
      onClose();
    },
  });
  return (
    <Sheetlet open title={`${family.name}, ${of} ${HALVES[half]}`} onClose={onClose}>
      <DialogForm
        problem={move.error}
        disabled={move.isPending}
        onSubmit={() => move.mutate()}
        onClose={onClose}
      >
        <div className="grid grid-cols-2 gap-4">
          <Choice
            label="What happened"
            showLabel
            value={kind}
            options={(Object.keys(KIND) as Kind[]).map((k) => ({ value: k, text: KIND[k] }))}
            onChange={setKind}
            className="h-10 w-full"
          />
          <Field
            label={kind === "corrected" ? "More (or -fewer) than thought" : "How many"}
            name="by"
            value={count}
            problem={move.error}
            autoFocus
            inputMode="numeric"
            autoComplete="off"
            onChange={(e) => setCount(e.target.value)}
          />
        </div>
        <Field
          label="Why"
          name="reason"
          value={reason}
          problem={move.error}
          autoComplete="off"
          onChange={(e) => setReason(e.target.value)}
        />
      </DialogForm>
    </Sheetlet>
  );
}
