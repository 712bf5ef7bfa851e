import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { shellsQuery } from "../api/queries";
import { Choice } from "../shared/Choice";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { Digits, Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { moneyText } from "../shells/money";
import { HALVES, MoveDialog } from "../shells/Shelf";

/** What a box holds. */
const HOLDS: Record<Half | "pairs", string> = {
  pairs: "pairs",
  upper: "uppers",
  lower: "lowers",
  either: "halves",
};

type View = Schemas["FamilyView"];
type Half = Schemas["Half"];
type Offer = Schemas["Offer"];

/** What lies on the shelf of a family, where, and which sets can be bought. */
export function Stock({ view }: { view: View }) {
  const { family, shelf } = view;
  const [undersize, setUndersize] = useState(0);
  const [moving, setMoving] = useState<{ half: Half; class: string }>();
  const [receiving, setReceiving] = useState<Offer>();
  const halves: Half[] = family.alike ? ["either"] : ["upper", "lower"];
  const offers = family.offers.filter((o) => o.undersize === undersize);
  return (
    <>
      {family.undersizes.length > 1 && (
        <Choice
          label="Undersize"
          value={String(undersize)}
          options={family.undersizes.map((u, i) => ({
            value: String(u),
            text: u === 0 ? "Standard" : `${view.form.undersizes[i]} under`,
          }))}
          onChange={(u) => setUndersize(Number(u))}
          className="h-9 w-[170px]"
        />
      )}
      <table className="mt-3 w-full text-[15px]">
        <caption className="sr-only">Shelf</caption>
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">Class</th>
            <th className="font-medium">Shift</th>
            {halves.map((h) => (
              <th key={h} className="font-medium">
                {HALVES[h]}, and where
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {family.classes.map((c, i) => (
            <tr key={c.id} className="h-11 border-t border-hair">
              <th scope="row" className="num text-left">
                {c.id}
              </th>
              <td className="num text-small text-ink-2">
                <Digits text={view.form.classes[i]?.shift ?? ""} />
              </td>
              {halves.map((h) => {
                const on = shelf.find((s) => s.half === h && s.class === c.id && s.undersize === undersize);
                return (
                  <td key={h} data-stock={`${h} ${c.id}`}>
                    <button
                      type="button"
                      onClick={() => setMoving({ half: h, class: c.id })}
                      className="mr-3 inline-block min-w-8 text-left text-[19px] text-dye underline underline-offset-4"
                    >
                      <b className="num">{on?.count ?? 0}</b>
                      <span className="sr-only">
                        {" "}
                        {c.id} {HALVES[h]}, change
                      </span>
                    </button>
                    <PlaceCell
                      key={on?.place ?? ""}
                      family={family.id}
                      half={h}
                      of={c.id}
                      undersize={undersize}
                      place={on?.place ?? ""}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <h3 className="mt-5 text-small font-bold">Sets to buy</h3>
      {offers.length === 0 && <p className="text-small text-ink-2">None in this undersize.</p>}
      <ul>
        {offers.map((o) => (
          <li
            key={o.part_number}
            className="flex h-10 items-center gap-3 border-b border-hair text-[14px]"
            data-offer={o.part_number}
          >
            <b className="num w-28">{o.part_number}</b>
            <span className="flex-1 text-ink-2">
              {o.pairs} {HOLDS[o.only ?? "pairs"]} of class <b className="num text-ink">{o.class}</b>
            </span>
            <span className="num">
              <Digits text={moneyText(o.price)} />
            </span>
            <button type="button" className="order-act" onClick={() => setReceiving(o)}>
              Receive
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-3 text-note text-ink-2">
        Nominal housing <Figure nm={family.housing} unit={family.unit} />, standard wall at most{" "}
        <Figure nm={family.wall} unit={family.unit} />.
      </p>
      {moving && (
        <MoveDialog
          family={family}
          undersize={undersize}
          half={moving.half}
          of={moving.class}
          onClose={() => setMoving(undefined)}
        />
      )}
      {receiving && (
        <ReceiveDialog family={family} offer={receiving} onClose={() => setReceiving(undefined)} />
      )}
    </>
  );
}

type PlaceCellProps = { family: string; half: Half; of: string; undersize: number; place: string };

/** Where a kind of half lies; Enter keeps it. */
function PlaceCell({ family, half, of, undersize, place }: PlaceCellProps) {
  const client = useQueryClient();
  const [text, setText] = useState(place);
  const put = useMutation({
    mutationFn: () =>
      unwrap(
        api.PUT("/api/v1/shells/{family}/places", {
          params: { path: { family } },
          body: { half, class: of, undersize, place: text },
        }),
      ),
    onSuccess: () => client.invalidateQueries(shellsQuery),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() !== place) put.mutate();
  };
  return (
    <form onSubmit={submit} className="inline-block">
      <input
        type="text"
        aria-label={`Where ${of} ${HALVES[half]} lie`}
        value={text}
        placeholder="place"
        autoComplete="off"
        onChange={(e) => setText(e.target.value)}
        className="h-8 w-16 border border-hair-strong bg-paper px-1.5 text-small"
      />
      <ProblemNote problem={put.error} />
    </form>
  );
}

type ReceiveDialogProps = { family: Schemas["ShellFamily"]; offer: Offer; onClose: () => void };

function ReceiveDialog({ family, offer, onClose }: ReceiveDialogProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  const [sets, setSets] = useState("1");
  const [reason, setReason] = useState("");
  const receive = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/shells/{family}/sets", {
          params: { path: { family: family.id } },
          body: { id, part_number: offer.part_number, sets: Number(sets) || 0, reason },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries(shellsQuery);
      onClose();
    },
  });
  return (
    <Sheetlet open title={`${offer.part_number} came in`} onClose={onClose}>
      <DialogForm
        problem={receive.error}
        action="Put it on the shelf"
        disabled={receive.isPending}
        onSubmit={() => receive.mutate()}
        onClose={onClose}
      >
        <div className="grid grid-cols-[120px_1fr] gap-4">
          <Field
            label="Sets"
            name="sets"
            value={sets}
            problem={receive.error}
            inputMode="numeric"
            autoComplete="off"
            onChange={(e) => setSets(e.target.value)}
          />
          <Field
            label="Order or delivery note"
            name="reason"
            value={reason}
            problem={receive.error}
            autoFocus
            autoComplete="off"
            onChange={(e) => setReason(e.target.value)}
          />
        </div>
      </DialogForm>
    </Sheetlet>
  );
}
