import type { Box, CrankShape } from "./geometry";

/** Drawn width of a washer, and of the gap beside it, in pixels: the gap is far larger than to scale. */
const WASHER = 7;
const GAP = 5;
/** How far the washers stand above the journal. */
const TALL = 19;

type AlongProps = { shape: CrankShape; thrust: number | undefined; rodsPerPin: number; chosen: boolean };

/** The crank along its axis: rods as plates on their pins, and white washers either side of a hatched saddle. */
export function Along({ shape, thrust, rodsPerPin, chosen }: AlongProps) {
  const main = thrust === undefined ? undefined : shape.mains[thrust];
  return (
    <g>
      <defs>
        <pattern
          id="k-saddle"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--color-dye)" />
          <path d="M0 0v6" stroke="#eef0ff" strokeWidth="1.6" />
        </pattern>
      </defs>
      {shape.pins.flatMap((pin) =>
        Array.from({ length: rodsPerPin }, (_, i) => {
          const width = pin.width / rodsPerPin - 3;
          const radius = ((pin.bottom - pin.top) / 2) * 1.3;
          const x = pin.x + 1.5 + i * (pin.width / rodsPerPin);
          return (
            <rect
              key={`${pin.x} ${i}`}
              x={x}
              y={pin.axis - radius}
              width={width}
              height={2 * radius}
              className="k-plate"
            />
          );
        }),
      )}
      {main && <Saddle main={main} chosen={chosen} />}
    </g>
  );
}

/** What holds the crank: a saddle of the block between two washers, above the journal and below it. */
function Saddle({ main, chosen }: { main: Box; chosen: boolean }) {
  const [left, right] = [main.x, main.x + main.width];
  const above = main.top - TALL - 3;
  const below = main.bottom + 3;
  const inner = { x: left + GAP + WASHER, width: main.width - 2 * (GAP + WASHER) };
  const middle = (main.top + main.bottom) / 2;
  const x = (left + right) / 2;
  return (
    <g>
      {chosen && (
        <rect
          x={main.x}
          y={main.top}
          width={main.width}
          height={main.bottom - main.top}
          className="k-journal k-chosen"
        />
      )}
      {[above, below].map((y) => (
        <g key={y}>
          <rect
            x={inner.x}
            y={y}
            width={inner.width}
            height={TALL}
            fill="url(#k-saddle)"
            className="k-saddle"
          />
          <rect x={left + GAP} y={y} width={WASHER} height={TALL} className="k-washer" />
          <rect x={right - GAP - WASHER} y={y} width={WASHER} height={TALL} className="k-washer" />
        </g>
      ))}
      <path
        d={`M${left + 4} ${middle}H${right - 4}M${left + 10} ${middle - 5}l-6 5 6 5M${right - 10} ${middle - 5}l6 5 -6 5`}
        className={chosen ? "k-play k-play-on" : "k-play"}
      />
      <path
        d={`M${x} ${above - 6}v-6M${left} ${above - 9}h${GAP}M${right - GAP} ${above - 9}h${GAP}`}
        className="k-gap"
      />
    </g>
  );
}
