import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { characteristicRow } from "../api/catalog";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Field } from "../shared/Field";
import { Figure } from "../shared/Figure";
import { plain, sizeParts } from "../shared/figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { timeText, ZERO_MEANS, ZERO_SOURCES, ZERO_WORD } from "../shared/words";
import { Benches, useBenches } from "./Benches";

type CheckDialogProps = {
  build: Build;
  gauge: string;
  unit: Unit;
  /** What it is zeroed at where it is used now. */
  zeroedAt?: string | undefined;
  onClose: () => void;
};

/** Checks a gauge in on its standard, or out on it again. */
export function CheckDialog({ build, gauge, unit, zeroedAt, onClose }: CheckDialogProps) {
  const client = useQueryClient();
  const known = build.gauges.find((g) => g.gauge.id === gauge);
  const session = build.assessment.sessions.find((s) => s.id === known?.session);
  const usualZero = build.references.find(
    (r) => characteristicRow(r.characteristic).gauge === known?.gauge.measures,
  )?.text;
  const reference = usualZero && (zeroedAt || usualZero);
  // What is zeroed is put on its standard; what has a scale is read on it.
  const zeroed = reference !== undefined;
  const [id] = useState(newId);
  // The same standard again; a bore gauge is usually set to the journal's nominal.
  const usual = session?.open ? plain(sizeParts(session.open.standard, unit)) : (reference ?? "");
  const [standard, setStandard] = useState(usual);
  const [shown, setShown] = useState("");
  const [zero, setZero] = useState<Schemas["ZeroSource"]>("same_mic");
  // What is zeroed is zeroed at the size of one engine: only what has a scale is checked for several at once.
  const benches = useBenches(build.code, gauge, unit, !zeroed).filter((b) => !b.session === !session);
  const [also, setAlso] = useState<string[]>([]);
  const [ids] = useState(() => new Map<string, string>());
  const idOf = (code: string) => ids.get(code) ?? ids.set(code, newId()).get(code) ?? id;
  const send = (code: string, sitting: string | undefined, made: boolean) => {
    const params = { path: { build: code } };
    const typed = made ? { standard, shown } : null;
    if (sitting) {
      const body = { id: idOf(code), session: sitting, check: typed, unit };
      return unwrap(api.POST("/api/v1/builds/{build}/sessions/close", { params, body }));
    }
    const body = { id: idOf(code), gauge, check: typed, zero: zeroed ? zero : null, unit };
    return unwrap(api.POST("/api/v1/builds/{build}/sessions", { params, body }));
  };
  const check = useMutation({
    mutationFn: async (made: boolean) => {
      const recorded = await send(build.code, session?.id, made);
      showRecorded(client, recorded);
      // Sent again after a refusal, what was kept already is kept once.
      for (const bench of benches.filter((b) => also.includes(b.code))) {
        await send(bench.code, bench.session ?? undefined, made);
      }
    },
    onSettled: () => client.invalidateQueries({ queryKey: ["benches"] }),
    onSuccess: onClose,
  });
  if (!known) return null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    check.mutate(true);
  };
  return (
    <Sheetlet open title={`${session ? "Check out" : "Check in"}: ${known.gauge.name}`} onClose={onClose}>
      <form onSubmit={submit} className="mt-3 grid gap-4">
        <p className="text-small text-ink-2">
          {session?.open ? (
            <>
              Since {timeText(session.opened_at)} by {session.opened_by.name}, checked on{" "}
              <Figure nm={session.open.standard} unit={unit} />. Put it on the same standard again. What two
              checks can tell is taken off, more than a step throws its readings out.
            </>
          ) : session ? (
            "It was taken without a check: its readings stay unproven."
          ) : zeroed ? (
            "Set it to its reference and read the dial there: it should show nothing."
          ) : (
            "Put it on its standard and read it: it should show what the standard is."
          )}
        </p>
        <div className="grid grid-cols-2 gap-4">
          <Field
            label={zeroed ? "Reference it is set to" : "Standard"}
            name="standard"
            value={standard}
            problem={check.error}
            autoFocus={usual === ""}
            autoComplete="off"
            placeholder={unit === "in" ? "2.0000" : "50.000"}
            onChange={(e) => setStandard(e.target.value)}
          />
          <Field
            label={zeroed ? "Dial shows" : "It shows"}
            name="shown"
            value={shown}
            problem={check.error}
            autoFocus={usual !== ""}
            autoComplete="off"
            placeholder={zeroed ? "0" : unit === "in" ? "2.0000" : "50.000"}
            onChange={(e) => setShown(e.target.value)}
          />
        </div>
        {zeroed && !session && (
          <fieldset>
            <legend className="mb-1 text-small text-ink-2">
              What is it zeroed in? This decides how much a dial proves.
            </legend>
            <div className="grid gap-0.5">
              {ZERO_SOURCES.map((source) => (
                <label key={source} className="flex min-h-9 items-center gap-2.5">
                  <input
                    type="radio"
                    name="zero"
                    className="size-5 accent-dye"
                    checked={zero === source}
                    onChange={() => setZero(source)}
                  />
                  <span className="font-semibold">{ZERO_WORD[source]}</span>
                  <span className="text-small text-ink-2">{ZERO_MEANS[source]}</span>
                </label>
              ))}
            </div>
          </fieldset>
        )}
        {benches.length > 0 && (
          <Benches
            benches={benches}
            legend={session ? "Check it out here as well" : "Check it in here as well"}
            chosen={also}
            onChange={setAlso}
          />
        )}
        <ProblemNote problem={check.error} />
        <div className="flex justify-end gap-3">
          <button
            type="button"
            className="btn"
            disabled={check.isPending}
            onClick={() => check.mutate(false)}
          >
            {session ? "Close without a check" : "Take it unchecked"}
          </button>
          <button type="submit" className="btn btn-main" disabled={check.isPending}>
            {session ? "Check out" : "Check in"}
          </button>
        </div>
      </form>
    </Sheetlet>
  );
}
