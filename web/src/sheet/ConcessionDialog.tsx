import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import {
  api,
  type Build,
  type FigureAssessment,
  Problem,
  type Schemas,
  type Unit,
  unwrap,
} from "../api/client";
import { showRecorded } from "../api/queries";
import { Mark } from "../marks/Mark";
import { Field } from "../shared/Field";
import { Figure } from "../shared/Figure";
import { GATE_WORD } from "../shared/gates";
import { newId } from "../shared/id";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { marked, verdictSentence } from "../shared/words";
import { gateText } from "./gates";

type ConcessionDialogProps = {
  build: Build;
  station: FigureAssessment;
  /** The remark that is accepted, where it is not the figure itself. */
  gate?: Schemas["Gate"];
  unit: Unit;
  onClose: () => void;
};

/** Accepts a figure under one's own name. It holds for this figure and this window only. */
export function ConcessionDialog({ build, station, gate, unit, onClose }: ConcessionDialogProps) {
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const [id] = useState(newId);
  // What was looked at when the dialog opened; the server refuses if it has moved since.
  const [seen] = useState(station.judged);
  const accept = useMutation({
    mutationFn: () => {
      if (!seen) throw new Problem(undefined, "There is no figure to accept.");
      const { station: at, figure } = station;
      const shut = station.gates?.find((g) => g.gate === gate);
      const clearance = shut?.amount ?? seen.clearance;
      const body = { id, figure, station: at, gate, clearance, state: seen.state, reason };
      return unwrap(
        api.POST("/api/v1/builds/{build}/concessions", { params: { path: { build: build.code } }, body }),
      );
    },
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  if (!seen) return null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    accept.mutate();
  };
  const edge = gate === undefined && seen.state === "edge";
  const title =
    gate !== undefined
      ? `Concede at ${station.station}: ${GATE_WORD[gate]}`
      : edge
        ? `Acknowledge the edge at ${station.station}`
        : `Concede ${station.station}`;
  return (
    <Sheetlet open title={title} onClose={onClose}>
      <form onSubmit={submit} className="mt-3 grid gap-4">
        {gate === undefined ? (
          <>
            <div className="flex items-center gap-4">
              <Figure nm={seen.clearance} unit={unit} as="clearance" className="text-title font-bold" />
              <Mark state={marked(station, seen.state)} nearest={seen.nearest} size={20} />
            </div>
            <p className="text-small">{verdictSentence(seen, unit)}</p>
          </>
        ) : (
          <p className="text-small">{gateText(station, gate, unit)}</p>
        )}
        {gate === undefined && seen.state === "tight" && (
          <p role="note" className="border-l-4 border-ink bg-steel-2 px-3 py-2 text-small">
            <b>A tight bearing can seize</b> and take the crank and whoever is near with it. Other shells or a
            polish are the usual way.
          </p>
        )}
        <Field
          label={
            gate !== undefined || edge
              ? "Why is it acceptable as it is?"
              : "Why may it run outside its target?"
          }
          name="reason"
          value={reason}
          problem={accept.error}
          autoFocus
          autoComplete="off"
          onChange={(e) => setReason(e.target.value)}
        />
        {!fieldProblem(accept.error, "reason") && <ProblemNote problem={accept.error} />}
        <div className="flex justify-end gap-3">
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className="btn btn-main" disabled={accept.isPending}>
            {edge ? "Acknowledge" : "Concede"}
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}
