import { Radio, RadioGroup } from "@headlessui/react";
import type { Build } from "../api/client";
import { facesOf, LAYERS, type LineView, layerShowing } from "./layers";

type LayersProps = { build: Build; view: LineView; onView: (view: LineView) => void };

/** The layers of the line as a level scale: a press on the one that is shown turns it to its other face. */
export function Layers({ build, view, onView }: LayersProps) {
  const layer = layerShowing(view).id;
  const there = LAYERS.flatMap((l) => {
    const faces = facesOf(build, l);
    return faces.length > 0 ? [{ id: l.id, faces }] : [];
  });
  return (
    <RadioGroup
      aria-label="Layer of the line"
      value={layer}
      onChange={(to: string) => {
        const first = there.find((l) => l.id === to)?.faces[0];
        if (first) onView(first.view);
      }}
      className="absolute right-0 bottom-0 w-[84px] border-r border-scribe-2 max-[1150px]:w-[64px]"
    >
      {there.map(({ id, faces }) => {
        const at = faces.findIndex((f) => f.view === view);
        return (
          <Radio
            key={id}
            as="button"
            type="button"
            value={id}
            data-layer={id}
            onClick={() => {
              const next = at < 0 ? undefined : faces[(at + 1) % faces.length];
              if (next && next.view !== view) onView(next.view);
            }}
            className="layer-tab block h-8 w-full pr-3 text-right text-small font-semibold whitespace-nowrap text-scribe data-checked:bg-white data-checked:text-dye max-[1150px]:pr-1.5 max-[1150px]:text-note"
          >
            {(faces[at] ?? faces[0])?.name}
          </Radio>
        );
      })}
    </RadioGroup>
  );
}
