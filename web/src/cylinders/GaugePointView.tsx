import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { useNotes } from "../noted/useNotes";
import { Choice } from "../shared/Choice";
import { Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";
import { COATING_WORD, EDGE_WORD } from "../shared/words";

type Point = Schemas["GaugePoint"];
type Edge = Schemas["GaugeEdge"];
type Coating = Schemas["Coating"];

const EDGES = Object.keys(EDGE_WORD) as Edge[];
const COATINGS = Object.keys(COATING_WORD) as Coating[];

/** Where the pistons are measured: drawn with the edge it is reckoned from, and said anew where the sheet is another one. */
export function GaugePointView({ build, unit }: { build: Build; unit: Unit }) {
  const notes = useNotes(build);
  const point = notes.data?.gauge_point ?? undefined;
  return (
    <section className="mt-4" aria-label="Gauge point">
      <h3 className="border-b border-ink pb-0.5 font-bold">Gauge point of the pistons</h3>
      <ProblemNote problem={notes.error} />
      <div className="mt-2 flex gap-5">
        <Drawing point={point} />
        <div className="min-w-0 flex-1">
          {point ? (
            <p className="leading-snug" data-gauge-point={point.from}>
              <b>
                <Figure nm={point.height} unit={unit} /> {EDGE_WORD[point.from]}
              </b>
              , square to the pin; {COATING_WORD[point.coating]}
              {point.thickness ? (
                <>
                  , <Figure nm={point.thickness} unit={unit} /> a side comes off
                </>
              ) : (
                ""
              )}
              . {point.note && <span className="text-ink-2">{point.note}</span>}
            </p>
          ) : (
            <p className="leading-snug" data-gauge-point="open">
              <b>Not said yet.</b> Two makers, two edges: at the wrong one a piston reads another size. Scribe
              both sides at the height, mic square to the pin, two touches, at 20 degrees.
            </p>
          )}
          <PointForm build={build} unit={unit} said={point} />
        </div>
      </div>
    </section>
  );
}

/** Heights in the drawing: crown, oil groove's lower edge, pin, bottom of the skirt. */
const AT: Record<Edge, number> = { crown: 12, oil_groove: 44, pin_axis: 72, skirt_bottom: 120 };
/** Where the mic goes, drawn off its edge the way the height is reckoned. */
const OFF: Record<Edge, number> = { crown: 92, oil_groove: 34, pin_axis: 26, skirt_bottom: -18 };

function Drawing({ point }: { point: Point | undefined }) {
  const edge = point?.from;
  const mic = edge && AT[edge] + OFF[edge];
  return (
    <svg
      width={170}
      height={136}
      viewBox="0 0 170 136"
      role="img"
      aria-label={
        point ? `Piston, measured ${EDGE_WORD[point.from]}` : "Piston; its gauge point is not said yet"
      }
      className="shrink-0"
    >
      <path d="M40 120V12H120V120" className="b-piston" />
      <path d="M40 22H120M40 32H120M40 44H120" className="b-groove" />
      <circle cx={80} cy={72} r={11} className="g-pin" />
      <path d="M80 4V130" className="b-centre" />
      {edge && mic !== undefined && (
        <g data-edge={edge}>
          <path d={`M30 ${AT[edge]}H150`} className="g-edge" />
          <path d={`M26 ${mic}H134`} className="b-gauge" />
          <path d={`M34 ${mic - 6}v12M126 ${mic - 6}v12`} className="g-anvil" />
          <path d={`M146 ${AT[edge]}V${mic}M142 ${AT[edge]}h8M142 ${mic}h8`} className="g-height" />
          <text x={153} y={(AT[edge] + mic) / 2 + 4} className="g-word">
            h
          </text>
        </g>
      )}
    </svg>
  );
}

function PointForm({ build, unit, said }: { build: Build; unit: Unit; said: Point | undefined }) {
  const client = useQueryClient();
  const [id, setId] = useState(newId);
  const [form, setForm] = useState({ height: "", thickness: "", note: "" });
  const [from, setFrom] = useState<Edge>();
  const [coating, setCoating] = useState<Coating>();
  const edge = from ?? said?.from ?? "skirt_bottom";
  const coat = coating ?? said?.coating ?? "none";
  const say = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/gauge-point", {
          params: { path: { build: build.code } },
          body: { id, from: edge, coating: coat, ...form },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      setId(newId());
      setForm({ height: "", thickness: "", note: "" });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    say.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-2 grid gap-2">
      <div className="flex flex-wrap items-end gap-2">
        <SmallField
          label="Height"
          name="gauge-height"
          above
          value={form.height}
          usual={unit === "in" ? ".500" : "12.5"}
          onChange={(height) => setForm({ ...form, height })}
        />
        <Choice
          label="From which edge"
          className="h-8 w-[210px] text-small"
          value={edge}
          onChange={setFrom}
          options={EDGES.map((value) => ({ value, text: EDGE_WORD[value] }))}
        />
        <Choice
          label="Coating"
          className="h-8 w-[210px] text-small"
          value={coat}
          onChange={setCoating}
          options={COATINGS.map((value) => ({ value, text: COATING_WORD[value] }))}
        />
        {coat === "under" && (
          <SmallField
            label="Thick, a side"
            name="thickness"
            above
            value={form.thickness}
            usual={unit === "in" ? ".0005" : "0.012"}
            onChange={(thickness) => setForm({ ...form, thickness })}
          />
        )}
        <SmallField
          label="Sheet"
          name="gauge-note"
          above
          value={form.note}
          usual="which"
          onChange={(note) => setForm({ ...form, note })}
        />
        <button
          type="submit"
          className="btn min-h-8 px-3 text-small"
          disabled={
            say.isPending || form.height.trim() === "" || (coat === "under" && form.thickness.trim() === "")
          }
        >
          Say it
        </button>
      </div>
      <ProblemNote problem={say.error} />
      {said && (
        <p className="text-note text-ink-2">Another one than before ends the sizes that were read there.</p>
      )}
    </form>
  );
}
