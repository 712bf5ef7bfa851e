import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Segments } from "../shared/Choice";
import { Field } from "../shared/Field";
import { Digits, Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { StrikeButton, StrikeDialog } from "../shared/StrikeDialog";
import { timeText } from "../shared/words";

type On = Schemas["Stroked"];
type Log = Schemas["StrokeLog"];
type StrokesViewProps = { build: Build; unit: Unit; at: string; rings?: boolean; children?: ReactNode };

const WORDS: Record<On, { title: string; strokes: string; size: string }> = {
  bore: { title: "Bore", strokes: "Strokes", size: "Bore then" },
  top_ring: { title: "Top ring", strokes: "Turns of the file", size: "Gap then" },
  second_ring: { title: "Second ring", strokes: "Turns of the file", size: "Gap then" },
};

/** Under the hone or the file: what each go took, and how many may be made before the next look. */
export function StrokesView({ build, unit, at, rings = false, children }: StrokesViewProps) {
  const [on, setOn] = useState<On>(rings ? "top_ring" : "bore");
  const logs = useQuery({
    queryKey: ["strokes", build.code, build.assessment.seq],
    queryFn: () =>
      unwrap(api.GET("/api/v1/builds/{build}/strokes", { params: { path: { build: build.code } } })),
    retry: false,
  });
  const log = logs.data?.find((l) => l.at === at && l.on === on);
  return (
    <div className="mt-2" data-strokes={at}>
      <Segments
        label="What is worked"
        value={on}
        onChange={setOn}
        options={(Object.keys(WORDS) as On[]).map((value) => ({ value, text: WORDS[value].title }))}
      />
      <ProblemNote problem={logs.error} />
      {log && <Left log={log} unit={unit} />}
      <StrokesForm key={`${at} ${on}`} build={build} at={at} on={on} first={!log} />
      {log && <Entries build={build} log={log} unit={unit} />}
      {on === "bore" && children}
      <p className="mt-2 text-small leading-snug">
        {on === "bore"
          ? "Measured cool, or say how warm. The tight end gets the extra strokes. When it is done, W records it honed: its sizes and its rings' gaps end, and it is washed before it signs."
          : "One way only, from the outside in, ends square and parallel: two blades, inside and outside. Ends cut. When it is done, W records it."}
      </p>
    </div>
  );
}

function Left({ log, unit }: { log: Log; unit: Unit }) {
  const last = log.entries.at(-1);
  const clearance = log.on === "bore" ? undefined : "clearance";
  if (!last) return null;
  const past = log.to_go != null && log.to_go < 0;
  return (
    <div className="mt-3 flex items-end gap-6" data-next={log.left?.next ?? ""}>
      <p className="leading-none">
        <span className="block text-note text-ink-2">Before the next look</span>
        <b className="num text-[44px] tracking-[-0.04em] text-dye">
          {past ? "stop" : log.to_go == null ? "\u2013" : (log.left?.next ?? "few")}
        </b>
      </p>
      <p className="flex-1 pb-1 text-small leading-snug">
        It is <Figure nm={last.cool} unit={unit} as={clearance} className="font-bold" />
        {last.part_mc != null ? " when cool" : ""}
        {log.goal != null && (
          <>
            {" "}
            on the way to <Figure nm={log.goal} unit={unit} as={clearance} />
          </>
        )}
        .{" "}
        {log.goal == null
          ? "Where it is to end is not known yet: measure its piston, or give the gap a window."
          : past
            ? "It is past: stop, and hold it against its window."
            : log.left
              ? `At the fastest of the log that does not go past${log.left.strokes != null ? `; about ${log.left.strokes} in all` : ""}.`
              : "One more entry teaches the rate: a few strokes, then measure."}
        {log.left?.per_tenth != null && (
          <>
            {" "}
            <span className="num">
              <Digits text={log.left.per_tenth.toFixed(1)} />
            </span>{" "}
            strokes take {unit === "in" ? "a tenth" : "2.54 \u00b5m"}.
          </>
        )}
      </p>
    </div>
  );
}

function Entries({ build, log, unit }: { build: Build; log: Log; unit: Unit }) {
  const [striking, setStriking] = useState<Log["entries"][number]>();
  const clearance = log.on === "bore" ? undefined : "clearance";
  return (
    <>
      {striking && (
        <StrikeDialog
          build={build}
          entry={striking.id}
          title={`Strike an entry at ${log.at}`}
          onClose={() => setStriking(undefined)}
        >
          <Figure nm={striking.size} unit={unit} as={clearance} className="text-title font-bold" />
          <span className="ml-3 text-small text-ink-2">
            after {striking.strokes} strokes, by {striking.by.name}, {timeText(striking.when)}
          </span>
        </StrikeDialog>
      )}
      <table className="mt-3 w-full text-small">
        <caption className="sr-only">Strokes at {log.at}</caption>
        <thead className="text-left text-note text-ink-2">
          <tr>
            <th className="font-normal">When, who</th>
            <th className="font-normal">{WORDS[log.on].strokes}</th>
            <th className="font-normal">Measured</th>
            <th className="font-normal">Cool</th>
            <th className="font-normal">They took</th>
            <th>
              <span className="sr-only">Strike</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {[...log.entries].reverse().map((e) => (
            <tr key={e.seq} className="border-t border-hair" data-entry={e.strokes}>
              <td className="py-1">
                {timeText(e.when)} {e.by.name}
                {e.note && <span className="block text-note text-ink-2">{e.note}</span>}
              </td>
              <td className="num font-bold">{e.strokes === 0 ? "as it was" : e.strokes}</td>
              <td>
                <Figure nm={e.size} unit={unit} as={clearance} />
                {e.part_mc != null && <span className="text-note text-ink-2"> at {e.part_mc / 1000} °C</span>}
              </td>
              <td>
                <Figure nm={e.cool} unit={unit} as={clearance} className="font-bold" />
              </td>
              <td>{e.removed == null ? "\u2013" : <Figure nm={e.removed} unit={unit} as="clearance" />}</td>
              <td className="text-right">
                <StrikeButton onPress={() => setStriking(e)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

type StrokesFormProps = { build: Build; at: string; on: On; first: boolean };

function StrokesForm({ build, at, on, first }: StrokesFormProps) {
  const client = useQueryClient();
  const [id, setId] = useState(newId);
  const empty = { strokes: first ? "0" : "", size: "", temperature: "", note: "" };
  const [form, setForm] = useState(empty);
  const keep = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/strokes", {
          params: { path: { build: build.code } },
          body: { id, at, on, ...form, strokes: Number(form.strokes) || 0 },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      setForm({ ...empty, strokes: "" });
      setId(newId());
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.mutate();
  };
  const field = (name: keyof typeof form, label: string, hint?: string) => (
    <Field
      label={label}
      name={name}
      value={form[name]}
      figure={name !== "note"}
      hint={hint}
      problem={keep.error}
      autoComplete="off"
      onChange={(e) => setForm((f) => ({ ...f, [name]: e.target.value }))}
    />
  );
  return (
    <form onSubmit={submit} className="mt-3 border-t border-hair-strong pt-2">
      <div className="grid grid-cols-[110px_130px_110px_1fr_auto] items-end gap-3 max-[1150px]:grid-cols-3">
        {field("strokes", WORDS[on].strokes)}
        {field("size", WORDS[on].size)}
        {field("temperature", "How warm")}
        {field("note", "Stone, what was seen")}
        <button
          type="submit"
          className="btn"
          disabled={keep.isPending || form.size.trim() === "" || form.strokes.trim() === ""}
        >
          Keep it
        </button>
      </div>
      {!fieldProblem(keep.error, "size") && !fieldProblem(keep.error, "strokes") && (
        <ProblemNote problem={keep.error} />
      )}
    </form>
  );
}
