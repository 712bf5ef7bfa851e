import { Radio, RadioGroup } from "@headlessui/react";
import type { LineView } from "./useLine";

const LAYERS = [
  { value: "cam", text: "Cam" },
  { value: "along", text: "Along" },
  { value: "crank", text: "Crank" },
] as const;

type LayersProps = { view: LineView; rods: boolean; cam: boolean; onView: (view: LineView) => void };

/** The layers of the line as a level scale: a press on the crank that is shown turns its pins into rods. */
export function Layers({ view, rods, cam, onView }: LayersProps) {
  const layer = view === "rods" ? "crank" : view;
  return (
    <RadioGroup
      aria-label="Layer of the line"
      value={layer}
      onChange={(to: LineView) => onView(to)}
      className="absolute top-[48px] right-0 w-[84px] border-r border-scribe-2 max-[1150px]:w-[64px]"
    >
      {LAYERS.filter((l) => cam || l.value !== "cam").map((l) => (
        <Radio
          key={l.value}
          as="button"
          type="button"
          value={l.value}
          data-layer={l.value}
          onClick={() => {
            if (l.value === "crank" && layer === "crank" && rods) onView(view === "rods" ? "crank" : "rods");
          }}
          className="layer-tab block h-8 w-full pr-3 text-right text-small font-semibold text-scribe data-checked:bg-white data-checked:text-dye"
        >
          {l.value === "crank" && view === "rods" ? "Rods" : l.text}
        </Radio>
      ))}
    </RadioGroup>
  );
}
