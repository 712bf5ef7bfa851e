import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { characteristicRow } from "../api/catalog";
import { api, type Build, type Characteristic, type FigureAssessment, unwrap } from "../api/client";
import { shopQuery, showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { PART_WORD } from "../shared/words";

type BlindDialogProps = { build: Build; station: FigureAssessment; onClose: () => void };

/** Asks somebody to measure a place again without seeing what was found there first. */
export function BlindDialog({ build, station, onClose }: BlindDialogProps) {
  const client = useQueryClient();
  const shop = useQuery(shopQuery);
  const [id] = useState(newId);
  const [whom, setWhom] = useState("");
  // A gauge's own step can be compared; a printed one tells nothing of who read it.
  const offered = station.measured.filter((m) => characteristicRow(m.characteristic).checked_gauge);
  const things = [...new Map(offered.map((m) => [m.characteristic, m])).values()];
  const begun = offered.find((m) => m.taken > 0) ?? things[0];
  const [what, setWhat] = useState<Characteristic | undefined>(begun?.characteristic);
  const at = things.find((m) => m.characteristic === what);
  const ask = useMutation({
    mutationFn: async (of: { place: string; characteristic: Characteristic }) =>
      unwrap(
        api.POST("/api/v1/builds/{build}/blind", {
          params: { path: { build: build.code } },
          body: { id, whom, station: of.place, characteristic: of.characteristic },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (at) ask.mutate(at);
  };
  const people = (shop.data?.people ?? []).map((p) => ({ value: p.id, text: p.name }));
  return (
    <Sheetlet open title={`A blind second touch at ${station.station}`} onClose={onClose}>
      <form onSubmit={submit} className="mt-3 grid gap-4">
        <p className="text-small text-ink-2">
          Whoever is asked sees nothing of the first values, here or in any file, until theirs are in. Then
          both are compared by En.
        </p>
        <div className="flex gap-4">
          <div className="flex-1">
            <Choice
              label="Who measures"
              showLabel
              value={whom}
              options={[{ value: "", text: "Choose somebody" }, ...people]}
              onChange={setWhom}
              className="h-10 w-full"
            />
          </div>
          <div className="flex-1">
            <Choice
              label="What"
              showLabel
              value={at?.characteristic ?? ""}
              options={things.map((m) => ({
                value: m.characteristic,
                text: `${PART_WORD[m.role]}, ${m.place}`,
              }))}
              onChange={(to) => setWhat(things.find((m) => m.characteristic === to)?.characteristic)}
              className="h-10 w-full"
            />
          </div>
        </div>
        <ProblemNote problem={ask.error} />
        <div className="flex justify-end gap-3">
          <button type="button" className="btn" onClick={onClose}>
            Leave it
          </button>
          <button type="submit" className="btn btn-main" disabled={ask.isPending || whom === ""}>
            Ask
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}
