import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, type Build, type FigureAssessment, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Segments } from "../shared/Choice";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { StrikeButton, StrikeDialog } from "../shared/StrikeDialog";
import { momentText } from "../shared/words";

type PicturesViewProps = { build: Build; station: FigureAssessment };
type Picture = Schemas["PictureView"];
type Moment = Schemas["Moment"];

const MOMENT_WORD: Record<Moment, string> = {
  found: "As found",
  before: "Before",
  after: "After",
  fitted: "Fitted",
};

/** The pictures of a station side by side, what was before beside what was after. */
export function PicturesView({ build, station }: PicturesViewProps) {
  const pictures = useQuery({
    queryKey: ["pictures", build.code, build.assessment.seq],
    queryFn: () =>
      unwrap(api.GET("/api/v1/builds/{build}/pictures", { params: { path: { build: build.code } } })),
    retry: false,
  });
  const places = new Set([station.station, station.journal_at]);
  const here = (pictures.data ?? []).filter((p) => places.has(p.place));
  const earlier = here.filter((p) => p.moment === "found" || p.moment === "before");
  const later = here.filter((p) => p.moment === "after" || p.moment === "fitted");
  return (
    <div className="mt-2" data-pictures={here.length}>
      <ProblemNote problem={pictures.error} />
      {here.length > 0 ? (
        <div className="grid grid-cols-2 gap-3">
          <Column name="Before" pictures={earlier} build={build} />
          <Column name="After" pictures={later} build={build} />
        </div>
      ) : (
        <p className="leading-snug text-ink-2">
          No picture of {station.station} yet. What shows in no figure is proven by one: which way a washer
          faces, a mark, a witness line.
        </p>
      )}
      <TakeForm build={build} station={station} />
    </div>
  );
}

function Column({ name, pictures, build }: { name: string; pictures: Picture[]; build: Build }) {
  const [striking, setStriking] = useState<Picture>();
  return (
    <section aria-label={name}>
      <h3 className="border-b border-ink pb-0.5 text-small font-semibold text-ink-2">{name}</h3>
      {pictures.length === 0 && <p className="py-2 text-small text-ink-3">none</p>}
      {pictures.map((p) => (
        <figure key={p.id} className="mt-2" data-picture={p.digest}>
          <a href={wayTo(build, p)} target="_blank" rel="noreferrer">
            <img
              src={wayTo(build, p)}
              alt={`${p.place}, ${MOMENT_WORD[p.moment]}: ${p.note}`}
              width={p.width}
              height={p.height}
              className={`max-h-[300px] w-full border border-ink object-contain ${p.struck ? "opacity-40" : ""}`}
            />
          </a>
          <figcaption className="mt-1 text-small leading-snug">
            <b>{p.place}</b> <span className={p.struck ? "line-through" : undefined}>{p.note}</span>
            <span className="block text-note text-ink-2">
              {MOMENT_WORD[p.moment]}, {p.by.name}, {momentText(p.at)}
              {p.struck ? ", struck" : <StrikeButton onPress={() => setStriking(p)} />}
            </span>
          </figcaption>
        </figure>
      ))}
      {striking && (
        <StrikeDialog
          build={build}
          entry={striking.id}
          title={`Strike this picture of ${striking.place}?`}
          onClose={() => setStriking(undefined)}
        >
          {striking.note}, {MOMENT_WORD[striking.moment].toLowerCase()}, taken by {striking.by.name}.
        </StrikeDialog>
      )}
    </section>
  );
}

function wayTo(build: Build, p: Picture): string {
  return `/api/v1/builds/${encodeURIComponent(build.code)}/pictures/${p.digest}`;
}

function TakeForm({ build, station }: PicturesViewProps) {
  const client = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const [moment, setMoment] = useState<Moment>(station.figure === "end_play" ? "fitted" : "after");
  const [note, setNote] = useState("");
  const [picked, setPicked] = useState<File>();
  const [id, setId] = useState(newId);
  const take = useMutation({
    mutationFn: (sent: File) =>
      unwrap(
        api.POST("/api/v1/builds/{build}/pictures", {
          params: {
            path: { build: build.code },
            query: { id, place: station.station, moment, note },
          },
          // The bytes as they are.
          body: sent as unknown as number[],
          bodySerializer: (bytes) => bytes as unknown as Blob,
          headers: { "content-type": sent.type },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      setNote("");
      setPicked(undefined);
      setId(newId());
      if (file.current) file.current.value = "";
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (picked) take.mutate(picked);
  };
  return (
    <form onSubmit={submit} className="mt-3 border-t border-hair-strong pt-2">
      <div className="flex flex-wrap items-end gap-3">
        <label className="text-small text-ink-2">
          Picture of {station.station}
          <input
            ref={file}
            name="picture"
            type="file"
            accept="image/png,image/jpeg"
            capture="environment"
            className="mt-1 block w-[250px] text-small file:mr-2 file:h-9 file:border file:border-dye file:bg-paper file:px-3 file:font-semibold file:text-dye"
            onChange={(e) => setPicked(e.target.files?.[0])}
          />
        </label>
        <Segments
          label="When it was taken"
          value={moment}
          onChange={setMoment}
          options={(Object.keys(MOMENT_WORD) as Moment[]).map((value) => ({
            value,
            text: MOMENT_WORD[value],
          }))}
        />
      </div>
      <div className="mt-2 flex items-end gap-3">
        <div className="flex-1">
          <Field
            label="What it shows"
            name="note"
            value={note}
            problem={take.error}
            autoComplete="off"
            onChange={(e) => setNote(e.target.value)}
          />
        </div>
        <button
          type="submit"
          className="btn btn-main"
          disabled={!picked || note.trim() === "" || take.isPending}
        >
          Keep the picture
        </button>
      </div>
      <ProblemNote problem={take.error} />
      <p className="mt-1 text-note text-ink-2">
        PNG or JPEG up to 12 MB. It is kept upright and smaller, without what the camera says of place and
        owner, under a digest that every later signature covers.
      </p>
    </form>
  );
}
