import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, type StationAssessment, unwrap } from "../api/client";
import { shopQuery, showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { PART_WORD } from "../shared/words";
import { featureAt } from "./cells";

const ASKED = ["journal", "bore", "housing"] as const;

type BlindDialogProps = { build: Build; station: StationAssessment; onClose: () => void };

/** Asks somebody to measure a place again without seeing what was found there first. */
export function BlindDialog({ build, station, onClose }: BlindDialogProps) {
  const client = useQueryClient();
  const shop = useQuery(shopQuery);
  const [id] = useState(newId);
  const [whom, setWhom] = useState("");
  const measured = ASKED.filter((part) =>
    part === "bore" ? station.bore_direct.taken + station.bore_subtract.taken > 0 : station[part].taken > 0,
  );
  const [part, setPart] = useState<(typeof ASKED)[number]>(measured[0] ?? "journal");
  const at = featureAt(station, part);
  const ask = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/blind", {
          params: { path: { build: build.code } },
          body: { id, whom, station: at.station, feature: at.feature },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask.mutate();
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
              value={part}
              options={ASKED.map((p) => ({
                value: p,
                text: `${PART_WORD[p]}, ${featureAt(station, p).station}`,
              }))}
              onChange={setPart}
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
