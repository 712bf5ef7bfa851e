import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { washersQuery } from "../along/useWashers";
import { api, type Schemas, unwrap } from "../api/client";
import { Choice } from "../shared/Choice";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { Sheetlet } from "../shared/Sheetlet";
import { KIND } from "../shells/Shelf";

type Box = Schemas["WasherBoxView"];
type Kind = "received" | "picked" | "corrected";

/** How many halves of each thickness lie where. */
export function WasherStock({ view }: { view: Box }) {
  const { washers, shelf } = view;
  const [moving, setMoving] = useState<string>();
  return (
    <>
      <table className="w-full text-[15px]">
        <caption className="sr-only">Shelf of {washers.name}</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">Washer</th>
            <th className="font-medium">Thickness</th>
            <th className="font-medium">Halves</th>
            <th className="font-medium">Where</th>
            <th className="font-medium">Part number</th>
          </tr>
        </thead>
        <tbody>
          {washers.classes.map((c) => {
            const on = shelf.find((s) => s.class === c.id);
            return (
              <tr key={c.id} className="h-11 border-t border-hair" data-washer={c.id}>
                <th scope="row" className="num text-left">
                  {c.id}
                </th>
                <td>
                  <Figure nm={c.thickness} unit={washers.unit} />
                </td>
                <td>
                  <button
                    type="button"
                    onClick={() => setMoving(c.id)}
                    className="inline-block min-w-8 text-left text-[19px] text-dye underline underline-offset-4"
                  >
                    <b className="num">{on?.count ?? 0}</b>
                    <span className="sr-only"> halves of {c.id}, change</span>
                  </button>
                </td>
                <td className="text-small">{on?.place || "\u2013"}</td>
                <td className="num text-small text-ink-2">{c.part_number || "\u2013"}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-3 text-note text-ink-2">
        Standard <Figure nm={washers.standard} unit={washers.unit} />, {washers.halves} halves a side.
      </p>
      {moving && <MoveDialog box={view} of={moving} onClose={() => setMoving(undefined)} />}
    </>
  );
}

function MoveDialog({ box, of, onClose }: { box: Box; of: string; onClose: () => void }) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [kind, setKind] = useState<Kind>("received");
  const [count, setCount] = useState("2");
  const [place, setPlace] = useState(box.shelf.find((s) => s.class === of)?.place ?? "");
  const [reason, setReason] = useState("");
  const halves = Number(count) || 0;
  const move = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/washers/{box}/moves", {
          params: { path: { box: box.washers.id } },
          body: {
            id,
            class: of,
            kind,
            by: kind === "picked" ? -halves : halves,
            reason,
            place,
          },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries(washersQuery);
      onClose();
    },
  });
  const field = (label: string, name: string, value: string, set: (to: string) => void) => (
    <Field
      label={label}
      name={name}
      value={value}
      problem={move.error}
      autoComplete="off"
      onChange={(e) => set(e.target.value)}
    />
  );
  return (
    <Sheetlet open title={`${of}: change the shelf`} onClose={onClose}>
      <DialogForm
        problem={move.error}
        action="Keep it"
        disabled={move.isPending}
        onSubmit={() => move.mutate()}
        onClose={onClose}
      >
        <Choice
          label="What was done"
          showLabel
          value={kind}
          options={(["received", "picked", "corrected"] as const).map((k) => ({ value: k, text: KIND[k] }))}
          onChange={setKind}
          className="h-10 w-full"
        />
        <div className="grid grid-cols-2 gap-4">
          {field(
            kind === "corrected" ? "Halves more, or less with a minus" : "Halves",
            "by",
            count,
            setCount,
          )}
          {field("Where they lie", "place", place, setPlace)}
        </div>
        {field("Why", "reason", reason, setReason)}
      </DialogForm>
    </Sheetlet>
  );
}
