import { skipToken, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { doneTo, ticksOf } from "../api/catalog";
import { api, type Build, type FigureAssessment, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { NoteField } from "../shared/NoteField";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { scopeWord, TICK_WORD, WORK_WORD } from "../shared/words";
import { ImpactNote } from "./ImpactNote";

type Work = Schemas["Work"];

const WORKS = Object.keys(WORK_WORD) as Work[];

type WorkDialogProps = { build: Build; station: FigureAssessment; onClose: () => void };

/** Records what was done to a part, after saying which evidence that ends. */
export function WorkDialog({ build, station, onClose }: WorkDialogProps) {
  const client = useQueryClient();
  const [id] = useState(newId);
  // What is done to this very place comes before what is done to others with it.
  const here = (w: Work) => doneTo(w, station)[0] === station.station;
  const done = WORKS.filter((w) => doneTo(w, station).length > 0);
  const offered = [...done.filter(here), ...done.filter((w) => !here(w))];
  // Nobody said yet what was done: a list that begins with the most destructive deed must not be taken for one.
  const [work, setWork] = useState<Work>();
  const possible = work ? doneTo(work, station) : [];
  const [chosen, setOn] = useState("");
  const on = possible.includes(chosen) ? chosen : (possible[0] ?? station.station);
  const [note, setNote] = useState("");
  const [grits, setGrits] = useState("");
  const [minutes, setMinutes] = useState("");
  const [ticked, setTicked] = useState<Schemas["Tick"][]>([]);
  const asked = work ? ticksOf(work) : [];
  const body = (work: Work): Schemas["NewWork"] => ({
    id,
    work,
    on,
    note,
    grits: grits
      .split(/[^0-9]+/)
      .filter(Boolean)
      .map(Number),
    minutes: /^\d+$/.test(minutes.trim()) ? Number(minutes) : null,
    ticks: asked.filter((t) => ticked.includes(t)),
  });
  const params = { path: { build: build.code } };
  const impact = useQuery({
    queryKey: ["impact", build.code, build.assessment.seq, work, on],
    queryFn: work
      ? () =>
          unwrap(
            api.POST("/api/v1/builds/{build}/work/impact", {
              params,
              body: { ...body(work), note: "asked", grits: [], minutes: null, ticks: [] },
            }),
          )
      : skipToken,
  });
  const record = useMutation({
    mutationFn: (done: Work) => unwrap(api.POST("/api/v1/builds/{build}/work", { params, body: body(done) })),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (work) record.mutate(work);
  };
  return (
    <Sheetlet open title={`Work done at ${station.station}`} onClose={onClose} width={560}>
      <form onSubmit={submit} className="mt-3 grid gap-4">
        <div className="flex gap-4">
          <div className="flex-1">
            <Choice
              label="What was done"
              showLabel
              value={work ?? ""}
              options={[
                ...(work ? [] : [{ value: "" as const, text: "choose what was done" }]),
                ...offered.map((w) => ({ value: w, text: WORK_WORD[w] })),
              ]}
              onChange={(w) => w !== "" && setWork(w)}
              className="h-10 w-full"
            />
          </div>
          <div className="flex-1">
            <Choice
              label="To what"
              showLabel
              value={on}
              options={possible.map((s) => ({ value: s, text: scopeWord(s) }))}
              onChange={setOn}
              className="h-10 w-full"
            />
          </div>
        </div>
        {asked.length > 0 && (
          <fieldset className="grid gap-1.5">
            <legend className="mb-1 text-small font-bold">Looked at, because no figure shows it</legend>
            {asked.map((t) => (
              <label key={t} className="flex items-start gap-2 leading-snug">
                <input
                  type="checkbox"
                  name={t}
                  checked={ticked.includes(t)}
                  onChange={(e) =>
                    setTicked(e.target.checked ? [...ticked, t] : ticked.filter((other) => other !== t))
                  }
                  className="mt-0.5 size-4 flex-none"
                />
                {TICK_WORD[t]}
              </label>
            ))}
          </fieldset>
        )}
        <NoteField value={note} problem={record.error} onChange={setNote} />
        {work === "journal_polished" && (
          <>
            <div className="grid grid-cols-2 gap-4">
              <Field
                label="Grits, coarse to fine"
                name="grits"
                value={grits}
                problem={null}
                autoComplete="off"
                placeholder="800 1200 1500"
                onChange={(e) => setGrits(e.target.value)}
              />
              <Field
                label="Minutes"
                name="minutes"
                value={minutes}
                problem={null}
                autoComplete="off"
                inputMode="numeric"
                onChange={(e) => setMinutes(e.target.value)}
              />
            </div>
            <p className="text-note text-ink-2">
              <b className="text-ink">Turning journal:</b> no gloves, no loose cloth, eye protection. Oil and
              towels burn. A caught nail, heat or a crack goes to the grinder instead.
            </p>
          </>
        )}
        <ImpactNote impact={impact.data} problem={impact.error} />
        <ProblemNote problem={record.error} />
        <div className="flex justify-end gap-3">
          <button type="button" className="btn" onClick={onClose}>
            Leave it
          </button>
          <button
            type="submit"
            className="btn btn-main"
            disabled={!work || record.isPending || asked.some((t) => !ticked.includes(t))}
          >
            Record it
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}
