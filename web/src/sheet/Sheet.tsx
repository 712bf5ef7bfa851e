import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Build, Schemas, Session } from "../api/client";
import { buildQuery } from "../api/queries";
import { Line } from "../line/Line";
import { LineAside, LineIdent } from "../page/LineWords";
import { NoBuild } from "../page/NoBuild";
import { useShownUnit } from "../shared/units";
import { BearingTable } from "./BearingTable";
import { Behind } from "./Behind";
import { Blocks } from "./Blocks";
import { ConcessionDialog } from "./ConcessionDialog";
import { Decisions } from "./Decisions";
import { FigureTable } from "./FigureTable";
import { ImportReadings } from "./ImportReadings";
import { NotChecked } from "./NotChecked";
import { NotedLines } from "./NotedLines";
import { Elsewhere, Faults, LiftedNotes } from "./Provenance";
import { SealRule } from "./SealRule";
import { Signatures } from "./Signatures";
import { SignDialog } from "./SignDialog";
import { SizeTable } from "./SizeTable";

/** The blueprint sheet of the build that the address names. */
export function Sheet({ session }: { session: Session }) {
  const { code = "" } = useParams();
  const build = useQuery(buildQuery(code));
  if (build.data) return <SheetOf build={build.data} session={session} />;
  return build.isError ? <NoBuild code={code} error={build.error} /> : null;
}

function SheetOf({ build, session }: { build: Build; session: Session }) {
  const navigate = useNavigate();
  const unit = useShownUnit(build.unit);
  const [accepting, setAccepting] = useState<Schemas["Block"]>();
  const [signing, setSigning] = useState<Schemas["SignerRole"]>();
  const { sign_off, figures: stations } = build.assessment;
  const asked = stations.filter((s) => s.asked);
  const proven = asked.filter((s) => s.judged?.state === "in").length;
  const counted = build.readings.filter((r) => !r.struck).length;
  const station = stations.find((s) => s.station === accepting?.station && s.figure === accepting.figure);
  const toBench = (name: string) => void navigate(`/builds/${build.code}/bench/${name}`);
  const files = `/api/v1/builds/${encodeURIComponent(build.code)}`;
  return (
    <>
      <Line
        build={build}
        onChoose={toBench}
        ident={<LineIdent build={build} row="mains" />}
        aside={<LineAside build={build} />}
      />
      <main className="print-sheet grid min-h-0 flex-1 grid-cols-[1fr_440px] grid-rows-[minmax(0,1fr)] bg-paper max-[1150px]:grid-cols-[1fr_360px]">
        <section className="min-h-0 relative overflow-auto px-6 pt-2 pb-4">
          <p className="print-only text-title font-bold">
            {build.code}, {build.engine}
          </p>
          <Faults build={build} />
          <Elsewhere build={build} />
          <div className="flex items-baseline gap-x-3 whitespace-nowrap">
            <h2 className="text-lead font-bold">Blueprint sheet</h2>
            <span className="text-small text-ink-2">
              Revision {sign_off.revision}. {proven} of {asked.length} proven in, {counted} readings.
            </span>
          </div>
          <div className="mt-1 mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1 whitespace-nowrap">
            <a
              href="#not-checked"
              className="hatch-steel px-2 text-small font-bold underline underline-offset-2"
            >
              {build.assessment.not_checked.length} not checked
            </a>
            <span className="no-print ml-auto flex gap-4 text-small font-semibold text-dye">
              <button type="button" className="underline underline-offset-2" onClick={() => window.print()}>
                Print
              </button>
              <a href={`${files}/export.json`} download className="underline underline-offset-2">
                JSON
              </a>
              <a href={`${files}/bearings.csv`} download className="underline underline-offset-2">
                CSV
              </a>
              <a href={`${files}/build.xlsx`} download className="underline underline-offset-2">
                Spreadsheet
              </a>
              <ImportReadings build={build} />
            </span>
          </div>
          <BearingTable build={build} row="mains" unit={unit} onOpen={toBench} />
          {build.layout.rods && <BearingTable build={build} row="rods" unit={unit} onOpen={toBench} />}
          <FigureTable build={build} unit={unit} onOpen={toBench} />
          <LiftedNotes build={build} />
          <NotChecked build={build} />
          <SizeTable build={build} row="mains" unit={unit} />
          {build.layout.rods && <SizeTable build={build} row="rods" unit={unit} />}
          <NotedLines build={build} />
          <Behind build={build} />
          <Decisions build={build} />
        </section>
        <section className="relative flex min-h-0 flex-col border-l-[1.5px] border-ink bg-steel-1 pt-2 pr-6 pb-3 pl-7">
          <div className="grad-down absolute inset-y-0 left-0" />
          <Blocks
            build={build}
            unit={unit}
            session={session}
            onMeasure={toBench}
            onAccept={setAccepting}
            onParts={() => void navigate(`/builds/${build.code}/parts`)}
            onLook={() => void navigate(`/builds/${build.code}/look`)}
          />
          <Signatures build={build} onSign={setSigning} />
        </section>
      </main>
      <SealRule build={build} />
      {station && (
        <ConcessionDialog
          key={station.station}
          build={build}
          station={station}
          gate={accepting?.gate ?? undefined}
          unit={unit}
          onClose={() => setAccepting(undefined)}
        />
      )}
      {signing && (
        <SignDialog build={build} role={signing} session={session} onClose={() => setSigning(undefined)} />
      )}
    </>
  );
}
