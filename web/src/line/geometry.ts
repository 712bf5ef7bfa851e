import type { Schemas } from "../api/client";

/** A body of revolution seen from the side: a box around its own axis. */
export type Box = { x: number; width: number; top: number; bottom: number };
export type MainBody = Box & { centre: number };
export type PinBody = Box & { centre: number; axis: number };
export type CrankShape = {
  snout: Box[];
  flange: Box[];
  mains: MainBody[];
  pins: PinBody[];
  webs: Box[];
  width: number;
  axis: number;
  /** Pixels for one nanometre. */
  scale: number;
};

/** Turns the crank a little, so that the three levels of a six stay apart. */
const VIEW_DEGREES = -16;
/** Half the angle that a counterweight spans. */
const COUNTERWEIGHT_HALF = 55;
const RADIANS = Math.PI / 180;
/** Widths and radii of the snout's steps and of the flange's, as parts of the main journal. */
const SNOUT = [
  [0.2, 0.18],
  [0.42, 0.24],
  [0.15, 0.32],
] as const;
/** What lies between the halves of a built-up crank, in webs. */
const APART = 1.6;

const FLANGE = [
  [0.18, 0.52],
  [0.24, 0.68],
] as const;

/** Highest and lowest point of an arc of `radius` around `middle`, in pixels above the axis. */
function arcReach(radius: number, middle: number): { high: number; low: number } {
  let high = Number.NEGATIVE_INFINITY;
  let low = Number.POSITIVE_INFINITY;
  for (let a = -COUNTERWEIGHT_HALF; a <= COUNTERWEIGHT_HALF; a += 5) {
    const y = radius * Math.cos((middle + a) * RADIANS);
    high = Math.max(high, y);
    low = Math.min(low, y);
  }
  return { high, low };
}

/** Length of the crank from snout to flange, in nanometres. */
export function crankLength(layout: Schemas["Layout"]): number {
  const c = layout.crank;
  const bays = c.bays.reduce(
    (sum, pins) => sum + pins.length * c.pin_width + (pins.length === 0 ? APART : pins.length + 1) * c.web,
    0,
  );
  const ends = [...SNOUT, ...FLANGE].reduce((sum, [width]) => sum + width, 0);
  return layout.main_journal * ends + layout.mains * c.main_width + bays;
}

/** Largest distance of any part from the axis, in nanometres. */
export function crankReach(layout: Schemas["Layout"]): number {
  const c = layout.crank;
  return Math.max(c.counterweight, c.throw + c.pin_diameter * 0.62);
}

/** Lays the crank out at one scale on both axes, front at the left, axis at `axis`. */
export function crankShape(layout: Schemas["Layout"], scale: number, axis: number): CrankShape {
  const c = layout.crank;
  const px = (nm: number) => nm * scale;
  const main = px(layout.main_journal);
  const around = (radius: number, at = axis) => ({ top: at - radius, bottom: at + radius });
  const shape: CrankShape = { snout: [], flange: [], mains: [], pins: [], webs: [], width: 0, axis, scale };

  let x = 0;
  const put = (width: number) => {
    const from = x;
    x += width;
    return { x: from, width };
  };
  for (const [width, radius] of SNOUT) {
    shape.snout.push({ ...put(main * width), ...around(main * radius) });
  }
  const addMain = () => {
    const at = put(px(c.main_width));
    shape.mains.push({ ...at, ...around(main / 2), centre: at.x + at.width / 2 });
  };
  const addWeb = (phase: number) => {
    const turned = phase + VIEW_DEGREES;
    const pinEnd = px(c.throw) * Math.cos(turned * RADIANS);
    const cheek = px(c.pin_diameter) * 0.62;
    const weight = arcReach(px(c.counterweight), turned + 180);
    const high = Math.max(pinEnd + cheek, weight.high, main * 0.56);
    const low = Math.min(pinEnd - cheek, weight.low, -main * 0.56);
    shape.webs.push({ ...put(px(c.web)), top: axis - high, bottom: axis - low });
  };
  addMain();
  for (const pins of c.bays) {
    // Halves of a built-up crank stand apart by what drives them.
    if (pins.length === 0) put(px(c.web) * APART);
    else addWeb(pins[0] ?? 0);
    pins.forEach((phase, i) => {
      const centreY = axis - px(c.throw) * Math.cos((phase + VIEW_DEGREES) * RADIANS);
      const at = put(px(c.pin_width));
      shape.pins.push({
        ...at,
        ...around(px(c.pin_diameter) / 2, centreY),
        centre: at.x + at.width / 2,
        axis: centreY,
      });
      addWeb(pins[i + 1] ?? phase);
    });
    addMain();
  }
  for (const [width, radius] of FLANGE) {
    shape.flange.push({ ...put(main * width), ...around(main * radius) });
  }
  shape.width = x;
  return shape;
}
