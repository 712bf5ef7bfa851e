import { Radio, RadioGroup } from "@headlessui/react";
import type { Build } from "../api/client";
import { facesOf, LAYERS, type LineView, layerShowing } from "./layers";

type LayersProps = { build: Build; view: LineView; onView: (view: LineView) => void };

/** The layers of the line as a level scale: always all of them, under names that stay. */
export function Layers({ build, view, onView }: LayersProps) {
  return (
    <RadioGroup
      aria-label="Layer of the line"
      value={layerShowing(view).id}
      onChange={(to: string) => {
        const layer = LAYERS.find((l) => l.id === to);
        const first = layer && facesOf(build, layer)[0];
        if (first) onView(first.view);
      }}
      className="absolute right-0 bottom-0 w-[84px] border-r border-scribe-2 max-[1150px]:w-[64px]"
    >
      {LAYERS.map((layer) => (
        <Radio
          key={layer.id}
          as="button"
          type="button"
          value={layer.id}
          disabled={facesOf(build, layer).length === 0}
          data-layer={layer.id}
          className="layer-tab block h-7 w-full pr-3 text-right text-small font-semibold whitespace-nowrap text-scribe data-checked:bg-white data-checked:text-dye data-disabled:font-normal data-disabled:text-scribe-2 max-[1150px]:pr-1.5 max-[1150px]:text-note"
        >
          {layer.name}
        </Radio>
      ))}
    </RadioGroup>
  );
}

/** What is judged on the layer that is shown, as words in the rule under it. */
export function FaceWords({ build, view, onView }: LayersProps) {
  const faces = facesOf(build, layerShowing(view));
  return (
    <RadioGroup
      aria-label="What is judged on this layer"
      value={view}
      onChange={onView}
      className="flex gap-x-3 pb-0.5"
    >
      {faces.map((face) => (
        <Radio
          key={face.view}
          as="button"
          type="button"
          value={face.view}
          data-face={face.view}
          className={`relative pb-2 text-small leading-[16px] font-semibold whitespace-nowrap ${face.view === view ? "tab-on text-dye" : "text-ink-2"}`}
        >
          {face.word}
        </Radio>
      ))}
    </RadioGroup>
  );
}
