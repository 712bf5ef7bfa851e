import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Segments } from "../shared/Choice";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";

type Torque = Schemas["NewTrial"]["unit"];

/** What it takes to turn the cam, clock by clock: typed as one line. */
export function TrialForm({ build }: { build: Build }) {
  const client = useQueryClient();
  const [unit, setUnit] = useState<Torque>("N m");
  const [oiled, setOiled] = useState(true);
  const [form, setForm] = useState({ torques: "", note: "" });
  const [id, setId] = useState(newId);
  const trial = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/trials", {
          params: { path: { build: build.code } },
          body: { id, unit, oiled, ...form },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      setForm({ torques: "", note: "" });
      setId(newId());
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    trial.mutate();
  };
  const field = (name: keyof typeof form, label: string, hint?: string) => (
    <Field
      label={label}
      name={name}
      value={form[name]}
      figure={name === "torques"}
      hint={hint}
      problem={trial.error}
      autoComplete="off"
      onChange={(e) => setForm((f) => ({ ...f, [name]: e.target.value }))}
    />
  );
  return (
    <form onSubmit={submit} className="mt-2 border-t border-hair-strong pt-2">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-[300px] flex-1">
          {field(
            "torques",
            "Turned: torque from 0° around, 8 or 12 figures",
            "2.6 2.1 1.2 .8 .9 1.4 2.2 2.7",
          )}
        </div>
        <Segments
          label="Unit of the torque"
          value={unit}
          onChange={setUnit}
          options={[
            { value: "N m", text: "N m" },
            { value: "lb in", text: "lb in" },
          ]}
        />
        <Segments
          label="Bearings"
          value={oiled ? "oiled" : "dry"}
          onChange={(to) => setOiled(to === "oiled")}
          options={[
            { value: "oiled", text: "Oiled" },
            { value: "dry", text: "Dry" },
          ]}
        />
      </div>
      <div className="mt-2 flex items-end gap-3">
        <div className="flex-1">{field("note", "What was done before")}</div>
        <button
          type="submit"
          className="btn"
          disabled={trial.isPending || form.torques.trim() === "" || form.note.trim() === ""}
        >
          Keep the trial
        </button>
      </div>
      {!fieldProblem(trial.error, "torques") && !fieldProblem(trial.error, "note") && (
        <ProblemNote problem={trial.error} />
      )}
    </form>
  );
}
