import type { Box, CrankShape } from "./geometry";

/** How far the measuring of a main has come. */
export type Progress = "open" | "begun" | "measured" | "stale";

const FILL: Record<Progress, string> = {
  open: "k-journal",
  begun: "k-journal k-begun",
  measured: "k-journal k-measured",
  stale: "k-journal k-stale",
};

const PIN_FILL: Record<Progress, string> = {
  open: "k-pin",
  begun: "k-pin k-begun",
  measured: "k-pin k-measured",
  stale: "k-pin k-stale",
};

function Rect({ box, className, rx = 0 }: { box: Box; className: string; rx?: number }) {
  return (
    <rect
      x={box.x}
      y={box.top}
      width={box.width}
      height={box.bottom - box.top}
      rx={rx}
      className={className}
    />
  );
}

/** Web with chamfered corners. */
function Web({ box }: { box: Box }) {
  const { x, width, top, bottom } = box;
  const c = Math.min(width * 0.28, 6);
  const d = `M${x + c} ${top}h${width - 2 * c}l${c} ${c}V${bottom - c}l${-c} ${c}h${-(width - 2 * c)}l${-c} ${-c}V${top + c}z`;
  return <path d={d} className="k-web" />;
}

/** Cheeks, oil holes and drillings: what the full-size line shows and a miniature does not. */
function Details({ shape }: { shape: CrankShape }) {
  const cheeks = [...shape.mains, ...shape.pins].flatMap((b) =>
    [b.x, b.x + b.width - 1.6].map((x) => ({ ...b, x, width: 1.6 })),
  );
  return (
    <>
      {cheeks.map((box, i) => (
        <Rect key={i} box={{ ...box, top: box.top - 1.5, bottom: box.bottom + 1.5 }} className="k-cheek" />
      ))}
      {shape.pins.map((pin) => {
        const from = shape.mains.findLast((m) => m.centre < pin.centre);
        return (
          from && (
            <path
              key={pin.x}
              d={`M${from.centre} ${shape.axis}L${pin.centre} ${pin.axis}`}
              className="k-drill"
            />
          )
        );
      })}
      {shape.mains.map((m) => (
        <ellipse key={m.x} cx={m.centre} cy={shape.axis} rx="2.6" ry="2" className="k-hole" />
      ))}
      {shape.pins.map((p) => (
        <ellipse key={p.x} cx={p.centre} cy={p.axis} rx="2.4" ry="1.8" className="k-hole" />
      ))}
    </>
  );
}

type CrankProps = {
  shape: CrankShape;
  progress: Progress[];
  /** Progress of the pins, where rods are built. */
  pinProgress?: (Progress | undefined)[];
  /** Index of the chosen pin. */
  chosenPin?: number | undefined;
  /** Index of the chosen main. */
  chosen?: number | undefined;
  /** Which end is chosen: 1 is the nose, 2 the flange. */
  chosenEnd?: number | undefined;
  /** Index of the main that carries thrust. */
  thrust?: number | undefined;
  detailed?: boolean;
};

/** A crank from the side, to scale. Plain numbers in, shapes out. */
export function Crank({
  shape,
  progress,
  pinProgress = [],
  chosen,
  chosenPin,
  chosenEnd,
  thrust,
  detailed = false,
}: CrankProps) {
  const thrustMain = thrust === undefined ? undefined : shape.mains[thrust];
  const chosenBody =
    (chosen === undefined ? undefined : shape.mains[chosen]) ??
    (chosenPin === undefined ? undefined : shape.pins[chosenPin]);
  return (
    <g>
      <StaleHatch />
      {[shape.snout, shape.flange].flatMap((boxes, i) =>
        boxes.map((box) => (
          <Rect key={box.x} box={box} className={chosenEnd === i + 1 ? "k-journal k-chosen" : "k-body"} />
        )),
      )}
      {shape.mains.map((m, i) => (
        <Rect
          key={m.x}
          box={m}
          className={i === chosen ? "k-journal k-chosen" : FILL[progress[i] ?? "open"]}
        />
      ))}
      {shape.pins.map((p, i) => (
        <Rect
          key={p.x}
          box={p}
          className={i === chosenPin ? "k-pin k-chosen" : PIN_FILL[pinProgress[i] ?? "open"]}
        />
      ))}
      {detailed && <Details shape={shape} />}
      {shape.webs.map((w) => (
        <Web key={w.x} box={w} />
      ))}
      {thrustMain && detailed && <ThrustFaces main={thrustMain} />}
      {chosenBody && <Brackets main={chosenBody} />}
    </g>
  );
}

/** Hatching for a journal whose size no longer counts. */
function StaleHatch() {
  return (
    <defs>
      <pattern id="k-stale" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="#3d4799" />
        <path d="M0 0v5" stroke="#eef0ff" strokeWidth="2.2" />
      </pattern>
    </defs>
  );
}

/** Two arrowheads on the faces that take the thrust. */
function ThrustFaces({ main }: { main: Box }) {
  const y = main.top - 9;
  const right = main.x + main.width;
  return <path d={`M${main.x - 1} ${y - 5}v10l-9 -5zM${right + 1} ${y - 5}v10l9 -5z`} className="k-thrust" />;
}

function Brackets({ main }: { main: Box }) {
  const [l, r, t, b] = [main.x - 4, main.x + main.width + 4, main.top - 4, main.bottom + 4];
  return (
    <path
      d={`M${l + 7} ${t}H${l}v7M${r - 7} ${t}H${r}v7M${l + 7} ${b}H${l}v-7M${r - 7} ${b}H${r}v-7`}
      className="k-bracket"
    />
  );
}
