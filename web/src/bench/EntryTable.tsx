import { characteristicRow, kindOf } from "../api/catalog";
import type { Build, FigureAssessment, Measured, PositionAssessment, Read, Unit } from "../api/client";
import { Digits, Figure } from "../shared/Figure";
import { stepText, stepWord } from "../shared/figure";
import { ANGLE_WORD, AXIAL_WORD, tableWords } from "../shared/words";
import { type Cell, cellAt, keyOf, placeOf } from "./cells";
import { EntryCell } from "./EntryCell";
import { StruckList } from "./StruckList";
import type { BenchState } from "./useBench";
import type { Echo } from "./useEcho";

type EntryTableProps = {
  build: Build;
  station: FigureAssessment;
  /** What is touched. */
  of: Measured;
  /** How what can be read in two ways is read. */
  read: Read;
  unit: Unit;
  bench: BenchState;
  echo: Echo | undefined;
  onStrike: (reading: string) => void;
};

/** Touches a row has room for; a fourth and later one share the last column. */
const COLUMNS = 3;

/** The touches of one feature, a row for each position; advisory positions share one. */
export function EntryTable({ headless = false, ...props }: EntryTableProps & { headless?: boolean }) {
  const { station, of, unit } = props;
  const { positions } = of;
  const rows = positions.filter((p) => !p.advisory);
  const advisory = positions.filter((p) => p.advisory);
  return (
    <table className="w-full table-fixed border-collapse">
      <caption className="sr-only">
        Touches of the {tableWords(of.role, props.build.layout).table}, {station.station}
      </caption>
      <colgroup>
        <col className="w-[19%]" />
        <col className="w-[11%]" />
        <col className="w-[16%]" />
        <col className="w-[16%]" />
        <col className="w-[12%]" />
        <col className="w-[16%]" />
        <col />
      </colgroup>
      <thead className={headless ? "sr-only" : ""}>
        <tr className="h-5 text-note text-ink-2">
          <th>
            <span className="sr-only">Place</span>
          </th>
          <th>
            <span className="sr-only">Angle</span>
          </th>
          <th className="font-medium">1st</th>
          <th className="font-medium">2nd</th>
          <th className="font-medium">3rd</th>
          <th className="pr-2 text-right font-medium">
            <span className={of.read === "blades" ? "sr-only" : ""}>Value</span>
          </th>
          <th className="font-medium">
            Spread<span className="sr-only">, {stepWord(1e9, unit)}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((p, i) => (
          <Row
            key={`${p.position.axial}${p.position.angle}`}
            {...props}
            p={p}
            first={rows[i - 1]?.position.axial !== p.position.axial}
          />
        ))}
        {advisory.length > 0 && <AdvisoryRow {...props} advisory={advisory} />}
      </tbody>
    </table>
  );
}

/** What has been taken and typed at one position. */
function stateOf(p: PositionAssessment, { build, of, read, bench }: EntryTableProps) {
  const place = cellAt(of, p.position, read);
  const key = placeOf(place);
  const here = (e: { cell: Cell }) => placeOf(e.cell) === key;
  return {
    place,
    readings: p.touches.flatMap((id) => build.readings.find((r) => r.id === id) ?? []),
    waiting: bench.onTheirWay.filter(here),
    back: bench.sentBack.find(here),
    active: bench.active && placeOf(bench.active) === key ? bench.active : undefined,
    struck: build.readings.filter((r) => r.struck && placeOf(r) === key),
    stale: p.stale.flatMap((id) => build.readings.find((r) => r.id === id) ?? []),
  };
}

function Row({ p, first, ...props }: EntryTableProps & { p: PositionAssessment; first: boolean }) {
  const { unit, bench } = props;
  const part = props.of.role;
  const kind = kindOf(props.of.place);
  const { place, readings, waiting, back, active, struck, stale } = stateOf(p, props);
  const wanted = p.touches.length + p.left;
  return (
    <tr
      className="h-[36px]"
      data-position={`${part} ${p.position.axial} ${p.position.angle}`}
      data-track={p.position.track ?? undefined}
    >
      <th scope="row" className="pr-2 text-left text-small leading-tight font-semibold">
        <span className={first ? "" : "sr-only"}>
          {isElsewhere(props) && `${props.of.place} `}
          {AXIAL_WORD[part](p.position.axial, kind)}
        </span>
      </th>
      <td className="text-small text-ink-2">{ANGLE_WORD[part](p.position.angle)}</td>
      {Array.from({ length: COLUMNS }, (_, i) => {
        const last = i === COLUMNS - 1;
        const touch = i + 1;
        const isActive = active !== undefined && (active.touch === touch || (last && active.touch > touch));
        // Once there are more touches than columns, the last column shows the last of them.
        const reading = last && readings.length > COLUMNS ? readings.at(-1) : readings[i];
        return (
          <EntryCell
            key={touch}
            name={`${AXIAL_WORD[part](p.position.axial, kind)}, ${ANGLE_WORD[part](p.position.angle)}, touch ${touch}`}
            cellKey={keyOf({ ...place, touch })}
            unit={unit}
            advisory={false}
            expected={p.expected}
            reading={isActive ? undefined : reading}
            stale={isActive ? undefined : stale[i]}
            waiting={isActive ? undefined : waiting[i - readings.length]?.text}
            back={back && i === Math.min(readings.length, COLUMNS - 1) ? back : undefined}
            room={touch <= Math.max(wanted, readings.length + 1)}
            active={isActive}
            wanted={touch <= wanted}
            bench={bench}
            echo={props.echo}
            onActivate={() => bench.touchAgain(place)}
            onStrike={props.onStrike}
          />
        );
      })}
      <td className="pr-2 text-right text-[16px]">
        {/* Between two blades there is no value: the cells say all that is known. */}
        {p.value != null && props.of.read !== "blades" && (
          <Figure
            nm={p.value}
            unit={unit}
            light={4}
            keepHalf
            className={p.touches.length > 1 ? "font-bold" : "text-ink-3"}
          />
        )}
      </td>
      <td className="text-center">
        {p.touches.length > 1 && (
          <span className="num">
            <Digits text={stepText(p.spread, unit)} />
          </span>
        )}
        {struck.length > 0 && <StruckList readings={struck} unit={unit} />}
      </td>
    </tr>
  );
}

/** Whether it is one of several parts of another place, such as a rod beside its pin. */
function isElsewhere({ of, station }: EntryTableProps): boolean {
  return of.place !== station.station && of.role !== "journal";
}

/** Whether it is gauged from within, around the parting line. */
function isBore(of: Measured): boolean {
  return characteristicRow(of.characteristic).gauge === "inside";
}

/** Positions that only inform, side by side in one row: a cell each. */
function AdvisoryRow({ advisory, ...props }: EntryTableProps & { advisory: PositionAssessment[] }) {
  const first = advisory[0];
  if (!first) return null;
  const degrees = [...new Set(advisory.map((p) => Math.abs(p.position.angle)))].join(", ");
  return (
    <tr className="h-[36px]">
      <th scope="row" className="pr-2 text-left text-small leading-tight font-semibold">
        {AXIAL_WORD[props.of.role](first.position.axial, kindOf(props.of.place))}
      </th>
      <td className="text-small whitespace-nowrap text-ink-2">
        {isBore(props.of) ? `${degrees}° L, R` : `${degrees}° off`}
      </td>
      {advisory.map((p) => (
        <AdvisoryCell key={p.position.angle} {...props} p={p} />
      ))}
      <td colSpan={5 - advisory.length} className="pl-3 text-note leading-tight text-ink-2">
        {isBore(props.of)
          ? "For the relief only: shells are wider near the parting line"
          : "Informs only: walls thin away from the crown"}
      </td>
    </tr>
  );
}

function AdvisoryCell({ p, ...props }: EntryTableProps & { p: PositionAssessment }) {
  const { unit, bench } = props;
  const part = props.of.role;
  const kind = kindOf(props.of.place);
  const { place, readings, waiting, back, active } = stateOf(p, props);
  const isActive = active !== undefined;
  return (
    <EntryCell
      name={`${AXIAL_WORD[part](p.position.axial, kind)}, ${ANGLE_WORD[part](p.position.angle)}, advisory`}
      cellKey={keyOf({ ...place, touch: isActive ? readings.length + 1 : Math.max(1, readings.length) })}
      unit={unit}
      advisory
      expected={p.expected}
      reading={isActive ? undefined : readings.at(-1)}
      waiting={isActive ? undefined : waiting[0]?.text}
      back={back}
      room
      active={isActive}
      wanted={p.left > 0}
      bench={bench}
      echo={props.echo}
      onActivate={() => bench.touchAgain(place)}
      onStrike={props.onStrike}
    />
  );
}
